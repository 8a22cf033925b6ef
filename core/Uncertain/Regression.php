<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

/**
 * Which inputs an outcome follows, from runs that were made anyhow: a straight line (or plane) through all runs, in units of standard
 * deviations, and the same of the ranks.
 */
final readonly class Regression
{
    /**
     * @param  list<?float>  $plain  standardised coefficients; null where an input stays the same
     * @param  list<?float>  $rank  the same of ranks
     * @param  ?float  $explains  which share of the variance the plain ones explain; null where the outcome stays the same
     */
    private function __construct(public array $plain, public array $rank, public ?float $explains, public ?float $rankExplains)
    {
    }

    /**
     * @param  list<list<float>>  $inputs  a column for each
     * @param  list<float>  $outcome
     */
    public static function of(array $inputs, array $outcome): self
    {
        [$plain, $explains] = self::fitted($inputs, $outcome);
        [$rank, $rankExplains] = self::fitted(array_map(Ranks::shared(...), $inputs), Ranks::shared($outcome));

        return new self($plain, $rank, $explains, $rankExplains);
    }

    /**
     * The standardised coefficients of values alone.
     *
     * @param  list<list<float>>  $inputs  a column for each
     * @param  list<float>  $outcome
     * @return list<?float> null where an input, or the outcome, stays the same
     */
    public static function line(array $inputs, array $outcome): array
    {
        return self::fitted($inputs, $outcome)[0];
    }

    /**
     * @param  list<list<float>>  $inputs
     * @param  list<float>  $outcome
     * @return array{list<?float>, ?float}
     */
    private static function fitted(array $inputs, array $outcome): array
    {
        $y = self::standard($outcome);
        $columns = array_map(self::standard(...), $inputs);
        $known = array_keys(array_filter($columns, is_array(...)));
        $coefficients = array_fill(0, count($inputs), null);
        if ($y === null || count($outcome) < count($known) + 2) {
            return [$coefficients, null];
        }
        $solved = Householder::of(array_map(static fn (int $i): array => (array) $columns[$i], $known), $y);
        if ($solved === null) {
            return [$coefficients, null];
        }
        foreach ($known as $at => $i) {
            $coefficients[$i] = $solved->solution[$at];
        }
        $whole = array_sum(array_map(static fn (float $v): float => $v * $v, $y));

        return [array_values($coefficients), 1.0 - $solved->rest / $whole];
    }

    /**
     * @param  list<float>  $values
     * @return list<float>|null mean 0 and standard deviation 1; null of what stays the same
     */
    private static function standard(array $values): ?array
    {
        $all = Summary::of($values, []);
        if ($all === null || $all->sd === null || $all->max - $all->min <= 1e-12 * max(abs($all->max), abs($all->min))) {
            return null;
        }

        return array_map(static fn (float $v): float => ($v - $all->mean) / $all->sd, $values);
    }
}
