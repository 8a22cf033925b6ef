<?php

declare(strict_types=1);

namespace App\Uncertain;

use App\Models\Ensemble;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Uncertain\Indices;
use MerryOrbit\Core\Uncertain\Morris;
use MerryOrbit\Core\Uncertain\Ranks;
use MerryOrbit\Core\Uncertain\Regression;
use MerryOrbit\Core\Uncertain\SharesOver;

/** Which inputs matter, from the runs of an ensemble. */
final readonly class MattersView
{
    /** Runs by which it is told what an outcome follows: more say nothing else. */
    private const MOST_RUNS = 10_000;

    /** Points of a scatter. */
    private const MOST_POINTS = 1_000;

    /** At which shares are told over time. */
    private const MOST_MOMENTS = 61;

    private EnsembleResults $results;

    public function __construct(Ensemble $ensemble)
    {
        $this->results = new EnsembleResults($ensemble);
    }

    /**
     * Which inputs an outcome follows in any runs, and the points of one of them.
     *
     * @return array<string, mixed>
     *
     * @throws NotUnderstood
     */
    public function followed(string $outcome, string $input): array
    {
        $at = $this->results->positionOf($outcome);
        $rows = array_values(array_filter($this->results->numbers(self::MOST_RUNS), static fn (array $row): bool => is_finite($row[$at])));
        $keys = $this->results->spec->plan->keys();
        $y = array_column($rows, $at);
        $columns = array_map(static fn (int $i): array => array_column($rows, $i), array_keys($keys));
        $fit = count($rows) > 2 ? Regression::of($columns, $y) : null;
        $of = array_search($input, $keys, true);

        return [
            'runs' => count($rows),
            'explains' => $fit?->explains,
            'rank_explains' => $fit?->rankExplains,
            'inputs' => array_map(
                static fn (string $key, int $i): array => [
                    'key' => $key,
                    'coefficient' => $fit->plain[$i] ?? null,
                    'rank_coefficient' => $fit->rank[$i] ?? null,
                    'rank_correlation' => count($rows) > 2 ? Ranks::correlation($columns[$i], $y) : null,
                ],
                $keys,
                array_keys($keys),
            ),
            'points' => $of === false
                    ? []
                    : array_slice(array_map(static fn (float $a, float $b): array => [$a, $b], $columns[$of], $y), 0, self::MOST_POINTS),
        ];
    }

    /**
     * Of runs that were made for it: Sobol indices, or the effects of Morris' steps, from those that are there by now.
     *
     * @return array<string, mixed>
     *
     * @throws NotUnderstood
     */
    public function indices(string $outcome): array
    {
        $at = $this->results->positionOf($outcome);
        $plan = $this->results->spec->plan;
        $design = $plan->design();
        $all = array_combine($this->results->runs(), $this->results->values([$at])[0]);
        $values = array_map(static fn (float $v): ?float => is_finite($v) ? $v : null, $all);
        $told = match (true) {
            $design instanceof Indices => $design->from($values),
            $design instanceof Morris => ['inputs' => $design->from($values)],
            default => throw NotUnderstood::because('These runs were made for the spread. Shares of variance need runs of their own.'),
        };

        return [
            'using' => $plan->purpose,
            'runs' => count($values),
            ...$told,
            'inputs' => array_map(static fn (string $key, array $one): array => ['key' => $key, ...$one], $plan->keys(), $told['inputs']),
        ];
    }

    /**
     * The same of a variable over time.
     *
     * @return array<string, mixed>
     *
     * @throws NotUnderstood
     */
    public function over(string $key): array
    {
        $spec = $this->results->spec;
        $last = count($spec->moments) - 1;
        $points = min($last + 1, self::MOST_MOMENTS);
        $moments =
            $points < 2 ? [0] : array_map(static fn (int $i): int => (int) round(($i * $last) / ($points - 1)), range(0, $points - 1));
        $most = $spec->plan->purpose === 'spread' ? self::MOST_RUNS : EnsembleSpec::COURSES;
        $courses = $this->results->column($key, $most);
        $shares = SharesOver::of($spec->plan, $this->results->numbers($most), $courses, $moments);

        return [
            'of' => $key,
            'using' => $spec->plan->purpose === 'spread' ? 'regression' : $spec->plan->purpose,
            'runs' => count($courses),
            'times' => array_map(static fn (int $m): float => $spec->moments[$m], $moments),
            'inputs' => array_map(
                static fn (string $input, array $one): array => ['key' => $input, 'shares' => $one],
                $spec->plan->keys(),
                $shares,
            ),
        ];
    }
}
