<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Data\Comparison;
use MerryOrbit\Core\Data\Fits;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

/**
 * A run of a calibration beside what was measured, also what was held back.
 *
 * @phpstan-type Series array{evidence: string, key: string, counted: Comparison, held: Comparison, misses: list<array{float, ?float}>,
 *     times: list<float>, course: list<float>}
 */
final readonly class Judged
{
    /** Held back is missed farther where it is by more than this. */
    private const FARTHER = 1.5;

    /** Misses that follow each other by more than this are not by chance. */
    private const FOLLOW = 0.4;

    private const FEWEST = 8;

    /** @param  list<Series>  $series */
    private function __construct(public array $series)
    {
    }

    /**
     * @param  list<float>  $point
     * @return ?self null where the run meets a fault
     *
     * @throws RunRefused
     */
    public static function of(Simulator $simulator, PlannedFit $fit, array $point): ?self
    {
        $trial = $fit->trial($point);
        $evidence = array_map(Fits::evidence(...), $fit->measured);
        $run = $trial->run($simulator, array_values(array_unique(array_column($evidence, 'key'))));
        if ($run->fault !== null) {
            return null;
        }
        $series = [];
        foreach (Fits::simulated($simulator, $trial, $run, $evidence) as $id => $simulated) {
            $measured = $fit->measured[$id];
            $values = array_column($measured->points, 1);
            $of = static fn (bool $counted): Comparison => Comparison::of(
                $values,
                array_map(
                    static fn (?float $v, int $i): ?float => $measured->isWithin($i, $fit->plan->from, $fit->plan->until) === $counted
                        ? $v
                        : null,
                    $simulated,
                    array_keys($values),
                ),
            );
            $series[] = [
                'evidence' => (string) $id,
                'key' => $evidence[$id]->key,
                'counted' => $of(true),
                'held' => $of(false),
                'misses' => array_map(
                    static fn (int $i, ?float $v): array => [$evidence[$id]->middle($i), $v === null ? null : $values[$i] - $v],
                    array_keys($values),
                    $simulated,
                ),
                'times' => $run->times(),
                'course' => $run->has($evidence[$id]->key) ? $run->column($evidence[$id]->key) : [],
            ];
        }

        return new self($series);
    }

    /**
     * @param  callable(string): string  $nameOf
     * @return list<string>
     */
    public function sentences(callable $nameOf): array
    {
        $told = $farther = [];
        $isHeld = false;
        foreach ($this->series as $s) {
            [$own, $held] = [$s['counted']->rmse, $s['held']->rmse];
            $isHeld = $isHeld || $held !== null;
            if ($held !== null && $own !== null && $held > self::FARTHER * $own) {
                $farther[] = "`{$nameOf($s['key'])}`".($own > 0.0 ? ' ('.round($held / $own, 1).' times as far)' : '');
            }
            $follow = $s['counted']->n >= self::FEWEST ? $s['counted']->autocorrelation : null;
            if ($follow !== null && $follow > self::FOLLOW) {
                $told[] =
                    "The misses of `{$nameOf($s['key'])}` follow each other (".
                    round($follow, 2).
                    '): the intervals are narrower than they should be, and something that moves slowly may be missing in the model.';
            }
        }
        if ($farther !== []) {
            $told[] = 'What was held back is missed farther than the rest: '.implode(', ', $farther).'.';
        } elseif ($isHeld) {
            $told[] = 'What was held back is met no worse than the rest.';
        }

        return $told;
    }
}
