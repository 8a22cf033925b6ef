<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Structure;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Model\Appearance;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Placement;
use MerryOrbit\Core\Model\Plot;
use MerryOrbit\Core\Model\Point;
use MerryOrbit\Core\Model\Sheet;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Model\TimeSettings;

/** A model of any size: reefs along a coast, each with kelp and urchins, between neighbours of which urchins wander. */
final class Reefs
{
    /** Variables of one reef. */
    private const EACH = 12;

    private const PER_SHEET = 12;

    private const ACROSS = 3;

    private const WIDE = 760.0;

    private const HIGH = 430.0;

    /** @param  int  $variables  about so many: a whole number of reefs */
    public static function model(int $variables): Model
    {
        $count = max(1, (int) round($variables / self::EACH));
        $elements = $placements = $sheets = $echoes = [];
        for ($i = 1; $i <= $count; $i++) {
            $sheet = 'coast-'.(intdiv($i - 1, self::PER_SHEET) + 1);
            $sheets[$sheet] ??= new Sheet($sheet, 'Coast '.(count($sheets) + 1));
            $here = ($i - 1) % self::PER_SHEET;
            $x = 160.0 + self::WIDE * ($here % self::ACROSS);
            $y = 140.0 + self::HIGH * intdiv($here, self::ACROSS);
            foreach (self::reef($i, $i === 1 ? $count : $i - 1) as [$element, $dx, $dy]) {
                $elements[$element->id] = $element;
                $loose = static fn (?string $end, float $by): ?Point => $end === null && $element instanceof Flow
                    ? new Point($x + $dx + $by, $y + $dy)
                    : null;
                $placements[$element->id] = new Placement(
                    new Point($x + $dx, $y + $dy),
                    $element instanceof Flow ? $loose($element->from, -110.0) : null,
                    $element instanceof Flow ? $loose($element->to, 110.0) : null,
                    $sheet,
                );
            }
            if ($here === 0 && $count > 1) {
                $other = $i === 1 ? $count : $i - 1;
                $echoes["echo-$i"] = new Appearance("urchins-$other", new Point($x + 20.0, $y + 250.0), $sheet);
            }
        }
        foreach (
            [
                ['yield', new Parameter('yield', 'yield', new FormulaText(['0.5']), 'thousand/t'), 60.0],
                ['wander-rate', new Parameter('wander-rate', 'wander rate', new FormulaText(['0.02']), '1/year'), 180.0],
            ] as [$id, $shared, $x]
        ) {
            // What all reefs share stands on the first sheet and is echoed on the others.
            $elements[$id] = $shared;
            foreach (array_keys($sheets) as $number => $sheet) {
                if ($number === 0) {
                    $placements[$id] = new Placement(new Point($x, 30.0), null, null, $sheet);
                } else {
                    $echoes["$id-$number"] = new Appearance($id, new Point($x, 30.0), $sheet);
                }
            }
        }
        $elements = array_map(static fn (Element $e): Element => $e->with(['formula' => self::bound($e->formula, $elements)]), $elements);
        $sheets = array_values($sheets);
        $echoes = array_filter($echoes, static fn (Appearance $e): bool => $placements[$e->element]->sheet !== $e->sheet);

        return new Model(
            "$count reefs",
            'A coast of reefs that are much alike, made to see how a large model behaves.',
            new TimeSettings(0, 50, 0.1, 'year'),
            $elements,
            [],
            $placements,
            $sheets,
            [Plot::track('kelp-1'), Plot::track('urchins-1')],
            echoes: $echoes,
        );
    }

    /**
     * @return list<array{Element, float, float}> with the place inside the reef
     */
    private static function reef(int $i, int $neighbour): array
    {
        $text = static fn (string $formula): FormulaText => new FormulaText([$formula]);
        $vary = static fn (float $value, int $salt): string => (string) round($value * (0.9 + (0.2 * (($i * 7 + $salt * 3) % 11)) / 10), 4);

        return [
            [new Stock("kelp-$i", "kelp $i", $text($vary(60.0, 1)), 't'), 200.0, 60.0],
            [new Stock("urchins-$i", "urchins $i", $text($vary(20.0, 2)), 'thousand'), 520.0, 200.0],
            [
                new Flow("growth-$i", "growth $i", $text("growth rate $i * kelp $i * (1 - crowding $i)"), 't/year', '', null, "kelp-$i"),
                50.0,
                60.0,
            ],
            [new Flow("grazing-$i", "grazing $i", $text("bite $i * kelp $i * urchins $i"), 't/year', '', "kelp-$i"), 350.0, 60.0],
            [new Flow("hatching-$i", "hatching $i", $text("yield * grazing $i"), 'thousand/year', '', null, "urchins-$i"), 370.0, 200.0],
            [new Flow("ageing-$i", "ageing $i", $text("urchins $i / lifespan $i"), 'thousand/year', '', "urchins-$i"), 660.0, 200.0],
            [
                new Flow(
                    "wandering-$i",
                    "wandering $i",
                    $text("wander rate * (urchins $neighbour - urchins $i)"),
                    'thousand/year',
                    '',
                    null,
                    "urchins-$i",
                ),
                370.0,
                290.0,
            ],
            [new Auxiliary("crowding-$i", "crowding $i", $text("kelp $i / room $i")), 200.0, 150.0],
            [new Parameter("growth-rate-$i", "growth rate $i", $text($vary(0.9, 3)), '1/year'), 50.0, -30.0],
            [new Parameter("room-$i", "room $i", $text($vary(100.0, 4)), 't'), 70.0, 190.0],
            [new Parameter("bite-$i", "bite $i", $text($vary(0.018, 5))), 400.0, -30.0],
            [new Parameter("lifespan-$i", "lifespan $i", $text($vary(4.0, 6)), 'year'), 640.0, 100.0],
        ];
    }

    /** @param  array<string, Element>  $elements */
    private static function bound(FormulaText $formula, array $elements): FormulaText
    {
        $id = static fn (string $key): string => str_replace(' ', '-', $key);

        return FormulaText::typed(
            $formula->text(static fn (): ?string => null),
            static fn (string $key): ?string => isset($elements[$id($key)]) ? $id($key) : null,
        );
    }
}
