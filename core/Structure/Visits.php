<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Structure;

use MerryOrbit\Core\Compile\Analysis;
use MerryOrbit\Core\Compile\EvaluationError;
use MerryOrbit\Core\Compile\Evaluator;
use MerryOrbit\Core\Compile\Moment;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Model\Curve;
use MerryOrbit\Core\Model\Relation;
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
        $stride = max(1, intdiv($run->length(), self::MOMENTS));
        foreach ($analysis->nodes as $id => $node) {
            $argument = self::argument($node, Name::key($curve->name));
            if ($argument === null || ! Polarity::isMomentary($argument)) {
                continue;
            }
            $times = $inputs = [];
            for ($i = 0; $i < $run->length(); $i += $stride) {
                $input = self::input($analysis, $run, $argument, $analysis->uses[$id] ?? [], $i);
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
        if ($node instanceof CurveCall && $node->key === $key) {
            return $node->argument;
        }
        foreach ($node->parts() as $part) {
            $found = self::argument($part, $key);
            if ($found !== null) {
                return $found;
            }
        }

        return null;
    }

    /** @param  list<string>  $uses */
    private static function input(Analysis $analysis, Trajectory $run, Node $argument, array $uses, int $index): ?float
    {
        $values = $curves = [];
        foreach ($uses as $id) {
            $element = $analysis->model->elements[$id];
            if ($element instanceof Relation) {
                $curves[Name::key($element->name)] = $element;
            }
            $position = array_search($id, $run->columns, true);
            $value = $position === false ? $run->steady[$id] ?? null : $run->row($index)[$position];
            if ($value !== null) {
                $values[Name::key($element->name)] = $value;
            }
        }
        $time = $analysis->model->time;
        try {
            return (new Evaluator($values, new Moment($time, (int) round(($run->times()[$index] - $time->start) / $time->step)), $curves))->value($argument);
        } catch (EvaluationError) {
            return null;
        }
    }
}
