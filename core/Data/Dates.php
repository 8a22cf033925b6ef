<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/**
 * Reads what people write as moments: days in any order, months, quarters, ISO weeks, with or without a time of day. Months and
 * quarters are their first day, weeks their Monday.
 */
final class Dates
{
    private const MONTHS = [
        'jan' => 1,
        'feb' => 2,
        'mar' => 3,
        'apr' => 4,
        'may' => 5,
        'jun' => 6,
        'jul' => 7,
        'aug' => 8,
        'sep' => 9,
        'oct' => 10,
        'nov' => 11,
        'dec' => 12,
    ];

    private const MONTH = '(jan(?:uary)?|feb(?:ruary)?|mar(?:ch)?|apr(?:il)?|may|june?|july?|aug(?:ust)?|sept?(?:ember)?|oct(?:ober)?|nov(?:ember)?|dec(?:ember)?)\.?';

    /** @param  'ymd'|'dmy'|'mdy'  $order  how days are written where the year does not come first */
    public function __construct(private string $order = 'dmy')
    {
    }

    /** Whether a cell is a moment, in any order of day and month. */
    public static function isOne(string|float|Moment|null $cell): bool
    {
        return $cell instanceof Moment ||
            (is_string($cell) && ((new self('dmy'))->read($cell) ?? (new self('mdy'))->read($cell)) !== null);
    }

    public function read(string|float|Moment|null $cell): ?Moment
    {
        if ($cell instanceof Moment) {
            return $cell;
        }
        if (! is_string($cell) || strlen($cell) > 40 || strpbrk($cell, '0123456789') === false) {
            return null;
        }
        // Most tables write ISO 8601.
        if (preg_match('/^\s*(\d{4})-(\d\d)-(\d\d)(?:[T ](\d\d):(\d\d)(?::(\d\d(?:\.\d+)?))?Z?)?\s*$/', $cell, $m) === 1) {
            return Moment::of(
                (int) $m[1],
                (int) $m[2],
                (int) $m[3],
                (int) ($m[4] ?? 0),
                (int) ($m[5] ?? 0),
                (float) ($m[6] ?? 0),
                isset($m[4]),
            );
        }
        $text = mb_strtolower(Grid::text($cell));
        [$h, $i, $s, $hasClock] = [0, 0, 0.0, false];
        if (preg_match('/^(.+?)(?:t|,?\s+)(\d{1,2}):(\d{2})(?::(\d{2}(?:\.\d+)?))?\s*(am|pm)?(?:z|\s*\+00:?00)?$/', $text, $m) === 1) {
            [$h, $i, $s, $hasClock] = [(int) $m[2] % 24, (int) $m[3], (float) ($m[4] ?? 0), true];
            $h = match ($m[5] ?? '') {
                'pm' => ($h % 12) + 12,
                'am' => $h % 12,
                default => $h,
            };
            $text = trim($m[1]);
        }
        $day = $this->day($text);

        return $day === null || ! $hasClock ? $day : new Moment($day->seconds + 3600.0 * $h + 60.0 * $i + $s, true);
    }

    private function day(string $text): ?Moment
    {
        if (preg_match('/^(\d{4})[-\/.](\d{1,2})[-\/.](\d{1,2})$/', $text, $m) === 1) {
            return Moment::of((int) $m[1], (int) $m[2], (int) $m[3]);
        }
        if (preg_match('/^(\d{1,2})([-\/.])\s?(\d{1,2})\2\s?(\d{4}|\d{2})$/', $text, $m) === 1) {
            [$first, $second, $year] = [(int) $m[1], (int) $m[3], self::year($m[4])];

            return match (true) {
                $this->order === 'ymd' && strlen($m[4]) === 2 => Moment::of(self::year($m[1]), $second, (int) $m[4]),
                $this->order === 'mdy' => Moment::of($year, $first, $second),
                default => Moment::of($year, $second, $first),
            };
        }

        return $this->named($text) ?? $this->part($text);
    }

    /** With the name of a month. */
    private function named(string $text): ?Moment
    {
        $month = static fn (string $name): int => self::MONTHS[substr($name, 0, 3)];

        return match (true) {
            preg_match('/^(\d{1,2})(?:st|nd|rd|th|\.)?[\s-]+'.self::MONTH.'[\s-]+,?(\d{4}|\d{2})$/', $text, $m) === 1 => Moment::of(
                self::year($m[3]),
                $month($m[2]),
                (int) $m[1],
            ),
            preg_match('/^'.self::MONTH.'\s+(\d{1,2})(?:st|nd|rd|th)?,?\s+(\d{4})$/', $text, $m) === 1 => Moment::of(
                (int) $m[3],
                $month($m[1]),
                (int) $m[2],
            ),
            preg_match('/^(\d{4})[\s-]+'.self::MONTH.'[\s-]+(\d{1,2})$/', $text, $m) === 1 => Moment::of(
                (int) $m[1],
                $month($m[2]),
                (int) $m[3],
            ),
            preg_match('/^'.self::MONTH.'[\s\/-]*,?\s*\'?(\d{4}|\d{2})$/', $text, $m) === 1 => Moment::of(
                self::year($m[2]),
                $month($m[1]),
            ),
            preg_match('/^(\d{4})[\s\/-]*'.self::MONTH.'$/', $text, $m) === 1 => Moment::of((int) $m[1], $month($m[2])),
            default => null,
        };
    }

    /** A month, a quarter or a week by its number. */
    private function part(string $text): ?Moment
    {
        return match (true) {
            preg_match('/^(\d{4})[-\/](\d{2})$/', $text, $m) === 1, preg_match('/^(\d{4})\s?m(\d{1,2})$/', $text, $m) === 1 => Moment::of(
                (int) $m[1],
                (int) $m[2],
            ),
            preg_match('/^(\d{1,2})[\/.](\d{4})$/', $text, $m) === 1 => Moment::of((int) $m[2], (int) $m[1]),
            preg_match('/^(\d{4})[\s\/-]*q(?:uarter\s?)?([1-4])$/', $text, $m) === 1 => Moment::of((int) $m[1], 3 * (int) $m[2] - 2),
            preg_match('/^q([1-4])[\s\/-]*\'?(\d{4}|\d{2})$/', $text, $m) === 1 => Moment::of(self::year($m[2]), 3 * (int) $m[1] - 2),
            preg_match('/^([1-4])\.?\s?q(?:uarter)?\s(\d{4})$/', $text, $m) === 1 => Moment::of((int) $m[2], 3 * (int) $m[1] - 2),
            preg_match('/^(\d{4})[\s-]*(?:w|kw|week\s?)(\d{1,2})$/', $text, $m) === 1 => Moment::ofWeek((int) $m[1], (int) $m[2]),
            preg_match('/^(?:w|kw|week\s?)(\d{1,2})[\s\/-]+(\d{4})$/', $text, $m) === 1 => Moment::ofWeek((int) $m[2], (int) $m[1]),
            default => null,
        };
    }

    /** Years of two digits are those between 1950 and 2049. */
    private static function year(string $digits): int
    {
        $year = (int) $digits;

        return strlen($digits) > 2 ? $year : ($year < 50 ? 2000 : 1900) + $year;
    }

    /**
     * In which order days and months are written.
     *
     * @param  iterable<string|float|Moment|null>  $cells
     * @return array{'ymd'|'dmy'|'mdy', bool} and whether the cells leave it open
     */
    public static function orderOf(iterable $cells): array
    {
        [$isOpen, $dmy, $mdy, $slashes] = [false, 0, 0, 0];
        $both = ['dmy' => [], 'mdy' => []];
        foreach ($cells as $cell) {
            if (is_string($cell) && preg_match('/^\s*(\d{1,2})([-\/.])\s?(\d{1,2})\2\s?(?:\d{4}|\d{2})(?:\D|$)/', $cell, $m) === 1) {
                $dmy += (int) $m[1] > 12 ? 1 : 0;
                $mdy += (int) $m[3] > 12 ? 1 : 0;
                $slashes += $m[2] === '/' ? 1 : 0;
                $isOpen = true;
                foreach (['dmy', 'mdy'] as $order) {
                    $both[$order][] = (new self($order))->read($cell)?->seconds;
                }
            }
        }
        if (! $isOpen || $dmy !== $mdy) {
            return [$mdy > $dmy ? 'mdy' : 'dmy', false];
        }
        // Both can be read: time goes on in one of them, perhaps, and back and forth in the other.
        $turns = array_map(self::turns(...), $both);

        return [$turns['mdy'] < $turns['dmy'] ? 'mdy' : 'dmy', true];
    }

    /** @param  list<float|null>  $seconds */
    private static function turns(array $seconds): int
    {
        [$up, $down] = [0, 0];
        for ($i = 1; $i < count($seconds); $i++) {
            $step = ($seconds[$i] ?? 0.0) <=> ($seconds[$i - 1] ?? 0.0);
            $up += $step > 0 ? 1 : 0;
            $down += $step < 0 ? 1 : 0;
        }

        return min($up, $down);
    }
}
