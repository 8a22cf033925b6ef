<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Problem\NotUnderstood;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/**
 * How much of an outcome's variance comes from each input: alone (first order), and with all it does together with others (total).
 *
 * Two samples of base runs, and for each input the second sample with that input from the other one. Sources: A. Saltelli and others,
 * "Variance based sensitivity analysis of model output", Computer Physics Communications 181 (2010), for the first order;
 * M. J. W. Jansen, "Analysis of variance designs for model output" (1999), for the total; errors by the bootstrap over base samples.
 */
final readonly class Indices
{
    private const RESAMPLES = 200;

    /** @param  list<list<float>>  $base  of each base sample, the draws of the first and then those of the second */
    private function __construct(public int $inputs, public int $samples, private array $base, private int $seed)
    {
    }

    /**
     * @param  list<string>  $inputs
     * @param  int  $runs  in all
     *
     * @throws NotUnderstood
     */
    public static function of(array $inputs, int $runs, int $seed): self
    {
        $k = count($inputs);
        $samples = intdiv($runs, $k + 2);
        if ($samples < 4) {
            throw NotUnderstood::because(
                "$runs runs are too few: Sobol indices of $k inputs take ".
                    ($k + 2).
                    ' runs for each base sample, and some hundred of those.',
            );
        }
        // Both samples together are one design, whose even spread serves either.
        $both = [...$inputs, ...array_map(static fn (string $i): string => "$i, other", $inputs)];
        $design = Design::of(2 * $k <= 40 ? 'sobol' : 'random', $both, $samples, $seed);

        return new self($k, $samples, array_map($design->draws(...), range(0, $samples - 1)), $seed);
    }

    public function runs(): int
    {
        return $this->samples * ($this->inputs + 2);
    }

    /** @return list<float> of the open interval from 0 to 1, one for each input */
    public function draws(int $run): array
    {
        $row = $this->base[intdiv($run, $this->inputs + 2)];
        $which = $run % ($this->inputs + 2);
        if ($which === 1) {
            return array_slice($row, $this->inputs);
        }
        $draws = array_slice($row, 0, $this->inputs);
        if ($which > 1) {
            $draws[$which - 2] = $row[$this->inputs + $which - 2];
        }

        return array_values($draws);
    }

    /**
     * @param  array<int, ?float>  $values  an outcome of each run; null or absent where it failed or is not made, which leaves its base sample out
     * @return array{mean: ?float, variance: ?float, inputs: list<array{first: ?float, total: ?float, first_error: ?float, total_error: ?float}>}
     */
    public function from(array $values): array
    {
        $rows = $this->rows($values);
        $unknown = ['first' => null, 'total' => null, 'first_error' => null, 'total_error' => null];
        $base = array_merge(array_column($rows, 0), array_column($rows, 1));
        $all = Summary::of($base, []);
        $variance = $all === null ? 0.0 : ($all->sd ?? 0.0) ** 2;
        if (
            $all === null ||
            count($rows) < 4 ||
            $variance <= 0.0 ||
            $all->max - $all->min <= 1e-12 * max(abs($all->max), abs($all->min))
        ) {
            return [
                'mean' => $all?->mean,
                'variance' => $all === null ? null : $variance,
                'inputs' => array_fill(0, $this->inputs, $unknown),
            ];
        }
        $columns = array_map(static fn (int $c): array => array_column($rows, $c), range(0, $this->inputs + 1));
        $plain = self::indices($columns, range(0, count($rows) - 1), $all->mean);
        $random = new Randomizer(new Xoshiro256StarStar(hash('sha256', "$this->seed/resamples", true)));
        $spread = [];
        for ($again = 0; $again < self::RESAMPLES; $again++) {
            $picked = array_map(static fn (): int => $random->getInt(0, count($rows) - 1), $rows);
            foreach (self::indices($columns, $picked, $all->mean) as $i => [$first, $total]) {
                $spread[$i]['first'][] = $first;
                $spread[$i]['total'][] = $total;
            }
        }

        return [
            'mean' => $all->mean,
            'variance' => $variance,
            'inputs' => array_map(
                static fn (array $one, int $i): array => [
                    'first' => $one[0],
                    'total' => $one[1],
                    'first_error' => Summary::of($spread[$i]['first'], [])?->sd,
                    'total_error' => Summary::of($spread[$i]['total'], [])?->sd,
                ],
                $plain,
                array_keys($plain),
            ),
        ];
    }

    /**
     * The first order alone, without errors: one moment of many.
     *
     * @param  array<int, ?float>  $values  by run; null or absent where it is not known
     * @return list<?float> of each input; null where all runs are the same
     */
    public function first(array $values): array
    {
        $rows = $this->rows($values);
        $base = Summary::of([...array_column($rows, 0), ...array_column($rows, 1)], []);
        if ($base === null || count($rows) < 4 || $base->max - $base->min <= 1e-12 * max(abs($base->max), abs($base->min))) {
            return array_fill(0, $this->inputs, null);
        }
        $columns = array_map(static fn (int $c): array => array_column($rows, $c), range(0, $this->inputs + 1));

        return array_map(
            static fn (array $one): ?float => is_finite($one[0]) ? $one[0] : null,
            self::indices($columns, range(0, count($rows) - 1), $base->mean),
        );
    }

    /**
     * @param  array<int, ?float>  $values
     * @return list<list<float>> of each base sample of which all runs are known: both samples, then the mixed ones
     */
    private function rows(array $values): array
    {
        $rows = [];
        $wide = $this->inputs + 2;
        for ($sample = 0; $sample < $this->samples; $sample++) {
            $row = [];
            for ($run = $sample * $wide; $run < ($sample + 1) * $wide; $run++) {
                $v = $values[$run] ?? NAN;
                if (! is_finite($v)) {
                    continue 2;
                }
                $row[] = $v;
            }
            $rows[] = $row;
        }

        return $rows;
    }

    /**
     * @param  list<list<float>>  $columns  of the two samples, and of the mixed ones
     * @param  list<int>  $rows
     * @return list<array{float, float}> first and total of each input; NAN where the rows are all equal
     */
    private static function indices(array $columns, array $rows, float $middle): array
    {
        [$a, $b] = [$columns[0], $columns[1]];
        $sum = $squares = 0.0;
        foreach ($rows as $r) {
            [$x, $y] = [$a[$r] - $middle, $b[$r] - $middle];
            $sum += $x + $y;
            $squares += $x * $x + $y * $y;
        }
        $n = count($rows);
        $variance = ($squares - ($sum * $sum) / (2 * $n)) / (2 * $n - 1);
        $found = [];
        foreach (array_slice($columns, 2) as $mixed) {
            $first = $total = 0.0;
            foreach ($rows as $r) {
                $moved = $mixed[$r] - $a[$r];
                $first += ($b[$r] - $middle) * $moved;
                $total += $moved * $moved;
            }
            $found[] = $variance > 0.0 ? [$first / $n / $variance, $total / (2 * $n) / $variance] : [NAN, NAN];
        }

        return $found;
    }
}
