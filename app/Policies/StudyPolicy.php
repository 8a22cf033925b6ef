<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Study;
use App\Models\User;

/** People see and change what is theirs. */
final class StudyPolicy
{
    public function viewAny(User $user): bool
    {
        return $user->exists;
    }

    public function create(User $user): bool
    {
        return $user->exists;
    }

    public function view(User $user, Study $subject): bool
    {
        return $subject->user_id === $user->id;
    }

    public function update(User $user, Study $subject): bool
    {
        return $subject->user_id === $user->id;
    }

    public function delete(User $user, Study $subject): bool
    {
        return $subject->user_id === $user->id;
    }
}
