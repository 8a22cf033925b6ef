<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/**
 * Tables as text: values between commas, semicolons, tabs, bars or blanks (RFC 4180 and its relatives), in UTF-8, UTF-16 or Latin-1.
 * Lines that begin with `#` are comments; they count as rows.
 */
final class CsvReader
{
    public const MOST_BYTES = 64_000_000;

    private const LONGEST_LINE = 2_000_000;

    /** From the least likely to stand inside a cell. */
    private const SEPARATORS = ["\t", ';', ',', '|'];

    /** Lines by which the separator is found. */
    private const SAMPLE = 80;

    /** @throws TableRefused */
    public static function grid(string $text, string $name): Grid
    {
        if (strlen($text) > self::MOST_BYTES) {
            throw TableRefused::because(
                'This file is larger than 64 MB. Save the rows and columns that you need as a file of their own.',
            );
        }
        $text = self::decoded($text);
        self::refuseLongLines($text);
        $separator = self::separator($text);
        $lines = $separator === ' ' ? self::spaced($text) : self::separated($text, $separator);
        // A large text is held once.
        $text = '';
        $rows = [];
        $cells = 0;
        foreach ($lines as $row) {
            if (
                isset($row[0]) &&
                str_contains($row[0], '#') &&
                str_starts_with(ltrim($row[0]), '#') &&
                preg_match('/^\s*#(?:N\/A|[A-Z\/0]+[!?])/', $row[0]) !== 1
            ) {
                $row = [];
            }
            $cells += count($row);
            if ($cells > Grid::MOST_CELLS || count($row) > Grid::MOST_COLUMNS) {
                throw TableRefused::because(
                    'This table has more than '.
                        number_format(Grid::MOST_CELLS).
                        ' cells or '.
                        number_format(Grid::MOST_COLUMNS).
                        ' columns. Save what you need of it as a file of its own.',
                );
            }
            $rows[] = $row;
        }

        return new Grid($name, $rows);
    }

    private static function decoded(string $text): string
    {
        $start = substr($text, 0, 4);
        if (str_starts_with($start, "\xEF\xBB\xBF")) {
            return substr($text, 3);
        }
        if (str_starts_with($start, "\xFF\xFE") || str_starts_with($start, "\xFE\xFF")) {
            return (string) mb_convert_encoding(substr($text, 2), 'UTF-8', $start[0] === "\xFF" ? 'UTF-16LE' : 'UTF-16BE');
        }
        // Without a mark, the zeros between Latin letters tell: they stand at every other place.
        $zeros = [0, 0];
        for ($i = 0; $i < min(400, strlen($text)); $i++) {
            $zeros[$i % 2] += $text[$i] === "\0" ? 1 : 0;
        }
        if (min($zeros) === 0 && max($zeros) > 0.3 * min(400, strlen($text))) {
            return (string) mb_convert_encoding($text, 'UTF-8', $zeros[1] > 0 ? 'UTF-16LE' : 'UTF-16BE');
        }
        if (str_contains(substr($text, 0, 8_000), "\0")) {
            throw TableRefused::because('This is no table: it is neither text nor a spreadsheet (XLSX, ODS), nor JSON.');
        }

        return preg_match('//u', $text) === 1 ? $text : (string) mb_convert_encoding($text, 'UTF-8', 'Windows-1252');
    }

    private static function refuseLongLines(string $text): void
    {
        $length = strlen($text);
        for ($at = 0, $line = 1; $length - $at > self::LONGEST_LINE; $line++) {
            $step = strcspn($text, "\r\n", $at, self::LONGEST_LINE + 1);
            if ($step > self::LONGEST_LINE) {
                throw TableRefused::because("Line $line is longer than two million signs: this is no table with a row in each line.");
            }
            $at += $step + 1;
        }
    }

    /** @return non-empty-string */
    private static function separator(string $text): string
    {
        $lines = array_slice(preg_split('/\r\n|\r|\n/', substr($text, 0, 200_000)) ?: [], 0, self::SAMPLE);
        $lines = array_values(array_filter($lines, static fn (string $l): bool => trim($l) !== '' && ! str_starts_with(ltrim($l), '#')));
        $best = [',', 0.0];
        foreach (self::SEPARATORS as $separator) {
            $counts = array_map(static fn (string $l): int => count(str_getcsv($l, $separator, '"', '')), $lines);
            $wide = array_filter($counts, static fn (int $c): bool => $c > 1);
            if ($wide === []) {
                continue;
            }
            $most = max(array_count_values($wide));
            $share = $most / count($lines);
            if ($share > $best[1] + 0.05) {
                $best = [$separator, $share];
            }
        }
        if ($best[1] === 0.0) {
            $counts = array_map(static fn (string $l): int => count(preg_split('/\s+/u', trim($l)) ?: []), $lines);

            return $counts !== [] && min($counts) > 1 && count(array_unique($counts)) === 1 ? ' ' : ',';
        }

        return $best[0];
    }

    /**
     * Line by line: only those with quotes need more than to be cut, and one of these may go on over several lines.
     *
     * @param  non-empty-string  $separator
     * @return \Generator<int, list<string>>
     */
    private static function separated(string $text, string $separator): \Generator
    {
        $end = str_contains($text, "\n") ? "\n" : "\r";
        $open = '';
        for ($at = 0, $length = strlen($text); $at < $length; $at = $next + 1) {
            $next = strpos($text, $end, $at);
            $next = $next === false ? $length : $next;
            $line = $open.substr($text, $at, $next - $at);
            if (! str_contains($line, '"')) {
                $line = rtrim($line, "\r");
                yield $line === '' ? [] : explode($separator, $line);
            } elseif (substr_count($line, '"') % 2 === 1 && $next < $length && strlen($line) < self::LONGEST_LINE) {
                $open = "$line\n";

                continue;
            } else {
                yield array_map(strval(...), str_getcsv(rtrim($line, "\r"), $separator, '"', ''));
            }
            $open = '';
        }
    }

    /** @return \Generator<int, list<string>> */
    private static function spaced(string $text): \Generator
    {
        foreach (preg_split('/\r\n|\r|\n/', $text) ?: [] as $line) {
            yield trim($line) === '' ? [] : (preg_split('/\s+/u', trim($line)) ?: []);
        }
    }
}
