<?php

declare(strict_types=1);

namespace App\Sharing;

use App\Models\Grant;
use App\Models\Happening;
use App\Models\May;
use App\Models\Study;
use App\Models\User;
use App\People\InviteJob;
use App\People\Letters;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\ValidationException;

/** Giving others something to do with a study, and taking it back. Each act stands in the study's record. */
final class Sharing
{
    /** Of one study. */
    private const MOST = 200;

    /** Whether somebody has the address shows in nothing that is answered. */
    public static function withPerson(Study $study, string $email, May $may, ?Carbon $until, User $by): Grant
    {
        if ($email === $by->email) {
            throw ValidationException::withMessages(['email' => 'This is your own address. The study is yours already.']);
        }
        self::mustHaveRoom($study);
        Letters::mustBeFew($by);
        $user = User::query()->where('email', $email)->whereNull('left_at')->first();
        $grant = DB::transaction(static function () use ($study, $email, $may, $until, $by, $user): Grant {
            $known = Grant::query()->where('study_id', $study->id)->where('email', $email)->first();
            if ($known === null && $user !== null) {
                // They may have had another address when it was shared with them.
                $known = Grant::query()->where('study_id', $study->id)->where('user_id', $user->id)->first();
            }
            $grant = $known ?? new Grant(['study_id' => $study->id, 'kind' => Grant::PERSON]);
            $grant->fill(['user_id' => $user?->id, 'email' => $email, 'may' => $may, 'until' => $until, 'given_by' => $by->id])->save();

            return $grant;
        });
        Happening::note('shared', "let $email {$may->act()}", $study);
        self::write($email, $by, $study, $may);

        return $grant;
    }

    public static function withEveryone(Study $study, May $may, ?Carbon $until, User $by): Grant
    {
        $grant = Grant::query()->firstOrNew(['study_id' => $study->id, 'kind' => Grant::EVERYONE]);
        $grant->fill(['may' => $may, 'until' => $until, 'given_by' => $by->id])->save();
        Happening::note('shared', "let everyone with an account {$may->act()}", $study);

        return $grant;
    }

    public static function change(Grant $grant, May $may, ?Carbon $until): void
    {
        $grant->fill(['may' => $may, 'until' => $until])->save();
        Happening::note('shared', 'let '.self::nameOf($grant)." {$may->act()}", $grant->study);
    }

    public static function takeBack(Grant $grant): void
    {
        $grant->delete();
        Happening::note('taken-back', 'took it back from '.self::nameOf($grant), $grant->study);
    }

    /** Who has had it goes on as an editor. */
    public static function handOver(Study $study, Grant $grant): void
    {
        $to = $grant->user;
        if ($to === null || $grant->opened_at === null) {
            throw ValidationException::withMessages(['grant' => 'A study is handed over to somebody who has opened it. Ask them to.']);
        }
        if ($to->studies()->count() >= config()->integer('merry-orbit.quota.studies')) {
            throw ValidationException::withMessages(['grant' => "{$to->name} has as many studies as one person may keep."]);
        }
        DB::transaction(static function () use ($study, $grant, $to): void {
            $before = User::query()->findOrFail($study->user_id);
            // It is no demo of theirs: it is not looked for when the demo studies are put in place.
            $study->forceFill(['user_id' => $to->id])->save();
            $study->model()->update(['user_id' => $to->id]);
            $grant->forceFill(['user_id' => $before->id, 'email' => $before->email, 'may' => May::Edit, 'until' => null])->save();
        });
        Happening::note('handed-over', "handed it over to {$to->name}", $study);
    }

    /** What was shared with an address before it had an account. */
    public static function claim(User $user): void
    {
        foreach (Grant::query()->where('email', $user->email)->whereNull('user_id')->get() as $grant) {
            $has = Grant::query()->where('study_id', $grant->study_id)->where('user_id', $user->id)->exists();
            $has ? $grant->delete() : $grant->forceFill(['user_id' => $user->id])->save();
        }
    }

    /** Noted once, when somebody opens what was shared with them. */
    public static function opened(Study $study, User $user): void
    {
        Grant::query()
            ->where('study_id', $study->id)
            ->where('user_id', $user->id)
            ->whereNull('opened_at')
            ->update(['opened_at' => now()]);
    }

    /** Who has an account gets a letter, who has none an invitation; a worker looks which. */
    public static function write(string $email, User $by, ?Study $study, ?May $may): void
    {
        InviteJob::dispatch($email, $by->id, $study?->id, $may?->words());
    }

    private static function nameOf(Grant $grant): string
    {
        return $grant->kind === Grant::EVERYONE ? 'everyone with an account' : (string) $grant->email;
    }

    private static function mustHaveRoom(Study $study): void
    {
        if (Grant::query()->where('study_id', $study->id)->whereNull('link_id')->count() >= self::MOST) {
            throw ValidationException::withMessages([
                'email' => 'A study is shared with at most '.self::MOST.' people by name. Let everyone with an account see it.',
            ]);
        }
    }
}
