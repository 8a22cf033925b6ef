<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/**
 * Times of a study as dates of the (proleptic Gregorian) calendar, in UTC. Months, quarters and years go by the calendar: half a
 * month after 1 April is the middle of April. All other units have a fixed length.
 */
final readonly class Calendar
{
    /** Days of the units of fixed length. */
    private const DAYS = ['second' => 1 / 86_400, 'minute' => 1 / 1_440, 'hour' => 1 / 24, 'day' => 1.0, 'week' => 7.0];

    private const MONTHS = ['month' => 1, 'quarter' => 3, 'year' => 12];

    private const SPELLINGS = [
        'yr' => 'year',
        'mo' => 'month',
        'wk' => 'week',
        'hr' => 'hour',
        'h' => 'hour',
        'sec' => 'second',
        's' => 'second',
        'min' => 'minute',
    ];

    private const DAY = 86_400.0;

    /** Marks that a calendar has, from the finest: a unit and how many of it. */
    private const MARKS = [
        ['hour', 1],
        ['hour', 3],
        ['hour', 6],
        ['hour', 12],
        ['day', 1],
        ['day', 2],
        ['week', 1],
        ['week', 2],
        ['month', 1],
        ['month', 3],
        ['month', 6],
        ['year', 1],
        ['year', 2],
        ['year', 5],
        ['year', 10],
        ['year', 20],
        ['year', 50],
        ['year', 100],
        ['year', 200],
        ['year', 500],
        ['year', 1000],
    ];

    /** Seconds of the units of marks, about. */
    private const LENGTHS = [
        'hour' => 3_600.0,
        'day' => self::DAY,
        'week' => 7 * self::DAY,
        'month' => 30.44 * self::DAY,
        'year' => 365.25 * self::DAY,
    ];

    /** Most anchors that are told; beyond, years stand for months. */
    private const MOST = 1_500;

    private function __construct(private TimeSettings $time, private \DateTimeImmutable $from, private ?int $months, private float $days)
    {
    }

    /** Null where the start has no date, or the time unit none. */
    public static function of(TimeSettings $time): ?self
    {
        $word = mb_strtolower(trim($time->unit));
        $single = mb_strlen($word) > 3 ? (string) preg_replace('/s$/', '', $word) : $word;
        $unit = self::SPELLINGS[$single] ?? $single;
        if ($time->startDate === null || (! isset(self::DAYS[$unit]) && ! isset(self::MONTHS[$unit]))) {
            return null;
        }
        $from = \DateTimeImmutable::createFromFormat('!Y-m-d', $time->startDate, new \DateTimeZone('UTC'));

        return $from === false ? null : new self($time, $from, self::MONTHS[$unit] ?? null, self::DAYS[$unit] ?? 0.0);
    }

    /** Seconds since 1970 at a time of the study. */
    public function secondsAt(float $time): float
    {
        $elapsed = $time - $this->time->start;
        if ($this->months === null) {
            return $this->from->getTimestamp() + $elapsed * $this->days * self::DAY;
        }
        // Whole months by the calendar, the rest as a part of the month it falls into.
        $all = $elapsed * $this->months;
        $whole = (int) floor($all + 1e-9);
        $first = $this->afterMonths($whole);

        return $first + max(0.0, $all - $whole) * ($this->afterMonths($whole + 1) - $first);
    }

    /** The time of the study at a moment, in seconds since 1970. */
    public function timeAt(float $seconds): float
    {
        if ($this->months === null) {
            return $this->time->start + ($seconds - $this->from->getTimestamp()) / ($this->days * self::DAY);
        }
        $whole = (int) floor(($seconds - $this->from->getTimestamp()) / self::LENGTHS['month']) - 1;
        while ($this->afterMonths($whole + 1) <= $seconds) {
            $whole++;
        }
        $first = $this->afterMonths($whole);

        return $this->time->start + ($whole + ($seconds - $first) / ($this->afterMonths($whole + 1) - $first)) / $this->months;
    }

    public function dateAt(float $time): \DateTimeImmutable
    {
        return (new \DateTimeImmutable('@'.(int) round($this->secondsAt($time))))->setTimezone(new \DateTimeZone('UTC'));
    }

    /**
     * Where a calendar has marks: at midnights, Mondays, first days of months and years.
     *
     * @param  int  $most  marks that there is room for
     * @return array{every: string, count: int, marks: list<array{time: float, date: string}>} dates as YYYY-MM-DDTHH:MM
     */
    public function marks(float $from, float $until, int $most): array
    {
        [$begin, $end] = [$this->secondsAt($from), $this->secondsAt($until)];
        [$unit, $count] = self::MARKS[count(self::MARKS) - 1];
        foreach (self::MARKS as [$some, $many]) {
            if (($end - $begin) / (self::LENGTHS[$some] * $many) <= max(1, $most)) {
                [$unit, $count] = [$some, $many];
                break;
            }
        }
        $date = self::roundedDown(
            (new \DateTimeImmutable('@'.(int) floor($begin)))->setTimezone(new \DateTimeZone('UTC')),
            $unit,
            $count,
        );
        $marks = [];
        while ($date->getTimestamp() <= $end + 1e-6 && count($marks) < 1_000) {
            if ($date->getTimestamp() >= $begin - 1e-6) {
                $marks[] = ['time' => $this->timeAt($date->getTimestamp()), 'date' => $date->format('Y-m-d\TH:i')];
            }
            $date = $date->modify("+$count $unit");
        }

        return ['every' => $unit, 'count' => $count, 'marks' => $marks];
    }

    /**
     * Times and their moments, close enough together that what lies between goes evenly.
     *
     * @return list<array{float, float}> time and seconds since 1970
     */
    public function anchors(): array
    {
        $times = [$this->time->start, $this->time->end];
        if ($this->months !== null) {
            $months = ($this->time->end - $this->time->start) * $this->months;
            $every = $months > self::MOST ? 12 : 1;
            for ($i = $every; $i < $months && count($times) < 10 * self::MOST; $i += $every) {
                $times[] = $this->time->start + $i / $this->months;
            }
            sort($times);
        }

        return array_map(fn (float $t): array => [$t, $this->secondsAt($t)], $times);
    }

    /** A month that is too short for the day takes its last one. */
    private function afterMonths(int $months): float
    {
        $first = $this->from->modify('first day of this month')->modify(($months < 0 ? '' : '+')."$months months");

        return (float) $first
            ->setDate((int) $first->format('Y'), (int) $first->format('n'), min((int) $this->from->format('j'), (int) $first->format('t')))
            ->getTimestamp();
    }

    private static function roundedDown(\DateTimeImmutable $date, string $unit, int $count): \DateTimeImmutable
    {
        [$year, $month] = [(int) $date->format('Y'), (int) $date->format('n')];

        return match ($unit) {
            'hour' => $date->setTime(intdiv((int) $date->format('G'), $count) * $count, 0),
            'day' => $date->setTime(0, 0),
            'week' => $date->setTime(0, 0)->modify('monday this week'),
            'month' => $date->setDate($year, intdiv($month - 1, $count) * $count + 1, 1)->setTime(0, 0),
            default => $date->setDate((int) floor($year / $count) * $count, 1, 1)->setTime(0, 0),
        };
    }
}
