<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Exchange\ImportLog;
use MerryOrbit\Core\Model\Relation;

/** Reads a graphical function of the standard as a curve. */
final class GraphicalFunction
{
    /** @return non-empty-array<string, mixed> the line of a curve in a native file */
    public static function read(string $name, XmlNode $gf, string $unit, string $note, ImportLog $log): array
    {
        $numbers = static function (?XmlNode $node): array {
            $separator = $node?->attribute('sep') ?? ',';
            $texts = $node === null ? [] : array_map(trim(...), explode($separator === '' ? ',' : $separator, trim($node->text)));

            return array_values(array_filter(array_map(Numeral::read(...), $texts), is_float(...)));
        };
        $ys = $numbers($gf->child('ypts'));
        $xs = $numbers($gf->child('xpts'));
        if ($xs === [] && count($ys) > 1) {
            $low = Numeral::read($gf->child('xscale')?->attribute('min')) ?? 0.0;
            $high = Numeral::read($gf->child('xscale')?->attribute('max')) ?? 1.0;
            foreach ($ys as $i => $_) {
                $xs[] = $i === count($ys) - 1 ? $high : $low + (($high - $low) * $i) / (count($ys) - 1);
            }
        }
        $points = [];
        foreach ($xs as $i => $x) {
            if (isset($ys[$i])) {
                $points[] = [$x, $ys[$i]];
            }
        }
        if (count($xs) !== count($ys)) {
            $log->guessed(
                $name,
                'Its graphical function has '.count($xs).' x and '.count($ys).' y values; the pairs were taken.',
            );
        }
        $refusal = Relation::refusal($points);
        if ($refusal !== null) {
            $log->guessed($name, "The points of its graphical function make no curve and were left out: $refusal");
            $points = [];
        }
        $type = strtolower($gf->attribute('type') ?? 'continuous');
        if (! in_array($type, ['continuous', 'extrapolate', 'discrete'], true)) {
            $log->guessed($name, "A graphical function of the type `$type` is not known; straight lines were taken.");
        }

        return [
            'name' => $name,
            'kind' => 'curve',
            'unit' => $unit,
            'note' => $note,
            'points' => $points,
            'between' => $type === 'discrete' ? 'stepped' : 'straight',
            'beyond' => $type === 'extrapolate' ? 'extended' : 'held',
        ];
    }
}
