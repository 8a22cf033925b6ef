<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\Expectation;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\Expectations;
use MerryOrbit\Core\Uncertain\ExpectationWords;

/** Whether a model satisfies what is expected of it, as the command line asks. */
final readonly class ExpectCommand
{
    /** @return array{expectations: list<array{name: string, holds: ?bool, at: ?float, sentence: string}>} */
    public static function document(Simulator $simulator, Model $model, Analysis $analysis, Setting $base): array
    {
        $all = $model->part('expectations');
        $told = [];
        foreach (Expectations::check($simulator, $model, null, $base) as $one) {
            $e = $all[$one['id']] ?? null;
            $told[] = [
                'name' => $one['name'] !== '' || ! ($e instanceof Expectation) ? $one['name'] : ExpectationWords::of($analysis, $e),
                'holds' => $one['holds'],
                'at' => $one['at'],
                'sentence' => $one['sentence'],
            ];
        }

        return ['expectations' => $told];
    }

    /**
     * @param  array{expectations: list<array{name: string, holds: ?bool, at: ?float, sentence: string}>}  $document
     * @return \Generator<int, string>
     */
    public static function lines(array $document): \Generator
    {
        if ($document['expectations'] === []) {
            yield "Nothing is expected of this model.\n";
        }
        foreach ($document['expectations'] as $one) {
            $mark = match ($one['holds']) {
                true => 'holds   ',
                false => 'FAILS   ',
                null => 'unknown ',
            };
            yield "$mark{$one['name']}\n".($one['holds'] === true ? '' : "        {$one['sentence']}\n");
        }
    }
}
