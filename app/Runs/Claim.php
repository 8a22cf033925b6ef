<?php

declare(strict_types=1);

namespace App\Runs;

use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;

/** Pieces of work of which nobody should do one that somebody else does: rows with `claimed_by`, `claimed_at` and `made`. */
final class Claim
{
    /** A piece takes seconds; one that somebody began and did not end in so many is begun again by others, and comes to the same. */
    public const STALE = 30;

    /** Pieces among which whoever was overtaken takes one at random, so that many workers do not run after the same. */
    private const AMONG = 32;

    /**
     * One's own first: it was begun by an attempt that was killed.
     *
     * @template M of Model
     *
     * @param  \Closure(): Builder<M>  $left  what is left to do, in the order in which it is taken
     * @param  string  $who  whose claims are one's own
     * @return ?M
     */
    public static function next(\Closure $left, string $who): ?Model
    {
        $now = time();
        $own = $left()->where('claimed_by', $who)->first();
        for ($tries = 0; $own === null; $tries++) {
            $free = $left()
                ->where(
                    static fn (Builder $q): Builder => $q
                        ->where('claimed_by', '')
                        ->orWhere('claimed_at', '<', $now - self::STALE)
                        // The clock was set back since.
                        ->orWhere('claimed_at', '>', $now + self::STALE),
                )
                ->limit($tries === 0 ? 1 : self::AMONG)
                ->get();
            $free = $free->isEmpty() ? null : $free->random();
            if ($free === null) {
                return null;
            }
            // Somebody else may have been faster.
            $taken = $left()
                ->whereKey($free->getKey())
                ->where('claimed_by', $free->getAttribute('claimed_by'))
                ->toBase()
                ->update(['claimed_by' => $who, 'claimed_at' => $now]);
            $own = $taken === 1 ? $free : null;
        }

        return $own;
    }

    /**
     * Whether something was begun and is not done in time: its worker is gone.
     *
     * @param  Builder<covariant Model>  $left
     */
    public static function isOrphan(Builder $left): bool
    {
        return $left
            ->where('claimed_by', '<>', '')
            ->where('claimed_at', '<', time() - self::STALE)
            ->exists();
    }
}
