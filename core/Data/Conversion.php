<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

use MerryOrbit\Core\Unit\UnitBook;

/** What numbers in one unit are multiplied with to be in another: `kg` to `t`, `hundred` to `thousand`, `1/day` to `1/year`, `%` to shares. */
final readonly class Conversion
{
    /** In units of the first of each. */
    private const SIZES = [
        'gram' => [
            'g' => 1.0,
            'gram' => 1.0,
            'grams' => 1.0,
            'mg' => 1e-3,
            'kg' => 1e3,
            'kilogram' => 1e3,
            'kilograms' => 1e3,
            't' => 1e6,
            'ton' => 1e6,
            'tons' => 1e6,
            'tonne' => 1e6,
            'tonnes' => 1e6,
            'kt' => 1e9,
        ],
        'metre' => [
            'm' => 1.0,
            'metre' => 1.0,
            'metres' => 1.0,
            'meter' => 1.0,
            'meters' => 1.0,
            'mm' => 1e-3,
            'cm' => 1e-2,
            'km' => 1e3,
        ],
        'litre' => ['l' => 1.0, 'L' => 1.0, 'litre' => 1.0, 'litres' => 1.0, 'liter' => 1.0, 'liters' => 1.0, 'ml' => 1e-3, 'hl' => 1e2],
        'hectare' => ['ha' => 1.0, 'hectare' => 1.0, 'hectares' => 1.0],
        'joule' => ['J' => 1.0, 'kJ' => 1e3, 'MJ' => 1e6, 'GJ' => 1e9, 'Wh' => 3.6e3, 'kWh' => 3.6e6, 'MWh' => 3.6e9],
        'watt' => ['W' => 1.0, 'kW' => 1e3, 'MW' => 1e6],
        '1' => [
            'hundred' => 1e2,
            'hundreds' => 1e2,
            'thousand' => 1e3,
            'thousands' => 1e3,
            'million' => 1e6,
            'millions' => 1e6,
            'dozen' => 12.0,
        ],
    ];

    private UnitBook $book;

    /** @param  list<string>  $sameUnits  lines such as `person = people` */
    public function __construct(array $sameUnits = [])
    {
        $this->book = new UnitBook($sameUnits);
    }

    /**
     * The factor; null where the units do not fit. A unit that is not said fits all.
     */
    public function factor(string $from, string $to): ?float
    {
        if (self::isPercent($from) && ! self::isPercent($to)) {
            $share = $this->factor('1', $to);

            return $share === null ? null : 0.01 * $share;
        }
        if (trim($from) === '' || trim($to) === '' || $from === $to) {
            return 1.0;
        }
        [$a, $b] = [$this->base($from), $this->base($to)];
        if ($a === null || $b === null) {
            return null;
        }

        return $a[1] === $b[1] ? $a[0] / $b[0] : null;
    }

    public static function isPercent(string $unit): bool
    {
        return in_array(mb_strtolower(trim($unit)), ['%', 'percent', 'per cent', 'pct'], true);
    }

    /** @return array{float, array<string, float>}|null a size, and powers of base units */
    private function base(string $text): ?array
    {
        $unit = $this->book->read($text);
        if ($unit === null) {
            return null;
        }
        $size = 1.0;
        $powers = [];
        foreach ($unit->powers as $name => $power) {
            [$one, $bases] = $this->size((string) $name);
            $size *= $one ** $power;
            foreach ($bases as $base => $by) {
                $powers[$base] = ($powers[$base] ?? 0.0) + $by * $power;
            }
        }
        $powers = array_filter($powers, static fn (float $p): bool => abs($p) > 1e-9);
        ksort($powers);

        return [$size, $powers];
    }

    /** @return array{float, array<string, float>} */
    private function size(string $name): array
    {
        if (isset(UnitBook::DAYS[$name])) {
            return [UnitBook::DAYS[$name], ['day' => 1.0]];
        }
        foreach (self::SIZES as $base => $sizes) {
            $size = $sizes[$name] ?? ($sizes[mb_strtolower($name)] ?? null);
            if ($size !== null) {
                return match ((string) $base) {
                    'litre' => [$size * 1e-3, ['metre' => 3.0]],
                    'hectare' => [$size * 1e4, ['metre' => 2.0]],
                    '1' => [$size, []],
                    default => [$size, [(string) $base => 1.0]],
                };
            }
        }
        // `thousand people`, `hundred t`: a number of something.
        if (preg_match('/^(hundreds?|thousands?|millions?)[ _]+(?:of[ _]+)?(.+)$/u', $name, $m) === 1) {
            [$size, $bases] = $this->base($m[2]) ?? [1.0, [$m[2] => 1.0]];

            return [self::SIZES['1'][$m[1]] * $size, $bases];
        }

        return [1.0, [$name => 1.0]];
    }
}
