<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Edit\SetUnit;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\TestCase;

final class DataCommandsTest extends TestCase
{
    use Commanded;

    /**
     * A level that rises by two a year from 10, and half of it.
     *
     * @param  array<string, mixed>  $time
     */
    private function tank(array $time = []): string
    {
        $model = Build::model(
            ['rate' => '2'],
            ['level' => '10'],
            ['filling' => ['rate', 'to' => 'level']],
            ['half level' => 'level / 2'],
            (new TimeSettings(0, 10, 0.5, 'year', Method::Euler))->with($time),
        );
        foreach (['level' => 't', 'half-level' => 't', 'filling' => 't/year', 'rate' => ''] as $id => $unit) {
            $model = (new SetUnit($id, $unit))->apply($model);
        }

        return $this->file(NativeFile::export($model), '.json');
    }

    /** @return array<string, array{column: string, variable: string, n: int, rmse: float|int|null, mean_error: ?float, r2: ?float}> by column */
    private function compared(string $model, string $data, string ...$more): array
    {
        [$code, $out, $err] = self::orbit(['compare', $model, "--data=$data", '--format=json', ...array_values($more)]);
        self::assertSame(0, $code, $err);
        /** @var array{series: list<array{column: string, variable: string, n: int, rmse: float|int|null, mean_error: ?float, r2: ?float}>} $read */
        $read = self::json($out);

        return array_column($read['series'], null, 'column');
    }

    public function test_tables_come_out_as_csv_that_is_read_as_the_same_and_holds_no_formulas(): void
    {
        $file = $this->file(
            "date;bay;kelp [t];=SUM(A1) \"x\"\n2001-01-01;North;1,5;0,1\n2001-01-01;-South;2;\n2001-02-01;North;;1e-7\n2001-02-01;-South;3;4\n",
        );
        /** @return list<mixed> the values of each series */
        $values = static function (string $path): array {
            /** @var array{series: list<array{values: mixed}>} $read */
            $read = self::json(self::orbit(['read', $path, '--format=json'])[1]);

            return array_column($read['series'], 'values');
        };
        [$code, $wide] = self::orbit(['read', $file, '--format=csv']);
        self::assertSame(0, $code);
        self::assertStringStartsWith('date,kelp[North] [t],', $wide);
        self::assertStringContainsString("\"'=SUM(A1) \"\"x\"\"[North]\"", $wide);
        self::assertSame($values($file), $values($this->file($wide, '.csv')));
        [, $long] = self::orbit(['read', $file, '--format=long']);
        $rows = array_map(str_getcsv(...), array_filter(explode("\r\n", $long)));
        self::assertSame(['date', 'series', 'bay', 'value', 'unit', 'from'], $rows[0]);
        self::assertContains(['2001-01-01', 'kelp', "'-South", '2', 't', 'C3'], $rows);
        self::assertCount(1 + 6, $rows, 'gaps have no row');
    }

    public function test_amounts_of_periods_are_held_against_means_of_the_run_however_little_it_saves(): void
    {
        // The inflow is 2 a year: a fifth of a year brings 0.4, and the level's mean over a year is its middle.
        $data = $this->file("year,filling [t],level\n0,2,11\n1,2,13\n2,3,15\n");
        $steps = $this->file((string) json_encode([['do' => 'rate', 'series' => ['filling'], 'to' => 'year']]), '.json');
        foreach ([[], ['saveEvery' => 5.0]] as $time) {
            $fits = $this->compared($this->tank(['method' => Method::RungeKutta4, ...$time]), $data, "--steps=$steps");
            self::assertSame(3, $fits['filling']['n']);
            self::assertEqualsWithDelta(-1 / 3, $fits['filling']['mean_error'], 1e-12);
            self::assertEqualsWithDelta(-1.0, $fits['level']['mean_error'], 1e-12, 'the level is of moments');
        }
    }

    public function test_steps_are_taken_before_the_table_is_told_or_compared(): void
    {
        $data = $this->file("year,cove,lefel\n1,Gull,6\n1,Seal,6\n3,Gull,9\n3,Seal,7\n");
        $coves = $this->file("cove,whole\nGull,all\nSeal,all\n");
        $steps = $this->file(
            (string) json_encode([
                'id' => 's1',
                'name' => 'counts.csv',
                'steps' => [
                    ['do' => 'over mapping', 'along' => 'cove', 'source' => 'coves', 'to' => 'whole', 'take' => 'sum'],
                    ['do' => 'spread'],
                    ['do' => 'rename', 'to' => 'level'],
                ],
            ]),
            '.json',
        );
        [$code, $out] = self::orbit(['read', $data, "--steps=$steps", '--with', "coves=$coves", '--format=json']);
        /** @var array{series: list<mixed>} $read */
        $read = self::json($out);
        self::assertSame(0, $code);
        self::assertSame([['name' => 'level', 'unit' => '', 'elements' => [], 'values' => [12, 16]]], $read['series']);
        $fit = $this->compared($this->tank(), $data, "--steps=$steps", "--with=coves=$coves")['level'];
        self::assertSame([2, 0], [$fit['n'], $fit['rmse']], 'the level is 12 at 1 and 16 at 3');

        [$code, , $err] = self::orbit(['read', $data, "--steps=$steps"]);
        self::assertSame(2, $code);
        self::assertStringContainsString('say which file that is, with --with coves=FILE', $err);
    }

    public function test_read_prints_what_a_table_holds(): void
    {
        $file = $this->file("year;kelp [t];bay\n2001;1,5;North\n2001;2;South\n2002;;North\n2002;3;South\n");
        [$code, $out] = self::orbit(['read', $file, '--format=json']);
        self::assertSame(0, $code);
        /** @var array{layout: string, time: mixed, series: list<mixed>, remarks: mixed} $read */
        $read = self::json($out);
        self::assertSame('long', $read['layout']);
        self::assertSame(['name' => 'year', 'kind' => 'number', 'values' => [2001, 2002]], $read['time']);
        self::assertSame(
            ['name' => 'kelp', 'unit' => 't', 'elements' => ['bay' => 'North'], 'values' => [1.5, null]],
            $read['series'][0],
        );
        self::assertSame([], $read['remarks']);
        [$code, $out] = self::orbit(['read', $file]);
        self::assertSame(0, $code);
        self::assertStringContainsString("kelp[South] [t]: 2 values\n", $out);
    }

    public function test_read_ends_with_two_only_where_there_is_no_table(): void
    {
        self::assertSame(0, self::orbit(['read', $this->file("year,kelp\n2001,lost\n2002,1\n2003,2\n")])[0]);
        foreach ([$this->file(''), $this->file("\x89PNG\0\0"), '/no/such/file.csv'] as $file) {
            [$code, $out, $err] = self::orbit(['read', $file]);
            self::assertSame([2, ''], [$code, $out]);
            self::assertNotSame('', $err);
        }
        [$code, , $err] = self::orbit(['read', $this->file("year,kelp\n2001,1\n"), '--layout=sideways']);
        self::assertSame(2, $code);
        self::assertStringContainsString('layout', $err);
    }

    public function test_a_run_is_compared_at_the_times_of_the_data(): void
    {
        // Between steps too, on straight lines; what lies outside of the run does not count.
        $data = $this->file("year,level,half level\n-1,0,0\n0.25,10.5,\n2,15,7\n4.75,20.5,\n99,0,0\n");
        $found = $this->compared($this->tank(), $data);
        self::assertSame(3, $found['level']['n']);
        // Simulated 10.5, 14, 19.5: errors 0, −1, −1.
        self::assertEqualsWithDelta(sqrt(2 / 3), $found['level']['rmse'], 1e-12);
        self::assertEqualsWithDelta(-2 / 3, $found['level']['mean_error'], 1e-12);
        self::assertSame([1, 0, null], [$found['half level']['n'], $found['half level']['rmse'], $found['half level']['r2']]);
    }

    public function test_values_lie_between_steps_whatever_the_model_saves(): void
    {
        // The level rises by a half of itself in a year: between saved moments it bends.
        $model = Build::model(
            [],
            ['level' => '1'],
            ['growing' => ['0.5 * level', 'to' => 'level']],
            [],
            new TimeSettings(0, 8, 0.5, 'year', Method::Euler, 4.0),
        );
        $found = $this->compared($this->file(NativeFile::export($model), '.json'), $this->file("year,level\n2,2.44140625\n"));
        // Four steps of Euler: 1.25 to the fourth.
        self::assertEqualsWithDelta(0.0, $found['level']['rmse'], 1e-12);
    }

    public function test_names_are_found_by_likeness_or_said_and_units_are_converted(): void
    {
        $data = $this->file("year,Levels [kg],x (hundred kg),rate [%]\n0,10000,50,200%\n10,30000,150,200%\n");
        $found = $this->compared($this->tank(), $data, '--match', 'x=half level');
        self::assertSame(['level', 'half level', 'rate'], array_column($found, 'variable'));
        foreach ($found as $one) {
            self::assertEqualsWithDelta(0.0, $one['rmse'], 1e-12);
        }
    }

    public function test_dates_and_calendar_years_go_by_the_start_of_the_study(): void
    {
        $dated = $this->tank(['startDate' => '2001-01-01']);
        foreach (
            ["date,level\n2001-01-01,10\n2006-01-01,20\n", "year,level\n2001,10\n2006,20\n", "when,level\n2001Q1,10\nQ1 2006,20\n"] as $text
        ) {
            $found = $this->compared($dated, $this->file($text));
            self::assertSame(2, $found['level']['n']);
            self::assertEqualsWithDelta(0.0, $found['level']['rmse'], 1e-9);
        }
        [$code, , $err] = self::orbit(['compare', $this->tank(), '--data='.$this->file("date,level\n2001-01-01,10\n")]);
        self::assertSame(2, $code);
        self::assertStringContainsString('which date it starts', $err);
    }

    public function test_elements_of_the_long_layout_find_those_of_a_variable(): void
    {
        $file = $this->file(file_get_contents(__DIR__.'/../../demo/oyster-terraces.json') ?: '', '.json');
        [$code, $out] = self::orbit(['run', $file, '--format=json', '--only=oysters']);
        self::assertSame(0, $code);
        /** @var array{time: list<float|int>, variables: array<string, list<float|int>>} $run */
        $run = self::json($out);
        $name = (string) array_key_first($run['variables']);
        self::assertSame(1, preg_match('/^oysters\[(.+), (.+)\]$/', $name, $m));
        [$start, $value] = [$run['time'][0], $run['variables'][$name][0]];
        $found = $this->compared(
            $file,
            $this->file("time,age,terrace,oysters\n$start,$m[2],$m[1],$value\n$start,$m[2],elsewhere,5\n$start,$m[2],beyond,5\n"),
        );
        self::assertCount(1, $found);
        self::assertSame([$name, 0], [array_values($found)[0]['variable'], array_values($found)[0]['rmse']]);
    }

    public function test_what_cannot_be_compared_is_said(): void
    {
        $tank = $this->tank();
        [$code, , $err] = self::orbit(['compare', $tank, '--data='.$this->file("year,wind\n0,1\n1,2\n")]);
        self::assertSame(3, $code);
        self::assertStringContainsString('`wind`', $err);
        [$code, , $err] = self::orbit(['compare', $tank]);
        self::assertSame(2, $code);
        self::assertStringContainsString('--data=FILE', $err);
        [$code, , $err] = self::orbit(['compare', $tank, '--data='.$this->file("year,wind\n0,1\n1,2\n"), '--match=wind=levl']);
        self::assertSame(2, $code);
        self::assertStringContainsString('`level`', $err);
    }

    public function test_two_hundred_thousand_rows_are_read_in_time_and_within_bounds(): void
    {
        $file = sys_get_temp_dir().'/orbit-large-'.bin2hex(random_bytes(4)).'.csv';
        $this->files[] = $file;
        $to = fopen($file, 'w');
        self::assertIsResource($to);
        fwrite($to, "time,a,b,c,d,e,f,g,h,i\n");
        for ($i = 0; $i < 200_000; $i++) {
            fwrite(
                $to,
                "$i,".implode(',', array_map(static fn (int $k): string => sprintf('%.3f', (($i * $k) % 997) / 7), range(1, 9)))."\n",
            );
        }
        fclose($to);
        $took = Pace::seconds(static function () use ($file): void {
            $process = proc_open(
                [PHP_BINARY, '-d', 'memory_limit=300M', __DIR__.'/../../core/Cli/main.php', 'read', $file],
                [1 => ['pipe', 'w'], 2 => ['pipe', 'w']],
                $pipes,
            );
            self::assertIsResource($process);
            $out = (string) stream_get_contents($pipes[1]);
            self::assertSame('', (string) stream_get_contents($pipes[2]));
            self::assertSame(0, proc_close($process));
            self::assertStringContainsString('i: 200000 values', $out);
        });
        self::assertLessThan(10.0, $took);
    }
}
