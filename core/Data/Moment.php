<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** A moment of the calendar, in UTC. */
final readonly class Moment
{
    /** @param  float  $seconds  since 1970 */
    public function __construct(public float $seconds, public bool $hasClock = false)
    {
    }

    /** Null where there is no such day. */
    public static function of(
        int $year,
        int $month = 1,
        int $day = 1,
        int $hour = 0,
        int $minute = 0,
        float $second = 0.0,
        bool $hasClock = false,
    ): ?self {
        if (! checkdate($month, $day, $year) || $hour > 24 || $minute > 59 || $second >= 61.0) {
            return null;
        }

        return new self(86_400.0 * self::days($year, $month, $day) + 3600.0 * $hour + 60.0 * $minute + $second, $hasClock);
    }

    /** Days since 1970 in the (proleptic Gregorian) calendar: years begin in March, so that leap days come last. */
    private static function days(int $year, int $month, int $day): int
    {
        $year -= $month <= 2 ? 1 : 0;
        $era = (int) floor($year / 400);
        $inEra = $year - 400 * $era;
        $inYear = intdiv(153 * (($month + 9) % 12) + 2, 5) + $day - 1;

        return 146_097 * $era + 365 * $inEra + intdiv($inEra, 4) - intdiv($inEra, 100) + $inYear - 719_468;
    }

    /** The Monday of a week as ISO 8601 counts them. */
    public static function ofWeek(int $year, int $week): ?self
    {
        if ($week < 1 || $week > 53) {
            return null;
        }
        $date = (new \DateTimeImmutable('@0'))->setTimezone(new \DateTimeZone('UTC'))->setISODate($year, $week);

        return new self((float) $date->setTime(0, 0)->getTimestamp());
    }

    public function date(): \DateTimeImmutable
    {
        return (new \DateTimeImmutable('@'.(int) floor($this->seconds)))->setTimezone(new \DateTimeZone('UTC'));
    }

    /** `2001-03-04`, or `2001-03-04T12:30:00`. */
    public function text(): string
    {
        return gmdate($this->hasClock ? 'Y-m-d\TH:i:s' : 'Y-m-d', (int) floor($this->seconds));
    }
}
