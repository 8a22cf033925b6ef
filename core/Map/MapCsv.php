<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\NotUnderstood;

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
        $names = $links = [];
        foreach ($rows as $row) {
            $at = $line++;
            if (self::isBlank($row)) {
                continue;
            }
            $cells = [];
            foreach ($head as $k => $column) {
                $cells[$column] = trim($row[$k] ?? '');
            }
            foreach (['from', 'to'] as $end) {
                if ($cells[$end] === '') {
                    throw NotUnderstood::because("Line $at of the map has no name in `$end`.");
                }
                $names[Name::key($cells[$end])] ??= $cells[$end];
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
            $links[] = new GraphLink(
                Name::key($cells['from']),
                Name::key($cells['to']),
                $sign,
                in_array($late, self::YES, true),
                CausalLink::STRENGTHS[$strength],
            );
        }

        return CausalGraph::of($names, $links);
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
