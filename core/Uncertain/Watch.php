<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Model\Expectation;
use MerryOrbit\Core\Problem\Shown;

/**
 * Whether one course has the shape that is expected of it. Every step of the run is looked at, so saving less often changes nothing.
 * A limit itself is still right; what is only rounding beside the size of the course is passed over.
 */
final readonly class Watch
{
    private const NOISE = 1e-9;

    /** Elements of a stock that are looked at. */
    public const MOST_ELEMENTS = 50;

    /**
     * @param  ?float  $at  when it is first broken; of what holds, when it shows, or null
     * @param  ?float  $by  by how much, at the worst
     * @param  string  $words  what is the case: "−3 at year 12, below 0"
     */
    private function __construct(public bool $holds, public ?float $at, public ?float $by, public string $words)
    {
    }

    private static function kept(string $words = '', ?float $at = null): self
    {
        return new self(true, $at, null, $words);
    }

    private static function broken(?float $at, ?float $by, string $words): self
    {
        return new self(false, $at, $by, $words);
    }

    /**
     * What is only rounding beside the size of a course.
     *
     * @param  list<float>  $values
     */
    public static function noise(array $values): float
    {
        return self::NOISE * max(array_map(abs(...), $values) ?: [0.0]);
    }

    /**
     * How far below 0 a stock falls that begins above.
     *
     * @param  list<float>  $values
     */
    public static function fallen(array $values): float
    {
        $least = $values === [] || $values[0] < 0.0 ? 0.0 : min($values);

        return $least < -self::noise($values) ? -$least : 0.0;
    }

    /** In how many runs something may fail that is to hold in a part of them. */
    public static function mayFail(float $part, int $runs): int
    {
        return (int) floor((1.0 - $part) * $runs + self::NOISE);
    }

    /**
     * @param  list<float>  $times  of all steps
     * @param  list<float>  $values
     * @param  list<float>  $others  as many: of `near` the other formula; of `never-more` and `never-less` the run without the condition
     * @param  \Closure(float): string  $moment  how a time is said
     */
    public static function of(Expectation $e, array $times, array $values, array $others, \Closure $moment): self
    {
        $noise = self::noise($values);
        [$times, $values, $others] = self::between($e, $times, $values, $others);
        if ($times === []) {
            return self::broken(null, null, 'the run has no such times');
        }
        $n = static fn (float $v): string => Shown::brief($v);
        // How far each moment is on the wrong side; 0 and less is right.
        $off = match ($e->shape) {
            'never-below' => array_map(static fn (float $v): float => $e->value - $v, $values),
            'never-above' => array_map(static fn (float $v): float => $v - $e->value, $values),
            'within' => array_map(static fn (float $v): float => max($e->value - $v, $v - $e->high), $values),
            'near' => array_map(static fn (float $v, float $o): float => abs($v - $o) - $e->share * abs($o), $values, $others),
            'always' => array_map(static fn (float $v): float => $v != 0.0 ? 0.0 : INF, $values),
            'never' => array_map(static fn (float $v): float => $v != 0.0 ? INF : 0.0, $values),
            'never-more' => array_map(static fn (float $v, float $o): float => $v - $o - $e->share * abs($o), $values, $others),
            'never-less' => array_map(static fn (float $v, float $o): float => $o - $v - $e->share * abs($o), $values, $others),
            'rises', 'falls' => self::backwards($values, $e->shape === 'rises' ? 1.0 : -1.0, $e->share),
            default => null,
        };
        if ($off === null) {
            return self::shaped($e, $times, $values, $noise, $moment);
        }
        $first = null;
        foreach ($off as $i => $by) {
            if (is_nan($by) || $by > $noise) {
                $first = $i;
                break;
            }
        }
        $moves = abs($values[count($values) - 1] - $values[0]) > $noise;
        if ($first === null) {
            return in_array($e->shape, ['rises', 'falls'], true) && ! $moves
                ? self::broken($times[0], null, "it ends where it began, at {$n($values[0])}")
                : self::kept();
        }
        $worst = (int) array_search(max($off), $off, true);
        $at = $moment($times[$first]);
        $most = $worst === $first ? '' : ", by {$n($off[$worst])} at {$moment($times[$worst])}";
        $words = match ($e->shape) {
            'never-below' => "{$n($values[$first])} at $at, below {$n($e->value)}".($worst === $first ? '' : "; at the worst{$most}"),
            'never-above' => "{$n($values[$first])} at $at, above {$n($e->value)}".($worst === $first ? '' : "; at the worst{$most}"),
            'within' => "{$n($values[$first])} at $at, outside {$n($e->value)} to {$n($e->high)}".
                ($worst === $first ? '' : "; at the worst{$most}"),
            'near' => "{$n($values[$first])} at $at, too far from {$n($others[$first])}",
            'always' => "does not hold at $at",
            'never' => "holds at $at",
            'rises' => "down again at $at, from {$n(max(array_slice($values, 0, $first + 1) ?: [0.0]))} to {$n($values[$first])}",
            'falls' => "up again at $at, from {$n(min(array_slice($values, 0, $first + 1) ?: [0.0]))} to {$n($values[$first])}",
            default => "{$n($values[$first])} at $at, where without the change it is {$n($others[$first])}",
        };

        return self::broken($times[$first], is_finite($off[$worst]) ? $off[$worst] : null, $words);
    }

    /**
     * @param  list<float>  $times
     * @param  list<float>  $values
     * @param  list<float>  $others
     * @return array{list<float>, list<float>, list<float>} only what is looked at
     */
    private static function between(Expectation $e, array $times, array $values, array $others): array
    {
        // Of these, times are part of the shape itself.
        $isAll = in_array($e->shape, ['rests', 'peaks'], true);
        $from = $isAll ? null : $e->from;
        $until = $isAll ? null : $e->until;
        $slack = self::NOISE * max(1.0, abs($times[count($times) - 1] ?? 0.0));
        $seen = array_keys(
            array_filter(
                $times,
                static fn (float $t): bool => ($from === null || $t >= $from - $slack) && ($until === null || $t <= $until + $slack),
            ),
        );
        if ($seen === []) {
            return [[], [], []];
        }
        [$first, $count] = [$seen[0], count($seen)];

        return [array_slice($times, $first, $count), array_slice($values, $first, $count), array_slice($others, $first, $count)];
    }

    /**
     * How far a course has gone back behind the furthest it was, beyond what is allowed of its range.
     *
     * @param  list<float>  $values
     * @return list<float>
     */
    private static function backwards(array $values, float $way, float $share): array
    {
        $allowed = $share * (max($values ?: [0.0]) - min($values ?: [0.0]));
        $furthest = -INF;
        $off = [];
        foreach ($values as $v) {
            $furthest = max($furthest, $way * $v);
            $off[] = $furthest - $way * $v - $allowed;
        }

        return $off;
    }

    /**
     * Shapes of a course as a whole.
     *
     * @param  non-empty-list<float>|list<float>  $times
     * @param  list<float>  $values
     * @param  \Closure(float): string  $moment
     */
    private static function shaped(Expectation $e, array $times, array $values, float $noise, \Closure $moment): self
    {
        $n = static fn (float $v): string => Shown::brief($v);
        $last = count($values) - 1;
        [$least, $most] = [min($values ?: [0.0]), max($values ?: [0.0])];
        if ($e->shape === 'reaches') {
            $isUp = $values[0] <= $e->value;
            foreach ($values as $i => $v) {
                if ($isUp ? $v >= $e->value - $noise : $v <= $e->value + $noise) {
                    return self::kept("{$n($e->value)} is reached at {$moment($times[$i])}", $times[$i]);
                }
            }
            $nearest = $isUp ? $most : $least;
            $at = $times[(int) array_search($nearest, $values, true)];

            return self::broken($at, abs($e->value - $nearest), "no nearer to {$n($e->value)} than {$n($nearest)}, at {$moment($at)}");
        }
        if ($e->shape === 'swings') {
            $turns = Nudge::turns($values);

            return $turns >= $e->value
                ? self::kept("$turns turns")
                : self::broken(null, $e->value - $turns, "$turns turns, not {$n($e->value)}");
        }
        if ($e->shape === 'rests') {
            $by = $e->until ?? $times[$last];
            // Of how far it moved in all, or of where it came to.
            $allowed = max($e->share * ($most - $least), $noise);
            for ($i = $last; $i >= 0 && abs($values[$i] - $values[$last]) <= $allowed; $i--);
            $rested = $times[$i + 1];
            if ($by >= $times[$last] && $least !== $most) {
                return self::broken($times[$last], null, 'the run ends before it could be seen to rest');
            }

            return $rested <= $by + self::NOISE * max(1.0, abs($by))
                ? self::kept("at rest from {$moment($rested)} on, at {$n($values[$last])}", $rested)
                : self::broken(
                    $by,
                    null,
                    "still moving at {$moment($by)}; within {$n(100 * $e->share)} % of where it ends only at {$moment($rested)}",
                );
        }
        // peaks
        $top = (int) array_search($most, $values, true);
        $at = $times[$top];
        if (($e->from !== null && $at < $e->from) || ($e->until !== null && $at > $e->until)) {
            return self::broken($at, null, "greatest at {$moment($at)}, with {$n($most)}");
        }
        $after = min(array_slice($values, $top) ?: [$most]);
        $fallen = $most - $after;

        return $fallen >= $e->share * abs($most) - $noise && ($e->share > 0.0 || $top < $last)
            ? self::kept("greatest at {$moment($at)}, with {$n($most)}", $at)
            : self::broken(
                $at,
                $e->share * abs($most) - $fallen,
                "greatest at {$moment($at)}, with {$n($most)}, and then down by {$n($fallen)} only",
            );
    }
}
