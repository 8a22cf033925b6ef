<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Problem\Shown;

/** What is given by points: a curve over any input, or a series over time. */
abstract readonly class Relation extends Element
{
    public const MOST_POINTS = 2_000;

    /** @param  list<array{float, float}>  $points  with increasing x; at least two are needed */
    public function __construct(
        string $id,
        string $name,
        FormulaText $formula,
        /** Of the output. */
        string $unit = '',
        string $note = '',
        public array $points = [],
        public Between $between = Between::Straight,
        public Beyond $beyond = Beyond::Held,
        /** Of the input; a series has time for input. */
        public string $inputUnit = '',
        string $symbol = '',
    ) {
        parent::__construct($id, $name, $formula, $unit, $note, $symbol);
    }

    /**
     * Why these points cannot be joined, as a sentence; null if they can.
     *
     * @param  list<array{float, float}>  $points
     */
    public static function refusal(array $points): ?string
    {
        if (count($points) > self::MOST_POINTS) {
            return 'A curve or series has at most '.
                number_format(self::MOST_POINTS).
                ' points; here are '.
                number_format(count($points)).
                '.';
        }
        foreach ($points as $i => [$x, $y]) {
            if (! is_finite($x) || ! is_finite($y)) {
                return 'Point '.($i + 1).' is no pair of plain numbers.';
            }
            if ($i > 0 && $x <= $points[$i - 1][0]) {
                return 'The x values must increase: '.
                    Shown::number($x).
                    ' at point '.
                    ($i + 1).
                    ' follows '.
                    Shown::number($points[$i - 1][0]).
                    '.';
            }
        }

        return null;
    }
}
