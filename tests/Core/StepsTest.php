<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Data\CsvReader;
use MerryOrbit\Core\Data\DataSeries;
use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\Reading;
use MerryOrbit\Core\Data\Steps\Cells;
use MerryOrbit\Core\Data\Steps\Others;
use MerryOrbit\Core\Data\Steps\Steps;
use MerryOrbit\Core\Data\Steps\WordRows;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Model\CleaningStep;
use MerryOrbit\Core\Problem\NotUnderstood;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** From the table of a file to the series that are kept, against what a person adds up by hand and against what must stay the same. */
final class StepsTest extends TestCase
{
    private const COVES = "cove,bay,share\nGull,North,1\nSeal,North,0.25\nSeal,South,75%\nOtter,South,1\n";

    private static function table(string $csv): DataTable
    {
        return Reading::of(CsvReader::grid($csv, 'test'), isTraced: true);
    }

    /** @param  array<string, string>  $files  texts of other sources, by id */
    private static function others(array $files): Others
    {
        return new class($files) implements Others
        {
            /** @param  array<string, string>  $files */
            public function __construct(private readonly array $files)
            {
            }

            public function table(string $source): DataTable
            {
                return Reading::of(CsvReader::grid($this->files[$source] ?? '', $source), isTraced: true);
            }

            public function words(string $source): WordRows
            {
                return WordRows::of(CsvReader::grid($this->files[$source] ?? '', $source));
            }

            public function name(string $source): string
            {
                return "$source.csv";
            }
        };
    }

    /**
     * @param  list<array<string, mixed>>  $steps
     * @param  array<string, string>  $files
     */
    private static function after(string $csv, array $steps, array $files = []): DataTable
    {
        return Steps::of(self::table($csv), CleaningStep::list($steps), self::others($files));
    }

    /** @return array<string, list<float|null>> by label */
    private static function values(DataTable $table): array
    {
        return array_combine(
            array_map(static fn (DataSeries $s): string => $s->label(), $table->series),
            array_map(static fn (DataSeries $s): array => $s->values, $table->series),
        );
    }

    private static function monthly(int $from = 1, int $until = 24): string
    {
        $csv = "month,catch [t]\n";
        for ($i = $from; $i <= $until; $i++) {
            $csv .= sprintf("%d-%02d,%d\n", 2001 + intdiv($i - 1, 12), (($i - 1) % 12) + 1, $i);
        }

        return $csv;
    }

    public function test_months_become_years_by_each_way(): void
    {
        $wanted = [
            'sum' => [78.0, 222.0],
            'mean' => [6.5, 18.5],
            'least' => [1.0, 13.0],
            'greatest' => [12.0, 24.0],
            'last' => [12.0, 24.0],
        ];
        foreach ($wanted as $take => $want) {
            $table = self::after(self::monthly(), [['do' => 'over time', 'to' => 'year', 'take' => $take]]);
            self::assertSame(['2001-01-01', '2002-01-01'], $table->timeWords);
            self::assertEqualsWithDelta($want, $table->series[0]->values, 1e-9, $take);
        }
        self::assertSame(['B2:B13', 'B14:B25'], $table->series[0]->cells, 'where the numbers come from');
    }

    public function test_a_year_that_is_not_whole_has_no_sum_but_a_mean(): void
    {
        $steps = [['do' => 'over time', 'to' => 'year', 'take' => 'sum']];
        $states = Steps::states(self::table(self::monthly(1, 20)), CleaningStep::list($steps), self::others([]));
        self::assertEqualsWithDelta([78.0, null], $states[0]->table->series[0]->values, 1e-9);
        self::assertStringContainsString('1 sum is of a period that is not whole', $states[0]->said);
        $mean = self::after(self::monthly(1, 20), [['do' => 'over time', 'to' => 'year', 'take' => 'mean']]);
        self::assertEqualsWithDelta([6.5, 16.5], $mean->series[0]->values, 1e-9);
    }

    public function test_weeks_that_cross_months_lose_nothing(): void
    {
        $csv = "date,rain [mm]\n";
        $date = new \DateTimeImmutable('2024-01-01', new \DateTimeZone('UTC'));
        $byDay = [];
        for ($i = 0; $i < 53; $i++) {
            $amount = 7.0 * (1 + ($i % 5));
            $csv .= $date->modify("+$i weeks")->format('Y-m-d').",$amount\n";
            for ($d = 0; $d < 7; $d++) {
                $month = $date->modify('+'.(7 * $i + $d).' days')->format('Y-m-01');
                $byDay[$month] = ($byDay[$month] ?? 0.0) + $amount / 7.0;
            }
        }
        $table = self::after($csv, [['do' => 'over time', 'to' => 'month', 'take' => 'sum']]);
        // A second way: each day takes its part of the week. The 13th month has five days only, and no sum.
        self::assertSame(array_keys($byDay), $table->timeWords);
        self::assertNull($table->series[0]->values[12]);
        foreach (array_slice($table->series[0]->values, 0, 12) as $i => $value) {
            self::assertEqualsWithDelta(array_values($byDay)[$i], $value, 1e-9);
        }
    }

    public function test_a_sum_that_is_spread_over_shorter_periods_adds_up_again(): void
    {
        $csv = "year,catch\n2001-01-01,365\n2002-01-01,730\n2004-01-01,366\n";
        $months = self::after($csv, [['do' => 'over time', 'to' => 'month', 'take' => 'sum']]);
        self::assertEqualsWithDelta(31.0, $months->series[0]->values[0], 1e-9);
        self::assertEqualsWithDelta(56.0, $months->series[0]->values[13], 1e-9);
        $again = self::after($csv, [
            ['do' => 'over time', 'to' => 'month', 'take' => 'sum'],
            ['do' => 'over time', 'to' => 'year', 'take' => 'sum'],
        ]);
        self::assertSame(['2001-01-01', '2002-01-01', '2004-01-01'], $again->timeWords);
        self::assertEqualsWithDelta([365.0, 730.0, 366.0], $again->series[0]->values, 1e-9);
    }

    public function test_numbers_of_time_go_together_by_so_many(): void
    {
        $table = self::after("week,x\n0,1\n1,2\n2,3\n3,4\n4,5\n5,6\n6,7\n", [['do' => 'over time', 'to' => '2', 'take' => 'sum']]);
        self::assertSame([0.0, 2.0, 4.0, 6.0], $table->times);
        self::assertEqualsWithDelta([3.0, 7.0, 11.0, null], $table->series[0]->values, 1e-9);
    }

    public function test_coves_become_bays(): void
    {
        $csv = "year,cove,count\n2001,Gull,8\n2001,Seal,4\n2001,Otter,10\n2002,Gull,6\n2002,Seal,\n2002,Otter,2\n";
        $step = static fn (string $take, string $share = 'share'): array => [
            'do' => 'over mapping',
            'along' => 'cove',
            'source' => 'm',
            'to' => 'bay',
            'take' => $take,
            'share' => $share,
        ];
        $sum = self::values(self::after($csv, [$step('sum')], ['m' => self::COVES]));
        self::assertEqualsWithDelta(['count[North]' => [9.0, null], 'count[South]' => [13.0, null]], $sum, 1e-12);
        self::assertEqualsWithDelta(8.0 + 4.0 + 10.0, $sum['count[North]'][0] + $sum['count[South]'][0], 1e-12, 'the whole stays');
        $mean = self::values(self::after($csv, [$step('mean')], ['m' => self::COVES]));
        self::assertEqualsWithDelta(['count[North]' => [6.0, 6.0], 'count[South]' => [7.0, 2.0]], $mean, 1e-12);
        $weighted = self::values(self::after($csv, [$step('weighted')], ['m' => self::COVES]));
        self::assertEqualsWithDelta((8.0 + 0.25 * 4.0) / 1.25, $weighted['count[North]'][0], 1e-12);
    }

    public function test_what_is_strange_to_a_mapping_is_said(): void
    {
        $csv = "year,cove,count\n2001,Gull,8\n2001,Whale,4\n2002,Gull,6\n2002,Whale,3\n";
        $mapping = "cove,bay,share\nGull,North,0.5\n";
        $steps = CleaningStep::list([
            ['do' => 'over mapping', 'along' => 'cove', 'source' => 'm', 'to' => 'bay', 'take' => 'sum', 'share' => 'share'],
        ]);
        $state = Steps::states(self::table($csv), $steps, self::others(['m' => $mapping]))[0];
        self::assertStringContainsString('left out: Whale', $state->said);
        self::assertStringContainsString('shares of gull do not add up to one', mb_strtolower($state->said));
    }

    public function test_gaps_are_filled_from_another_series_by_their_overlap(): void
    {
        $csv = "year,seen,counted\n2001,10,5\n2002,20,10\n2003,,20\n2004,,\n2005,30,15\n";
        $table = self::after($csv, [['do' => 'fill', 'series' => ['seen'], 'from' => 'counted', 'take' => 'overlap']]);
        self::assertEqualsWithDelta([10.0, 20.0, 40.0, null, 30.0], $table->series[0]->values, 1e-12);
        self::assertSame('C4', $table->series[0]->cells[2]);
        $other = self::after(
            "year,seen\n2001,10\n2003,30\n",
            [['do' => 'fill', 'series' => ['seen'], 'source' => 'o', 'from' => 'dives', 'take' => 'plain']],
            ['o' => "year,dives\n2002,7\n2003,8\n2004,9\n"],
        );
        self::assertSame([2001.0, 2002.0, 2003.0, 2004.0], $other->times);
        self::assertSame([10.0, 7.0, 30.0, 9.0], $other->series[0]->values);
        self::assertSame('o.csv B2', $other->series[0]->cells[1]);
    }

    public function test_gaps_between_values_become_straight_or_hold(): void
    {
        $csv = "year,x\n2001,\n2002,2\n2003,\n2006,8\n2007,\n";
        $straight = self::after($csv, [['do' => 'gaps', 'take' => 'straight']]);
        self::assertEqualsWithDelta([null, 2.0, 3.5, 8.0, null], $straight->series[0]->values, 1e-12);
        $last = self::after($csv, [['do' => 'gaps', 'take' => 'last']]);
        self::assertSame([null, 2.0, 2.0, 8.0, 8.0], $last->series[0]->values);
    }

    public function test_monthly_catches_become_rates_and_amounts_again(): void
    {
        $rates = self::after("month,catch [t]\n2001-01,31\n2001-02,56\n2001-03,\n", [['do' => 'rate', 'to' => 'day']]);
        self::assertEqualsWithDelta([1.0, 2.0, null], $rates->series[0]->values, 1e-9);
        self::assertSame(['t/day', 'mean'], [$rates->series[0]->unit, $rates->series[0]->over]);
        // A month is a twelfth of a year in a study with a calendar: the year's rate is what twelve such months would bring.
        $yearly = self::after("month,catch [t]\n2001-01,31\n2001-02,56\n2001-03,1\n", [['do' => 'rate', 'to' => 'year']]);
        self::assertEqualsWithDelta([372.0, 672.0, 12.0], $yearly->series[0]->values, 1e-9);
        $back = self::after("month,catch [t]\n2001-01,31\n2001-02,56\n2001-03,1\n", [
            ['do' => 'rate', 'to' => 'week'],
            ['do' => 'amount', 'to' => 'week'],
        ]);
        self::assertEqualsWithDelta([31.0, 56.0, 1.0], $back->series[0]->values, 1e-9);
        self::assertSame('t', $back->series[0]->unit);
    }

    public function test_rates_of_numbered_years_go_by_their_own_unit(): void
    {
        $own = self::after("year,catch [t]\n2001,12\n2003,24\n2005,36\n", [['do' => 'rate', 'to' => 'year']]);
        self::assertEqualsWithDelta([6.0, 12.0, 18.0], $own->series[0]->values, 1e-12);
        $months = self::after("year,catch [t]\n2001,12\n2002,24\n2003,36\n", [['do' => 'rate', 'to' => 'month']]);
        self::assertEqualsWithDelta([1.0, 2.0, 3.0], $months->series[0]->values, 1e-12);
    }

    public function test_columns_are_gathered_and_spread(): void
    {
        $csv = "month,Old pier,Outer reef\n2001-01,1,2\n2001-02,3,4\n";
        $gather = ['do' => 'gather', 'to' => 'catch', 'along' => 'harbour'];
        $long = self::after($csv, [$gather]);
        self::assertSame(['catch[Old pier]', 'catch[Outer reef]'], array_keys(self::values($long)));
        self::assertSame(['harbour' => 'Outer reef'], $long->series[1]->elements);
        $wide = self::after($csv, [$gather, ['do' => 'spread']]);
        self::assertSame(['catch Old pier', 'catch Outer reef'], array_keys(self::values($wide)));
    }

    public function test_series_are_renamed_scaled_left_out_set_aside_and_indexed(): void
    {
        $csv = "year,a [kg],b\n2001,1000,5\n2002,3000,6\n2003,4000,7\n";
        $table = self::after($csv, [
            ['do' => 'rename', 'series' => ['A'], 'to' => 'kelp'],
            ['do' => 'scale', 'series' => ['kelp'], 'factor' => 0.001, 'plus' => 1.0, 'to' => 't'],
            ['do' => 'leave out', 'series' => ['b']],
            ['do' => 'set aside', 'series' => ['kelp'], 'at' => '2002', 'note' => 'other divers'],
            ['do' => 'index', 'at' => '2001'],
        ]);
        self::assertEqualsWithDelta(['kelp' => [100.0, null, 250.0]], self::values($table), 1e-12);
    }

    public function test_a_slip_is_told_with_what_it_means_and_mended(): void
    {
        foreach (
            [
                "year;kelp;urchins\n2001;5;7\n2003;12O;8\n2005;6;9\n2007;7;9\n",
                "year;2001;2003;2005;2007\nkelp;5;12O;6;7\nurchins;7;8;9;9\n",
            ] as $csv
        ) {
            $table = self::table($csv);
            $slip = $table->slips[0];
            self::assertSame(['kelp', '2003', 120.0], [$slip['series'], $slip['at'], $slip['value']]);
            $mended = self::after($csv, [['do' => 'mend', 'series' => ['kelp'], 'at' => '2003', 'value' => 120]]);
            self::assertSame([5.0, 120.0, 6.0, 7.0], $mended->series[0]->values);
        }
        self::assertSame(
            [[3, 2]],
            array_map(
                static fn (array $s): array => [$s['row'], $s['column']],
                self::table("year;kelp\n2001;5\n2003;12O\n2005;6\n2007;7\n")->slips,
            ),
        );
    }

    public function test_cells_are_told_as_runs(): void
    {
        self::assertSame('B4:B6, D6', Cells::together(['B4', 'B5', 'B6', 'D6']));
        self::assertSame('Y2:AB2', Cells::together(['Y2', 'Z2', 'AA2', 'AB2']));
        self::assertSame('a.csv B2:B3, C3', Cells::together(['a.csv B2', 'a.csv B3', '', 'C3']));
        self::assertSame('A1, C1, E1, G1, I1, K1 and 2 more', Cells::together(['A1', 'C1', 'E1', 'G1', 'I1', 'K1', 'M1', 'O1']));
    }

    public function test_series_of_another_source_join_at_their_times(): void
    {
        $table = self::after(
            "year,kelp\n2001,1\n2003,3\n",
            [['do' => 'join', 'source' => 'o']],
            ['o' => "year,kelp,otters\n2002,7,8\n2003,9,10\n"],
        );
        self::assertSame([2001.0, 2002.0, 2003.0], $table->times);
        self::assertSame(
            ['kelp' => [1.0, null, 3.0], 'kelp, o.csv' => [null, 7.0, 9.0], 'otters' => [null, 8.0, 10.0]],
            self::values($table),
        );
    }

    public function test_numbered_years_join_dates(): void
    {
        $table = self::after(
            "date,kelp\n2001-01-01,1\n2002-01-01,3\n",
            [['do' => 'join', 'source' => 'o']],
            ['o' => "year,otters\n2002,8\n2003,9\n"],
        );
        self::assertSame(['2001-01-01', '2002-01-01', '2003-01-01'], $table->timeWords);
        self::assertSame([null, 8.0, 9.0], self::values($table)['otters']);
    }

    public function test_a_step_that_is_off_gives_the_table_before_to_the_byte(): void
    {
        $csv = self::monthly();
        $plain = serialize(self::table($csv));
        $steps = [
            ['do' => 'over time', 'to' => 'year', 'take' => 'sum', 'off' => true],
            ['do' => 'gaps', 'take' => 'last', 'off' => true],
        ];
        self::assertSame($plain, serialize(self::after($csv, $steps)));
        self::assertSame($plain, serialize(self::table($csv)), 'a source read twice is the same');
    }

    public function test_what_a_step_cannot_do_is_said_and_the_others_still_run(): void
    {
        $steps = CleaningStep::list([['do' => 'rename', 'series' => ['ketch'], 'to' => 'x'], ['do' => 'scale', 'factor' => 2]]);
        $states = Steps::states(self::table(self::monthly()), $steps, self::others([]));
        self::assertStringContainsString('There is no series `ketch`', (string) $states[0]->refusal);
        self::assertStringContainsString('`catch`', (string) $states[0]->refusal, 'what is meant is asked');
        self::assertSame(2.0, $states[1]->table->series[0]->values[0]);
        $this->expectException(TableRefused::class);
        $this->expectExceptionMessage('Step 1 (rename)');
        Steps::of(self::table(self::monthly()), $steps, self::others([]));
    }

    /** @return array<string, array{array<string, mixed>, string}> */
    public static function refused(): array
    {
        return [
            'no way' => [['do' => 'over time', 'to' => 'year'], 'Say what many values become'],
            'no period' => [['do' => 'over time', 'to' => 'fortnight', 'take' => 'sum'], 'no period of the calendar'],
            'no unit of time' => [['do' => 'rate', 'to' => 'stone'], 'no unit of time'],
            'no element' => [
                ['do' => 'over mapping', 'along' => 'cove', 'to' => 'bay', 'source' => 'm', 'take' => 'sum'],
                'not told apart by `cove`',
            ],
            'no base' => [['do' => 'index', 'at' => '1999-01-01'], 'no row of 1999-01-01'],
            'no overlap' => [
                ['do' => 'fill', 'series' => ['catch'], 'from' => 'far', 'source' => 'f', 'take' => 'overlap'],
                'never both measured',
            ],
        ];
    }

    /** @param  array<string, mixed>  $step */
    #[DataProvider('refused')]
    public function test_a_step_is_refused_with_a_sentence(array $step, string $words): void
    {
        $others = self::others(['m' => self::COVES, 'f' => "month,far\n2009-01,1\n2009-02,2\n"]);
        $state = Steps::states(self::table(self::monthly()), CleaningStep::list([$step]), $others)[0];
        self::assertStringContainsString($words, (string) $state->refusal);
    }

    public function test_steps_of_a_study_are_read_and_written_the_same(): void
    {
        $records = [
            [
                'do' => 'over mapping',
                'series' => ['catch'],
                'to' => 'bay',
                'along' => 'cove',
                'take' => 'sum',
                'source' => 'm',
                'share' => 'part',
            ],
            ['do' => 'scale', 'off' => true, 'to' => 't', 'factor' => 0.001, 'plus' => 2.0],
        ];
        $read = CleaningStep::list($records);
        self::assertSame($records, array_map(static fn (CleaningStep $s): array => $s->toRecord(), $read));
        $this->expectException(NotUnderstood::class);
        CleaningStep::list([['do' => 'dance']]);
    }
}
