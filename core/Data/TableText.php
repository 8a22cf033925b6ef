<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** Tables as CSV (RFC 4180), numbers in full precision; what a spreadsheet would take for a formula is put in as text. */
final class TableText
{
    /**
     * A row for each time, a column for each series, with its unit in brackets.
     *
     * @return \Generator<int, string>
     */
    public static function wide(DataTable $table): \Generator
    {
        yield self::line([$table->timeName, ...array_map(self::head(...), $table->series)]);
        foreach (array_keys($table->times) as $i) {
            yield self::line([$table->word($i), ...array_map(static fn (DataSeries $s): ?float => $s->values[$i], $table->series)]);
        }
    }

    /**
     * A row for each value: its time, what it is of, the value, its unit, and where it comes from.
     *
     * @return \Generator<int, string>
     */
    public static function long(DataTable $table): \Generator
    {
        $along = self::along($table);
        $isTraced = array_filter($table->series, static fn (DataSeries $s): bool => $s->cells !== []) !== [];
        yield self::line([$table->timeName, 'series', ...$along, 'value', 'unit', ...$isTraced ? ['from'] : []]);
        foreach ($table->series as $s) {
            $elements = array_map(static fn (string $name): string => $s->elements[$name] ?? '', $along);
            foreach ($s->values as $i => $value) {
                if ($value !== null) {
                    yield self::line([
                        $table->word($i),
                        $s->name,
                        ...$elements,
                        $value,
                        $s->unit,
                        ...$isTraced ? [$s->cells[$i] ?? ''] : [],
                    ]);
                }
            }
        }
    }

    /** @return list<string> what tells its series apart */
    private static function along(DataTable $table): array
    {
        return array_values(
            array_unique(array_merge(...array_map(static fn (DataSeries $s): array => array_keys($s->elements), $table->series), ...[[]])),
        );
    }

    public static function head(DataSeries $series): string
    {
        return $series->label().($series->unit === '' ? '' : " [$series->unit]");
    }

    /** What a spreadsheet would take for a formula, as text. */
    public static function plain(string $text): string
    {
        return preg_match('/^[=+\-@\t\r]/', $text) === 1 && ! is_numeric($text) ? "'$text" : $text;
    }

    /** @param  list<string|float|null>  $cells */
    public static function line(array $cells): string
    {
        $fields = array_map(static function (string|float|null $cell): string {
            $text = is_float($cell) ? (string) json_encode($cell) : self::plain((string) $cell);

            return preg_match('/[",\r\n]/', $text) === 1 ? '"'.str_replace('"', '""', $text).'"' : $text;
        }, $cells);

        return implode(',', $fields)."\r\n";
    }
}
