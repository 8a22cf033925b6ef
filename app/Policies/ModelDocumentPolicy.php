<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\May;
use App\Models\ModelDocument;
use App\Models\User;
use App\Sharing\Access;
use Illuminate\Auth\Access\Response;

/** As with the study it is of. */
final class ModelDocumentPolicy
{
    public function view(User $user, ModelDocument $subject): Response
    {
        return Access::answer(Access::ofModel($user, $subject), May::Read);
    }

    public function comment(User $user, ModelDocument $subject): Response
    {
        return Access::answer(Access::ofModel($user, $subject), May::Comment);
    }

    public function update(User $user, ModelDocument $subject): Response
    {
        return Access::answer(Access::ofModel($user, $subject), May::Edit);
    }
}
