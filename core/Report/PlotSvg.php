<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Report;

use MerryOrbit\Core\Problem\Shown;

/** Courses over time as a picture: each with its name at its end, marks of what was measured, axes with round numbers. */
final class PlotSvg
{
    private const WIDTH = 680.0;

    private const HEIGHT = 270.0;

    private const LEFT = 66.0;

    private const TOP = 14.0;

    private const BOTTOM = 40.0;

    /** Between two names at the ends of lines. */
    private const APART = 15.0;

    private const LONGEST = 28;

    /**
     * @param  list<array{name: string, times: list<float>, values: list<float>, points?: bool}>  $lines  `points`: dots and no line
     * @param  string  $time  what the times are, as `month`
     * @param  string  $unit  of the values
     */
    public static function of(array $lines, string $time, string $unit): string
    {
        $drawing = new Drawing();
        $values = array_filter(array_merge([], ...array_column($lines, 'values')), is_finite(...));
        $times = array_merge([], ...array_column($lines, 'times'));
        if ($values === [] || $times === []) {
            $drawing->text(self::WIDTH / 2, self::HEIGHT / 2, 'There is nothing to draw: no value is a number.', 'middle', Drawing::SOFT);

            return $drawing->svg(0.0, 0.0, self::WIDTH, self::HEIGHT);
        }
        [$from, $until] = [min($times), max($times)];
        $up = self::ticks(min(0.0, min($values)), max($values), 5);
        // What stays far from zero is not pressed flat.
        if (min($values) > 0.0 && max($values) - min($values) < 0.25 * max($values)) {
            $up = self::ticks(min($values), max($values), 5);
        }
        $across = self::ticks($from, $until, 8);
        $names = array_map(static fn (array $l): string => self::short($l['name']), $lines);
        $right = min(220.0, 14.0 + max([0.0, ...array_map(static fn (string $n): float => Drawing::widthOf($n, 12.5), $names)]));
        [$low, $high] = [$up[0], $up[count($up) - 1]];
        $x = static fn (float $t): float => self::LEFT +
            (self::WIDTH - self::LEFT - $right) * ($until > $from ? ($t - $from) / ($until - $from) : 0.0);
        $y = static fn (float $v): float => self::TOP +
            (self::HEIGHT - self::TOP - self::BOTTOM) * (1.0 - ($high > $low ? ($v - $low) / ($high - $low) : 0.5));
        foreach ($up as $tick) {
            $drawing->line(self::LEFT, $y($tick), self::WIDTH - $right, $y($tick), $tick === 0.0 ? Drawing::SOFT : Drawing::LINE);
            $drawing->text(self::LEFT - 7, $y($tick) + 4, Shown::brief($tick), 'end', Drawing::SOFT);
        }
        foreach ($across as $tick) {
            if ($tick >= $from && $tick <= $until) {
                $drawing->line($x($tick), self::HEIGHT - self::BOTTOM, $x($tick), self::HEIGHT - self::BOTTOM + 5, Drawing::SOFT);
                $drawing->text($x($tick), self::HEIGHT - self::BOTTOM + 18, Shown::number($tick), 'middle', Drawing::SOFT);
            }
        }
        $drawing->text(
            self::LEFT,
            self::HEIGHT - 5,
            trim(($unit === '' || $unit === '1' ? 'a plain number' : Paper::unit($unit)).", by $time"),
            'start',
            Drawing::SOFT,
        );
        foreach ($lines as $i => $line) {
            self::line($drawing, $line, $i, $x, $y);
        }
        self::names($drawing, $lines, $names, self::WIDTH - $right + 9, $y);

        return $drawing->svg(0.0, 0.0, self::WIDTH, self::HEIGHT);
    }

    /**
     * @param  array{name: string, times: list<float>, values: list<float>, points?: bool}  $line
     * @param  \Closure(float): float  $x
     * @param  \Closure(float): float  $y
     */
    private static function line(Drawing $drawing, array $line, int $i, \Closure $x, \Closure $y): void
    {
        $ink = Drawing::INKS[$i % count(Drawing::INKS)];
        $path = '';
        $isOn = false;
        foreach ($line['times'] as $k => $time) {
            $value = $line['values'][$k] ?? NAN;
            if (! is_finite($value)) {
                // A gap is a gap.
                $isOn = false;

                continue;
            }
            if ($line['points'] ?? false) {
                $at = array_map(Drawing::at(...), [$x($time), $y($value)]);
                $drawing->raw("<circle cx=\"$at[0]\" cy=\"$at[1]\" r=\"2.6\" fill=\"none\" stroke=\"$ink\" stroke-width=\"1.3\"/>");

                continue;
            }
            $path .= ($isOn ? 'L' : 'M').Drawing::at($x($time)).' '.Drawing::at($y($value));
            $isOn = true;
        }
        if ($path !== '') {
            $dash = Drawing::DASHES[$i % count(Drawing::DASHES)];
            $drawing->path(
                $path,
                "fill=\"none\" stroke=\"$ink\" stroke-width=\"1.9\"".($dash === '' ? '' : " stroke-dasharray=\"$dash\""),
            );
        }
    }

    /**
     * @param  list<array{name: string, times: list<float>, values: list<float>, points?: bool}>  $lines
     * @param  list<string>  $names
     * @param  \Closure(float): float  $y
     */
    private static function names(Drawing $drawing, array $lines, array $names, float $at, \Closure $y): void
    {
        $ends = [];
        foreach ($lines as $i => $line) {
            $finite = array_filter($line['values'], is_finite(...));
            $ends[$i] = $finite === [] ? self::HEIGHT - self::BOTTOM : $y($finite[array_key_last($finite)]);
        }
        asort($ends);
        // Names at one height go apart, downward; where that runs out of the picture, all go up.
        $last = -INF;
        foreach ($ends as $i => $end) {
            $ends[$i] = $last = max($end, $last + self::APART, self::TOP + 4);
        }
        $over = max(0.0, $last - (self::HEIGHT - self::BOTTOM));
        foreach ($ends as $i => $end) {
            $drawing->text($at, $end - $over + 4, $names[$i], 'start', Drawing::INKS[$i % count(Drawing::INKS)], 12.5, true);
        }
    }

    private static function short(string $name): string
    {
        return mb_strlen($name) > self::LONGEST ? mb_substr($name, 0, self::LONGEST - 1).'…' : $name;
    }

    /**
     * Round numbers around what is to be shown.
     *
     * @return non-empty-list<float>
     */
    public static function ticks(float $low, float $high, int $most): array
    {
        if (! ($high > $low)) {
            $room = $low === 0.0 ? 1.0 : abs($low) * 0.5;
            [$low, $high] = [$low - ($low >= 0.0 && $low - $room < 0.0 ? $low : $room), $high + $room];
        }
        $raw = ($high - $low) / $most;
        $size = 10.0 ** floor(log10($raw));
        $step = 10.0 * $size;
        foreach ([1.0, 2.0, 2.5, 5.0] as $nice) {
            if ($nice * $size >= $raw * 0.999) {
                $step = $nice * $size;
                break;
            }
        }
        $first = (int) floor($low / $step + 1e-9);
        $last = (int) ceil($high / $step - 1e-9);
        $ticks = [(float) sprintf('%.12g', $first * $step)];
        for ($i = $first + 1; $i <= max($last, $first + 1); $i++) {
            $ticks[] = (float) sprintf('%.12g', $i * $step);
        }

        return $ticks;
    }
}
