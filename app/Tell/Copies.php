<?php

declare(strict_types=1);

namespace App\Tell;

use App\Models\DataFile;
use App\Models\Grant;
use App\Models\May;
use App\Models\ShownLink;
use App\Models\Study;
use App\Models\User;
use App\Sharing\Access;
use App\Studies\StudyMaker;
use App\Studies\Versions;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Symfony\Component\HttpKernel\Exception\TooManyRequestsHttpException;

/**
 * Copies of studies. Whoever has no account is a guest with one copy, found by a key of 128 bits that is told once; who signs in can keep
 * it as a study of their own.
 */
final class Copies
{
    public const DAYS = 30;

    /** Where a person stands who made something. */
    private const OWNED = [
        'studies',
        'models',
        'edits',
        'runs',
        'milestones',
        'kept_runs',
        'batches',
        'data_files',
        'ensembles',
        'fits',
        'comments',
        'rooms',
    ];

    /**
     * @param  ?int  $revision  of a link that goes on showing one version: that is copied, and nothing later
     * @return Study a copy that knows where it comes from and changes nothing there
     */
    public static function make(Study $study, User $for, ?int $revision = null): Study
    {
        $revision ??= $study->model->revision;
        $model = (new Versions($study->model))->at($revision);
        $copy = StudyMaker::make($for, $model->with(['name' => StudyMaker::freeName($for, $model->name)]));
        $copy->forceFill(['origin' => ['study' => $study->id, 'revision' => $revision, 'name' => $study->name]])->save();

        return $copy;
    }

    /**
     * @return array{Study, string} the copy, and the key by which it is found
     *
     * @throws TooManyRequestsHttpException where there are as many guests as there may be
     */
    public static function forGuest(Study $study, ?int $revision = null): array
    {
        return DB::transaction(static function () use ($study, $revision): array {
            $key = bin2hex(random_bytes(16));

            return [self::make($study, self::guest(now()->addDays(self::DAYS), $key), $revision), $key];
        });
    }

    /**
     * Somebody without an account.
     *
     * @param  ?string  $key  by which they come back
     *
     * @throws TooManyRequestsHttpException
     */
    public static function guest(Carbon $until, ?string $key): User
    {
        if (User::query()->where('guest_until', '>', now())->count() >= config()->integer('merry-orbit.quota.guests')) {
            throw new TooManyRequestsHttpException(3600, 'Too many people without an account are here. Try again later.');
        }
        $guest = new User(['name' => 'A guest', 'email' => 'guest-'.bin2hex(random_bytes(8)).'@guest.invalid']);
        $guest->forceFill(['guest_key' => $key === null ? null : hash('sha256', $key), 'guest_until' => $until])->save();

        return $guest;
    }

    /** Whoever comes by a link to a whole study reads it as long as the link leads there; who may do more already goes on doing so. */
    public static function letIn(User $user, ShownLink $link): void
    {
        if ($link->study === null || Access::of($user, $link->study) !== May::Nothing) {
            return;
        }
        Grant::query()->updateOrCreate(
            ['study_id' => $link->study_id, 'user_id' => $user->id],
            [
                'kind' => Grant::PERSON,
                'email' => $user->email,
                'may' => May::Read,
                'until' => $link->until,
                'opened_at' => now(),
                'link_id' => $link->id,
            ],
        );
        ShownLink::query()
            ->whereKey($link->id)
            ->increment('opened', 1, ['opened_at' => now()]);
    }

    public static function guestOf(string $key): ?User
    {
        return User::query()->where('guest_key', hash('sha256', $key))->where('guest_until', '>', now())->first();
    }

    /** The copy of a guest becomes a study of somebody with an account; its address leads nowhere from then on. */
    public static function keep(User $guest, User $for): Study
    {
        return DB::transaction(static function () use ($guest, $for): Study {
            $copy = $guest->studies()->with('model')->firstOrFail();
            // One that has the same file already keeps that.
            DB::table('data_files')
                ->whereIn('content', DataFile::query()->whereBelongsTo($for)->select('content'))
                ->where('user_id', $guest->id)
                ->delete();
            foreach (self::OWNED as $table) {
                DB::table($table)
                    ->where('user_id', $guest->id)
                    ->update(['user_id' => $for->id]);
            }
            $guest->signIns()->delete();
            $guest->delete();

            return $copy->refresh();
        });
    }
}
