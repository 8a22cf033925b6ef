<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** Reads what people write as numbers, with a decimal sign: `1,5`, `1 234.5`, `(12)`, `12%`, `€ 5`, `12 t`, `3.2*`. */
final class Figures
{
    /** Blanks by another sign: nobody measured. */
    private const GAPS = [
        '',
        '#n/a',
        'n/a',
        'na',
        'n.a.',
        'n. a.',
        'n.d.',
        'n. d.',
        'nd',
        '-',
        '–',
        '—',
        '.',
        '..',
        '...',
        '…',
        '?',
        'nan',
        'null',
        'none',
    ];

    private const ERRORS = '/^#(?:DIV\/0!|REF!|VALUE!|NAME\?|NUM!|NULL!|ERROR!?|SPILL!|CALC!|BLOCKED!)$|^Err:\d+$/i';

    private const SIGNS = '€$£¥₤₩₽₹¢';

    /** @var array<string, true> */
    private static array $gaps = [];

    /** @param  '.'|','  $decimal */
    public function __construct(private string $decimal)
    {
        self::$gaps = self::$gaps === [] ? array_fill_keys(self::GAPS, true) : self::$gaps;
    }

    public static function isGap(string|float|Moment|null $cell): bool
    {
        self::$gaps = self::$gaps === [] ? array_fill_keys(self::GAPS, true) : self::$gaps;

        return $cell === null || (is_string($cell) && isset(self::$gaps[mb_strtolower(Grid::text($cell))]));
    }

    public static function isError(string|float|Moment|null $cell): bool
    {
        return is_string($cell) && preg_match(self::ERRORS, trim($cell)) === 1;
    }

    /** A plain number fast; null for all that has to be looked at. */
    public function plain(string|float|Moment|null $cell): ?float
    {
        if (is_float($cell)) {
            return $cell;
        }

        return $this->decimal === '.' && is_string($cell) && is_numeric($cell) && abs((float) $cell) <= 1e300 ? (float) $cell : null;
    }

    /**
     * @return array{value: float, unit: string, taken: string}|null what it says, the unit behind it, and what was taken off
     */
    public function read(string|float|Moment|null $cell): ?array
    {
        $plain = $this->plain($cell);
        if ($plain !== null) {
            return ['value' => $plain, 'unit' => '', 'taken' => ''];
        }
        if (! is_string($cell)) {
            return null;
        }
        $text = str_replace(['−', '–', '’', "\u{2007}"], ['-', '-', "'", ' '], Grid::text($cell));
        [$negative, $taken, $unit] = [false, '', ''];
        if (preg_match('/^\((.+)\)$/u', $text, $m) === 1) {
            [$text, $negative] = [trim($m[1]), true];
        }
        if (preg_match('/^([+-]?)\s*(['.self::SIGNS.'])\s*(.+)$/u', $text, $m) === 1) {
            [$text, $taken] = [$m[1].$m[3], $m[2]];
        } elseif (preg_match('/^(.+?)\s*(['.self::SIGNS.'])$/u', $text, $m) === 1) {
            [$text, $taken] = [$m[1], $m[2]];
        }
        if (preg_match('/^(.*\d)\s*(\*+|[†‡]+|\s*\([a-z]{1,2}\))$/u', $text, $m) === 1) {
            [$text, $taken] = [$m[1], trim($m[2])];
        }
        if (
            preg_match('/^([+-]?[\d.,\' ]*\d)\s*(%|‰|[\p{L}°µ][\p{L}\d²³\/·^° -]*)$/u', $text, $m) === 1 &&
            preg_match('/^[eE][+-]?\d+$/', $m[2]) !== 1
        ) {
            [$text, $unit] = [$m[1], trim($m[2])];
        }
        $value = $this->number($text);

        return $value === null ? null : ['value' => $negative ? -$value : $value, 'unit' => $unit, 'taken' => $taken];
    }

    private function number(string $text): ?float
    {
        $group = $this->decimal === '.' ? "[, ']" : "[. ']";
        $point = preg_quote($this->decimal, '/');
        if (
            preg_match("/^[+-]?(?:\\d{1,3}(?:{$group}\\d{3})+|\\d+)?(?:{$point}\\d*)?(?:[eE][+-]?\\d+)?$/D", $text) !== 1 ||
            preg_match('/\d/', $text) !== 1
        ) {
            return null;
        }
        $plain = (string) preg_replace("/$group/", '', $text);
        $plain = str_replace($this->decimal, '.', $plain);
        $value = is_numeric($plain) ? (float) $plain : NAN;

        return is_finite($value) ? $value : null;
    }

    /**
     * What a cell says of the decimal sign: that it is a point, a comma, or that it could be either.
     *
     * @return '.'|','|'?'|'' nothing where it has neither
     */
    public static function evidence(string $text): string
    {
        $text = (string) preg_replace('/[^\d.,]/', '', $text);
        [$points, $commas] = [substr_count($text, '.'), substr_count($text, ',')];
        if ($points + $commas === 0 || preg_match('/\d/', $text) !== 1) {
            return '';
        }
        if ($points > 0 && $commas > 0) {
            return strrpos($text, '.') > strrpos($text, ',') ? '.' : ',';
        }
        $sign = $points > 0 ? '.' : ',';
        $other = $sign === '.' ? ',' : '.';
        if ($points + $commas > 1) {
            return preg_match('/^\d{1,3}(?:[.,]\d{3})+$/', $text) === 1 ? $other : '';
        }

        return preg_match('/^[1-9]\d{0,2}[.,]\d{3}$/', $text) === 1 ? '?' : $sign;
    }
}
