<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Unit;

/** Reads units, with the spellings that mean the same everywhere and those that do in this study. */
final class UnitBook
{
    private const SAME = [
        'year' => ['years', 'yr', 'yrs'],
        'month' => ['months', 'mo'],
        'week' => ['weeks', 'wk'],
        'day' => ['days'],
        'hour' => ['hours', 'hr', 'hrs', 'h'],
        'minute' => ['minutes'],
        'second' => ['seconds', 'sec', 's'],
        '1' => ['dimensionless', 'unitless', 'dmnl', '%', 'percent'],
    ];

    /** Lengths in days; a month is a twelfth of a year. */
    public const DAYS = [
        'second' => 1 / 86400,
        'minute' => 1 / 1440,
        'hour' => 1 / 24,
        'day' => 1.0,
        'week' => 7.0,
        'month' => 365.25 / 12,
        'year' => 365.25,
    ];

    /** @var array<string, string> */
    private array $canonical = [];

    /** @var array<string, ?Unit> */
    private array $known = [];

    /** @param  list<string>  $sameUnits  lines such as `person = people = islander` */
    public function __construct(array $sameUnits = [])
    {
        foreach (self::SAME as $name => $others) {
            foreach ($others as $other) {
                $this->canonical[$other] = (string) $name;
            }
        }
        foreach ($sameUnits as $line) {
            $names = array_map(static fn (string $n): string => self::key(trim($n)), explode('=', $line));
            $first = $this->canonical[$names[0]] ?? $names[0];
            foreach ($names as $name) {
                if ($name !== $first) {
                    $this->canonical[$name] = $first;
                }
            }
        }
    }

    /** The unit of a text; null if it is empty or no unit. */
    public function read(string $text): ?Unit
    {
        if (! array_key_exists($text, $this->known)) {
            try {
                $this->known[$text] = $this->parse($text);
            } catch (UnitError) {
                $this->known[$text] = null;
            }
        }

        return $this->known[$text];
    }

    /** @throws UnitError */
    public function parse(string $text): ?Unit
    {
        $text = trim($text);
        if ($text === '') {
            return null;
        }
        preg_match_all(
            '/\s*(\*\*|[*·⋅×\/^()²³]|\bper\b|-?\d+(?:\.\d+)?|[\p{L}_%$€£°µΩ][\p{L}\p{M}\p{Nd}_%$€£°]*(?:[ _]+(?!per\b)[\p{L}_][\p{L}\p{M}\p{Nd}_]*)*|.)/u',
            $text,
            $m,
        );
        $tokens = array_map(
            static fn (string $t): string => match ($t) {
                '·', '⋅', '×' => '*',
                'per' => '/',
                '**' => '^',
                default => $t,
            },
            array_values(array_filter(array_map(trim(...), $m[1]), static fn (string $t): bool => $t !== '')),
        );
        if (count($tokens) > 60) {
            throw new UnitError('This unit has more parts than any unit needs.');
        }
        $at = 0;
        $unit = $this->product($tokens, $at, 0);
        if ($at < count($tokens)) {
            throw new UnitError("In the unit `$text`, `$tokens[$at]` has no meaning. Units are written like `people/year` or `kg*m/s^2`.");
        }

        return $unit;
    }

    /** @param  list<string>  $tokens */
    private function product(array $tokens, int &$at, int $depth): Unit
    {
        $unit = $this->factor($tokens, $at, $depth);
        while (($sign = $tokens[$at] ?? '') === '*' || $sign === '/') {
            $at++;
            $unit = $unit->times($this->factor($tokens, $at, $depth), $sign === '*' ? 1.0 : -1.0);
        }

        return $unit;
    }

    /** @param  list<string>  $tokens */
    private function factor(array $tokens, int &$at, int $depth): Unit
    {
        $token = $tokens[$at] ?? '';
        if ($token === '(' && $depth < 10) {
            $at++;
            $unit = $this->product($tokens, $at, $depth + 1);
            if (($tokens[$at] ?? '') !== ')') {
                throw new UnitError('A bracket in this unit is not closed.');
            }
            $at++;
        } elseif ($token === '1') {
            $at++;
            $unit = Unit::plain();
        } elseif (preg_match('/^[\p{L}_%$€£°µΩ]/u', $token) === 1) {
            $at++;
            $name = $this->name($token);
            $unit = $name === '1' ? Unit::plain() : Unit::base($name);
        } else {
            throw new UnitError(
                $token === ''
                    ? 'This unit ends too early. Units are written like `people/year` or `kg*m/s^2`.'
                    : "`$token` is no unit. Units are written like `people/year` or `kg*m/s^2`, and `1` for a plain number.",
            );
        }
        $power = match ($tokens[$at] ?? '') {
            '²' => 2.0,
            '³' => 3.0,
            '^' => is_numeric($tokens[$at + 1] ?? '')
                ? (float) $tokens[$at + 1]
                : throw new UnitError('Behind `^` in a unit stands a number, as in `m^2`.'),
            default => null,
        };
        if ($power === null) {
            return $unit;
        }
        $at += $tokens[$at] === '^' ? 2 : 1;

        return $unit->power($power);
    }

    private function name(string $written): string
    {
        $key = self::key($written);
        if (isset($this->canonical[$key])) {
            return $this->canonical[$key];
        }
        // A plural means the same as its singular, and what that is the same as.
        $singular = match (true) {
            strlen($key) > 4 && str_ends_with($key, 'ies') => substr($key, 0, -3).'y',
            strlen($key) > 3 && preg_match('/[^sui]s$/', $key) === 1 => substr($key, 0, -1),
            default => $key,
        };

        return $this->canonical[$singular] ?? $singular;
    }

    /**
     * Words mean the same in any case, symbols do not: Mm3 is not mm3. A symbol is short, or has a digit or a capital within;
     * the usual spellings of time are words, however short.
     */
    private static function key(string $name): string
    {
        $name = (string) preg_replace('/[\s_]+/', ' ', $name);
        $word = mb_strtolower($name);
        if (mb_strlen($name) > 2 && (isset(self::SAME[$word]) || in_array($word, array_merge(...array_values(self::SAME)), true))) {
            return $word;
        }
        $isSymbol =
            mb_strlen($name) <= 3 ||
            preg_match('/\d/', $name) === 1 ||
            preg_match('/\p{Ll}\p{Lu}|^\p{Lu}{2,}\p{Ll}|^\p{Lu}{2,4}$/u', $name) === 1;

        return $isSymbol ? $name : $word;
    }
}
