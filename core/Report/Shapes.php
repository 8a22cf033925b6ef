<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Report;

use MerryOrbit\Core\Model\Point;

/** Where lines between drawn things begin and end: the geometry of sheets and maps, as the page draws them. */
final class Shapes
{
    /** @param  array{width: float, height: float, round?: bool}  $shape */
    public static function border(Point $middle, array $shape, Point $toward, float $gap = 3.0): Point
    {
        [$dx, $dy] = [$toward->x - $middle->x, $toward->y - $middle->y];
        $far = hypot($dx, $dy) ?: 1.0;
        $reach =
            $shape['round'] ?? false
                ? $shape['width'] / 2.0
                : min($shape['width'] / 2.0 / max(abs($dx) / $far, 1e-9), $shape['height'] / 2.0 / max(abs($dy) / $far, 1e-9));
        $share = ($reach + $gap) / $far;

        return new Point($middle->x + $dx * $share, $middle->y + $dy * $share);
    }

    /**
     * A link as a bow with a head.
     *
     * @param  array{width: float, height: float, round?: bool}  $from
     * @param  array{width: float, height: float, round?: bool}  $to
     * @return array{path: string, head: string, sign: Point, middle: Point, angle: float}
     */
    public static function link(Point $a, array $from, Point $b, array $to, ?Point $by = null): array
    {
        [$dx, $dy] = [$b->x - $a->x, $b->y - $a->y];
        $far = hypot($dx, $dy) ?: 1.0;
        $bow = (min(46.0, $far * 0.16) / $far) * ($dx * $dy > 0.0 ? -1.0 : 1.0);
        $bend =
            $by === null
                ? new Point(($a->x + $b->x) / 2.0 - $dy * $bow, ($a->y + $b->y) / 2.0 + $dx * $bow)
                : new Point(($a->x + $b->x) / 2.0 + 2.0 * $by->x, ($a->y + $b->y) / 2.0 + 2.0 * $by->y);
        $start = self::border($a, $from, $bend, 2.0);
        $tip = self::border($b, $to, $bend, 4.0);
        $angle = atan2($tip->y - $bend->y, $tip->x - $bend->x);
        $at = static fn (float $x, float $y): string => Drawing::at($x).' '.Drawing::at($y);
        $wing = static fn (float $turn): string => $at($tip->x - 8.0 * cos($angle + $turn), $tip->y - 8.0 * sin($angle + $turn));
        $length = hypot($tip->x - $start->x, $tip->y - $start->y) ?: 1.0;

        return [
            'path' => 'M'.
                $at($start->x, $start->y).
                'Q'.
                $at($bend->x, $bend->y).
                ' '.
                $at($tip->x - 6.0 * cos($angle), $tip->y - 6.0 * sin($angle)),
            'head' => 'M'.$at($tip->x, $tip->y).'L'.$wing(0.42).'L'.$wing(-0.42).'Z',
            'sign' => self::along($start, $bend, $tip, max(0.5, 1.0 - 24.0 / $length)),
            'middle' => self::along($start, $bend, $tip, 0.5),
            'angle' => atan2($tip->y - $start->y, $tip->x - $start->x),
        ];
    }

    private static function along(Point $a, Point $c, Point $b, float $t): Point
    {
        return new Point(
            (1.0 - $t) ** 2 * $a->x + 2.0 * (1.0 - $t) * $t * $c->x + $t * $t * $b->x,
            (1.0 - $t) ** 2 * $a->y + 2.0 * (1.0 - $t) * $t * $c->y + $t * $t * $b->y,
        );
    }

    /**
     * Names on up to two lines, none longer than so many letters.
     *
     * @return list<string>
     */
    public static function lines(string $name, int $most): array
    {
        if (mb_strlen($name) <= $most) {
            return [$name];
        }
        $lines = [''];
        foreach (explode(' ', $name) as $word) {
            $last = array_key_last($lines);
            $joined = trim("$lines[$last] $word");
            if (mb_strlen($joined) <= $most || $lines[$last] === '') {
                $lines[$last] = $joined;
            } else {
                $lines[] = $word;
            }
        }
        $short = static fn (string $l): string => mb_strlen($l) > $most ? mb_substr($l, 0, $most - 1).'…' : $l;

        return count($lines) <= 2 ? array_map($short, $lines) : [$short($lines[0]), $short($lines[1].'…')];
    }
}
