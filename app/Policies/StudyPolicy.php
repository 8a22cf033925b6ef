<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\May;
use App\Models\Study;
use App\Models\User;
use App\Sharing\Access;
use Illuminate\Auth\Access\Response;

/** People see and change what is theirs, and what others let them. */
final class StudyPolicy
{
    public function viewAny(User $user): bool
    {
        return $user->exists;
    }

    /** Guests have their one copy. */
    public function create(User $user): Response
    {
        return $user->isGuest()
            ? Response::deny('A guest has one copy. Make an account, or sign in, to have more studies.', 'guest')
            : Response::allow();
    }

    public function view(User $user, Study $subject): Response
    {
        return Access::answer(Access::of($user, $subject), May::Read);
    }

    public function comment(User $user, Study $subject): Response
    {
        return Access::answer(Access::of($user, $subject), May::Comment);
    }

    public function update(User $user, Study $subject): Response
    {
        return Access::answer(Access::of($user, $subject), May::Edit);
    }

    public function delete(User $user, Study $subject): Response
    {
        return Access::answer(Access::of($user, $subject), May::Own);
    }

    public function share(User $user, Study $subject): Response
    {
        return $user->isGuest() && $subject->user_id === $user->id
            ? Response::deny('A guest shares nothing. Sign in and keep the copy, then share it.', 'guest')
            : Access::answer(Access::of($user, $subject), May::Own);
    }

    /** A copy is shown to who owns what it was made of. */
    public function sendBack(User $user, Study $subject): Response
    {
        return Access::answer(Access::of($user, $subject), May::Own);
    }
}
