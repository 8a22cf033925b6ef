<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Model\Calendar;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class CalendarTest extends TestCase
{
    private static function of(string $unit, string $start, float $end = 100.0): Calendar
    {
        return Calendar::of(new TimeSettings(0, $end, 1, $unit, startDate: $start)) ??
            throw new \LogicException('A calendar was expected.');
    }

    /** @return iterable<string, array{string, string, float, string}> unit, start, time, date */
    public static function dates(): iterable
    {
        yield 'days over a leap day' => ['day', '2028-02-27', 3.0, '2028-03-01'];
        yield 'weeks' => ['weeks', '2031-04-01', 2.0, '2031-04-15'];
        yield 'months' => ['month', '2031-04-01', 9.0, '2032-01-01'];
        yield 'half a month' => ['Months', '2031-04-01', 0.5, '2031-04-16'];
        yield 'a month that is too short' => ['month', '2031-01-31', 1.0, '2031-02-28'];
        yield 'and the next one is not' => ['month', '2031-01-31', 2.0, '2031-03-31'];
        yield 'quarters' => ['quarter', '2031-04-01', 3.0, '2032-01-01'];
        yield 'years' => ['yr', '2031-04-01', 10.0, '2041-04-01'];
        yield 'half a year' => ['year', '2031-01-01', 0.5, '2031-07-01'];
        yield 'before the start' => ['year', '2031-04-01', -1.0, '2030-04-01'];
        yield 'hours' => ['hour', '2031-04-01', 36.0, '2031-04-02'];
    }

    #[DataProvider('dates')]
    public function test_times_are_dates(string $unit, string $start, float $time, string $date): void
    {
        $calendar = self::of($unit, $start);
        self::assertSame($date, $calendar->dateAt($time)->format('Y-m-d'));
        self::assertEqualsWithDelta($time, $calendar->timeAt($calendar->secondsAt($time)), 1e-9, 'and back');
    }

    public function test_there_is_no_calendar_without_a_date_or_for_units_that_have_none(): void
    {
        self::assertNull(Calendar::of(new TimeSettings(unit: 'year')));
        self::assertNull(Calendar::of(new TimeSettings(unit: 'generation', startDate: '2031-04-01')));
    }

    /**
     * @param  array{marks: list<array{time: float, date: string}>, ...}  $marks
     * @return list<string>
     */
    private static function daysOf(array $marks): array
    {
        return array_map(static fn (array $m): string => substr($m['date'], 0, 10), $marks['marks']);
    }

    public function test_marks_stand_at_calendar_places(): void
    {
        $years = self::of('year', '2031-04-01', 12.0)->marks(0, 12, 6);
        self::assertSame(
            ['year', 2, ['2032-01-01', '2034-01-01', '2036-01-01', '2038-01-01', '2040-01-01', '2042-01-01']],
            [$years['every'], $years['count'], self::daysOf($years)],
        );
        self::assertEqualsWithDelta(0.75, $years['marks'][0]['time'], 1e-9, 'nine months after the first of April');
        $months = self::of('week', '2031-04-03', 26.0)->marks(0, 26, 8);
        self::assertSame(['month', 1, '2031-05-01'], [$months['every'], $months['count'], self::daysOf($months)[0]]);
        $mondays = self::of('day', '2031-04-03', 30.0)->marks(0, 30, 6);
        self::assertSame('week', $mondays['every']);
        foreach ($mondays['marks'] as $mark) {
            self::assertSame('Mon', (new \DateTimeImmutable($mark['date']))->format('D'));
        }
        self::assertLessThanOrEqual(8, count(self::of('day', '2031-04-03', 3e5)->marks(0, 3e5, 6)['marks']));
    }

    public function test_what_lies_between_anchors_goes_evenly(): void
    {
        foreach ([['month', 40.0], ['year', 30.0], ['day', 500.0]] as [$unit, $end]) {
            $calendar = self::of($unit, '2031-01-31', $end);
            $anchors = $calendar->anchors();
            for ($i = 1; $i < count($anchors); $i++) {
                [[$a, $from], [$b, $to]] = [$anchors[$i - 1], $anchors[$i]];
                self::assertEqualsWithDelta(($from + $to) / 2, $calendar->secondsAt(($a + $b) / 2), 1.0, "$unit between $a and $b");
            }
            self::assertSame([0.0, $end], [$anchors[0][0], $anchors[count($anchors) - 1][0]]);
        }
    }
}
