<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\ModelDocument;
use App\Models\User;

/** People see and change what is theirs. */
final class ModelDocumentPolicy
{
    public function view(User $user, ModelDocument $subject): bool
    {
        return $subject->user_id === $user->id;
    }

    public function update(User $user, ModelDocument $subject): bool
    {
        return $subject->user_id === $user->id;
    }
}
