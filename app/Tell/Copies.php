<?php

declare(strict_types=1);

namespace App\Tell;

use App\Models\DataFile;
use App\Models\Study;
use App\Models\User;
use App\Studies\StudyMaker;
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

    /** @return Study a copy that knows where it comes from and changes nothing there */
    public static function make(Study $study, User $for): Study
    {
        $model = $study->model->core();
        $copy = StudyMaker::make($for, $model->with(['name' => StudyMaker::freeName($for, $model->name)]));
        $copy->forceFill(['origin' => ['study' => $study->id, 'revision' => $study->model->revision, 'name' => $study->name]])->save();

        return $copy;
    }

    /**
     * @return array{Study, string} the copy, and the key by which it is found
     *
     * @throws TooManyRequestsHttpException where there are as many guests as there may be
     */
    public static function forGuest(Study $study): array
    {
        if (User::query()->where('guest_until', '>', now())->count() >= config()->integer('merry-orbit.quota.guests')) {
            throw new TooManyRequestsHttpException(3600, 'Too many copies are kept here for people without an account. Try again later.');
        }

        return DB::transaction(static function () use ($study): array {
            $key = bin2hex(random_bytes(16));
            $guest = new User(['name' => 'A guest', 'email' => 'guest-'.bin2hex(random_bytes(8)).'@guest.invalid']);
            $guest->forceFill(['guest_key' => hash('sha256', $key), 'guest_until' => now()->addDays(self::DAYS)])->save();

            return [self::make($study, $guest), $key];
        });
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
