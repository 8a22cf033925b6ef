<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * A causal map as a table of links (RFC 4180): the header names `from`, `to` and `sign`, and perhaps `late`, `strength`, `mechanism`
 * and `evidence`, in any order. Names of factors are one whatever their case and the signs between their words.
 */
final class MapCsv
{
    private const NEEDED = ['from', 'to', 'sign'];

    /** What is read as a sign. */
    private const SIGNS = ['+' => '+', '-' => '-', '−' => '-', '–' => '-', '?' => '?', '' => '?'];

    private const YES = ['1', 'true', 'yes', 'late', 'x'];

    private const NO = ['', '0', 'false', 'no'];

    /** Whether a file looks like one: its first line names what a link goes from and to. */
    public static function looksLike(string $content): bool
    {
        $head = strtolower(trim((string) strtok(ltrim($content, "\u{FEFF}\r\n"), "\r\n")));

        return preg_match('/(^|[,;\t])"?from"?([,;\t]|$)/', $head) === 1 && preg_match('/(^|[,;\t])"?to"?([,;\t]|$)/', $head) === 1;
    }

    /** @throws NotUnderstood that says in which line what is wrong */
    public static function read(string $content): CausalGraph
    {
        $names = $links = [];
        foreach (self::lines($content) as $line) {
            foreach (['from', 'to'] as $end) {
                $names[Name::key($line[$end])] ??= $line[$end];
            }
            $links[] = new GraphLink(Name::key($line['from']), Name::key($line['to']), $line['sign'], $line['late'], $line['strength']);
        }

        return CausalGraph::of($names, $links);
    }

    /**
     * @return list<array{
     *     from: string,
     *     to: string,
     *     sign: '+'|'-'|'?',
     *     late: bool,
     *     strength: value-of<CausalLink::STRENGTHS>,
     *     mechanism: string,
     *     evidence: string,
     * }> each line of the table, with names as they are written
     *
     * @throws NotUnderstood that says in which line what is wrong
     */
    public static function lines(string $content): array
    {
        if (preg_match('//u', $content) !== 1) {
            throw NotUnderstood::because('The map is no text in UTF-8: save it as CSV in UTF-8.');
        }
        $rows = self::rows($content);
        $head = [];
        for ($line = 1; $head === [] && $rows !== []; $line++) {
            $row = array_shift($rows);
            $head = self::isBlank($row) ? [] : array_map(static fn (string $cell): string => strtolower(trim($cell)), $row);
        }
        foreach (self::NEEDED as $needed) {
            if (! in_array($needed, $head, true)) {
                throw NotUnderstood::because("The first line of a map names its columns: `from,to,sign`. It lacks `$needed`.");
            }
        }
        $lines = [];
        foreach ($rows as $row) {
            $at = $line++;
            if (! self::isBlank($row)) {
                $cells = [];
                foreach ($head as $k => $column) {
                    $cells[$column] = (string) preg_replace("/^'(?=[=+\\-@\\t])/", '', trim($row[$k] ?? ''));
                }
                $lines[] = self::line($cells, $at);
            }
        }

        return $lines;
    }

    /**
     * @param  array<string, string>  $cells  by column
     * @return array{
     *     from: string,
     *     to: string,
     *     sign: '+'|'-'|'?',
     *     late: bool,
     *     strength: value-of<CausalLink::STRENGTHS>,
     *     mechanism: string,
     *     evidence: string,
     * }
     */
    private static function line(array $cells, int $at): array
    {
        foreach (['from', 'to'] as $end) {
            if ($cells[$end] === '') {
                throw NotUnderstood::because("Line $at of the map has no name in `$end`.");
            }
        }
        $sign =
            self::SIGNS[$cells['sign']] ??
            throw NotUnderstood::because("Line $at of the map has the sign `{$cells['sign']}`; it is +, - or ?.");
        $late = strtolower($cells['late'] ?? '');
        if (! in_array($late, [...self::YES, ...self::NO], true)) {
            throw NotUnderstood::because("Line $at of the map says `{$cells['late']}` in `late`; it is yes or no.");
        }
        $strength = array_search(strtolower($cells['strength'] ?? '') ?: 'usual', CausalLink::STRENGTHS, true);
        if ($strength === false) {
            throw NotUnderstood::because(
                "Line $at of the map says `{$cells['strength']}` in `strength`; it is ".
                    implode(', ', CausalLink::STRENGTHS).
                    ', or empty.',
            );
        }

        return [
            'from' => $cells['from'],
            'to' => $cells['to'],
            'sign' => $sign,
            'late' => in_array($late, self::YES, true),
            'strength' => CausalLink::STRENGTHS[$strength],
            'mechanism' => $cells['mechanism'] ?? '',
            'evidence' => $cells['evidence'] ?? '',
        ];
    }

    /** The links of a map as such a table. */
    public static function write(Model $model): string
    {
        $file = fopen('php://memory', 'r+');
        if ($file === false) {
            return '';
        }
        fputcsv($file, ['from', 'to', 'sign', 'late', 'strength', 'mechanism', 'evidence'], ',', '"', '');
        foreach ($model->part('causalLinks') as $link) {
            if ($link instanceof CausalLink) {
                $ends = [(string) $model->nameOf($link->from), (string) $model->nameOf($link->to)];
                $said = [$link->sign, $link->late ? 'yes' : '', $link->strength, $link->mechanism, $link->grounds];
                $plain = array_map(self::plain(...), [...$ends, ...$said]);
                fputcsv($file, [...array_slice($plain, 0, 2), $link->sign, ...array_slice($plain, 3)], ',', '"', '');
            }
        }
        rewind($file);
        $text = (string) stream_get_contents($file);
        fclose($file);

        return $text;
    }

    /** What a spreadsheet would take for a formula is marked as text; reading takes the mark off again. */
    private static function plain(string $text): string
    {
        return preg_match('/^[=+\-@\t]/', $text) === 1 ? "'$text" : $text;
    }

    /** @param  list<string>  $row */
    private static function isBlank(array $row): bool
    {
        return trim(implode('', $row)) === '';
    }

    /** @return list<list<string>> */
    private static function rows(string $content): array
    {
        $content = (string) preg_replace('/^\x{FEFF}/u', '', $content);
        $first = (string) strtok(ltrim($content, "\r\n"), "\r\n");
        $separator = str_contains($first, "\t") ? "\t" : (substr_count($first, ';') > substr_count($first, ',') ? ';' : ',');
        $file = fopen('php://memory', 'r+');
        if ($file === false) {
            return [];
        }
        fwrite($file, $content);
        rewind($file);
        $rows = [];
        while (($row = fgetcsv($file, null, $separator, '"', '')) !== false) {
            $rows[] = array_map(strval(...), $row);
        }
        fclose($file);

        return $rows;
    }
}
