<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Simulate\Trajectory;

/** A run as a table (RFC 4180): `time`, then every variable in the order of definition; numbers in full precision, times without the noise of arithmetic. */
final class CsvTable
{
    /**
     * @param  array<string, string>  $columns  names by key of the plan, in their order; see Analysis::columns()
     * @return \Generator<int, string> lines with their line ends
     */
    public static function lines(array $columns, Trajectory $run): \Generator
    {
        $header = ['time'];
        $cells = [];
        foreach ($columns as $key => $name) {
            if ($run->has($key)) {
                $header[] = self::cell($name);
                $cells[] = $run->steadyOf($key) === null ? $run->column($key) : self::number($run->steadyOf($key));
            }
        }
        yield implode(',', $header)."\n";
        foreach ($run->times() as $i => $time) {
            $line = self::number(Shown::time($time));
            foreach ($cells as $cell) {
                $line .= ','.(is_array($cell) ? self::number($cell[$i]) : $cell);
            }
            yield $line."\n";
        }
    }

    private static function cell(string $text): string
    {
        return preg_match('/[",\r\n]/', $text) === 1 ? '"'.str_replace('"', '""', $text).'"' : $text;
    }

    /** The shortest text that reads back as the same number. */
    private static function number(float $value): string
    {
        return (string) json_encode($value);
    }
}
