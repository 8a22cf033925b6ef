<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Report;

/**
 * What stands in a report, before it is set: headings, texts in Markdown, tables and pictures, one under the other.
 *
 * @phpstan-type Heading array{kind: 'heading', level: int, text: string}
 * @phpstan-type Text array{kind: 'text', text: string}
 * @phpstan-type Rows array{kind: 'table', head: list<string>, rows: list<list<string>>, caption: string, code: list<int>}
 * @phpstan-type Picture array{kind: 'picture', name: string, svg: string, alt: string, caption: string}
 * @phpstan-type Piece Heading|Text|Rows|Picture
 */
final class Paper
{
    /** @var list<Piece> */
    public array $pieces = [];

    /** @param  string  $of  what it is of, in a sentence: the version and the day */
    public function __construct(public readonly string $title, public readonly string $of, public readonly string $size = 'a4')
    {
    }

    /** @param  int  $level  2 for a section, 3 and 4 within */
    public function heading(int $level, string $text): void
    {
        $this->pieces[] = ['kind' => 'heading', 'level' => $level, 'text' => $text];
    }

    /** @param  string  $text  Markdown (CommonMark), in which `[[name]]` stands for a thing of the model */
    public function text(string $text): void
    {
        if (trim($text) !== '') {
            $this->pieces[] = ['kind' => 'text', 'text' => trim($text)];
        }
    }

    /**
     * @param  list<string>  $head
     * @param  list<list<string>>  $rows  plain text
     * @param  list<int>  $code  columns that hold formulas
     */
    public function table(array $head, array $rows, string $caption = '', array $code = []): void
    {
        if ($rows !== []) {
            $this->pieces[] = ['kind' => 'table', 'head' => $head, 'rows' => $rows, 'caption' => $caption, 'code' => $code];
        }
    }

    /** @param  string  $alt  what is to be seen, for who does not see it */
    public function picture(string $svg, string $alt, string $caption): void
    {
        $count = count(array_filter($this->pieces, static fn (array $p): bool => $p['kind'] === 'picture')) + 1;
        $this->pieces[] = [
            'kind' => 'picture',
            'name' => sprintf('picture-%02d', $count),
            'svg' => (string) preg_replace(
                '/ role="img"(?: aria-label="[^"]*")?/',
                ' role="img" aria-label="'.self::quoted($alt).'"',
                $svg,
                1,
            ),
            'alt' => $alt,
            'caption' => "Picture $count. ".mb_strtoupper(mb_substr($caption, 0, 1)).mb_substr($caption, 1),
        ];
    }

    /** Neither an end of the quotes nor a reference of preg_replace. */
    private static function quoted(string $text): string
    {
        return addcslashes(Drawing::escaped($text), '\\\\$');
    }

    /** What stands in another one follows. */
    public function add(self $other): void
    {
        foreach ($other->pieces as $piece) {
            if ($piece['kind'] === 'picture') {
                $this->picture($piece['svg'], $piece['alt'], (string) preg_replace('/^Picture \d+\. /', '', $piece['caption']));
            } else {
                $this->pieces[] = $piece;
            }
        }
    }

    /** A unit as it is read: m³ for m^3. */
    public static function unit(string $unit): string
    {
        return strtr(trim($unit), ['^2' => '²', '^3' => '³', '^-1' => '⁻¹']);
    }

    /** Text of people that means nothing in Markdown. */
    public static function plain(string $text): string
    {
        return (string) preg_replace(['/\s+/u', '/([\\\\`*_\[\]<>|#])/'], [' ', '\\\\$1'], trim($text));
    }
}
