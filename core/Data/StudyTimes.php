<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

use MerryOrbit\Core\Model\Calendar;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\Shown;

/** Times of a table as times of a study. */
final class StudyTimes
{
    /**
     * Dates go by the study's calendar. Numbers are times of the study as they are, unless all of them lie outside of it and it has a
     * calendar: then they are years.
     *
     * @return list<float> one for each time of the table
     *
     * @throws TableRefused where the table has dates and the study none
     */
    public static function of(DataTable $table, TimeSettings $time): array
    {
        $calendar = Calendar::of($time);
        if ($table->timeKind === 'date') {
            if ($calendar !== null) {
                return array_map($calendar->timeAt(...), $table->times);
            }
            if (self::isOfYears($time)) {
                return array_map(self::year(...), $table->times);
            }
            throw TableRefused::because(
                'The table has dates, but the study does not say on which date it starts. Give its start a date, or the table times in '.
                    ($time->unit === '' ? 'its own unit' : "{$time->unit}s").
                    '.',
            );
        }
        $isInside = static fn (float $t): bool => $t >= $time->start - 1e-9 && $t <= $time->end + 1e-9;
        $areYears = array_filter($table->times, static fn (float $t): bool => $t >= 1000.0 && $t <= 3000.0) === $table->times;
        if ($calendar === null || ! $areYears || array_filter($table->times, $isInside) !== []) {
            return $table->times;
        }

        $begin = static fn (float $year): float => $calendar->timeAt(Moment::of((int) $year)->seconds ?? 0.0);

        return array_map(
            static fn (float $t): float => $begin(floor($t)) + ($t - floor($t)) * ($begin(floor($t) + 1.0) - $begin(floor($t))),
            $table->times,
        );
    }

    /**
     * When the periods end that its times begin.
     *
     * @return list<float> one for each time of the table, as times of the study
     *
     * @throws TableRefused where the table has dates and the study none
     */
    public static function ends(DataTable $table, TimeSettings $time): array
    {
        $periods = Periods::of($table);
        $ends = array_map($periods->end(...), $table->times);

        // Read together, so that both are understood alike.
        return array_slice(self::of($table->with([], [...$table->times, ...$ends]), $time), count($ends));
    }

    /** Its times are the years of the calendar themselves. */
    private static function isOfYears(TimeSettings $time): bool
    {
        return preg_match('/^(?:years?|yrs?)$/i', trim($time->unit)) === 1 && $time->start >= 1000.0 && $time->end <= 3000.0;
    }

    /** A moment as a year with what has gone of it. */
    private static function year(float $seconds): float
    {
        $year = (int) (new Moment($seconds))->date()->format('Y');
        [$begin, $end] = [Moment::of($year)->seconds ?? 0.0, Moment::of($year + 1)->seconds ?? 1.0];

        return $year + ($seconds - $begin) / ($end - $begin);
    }

    /**
     * That none of these times lies within the run; null where one does.
     *
     * @param  list<float>  $times
     */
    public static function outside(array $times, TimeSettings $time): ?string
    {
        foreach ($times as $one) {
            if ($one >= $time->start - 1e-9 && $one <= $time->end + 1e-9) {
                return null;
            }
        }

        return 'No time of the table lies within the run, which goes from '.
            Shown::number($time->start).
            ' to '.
            Shown::number($time->end).
            ($time->unit === '' ? '.' : " $time->unit.");
    }

    /** Where the table goes by the calendar and the study does not say when it starts: the first date of the table, as YYYY-MM-DD. */
    public static function startDate(DataTable $table, TimeSettings $time): ?string
    {
        $first = $table->times[0] ?? 0.0;
        if ($time->startDate !== null) {
            return null;
        }
        if ($table->timeKind === 'date') {
            return self::isOfYears($time) ? null : (new Moment($first))->text();
        }
        $areYears = $first >= 1000.0 && $first <= 3000.0 && $first === floor($first);

        return $areYears && self::outside($table->times, $time) !== null ? Moment::of((int) $first)?->text() : null;
    }
}
