<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\FormulaText;

/** A relation of one input to one output, given by points and called by its name: `effect of crowding(density)`. */
final readonly class Curve extends Element
{
    public const MOST_POINTS = 2_000;

    /** @param  list<array{float, float}>  $points  with increasing x; at least two make a curve */
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
        /** Of the input. */
        public string $inputUnit = '',
    ) {
        parent::__construct($id, $name, $formula, $unit, $note);
    }

    public function kind(): Kind
    {
        return Kind::Curve;
    }

    /**
     * Why these points make no curve, as a sentence; null if they do.
     *
     * @param  list<array{float, float}>  $points
     */
    public static function refusal(array $points): ?string
    {
        if (count($points) > self::MOST_POINTS) {
            return 'A curve has at most '.number_format(self::MOST_POINTS).' points; here are '.number_format(count($points)).'.';
        }
        foreach ($points as $i => [$x, $y]) {
            if (! is_finite($x) || ! is_finite($y)) {
                return 'Point '.($i + 1).' is no pair of plain numbers.';
            }
            if ($i > 0 && $x <= $points[$i - 1][0]) {
                return 'The x values of a curve must increase: '.self::number($x).' at point '.($i + 1).' follows '.self::number($points[$i - 1][0]).'.';
            }
        }

        return null;
    }

    private static function number(float $value): string
    {
        return (string) (float) sprintf('%.10g', $value);
    }
}
