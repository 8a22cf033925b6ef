<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\Expectation;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Stock;

/** Extreme conditions under which every model should still make sense, as expectations that can be taken over. */
final class Extremes
{
    private const MOST = 200;

    /**
     * @return list<array<string, mixed>> records of expectations without an id; those that the study has already are left out
     */
    public static function of(Analysis $analysis): array
    {
        $proposed = [['shape' => 'sound']];
        foreach ($analysis->model->elements as $id => $element) {
            if (! $analysis->canCompute($id) || ($analysis->extents[$id] ?? []) !== []) {
                continue;
            }
            if ($element instanceof Stock) {
                $start = Starts::plain($analysis->model, $id);
                if ($start !== null && $start > 0.0) {
                    array_push(
                        $proposed,
                        ['starts' => [$id => 0.0], 'shape' => 'sound'],
                        ['starts' => [$id => 10.0 * $start], 'shape' => 'sound'],
                    );
                }
                $inflows = array_filter(
                    $analysis->model->elements,
                    static fn ($e): bool => $e instanceof Flow && $e->to === $id && $e->from === null,
                );
                if ($inflows !== []) {
                    $grips = array_map(static fn (): array => ['signal' => 'constant', 'values' => ['value' => 0.0]], $inflows);
                    $proposed[] = [
                        'when' => ['grips' => $grips],
                        'of' => [['name' => $element->name, 'id' => $id]],
                        'shape' => 'never-below',
                        'value' => 0.0,
                    ];
                }
            } elseif ($element instanceof Parameter && (float) $analysis->parameter($id) !== 0.0) {
                array_push(
                    $proposed,
                    ['when' => ['parameters' => [$id => 0.0]], 'shape' => 'sound'],
                    ['factors' => [$id => 0.001], 'shape' => 'sound'],
                    ['factors' => [$id => 1_000.0], 'shape' => 'sound'],
                );
            }
        }
        $known = [];
        foreach ($analysis->model->part('expectations') as $own) {
            if ($own instanceof Expectation) {
                $known[] = self::mark($own->toRecord());
            }
        }
        $new = array_filter(
            $proposed,
            static fn (array $p): bool => ! in_array(self::mark(Expectation::read([...$p, 'id' => 'x'])->toRecord()), $known, true),
        );

        return array_slice(array_values($new), 0, self::MOST);
    }

    /** @param  array<string, mixed>  $record */
    private static function mark(array $record): string
    {
        unset($record['id'], $record['name'], $record['place'], $record['off']);
        ksort($record);

        return json_encode($record, JSON_PARTIAL_OUTPUT_ON_ERROR) ?: '';
    }
}
