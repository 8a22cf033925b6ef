<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Report;

/** An SVG picture while it is drawn: on white, in the inks of the page, readable in print. */
final class Drawing
{
    public const INK = '#221d38';

    public const SOFT = '#575271';

    public const LINE = '#dcd9cf';

    /** Lines are told apart by ink and by dashes, never by ink alone. */
    public const INKS = ['#221d38', '#0f6b8a', '#a8480b', '#5a7a1f', '#7a3b8f', '#8a6d00'];

    public const DASHES = ['', '7 4', '2 4', '10 3 2 3', '1 3', '12 5'];

    /** Of a letter, as a share of the size of the writing: of a wide font, as another may be at hand where it is read. */
    private const LETTER = 0.64;

    private string $body = '';

    public function path(string $path, string $more = 'fill="none" stroke="'.self::INK.'"'): void
    {
        $this->body .= "<path d=\"$path\" $more/>\n";
    }

    public function raw(string $element): void
    {
        $this->body .= "$element\n";
    }

    public function line(
        float $x1,
        float $y1,
        float $x2,
        float $y2,
        string $ink = self::LINE,
        string $dash = '',
        float $width = 1.0,
    ): void {
        $dashes = $dash === '' ? '' : " stroke-dasharray=\"$dash\"";
        $this->body .=
            sprintf(
                '<line x1="%s" y1="%s" x2="%s" y2="%s" stroke="%s" stroke-width="%s"%s/>',
                ...[...array_map(self::at(...), [$x1, $y1, $x2, $y2]), $ink, self::at($width), $dashes],
            )."\n";
    }

    public function text(
        float $x,
        float $y,
        string $text,
        string $anchor = 'start',
        string $ink = self::INK,
        float $size = 12.0,
        bool $bold = false,
    ): void {
        $this->body .=
            sprintf(
                // Written on a band of white: lines that pass beneath leave it readable.
                '<text x="%s" y="%s" text-anchor="%s" fill="%s" font-size="%s"%s '.
                    'paint-order="stroke" stroke="#fff" stroke-width="3">%s</text>',
                self::at($x),
                self::at($y),
                $anchor,
                $ink,
                self::at($size),
                $bold ? ' font-weight="700"' : '',
                self::escaped($text),
            )."\n";
    }

    public static function widthOf(string $text, float $size = 12.0): float
    {
        return mb_strwidth($text) * $size * self::LETTER;
    }

    public function svg(float $x, float $y, float $width, float $height): string
    {
        return sprintf(
            '<svg xmlns="http://www.w3.org/2000/svg" viewBox="%s %s %s %s" width="%s" height="%s" role="img" '.
                'font-family="Atkinson Hyperlegible, system-ui, sans-serif">',
            ...array_map(self::at(...), [$x, $y, $width, $height, $width, $height]),
        )."\n$this->body</svg>";
    }

    /** A number as it stands in a path. */
    public static function at(float $number): string
    {
        return (string) round($number, 1);
    }

    public static function escaped(string $text): string
    {
        return htmlspecialchars($text, ENT_QUOTES | ENT_SUBSTITUTE | ENT_XML1, 'UTF-8');
    }
}
