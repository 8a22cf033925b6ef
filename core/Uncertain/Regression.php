<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

/**
 * Which inputs an outcome follows, from runs that were made anyhow: a straight line (or plane) through all runs, in units of standard
 * deviations, and the same of the ranks. Least squares by Householder's reflections.
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
        $x = array_map(static fn (int $i): array => (array) $columns[$i], $known);
        $k = count($x);
        $rest = $y;
        $diagonal = [];
        // Column by column: reflected onto one axis, and all that follow with it.
        for ($j = 0; $j < $k; $j++) {
            $size = sqrt(array_sum(array_map(static fn (float $v): float => $v * $v, array_slice($x[$j], $j))));
            if ($size < 1e-9) {
                return [$coefficients, null];
            }
            $size = $x[$j][$j] > 0.0 ? -$size : $size;
            $mirror = array_slice($x[$j], $j);
            $mirror[0] -= $size;
            $square = array_sum(array_map(static fn (float $v): float => $v * $v, $mirror));
            for ($c = $j + 1; $c <= $k; $c++) {
                $column = $c === $k ? $rest : $x[$c];
                $along = 0.0;
                foreach ($mirror as $r => $m) {
                    $along += $m * $column[$j + $r];
                }
                $along *= 2.0 / $square;
                foreach ($mirror as $r => $m) {
                    $column[$j + $r] -= $along * $m;
                }
                $c === $k ? ($rest = $column) : ($x[$c] = $column);
            }
            $diagonal[$j] = $size;
        }
        $solved = [];
        for ($j = $k - 1; $j >= 0; $j--) {
            $value = $rest[$j];
            for ($c = $j + 1; $c < $k; $c++) {
                $value -= $x[$c][$j] * $solved[$c];
            }
            $solved[$j] = $value / $diagonal[$j];
            $coefficients[$known[$j]] = $solved[$j];
        }
        $left = array_sum(array_map(static fn (float $v): float => $v * $v, array_slice($rest, $k)));
        $whole = array_sum(array_map(static fn (float $v): float => $v * $v, $y));

        return [array_values($coefficients), 1.0 - $left / $whole];
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
