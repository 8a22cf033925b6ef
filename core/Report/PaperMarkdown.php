<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Report;

/** A report as Markdown (CommonMark with tables), its pictures as files of their own. */
final class PaperMarkdown
{
    /** @return array<string, string> files by name, `report.md` first */
    public static function files(Paper $paper): array
    {
        $parts = ['# '.Paper::plain($paper->title), '*'.Paper::plain($paper->of).'*'];
        $files = [];
        foreach ($paper->pieces as $piece) {
            $parts[] = match ($piece['kind']) {
                'heading' => str_repeat('#', $piece['level']).' '.Paper::plain($piece['text']),
                'text' => self::text($piece['text']),
                'table' => self::table($piece),
                'picture' => '!['.
                    Paper::plain($piece['alt']).
                    "](pictures/{$piece['name']}.svg)\n\n*".
                    Paper::plain($piece['caption']).
                    '*',
            };
            if ($piece['kind'] === 'picture') {
                $files["pictures/{$piece['name']}.svg"] = $piece['svg'];
            }
        }

        return ['report.md' => implode("\n\n", $parts)."\n", ...$files];
    }

    /** Names of things are bold where no page links to them. */
    public static function text(string $text): string
    {
        return (string) preg_replace_callback('/\[\[([^\[\]\n]{1,200})\]\]/u', static fn (array $m): string => "**$m[1]**", $text);
    }

    /** @param  array{head: list<string>, rows: list<list<string>>, caption: string, code: list<int>, ...}  $piece */
    private static function table(array $piece): string
    {
        $rows = array_map(
            static fn (array $row): string => self::line(
                array_map(
                    static fn (string $cell, int $i): string => in_array($i, $piece['code'], true) && $cell !== ''
                        ? self::code($cell)
                        : Paper::plain($cell),
                    $row,
                    array_keys($row),
                ),
            ),
            $piece['rows'],
        );

        return ($piece['caption'] === '' ? '' : Paper::plain($piece['caption'])."\n\n").
            implode("\n", [
                self::line(array_map(Paper::plain(...), $piece['head'])),
                self::line(array_map(static fn (): string => '---', $piece['head'])),
                ...$rows,
            ]);
    }

    /** @param  array<string>  $cells */
    private static function line(array $cells): string
    {
        return '| '.implode(' | ', $cells).' |';
    }

    /** In a cell of a table a stroke ends the cell also within code. */
    private static function code(string $formula): string
    {
        $ticks = str_contains($formula, '`') ? '``' : '`';

        return "$ticks".strtr((string) preg_replace('/\s+/u', ' ', $formula), ['|' => '\\|'])."$ticks";
    }
}
