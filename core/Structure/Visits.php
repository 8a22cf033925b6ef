<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Structure;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Model\Curve;
use MerryOrbit\Core\Simulate\Trajectory;

/** Where a run has been on a curve: the inputs at which its users looked it up. */
final class Visits
{
    private const MOMENTS = 200;

    /**
     * @return list<array{element: string, times: list<float>, inputs: list<float>}> by user, in the order of definition; users whose input cannot be told at a moment are left out
     */
    public static function of(Analysis $analysis, Trajectory $run, Curve $curve): array
    {
        $visits = [];
        $formulas = new FormulaInRun($analysis, $run);
        $stride = max(1, intdiv($run->length(), self::MOMENTS));
        foreach ($analysis->nodes as $id => $node) {
            $argument = self::argument($node, $curve->id);
            if ($argument === null || ! Polarity::isMomentary($argument)) {
                continue;
            }
            $times = $inputs = [];
            for ($i = 0; $i < $run->length(); $i += $stride) {
                $input = $formulas->value($id, $argument, $i);
                if ($input !== null) {
                    $times[] = $run->times()[$i];
                    $inputs[] = $input;
                }
            }
            if ($inputs !== []) {
                $visits[] = ['element' => $id, 'times' => $times, 'inputs' => $inputs];
            }
        }

        return $visits;
    }

    private static function argument(Node $node, string $key): ?Node
    {
        foreach ($node->all() as $part) {
            if ($part instanceof CurveCall && $part->key === $key) {
                return $part->argument;
            }
        }

        return null;
    }
}
