<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

use MerryOrbit\Core\Model\Calendar;
use MerryOrbit\Core\Model\TimeSettings;

/** Periods that times of a table begin: of the calendar for dates, of equal length for numbers. */
final readonly class Periods
{
    public const CALENDAR = ['year', 'quarter', 'month', 'week', 'day'];

    private const DAY = 86_400.0;

    /** @param  string  $each  of CALENDAR for dates, or a length: seconds for dates, else in the unit of the table */
    private function __construct(private bool $isDate, public string $each)
    {
    }

    /** As far apart as the times of a table are. */
    public static function of(DataTable $table): self
    {
        $isDate = $table->timeKind === 'date';

        return new self(
            $isDate,
            $table->spacing !== '' ? $table->spacing : ($isDate ? self::ofDates($table->times) : self::least($table->times)),
        );
    }

    /**
     * What somebody asks for.
     *
     * @throws TableRefused where it is no period of such times
     */
    public static function called(DataTable $table, string $word): self
    {
        $word = mb_strtolower(trim($word));
        $single = (string) preg_replace('/s$/', '', $word);
        if ($table->timeKind === 'date') {
            return in_array($single, self::CALENDAR, true)
                ? new self(true, $single)
                : throw TableRefused::because("`$word` is no period of the calendar: year, quarter, month, week or day.");
        }
        if (is_numeric($word) && (float) $word > 0.0) {
            return new self(false, $word);
        }
        throw TableRefused::because("The times of this table are numbers: say how many of them go together, as `12`, not `$word`.");
    }

    /** @param  list<float>  $times */
    private static function ofDates(array $times): string
    {
        $least = (float) self::least($times);
        if ($least <= 0.0) {
            return 'year';
        }
        $isAll = static function (string $format, array $words) use ($times): bool {
            foreach ($times as $t) {
                if (! in_array(gmdate($format, (int) $t), $words, true)) {
                    return false;
                }
            }

            return true;
        };

        return match (true) {
            $least >= 364 * self::DAY => 'year',
            $least >= 89 * self::DAY && $isAll('d H:i', ['01 00:00']) => 'quarter',
            $least >= 28 * self::DAY => 'month',
            $least === 7 * self::DAY => 'week',
            $least === self::DAY => 'day',
            default => Grid::text($least),
        };
    }

    /** @param  list<float>  $times */
    private static function least(array $times): string
    {
        $least = INF;
        for ($i = 1; $i < count($times); $i++) {
            $gap = $times[$i] - $times[$i - 1];
            $least = $gap > 0.0 ? min($least, $gap) : $least;
        }

        return is_infinite($least) ? '0' : Grid::text(round($least, 9));
    }

    /** As people say it. */
    public function words(): string
    {
        return match (true) {
            ! is_numeric($this->each) => $this->each,
            $this->isDate && (float) $this->each < self::DAY => Grid::text(round((float) $this->each / 3_600.0, 3)).' hours',
            $this->isDate => Grid::text(round((float) $this->each / self::DAY, 3)).' days',
            default => $this->each,
        };
    }

    /** When the period ends that begins at a time. */
    public function end(float $time): float
    {
        return $this->after($time, 1);
    }

    /** When the period begins that a time lies in. */
    public function begin(float $time): float
    {
        if (is_numeric($this->each)) {
            $length = (float) $this->each;

            return $length > 0.0 ? floor($time / $length + 1e-9) * $length : $time;
        }
        $date = (new Moment($time))->date();
        $year = (int) $date->format('Y');
        $month = (int) $date->format('n');

        return match ($this->each) {
            'year' => self::first($year, 1),
            'quarter' => self::first($year, 3 * intdiv($month - 1, 3) + 1),
            'month' => self::first($year, $month),
            'week' => floor(($time - 4 * self::DAY) / (7 * self::DAY)) * 7 * self::DAY + 4 * self::DAY,
            default => floor($time / self::DAY) * self::DAY,
        };
    }

    private static function first(int $year, int $month): float
    {
        return Moment::of($year, $month)->seconds ?? 0.0;
    }

    private function after(float $time, int $count): float
    {
        $months = ['year' => 12, 'quarter' => 3, 'month' => 1][$this->each] ?? null;
        if ($months === null) {
            return $time + $count * (['week' => 7 * self::DAY, 'day' => self::DAY][$this->each] ?? (float) $this->each);
        }
        $date = (new Moment($time))->date();
        $into = $time - self::first((int) $date->format('Y'), (int) $date->format('n'));
        $all = 12 * (int) $date->format('Y') + (int) $date->format('n') - 1 + $count * $months;

        return self::first(intdiv($all, 12), ($all % 12) + 1) + min($into, 27 * self::DAY + fmod($into, self::DAY));
    }

    /**
     * How long the period is that begins at a time, in a unit of time. Months, quarters and years go by the calendar, as in a study.
     *
     * @throws TableRefused where the unit is none
     */
    public function length(float $time, string $unit, string $own): float
    {
        $isOwn = mb_strtolower(trim($unit)) === mb_strtolower(trim($own)) || trim($unit) === '';
        if (! $this->isDate && $isOwn) {
            return (float) $this->each;
        }
        $calendar = self::calendar($unit);
        if ($this->isDate) {
            return $calendar->timeAt($this->end($time)) - $calendar->timeAt($time);
        }

        // Numbers of a unit of the calendar: a year is twelve months, a week seven days.
        return (float) $this->each * ($calendar->timeAt(self::calendar($own)->secondsAt(400.0)) / 400.0);
    }

    private static function calendar(string $unit): Calendar
    {
        return Calendar::of(new TimeSettings(0.0, 1.0, 1.0, unit: $unit, startDate: '2000-01-01')) ??
            throw TableRefused::because("`$unit` is no unit of time: year, quarter, month, week, day, hour.");
    }
}
