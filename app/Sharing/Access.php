<?php

declare(strict_types=1);

namespace App\Sharing;

use App\Models\Grant;
use App\Models\May;
use App\Models\ModelDocument;
use App\Models\Study;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** What a person may do with a study: the one place that knows. Nobody learns of a study that they may not see. */
final class Access
{
    public static function of(User $user, Study $study): May
    {
        if ($study->user_id === $user->id) {
            return May::Own;
        }
        $may = May::Nothing;
        foreach (Grant::of($user)->where('study_id', $study->id)->get() as $grant) {
            $may = $grant->may->includes($may) ? $grant->may : $may;
        }

        return $may;
    }

    public static function ofModel(User $user, ModelDocument $model): May
    {
        return $model->user_id === $user->id ? May::Own : self::of($user, $model->study);
    }

    /** Whether anybody but its owner may see it. */
    public static function isShared(ModelDocument $model): bool
    {
        return Grant::query()->where('study_id', $model->study_id)->exists();
    }

    /** Whether somebody may stop, or go on with, what a person began in a model. */
    public static function mayAct(User $user, ModelDocument $model, int $begunBy): bool
    {
        return $begunBy === $user->id || self::ofModel($user, $model)->includes(May::Edit);
    }

    /** @return Response what is said to who may not: nothing that tells whether it is there to who may not even see it */
    public static function answer(May $may, May $needed): Response
    {
        return match (true) {
            $may->includes($needed) => Response::allow(),
            $may === May::Nothing => Response::denyAsNotFound(),
            default => Response::deny(self::refusal($may, $needed), 'may-not'),
        };
    }

    private static function refusal(May $may, May $needed): string
    {
        return 'This study is shared with you: you may '.
            $may->words().
            '. '.
            ($needed === May::Own ? 'This is for who owns it.' : 'To change it, take a copy, or ask who owns it to let you.');
    }
}
