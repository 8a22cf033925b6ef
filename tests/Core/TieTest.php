<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Data\CsvReader;
use MerryOrbit\Core\Data\DataSeries;
use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\Matching;
use MerryOrbit\Core\Data\Reading;
use MerryOrbit\Core\Data\StudyTimes;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Data\Tie;
use MerryOrbit\Core\Edit\SetUnit;
use MerryOrbit\Core\Exchange\ModelFile;
use MerryOrbit\Core\Model\Measured;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** From a series of a table to points of a variable: by name, at times of the study, in its unit. */
final class TieTest extends TestCase
{
    private static function table(string $text): DataTable
    {
        return Reading::of(CsvReader::grid($text, 't'));
    }

    private static function reef(): Analysis
    {
        $model = Build::model(['harvested per year' => '2'], ['Kelp berries' => '1', 'mass of fish' => '1'], [], ['urchins' => '3']);

        return Analyser::analyse((new SetUnit('mass-of-fish', 't'))->apply($model));
    }

    /** @return iterable<string, array{string, ?string}> */
    public static function names(): iterable
    {
        yield 'as it is' => ['urchins', 'urchins'];
        yield 'another case' => ['URCHINS', 'urchins'];
        yield 'one of them' => ['Urchin', 'urchins'];
        yield 'more of them' => ['kelp berry', 'kelp-berries'];
        yield 'with underscores' => ['kelp_berries', 'kelp-berries'];
        yield 'in another order' => ['fish mass', 'mass-of-fish'];
        yield 'with a unit behind it' => ['fish mass (t)', 'mass-of-fish'];
        yield 'without small words' => ['year harvested', 'harvested-per-year'];
        yield 'a part of it' => ['fish', null];
        yield 'something else' => ['otters', null];
        yield 'of elements, where there are none' => ['urchins[North]', null];
    }

    #[DataProvider('names')]
    public function test_a_series_finds_its_variable_by_likeness(string $name, ?string $id): void
    {
        self::assertSame($id, (new Matching(self::reef()))->find(new DataSeries($name, '', [], [1.0], 2)));
    }

    public function test_elements_are_found_in_any_order_and_only_where_all_are_there(): void
    {
        $model = ModelFile::import((string) file_get_contents(__DIR__.'/../../demo/oyster-terraces.json'))->model;
        $analysis = Analyser::analyse($model);
        $matching = new Matching($analysis);
        $keys = $analysis->positions->first('oysters', 3);
        foreach ($keys as $key) {
            $names = explode(', ', trim($analysis->positions->shown($key), '[]'));
            self::assertSame($key, $matching->find(new DataSeries('Oysters', '', ['a' => $names[1], 'b' => $names[0]], [1.0], 2)));
            self::assertSame($key, $matching->named("oysters[$names[0], $names[1]]"));
            self::assertNull($matching->find(new DataSeries('oysters', '', ['a' => $names[0]], [1.0], 2)));
            self::assertSame(
                $analysis->positions->elements($key),
                Tie::to($analysis, $key, new DataSeries('x', '', [], [1.0], 2), [0.0])->at,
            );
        }
    }

    /** @return iterable<string, array{string, TimeSettings, list<float>}> */
    public static function times(): iterable
    {
        $year = new TimeSettings(0, 60, 1, 'year');
        yield 'times of the study' => ["t,x\n0,1\n2.5,2\n", $year, [0.0, 2.5]];
        yield 'years are no times of a study without a date' => ["t,x\n2001,1\n2002,2\n", $year, [2001.0, 2002.0]];
        yield 'years of the calendar' => ["year,x\n2001,1\n2003,2\n", $year->with(['startDate' => '2001-01-01']), [0.0, 2.0]];
        yield 'half a year' => ["year,x\n2001,1\n2001.5,2\n", $year->with(['startDate' => '2001-01-01']), [0.0, 0.5]];
        yield 'months' => ["m,x\n2001-03,1\n2001-05,2\n", new TimeSettings(0, 60, 1, 'month', startDate: '2001-01-01'), [2.0, 4.0]];
        yield 'weeks' => ["d,x\n2001-01-01,1\n2001-01-22,2\n", new TimeSettings(5, 60, 1, 'week', startDate: '2001-01-01'), [5.0, 8.0]];
        yield 'hours' => [
            "d,x\n2001-01-01 06:00,1\n2001-01-02 00:00,2\n",
            new TimeSettings(0, 60, 1, 'hour', startDate: '2001-01-01'),
            [6.0, 24.0],
        ];
        yield 'a study of years by their number' => [
            "d,x\n2001-01-01,1\n2002-01-01,2\n",
            new TimeSettings(1990, 2060, 1, 'year'),
            [2001.0, 2002.0],
        ];
    }

    /** @param  list<float>  $wanted */
    #[DataProvider('times')]
    public function test_times_of_a_table_become_times_of_the_study(string $text, TimeSettings $time, array $wanted): void
    {
        foreach (StudyTimes::of(self::table($text), $time) as $i => $at) {
            self::assertEqualsWithDelta($wanted[$i], $at, 1e-9);
        }
    }

    public function test_a_study_that_does_not_say_when_it_starts_is_offered_the_first_date(): void
    {
        $year = new TimeSettings(0, 60, 1, 'year');
        self::assertSame('2001-03-04', StudyTimes::startDate(self::table("d,x\n2001-03-04,1\n2002-01-01,2\n"), $year));
        self::assertSame('2001-01-01', StudyTimes::startDate(self::table("year,x\n2001,1\n2002,2\n"), $year));
        self::assertNull(StudyTimes::startDate(self::table("t,x\n0,1\n70,2\n"), $year));
        self::assertNull(StudyTimes::startDate(self::table("year,x\n2001,1\n2002,2\n"), $year->with(['startDate' => '1999-01-01'])));
        self::assertStringContainsString('from 0 to 60 year', (string) StudyTimes::outside([61.0, 90.0], $year));
        self::assertNull(StudyTimes::outside([-3.0, 60.0], $year));
        $this->expectException(TableRefused::class);
        StudyTimes::of(self::table("d,x\n2001-03-04,1\n2002-01-01,2\n"), new TimeSettings(0, 60, 1, 'week'));
    }

    public function test_what_became_of_a_unit_is_said_and_numbers_that_do_not_fit_stay(): void
    {
        $tie = static fn (string $unit): Tie => Tie::to(
            self::reef(),
            'mass-of-fish',
            new DataSeries('fish', $unit, [], [1500.0, null], 2),
            [0.0, 1.0],
        );
        self::assertSame([[[0.0, 1.5]], '÷ 1000, in t'], [$tie('kg')->points, $tie('kg')->said]);
        self::assertSame([[[0.0, 1500.0]], 'same unit'], [$tie('t')->points, $tie('t')->said]);
        self::assertSame([[[0.0, 1_500_000.0]], '× 1000, in t'], [$tie('kt')->points, $tie('kt')->said]);
        self::assertNull($tie('metre')->factor);
        self::assertSame([[0.0, 1500.0]], $tie('metre')->points);
        self::assertStringContainsString('does not lead to `t`', $tie('metre')->said);
        self::assertSame('`none` holds no value.', Tie::alone(new DataSeries('none', '', [], [null], 2), [0.0])->refusal());
        $this->expectException(TableRefused::class);
        Tie::to(self::reef(), 'otters', new DataSeries('fish', '', [], [1.0], 2), [0.0]);
    }

    public function test_a_column_says_how_exact_another_is_in_its_unit_and_only_where_something_was_measured(): void
    {
        $table = self::table("year;mass of fish [kg];sd\n0;1000;50\n1;;70\n2;3000;\n3;2000;-20\n");
        $tie = Tie::to(self::reef(), 'mass-of-fish', $table->series[0], $table->times, [], $table->series[1]);
        self::assertSame([0.05, 0.0, 0.02], $tie->errors);
        $kept = new Measured('e', 'mass-of-fish', $tie->points, error: 10.0, errorIn: '%', errors: $tie->errors);
        self::assertEqualsWithDelta([0.05, 0.3, 0.02], array_map($kept->errorOf(...), [0, 1, 2]), 1e-12);
        self::assertNull((new Measured('e', 'mass-of-fish', [[0.0, 1.0]]))->errorOf(0));
        self::assertEquals($kept, Measured::read($kept->toRecord()));
    }

    public function test_amounts_are_offered_as_rates_where_the_variable_is_one_and_the_other_way(): void
    {
        $model = Build::model([], ['pot' => '1'], ['catch' => ['2', 'to' => 'pot']], [], new TimeSettings(0, 10, 1, 'year'));
        $model = (new SetUnit('catch', 't/year'))->apply((new SetUnit('pot', 't'))->apply($model));
        $step = static function (string $key, string $unit) use ($model): ?array {
            $series = new DataSeries('caught', $unit, [], [1.0], 2);

            return Tie::to(Analyser::analyse($model), $key, $series, [0.0])->proposal?->toRecord();
        };
        self::assertSame(['do' => 'rate', 'series' => ['caught'], 'to' => 'year'], $step('catch', 'kg'));
        self::assertSame(['do' => 'amount', 'series' => ['caught'], 'to' => 'month'], $step('pot', 't/month'));
        self::assertNull($step('catch', 'kg/month'), 'it fits already');
        self::assertNull($step('catch', 'crown'), 'nothing makes it fit');
    }

    public function test_what_is_new_changed_and_gone_since_it_was_kept(): void
    {
        $tie = Tie::alone(new DataSeries('x', '', [], [1.0, 2.5, 0.1 + 0.2, 9.0], 2), [0.0, 1.0, 2.0, 4.0]);
        self::assertSame(
            ['fresh' => 1, 'changed' => [[1.0, 2.0, 2.5]], 'gone' => [[3.0, 7.0]]],
            $tie->since(new Measured('e', 'x', [[0.0, 1.0], [1.0, 2.0], [2.0, 0.3], [3.0, 7.0]])),
        );
    }
}
