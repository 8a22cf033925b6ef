<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Experiment;

use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

/**
 * Why two runs differ in a variable over a time: the difference at moments, shared out among its causes (see RunDifference), and
 * gathered by the trapezium rule. A flow's comes to an amount, all others' to a mean.
 */
final class Accumulated
{
    /** Stretches between the moments that are looked at. */
    private const STRETCHES = 24;

    /**
     * @param  float  $until  the moments begin at the start of the runs
     * @return ?array{value: float, base: float, difference: float, from: float, until: float, isAmount: bool, causes: list<array{cause: string, change: float}>, rest: float} null if one of the runs does not get there
     *
     * @throws RunRefused
     */
    public static function of(Simulator $simulator, Trial $run, Trial $base, string $id, float $until): ?array
    {
        $from = max($run->model()->time->start, $base->model()->time->start);
        if ($until <= $from) {
            return null;
        }
        $isAmount = $run->model()->element($id) instanceof Flow;
        [$course, $baseCourse] = [$run->run($simulator), $base->run($simulator)];
        $value = $baseValue = $rest = 0.0;
        $causes = [];
        $moments = min(self::STRETCHES, max(1, (int) round(($until - $from) / $run->model()->time->step)));
        for ($i = 0; $i <= $moments; $i++) {
            $time = $from + (($until - $from) * $i) / $moments;
            [$a, $b] = [Instant::of($simulator, $run, $time), Instant::of($simulator, $base, $time)];
            if ($a?->value($id) === null || $b?->value($id) === null) {
                return null;
            }
            $weight = (($i === 0 || $i === $moments ? 0.5 : 1.0) / $moments) * ($isAmount ? $until - $from : 1.0);
            $parts = (new RunDifference($a, $b, $course, $baseCourse))->causes($id);
            $value += $weight * $a->value($id);
            $baseValue += $weight * $b->value($id);
            $rest += $weight * $parts['rest'];
            foreach ($parts['causes'] as ['cause' => $cause, 'change' => $change]) {
                $causes[$cause] = ($causes[$cause] ?? 0.0) + $weight * $change;
            }
        }
        $list = array_map(
            static fn (string|int $cause, float $change): array => ['cause' => (string) $cause, 'change' => $change],
            array_keys($causes),
            $causes,
        );
        usort($list, static fn (array $a, array $b): int => abs($b['change']) <=> abs($a['change']));

        return [
            'value' => $value,
            'base' => $baseValue,
            'difference' => $value - $baseValue,
            'from' => $from,
            'until' => $until,
            'isAmount' => $isAmount,
            'causes' => $list,
            'rest' => $rest,
        ];
    }
}
