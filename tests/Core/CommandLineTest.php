<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\TestCase;

final class CommandLineTest extends TestCase
{
    /** @var list<string> */
    private array $files = [];

    protected function tearDown(): void
    {
        array_map(unlink(...), array_filter($this->files, is_file(...)));
    }

    private function file(Model $model): string
    {
        return $this->files[] = (string) tempnam(sys_get_temp_dir(), 'orbit');
    }

    private function written(Model $model): string
    {
        $file = $this->file($model);
        file_put_contents($file, NativeFile::export($model));

        return $file;
    }

    /**
     * @param  list<string>  $words
     * @return array{int, string, string} exit code, output, errors
     */
    private static function orbit(array $words): array
    {
        $process = proc_open([__DIR__.'/../../bin/orbit', ...$words], [1 => ['pipe', 'w'], 2 => ['pipe', 'w']], $pipes);
        self::assertIsResource($process);
        $out = (string) stream_get_contents($pipes[1]);
        $err = (string) stream_get_contents($pipes[2]);

        return [proc_close($process), $out, $err];
    }

    private static function tank(): Model
    {
        return Build::model(
            ['rate' => '2'],
            ['big, round "tank"' => '0'],
            ['filling' => ['rate', 'to' => 'big, round "tank"']],
            [],
            new TimeSettings(0, 1, 0.25, 'day'),
        );
    }

    public function test_a_run_prints_a_table_with_names_as_written_and_full_precision(): void
    {
        $file = $this->written(self::tank());
        [$code, $out, $err] = self::orbit(['run', $file, '--set', 'Rate=0.1', '--method=euler', '--step=0.5']);
        self::assertSame([0, ''], [$code, $err]);
        self::assertSame("time,\"big, round \"\"tank\"\"\",rate,filling\n0,0,0.1,0.1\n0.5,0.05,0.1,0.1\n1,0.1,0.1,0.1\n", $out);
    }

    public function test_times_are_printed_without_the_noise_of_arithmetic(): void
    {
        $file = $this->written(self::tank());
        [, $out] = self::orbit(['run', $file, '--only=rate', '--end=0.3', '--step=0.05']);
        self::assertSame(
            'time,0,0.05,0.1,0.15,0.2,0.25,0.3',
            implode(',', array_map(static fn (string $line): string => explode(',', $line)[0], explode("\n", trim($out)))),
        );
        [, $json] = self::orbit(['run', $file, '--only=rate', '--end=0.3', '--step=0.05', '--format=json']);
        self::assertStringContainsString('"time":[0,0.05,0.1,0.15,0.2,0.25,0.3]', str_replace('.0,', ',', $json));
        [, $thirds] = self::orbit(['run', $file, '--only=rate', '--end=1', '--step='. 1 / 3]);
        self::assertStringContainsString("\n0.33333333333333", $thirds);
    }

    public function test_json_and_a_file_to_write_to(): void
    {
        $file = $this->written(self::tank());
        $to = $this->file(self::tank());
        self::assertSame([0, '', ''], self::orbit(['run', $file, '--format=json', "--out=$to"]));
        /** @var array{time: list<float>, variables: array<string, list<float>>, fault: null} $run */
        $run = json_decode((string) file_get_contents($to), true);
        self::assertSame([0.0, 0.5, 1.0, 1.5, 2.0], array_map(floatval(...), $run['variables']['big, round "tank"']));
    }

    public function test_problems_are_lines_that_name_the_variable(): void
    {
        $file = $this->written(Build::model([], ['a' => ''], [], ['b' => '2 * (a']));
        [$code, $out, $err] = self::orbit(['run', $file]);
        self::assertSame([3, ''], [$code, $out]);
        self::assertSame(
            [
                'a: `a` has no initial value yet.',
                'b, at character 5: The bracket that opens here is not closed. Put a `)` where it should end.',
            ],
            explode("\n", trim($err)),
        );
        [$code, $out] = self::orbit(['check', $file, '--format=json']);
        /** @var array{problems: list<array{name: string, code: string}>} $report */
        $report = json_decode($out, true);
        self::assertSame([3, 'formula.missing', 'b'], [$code, $report['problems'][0]['code'], $report['problems'][1]['name']]);
    }

    public function test_a_numeric_fault_keeps_the_rows_before_it(): void
    {
        $file = $this->written(
            Build::model(
                [],
                ['tank' => '2'],
                ['leak' => ['1', 'from' => 'tank']],
                ['share' => '1 / tank'],
                new TimeSettings(0, 10, 1, 'day'),
            ),
        );
        [$code, $out, $err] = self::orbit(['run', $file, '--method=euler']);
        self::assertSame([4, "time,tank,leak,share\n0,2,1,0.5\n1,1,1,1\n"], [$code, $out]);
        self::assertSame("The run stopped at day 2: `share` meets a division by zero, with tank = 0.\n", $err);
    }

    public function test_usage_is_explained(): void
    {
        $file = $this->written(self::tank());
        foreach (
            [
                [[], 'Say what to do'],
                [['fly'], 'no command `fly`'],
                [['run'], 'Name the model file'],
                [['run', '/nowhere'], 'cannot be read'],
                [['run', $file, '--fast=1'], 'no option --fast'],
                [['run', $file, '--set=rat=1'], 'Did you mean `rate`?'],
                [['run', $file, '--set', 'rate=lots'], 'must be a number'],
                [['run', $file, '--set', 'rate'], 'name=value'],
                [['run', $file, '--method=magic'], 'one of euler, heun, rk4, dopri5, rosenbrock'],
                [['run', $file, '--step=0.3'], 'nearest step'],
                [['run', $file, '--out=/nowhere/x'], 'cannot be written'],
                [['run', __DIR__.'/Build.php'], 'no XMILE file'],
                [['run', __DIR__.'/../../composer.json'], 'not a Merry Orbit model'],
                [['run', $file, '--only=nothing'], 'no variable `nothing`'],
                [['run', $file, '--seed=0.5'], 'whole number'],
                [['convert', $file, '--to=paper'], 'one of native, xmile'],
            ] as [$words, $sentence]
        ) {
            [$code, $out, $err] = self::orbit($words);
            self::assertSame([2, ''], [$code, $out], $err);
            self::assertStringContainsString($sentence, $err);
        }
        self::assertSame(0, self::orbit(['--help'])[0]);
    }

    public function test_a_run_can_be_cut_short_thinned_and_timed(): void
    {
        $file = $this->written(self::tank());
        [$code, $out, $err] = self::orbit([
            'run',
            $file,
            '--start=1',
            '--end=3',
            '--step=0.5',
            '--save-every=1',
            '--method=heun',
            '--only',
            'rate',
            '--only=FILLING',
            '--seed=5',
            '--timing',
        ]);
        self::assertSame([0, "time,rate,filling\n1,2,2\n2,2,2\n3,2,2\n"], [$code, $out]);
        self::assertMatchesRegularExpression('/^# engine seconds: 0\.\d{6}\n$/', $err);
        foreach (['euler', 'heun', 'rk4', 'dopri5', 'rosenbrock'] as $method) {
            [$code, $out] = self::orbit(['run', $file, "--method=$method", '--format=json']);
            /** @var array{method: string, variables: array<string, list<float>>} $run */
            $run = json_decode($out, true);
            self::assertSame([0, $method], [$code, $run['method']]);
            self::assertEqualsWithDelta(2.0, $run['variables']['big, round "tank"'][4], 1e-9);
        }
    }

    public function test_health_says_in_words_whether_the_step_fits(): void
    {
        $file = $this->written(Build::model([], ['x' => '100'], ['f' => ['x', 'from' => 'x']]));
        [$code, $out] = self::orbit(['health', $file, '--method=euler', '--step=0.5']);
        self::assertSame(0, $code);
        self::assertStringContainsString('the step is too long for this model', $out);
        [, $out] = self::orbit(['health', $file, '--step=0.01', '--format=json']);
        /** @var array{verdict: string, differences: list<array{name: string}>} $health */
        $health = json_decode($out, true);
        self::assertSame('fine', $health['verdict']);
        self::assertEqualsCanonicalizing(['x', 'f'], array_column($health['differences'], 'name'));
        self::assertSame(4, self::orbit(['health', $this->written(Build::model([], ['x' => '1 / 0']))])[0]);
        self::assertSame(3, self::orbit(['health', $this->written(Build::model([], ['x' => '']))])[0]);
    }

    public function test_files_are_converted_and_read_back(): void
    {
        $file = $this->written(Build::model(['p' => '2'], ['x' => '1'], ['f' => ['p * highest(x)', 'to' => 'x']]));
        $to = $this->file(self::tank()).'.xmile';
        $this->files[] = $to;
        [$code, $out, $err] = self::orbit(['convert', $file, "--out=$to"]);
        self::assertSame([0, ''], [$code, $out]);
        self::assertStringContainsString('f: `highest` became the variable', $err);
        self::assertStringStartsWith('<?xml', (string) file_get_contents($to));
        self::assertSame(self::orbit(['run', $file, '--only=x'])[1], self::orbit(['run', $to, '--only=x'])[1]);
        self::assertStringContainsString('"format": "merry-orbit model"', self::orbit(['convert', $to, '--to=native'])[1]);
        // A causal map goes the same ways.
        file_put_contents($file, "from,to,sign,late\nrain,mud,+,\nmud,fish,-,yes\n");
        $map = self::orbit(['convert', $file, '--to=graphml'])[1];
        file_put_contents($to, $map);
        $table = "from,to,sign,late,strength,mechanism,evidence\nrain,mud,+,,usual,,\nmud,fish,-,yes,usual,,\n";
        self::assertSame([0, $table, ''], self::orbit(['convert', $to, '--to=map-csv']));
        self::assertStringContainsString('## 2 links', self::orbit(['convert', $to, '--to=record'])[1]);
        self::assertStringContainsString('"kind":"factor"', self::orbit(['convert', $to])[1]);
        self::assertSame(2, self::orbit(['convert', $to, '--to=pdf'])[0]);
    }

    public function test_a_model_is_described_in_words(): void
    {
        $model = Build::model(
            ['rate' => '0.5'],
            ['lens' => '40'],
            ['wells' => ['lens * rate', 'from' => 'lens']],
            ['half' => 'lens / 2'],
        );
        $model = $model->withElement($model->elements['lens']->with(['unit' => 'ML', 'note' => 'Fresh water.']));
        [$code, $out] = self::orbit(['describe', $this->written($model)]);
        self::assertSame(0, $code);
        foreach (
            [
                'd(lens)/dt = -wells',
                'initially 40',
                'wells = lens * rate',
                'from lens to outside',
                'unit: ML per year (inferred)',
                'uses: lens, rate',
                'used by: wells, half',
                'note: Fresh water.',
            ] as $line
        ) {
            self::assertStringContainsString($line, $out);
        }
    }

    public function test_check_tells_what_the_units_say(): void
    {
        $model = Build::model(
            ['lifespan' => '70'],
            ['islanders' => '4200'],
            ['deaths' => ['islanders * lifespan', 'from' => 'islanders']],
        );
        foreach (['lifespan' => 'years', 'islanders' => 'people'] as $id => $unit) {
            $model = $model->withElement($model->elements[$id]->with(['unit' => $unit]));
        }
        [$code, $out] = self::orbit(['check', $this->written($model)]);
        self::assertSame(0, $code, 'units never hinder');
        self::assertStringContainsString(
            'deaths: (remark) `deaths` is people per year, but `islanders * lifespan` is people·year.',
            $out,
        );
    }

    public function test_demo_models_of_any_size_are_generated(): void
    {
        [$code, $out] = self::orbit(['generate', '60']);
        self::assertSame(0, $code);
        $model = NativeFile::import($out)->model;
        self::assertEqualsWithDelta(60, count($model->elements), 6);
        self::assertGreaterThan(0.0, Build::run($model)->column('kelp-1')[0]);
        foreach (['0', 'many', '99999999'] as $size) {
            [$code, , $err] = self::orbit(['generate', $size]);
            self::assertSame(2, $code);
            self::assertStringContainsString('Give a whole number from 1 to 20,000', $err);
        }
    }

    /** @return iterable<string, array{string, string}> a file that contradicts itself, and what is said of it */
    public static function guessed(): iterable
    {
        $specs = static fn (string $dt): string => "<sim_specs><start>0</start><stop>2</stop>$dt</sim_specs>";
        $xmile = static fn (
            string $variables,
            string $specs,
        ): string => "<xmile version=\"1.0\" xmlns=\"http://docs.oasis-open.org/xmile/ns/XMILE/v1.0\">$specs<model><variables>$variables</variables></model></xmile>";
        $aux = '<aux name="a"><eqn>TIME</eqn></aux>';
        yield 'a step of 0' => [$xmile($aux, $specs('<dt>0</dt>')), 'larger than zero'];
        yield 'a negative step' => [$xmile($aux, $specs('<dt>-1</dt>')), 'larger than zero'];
        yield 'a reciprocal step of 0' => [$xmile($aux, $specs('<dt reciprocal="true">0</dt>')), 'larger than zero'];
        yield 'a step that is a word' => [$xmile($aux, $specs('<dt>soon</dt>')), '`soon`, which is no number'];
        yield 'no time settings' => [$xmile($aux, ''), 'when to start and stop'];
        yield 'no end' => [$xmile($aux, '<sim_specs><start>0</start></sim_specs>'), '<stop> is missing'];
        yield 'an end before the start' => [$xmile($aux, '<sim_specs><start>5</start><stop>1</stop></sim_specs>'), 'not after its start'];
        yield 'an unknown method' => [
            $xmile($aux, '<sim_specs method="magic"><start>0</start><stop>2</stop></sim_specs>'),
            '`magic` is not known',
        ];
        yield 'one name twice' => [$xmile($aux.'<aux name="A"><eqn>2</eqn></aux>', $specs('')), 'Two variables are called'];
        yield 'a flow that is not there' => [
            $xmile('<stock name="s"><eqn>1</eqn><inflow>rain</inflow></stock>', $specs('')),
            'no flow of the file',
        ];
        yield 'a flow end claimed twice' => [
            $xmile(
                '<stock name="s"><eqn>1</eqn><inflow>f</inflow></stock><stock name="r"><eqn>1</eqn><inflow>f</inflow></stock><flow name="f"><eqn>1</eqn></flow>',
                $specs(''),
            ),
            'already has a stock',
        ];
        yield 'four x and three y' => [
            $xmile($aux.'<gf name="g"><xpts>0,1,2,3</xpts><ypts>0,1,2</ypts></gf>', $specs('')),
            '4 x and 3 y',
        ];
        yield 'an array' => [
            $xmile(
                '<aux name="a"><dimensions><dim name="bay"/></dimensions><element subscript="1"><eqn>TIME</eqn></element></aux>',
                $specs(''),
            ),
            'It has dimensions',
        ];
        $native = static fn (string $rest): string => '{"format": "merry-orbit model", "version": 2, '.$rest.'}';
        $line = '{"kind": "auxiliary", "name": "a", "formula": "time"}';
        yield 'a native step of 0' => [$native("\"time\": {\"step\": 0, \"end\": 2}, \"elements\": [$line]"), 'larger than zero'];
        yield 'a native step that is a word' => [
            $native("\"time\": {\"step\": \"soon\", \"end\": 2}, \"elements\": [$line]"),
            'must be a number',
        ];
        yield 'a native name twice' => [
            $native("\"elements\": [$line, {\"kind\": \"auxiliary\", \"name\": \"A\", \"formula\": \"2\"}]"),
            'Two elements are called',
        ];
        yield 'a native flow to nowhere' => [
            $native('"elements": [{"kind": "flow", "name": "f", "formula": "1", "to": "sea"}]'),
            'no stock of that name',
        ];
    }

    #[\PHPUnit\Framework\Attributes\DataProvider('guessed')]
    public function test_what_would_have_to_be_guessed_ends_with_3_unless_that_is_wished(string $text, string $words): void
    {
        $file = $this->file(self::tank());
        file_put_contents($file, $text);
        foreach (['run', 'describe', 'convert'] as $command) {
            [$code, $out, $err] = self::orbit([$command, $file]);
            self::assertSame([3, ''], [$code, $out], $err);
            self::assertStringContainsString($words, $err);
        }
        [$code, $out, $err] = self::orbit(['run', $file, '--lenient']);
        self::assertSame(0, $code, $err);
        self::assertStringContainsString($words, $err);
        self::assertStringStartsWith('time,', $out);
    }

    public function test_a_model_without_anything_to_compute_ends_with_3(): void
    {
        foreach (
            [
                '{"format": "merry-orbit model", "version": 2}',
                '<xmile version="1.0"><sim_specs><start>0</start><stop>2</stop></sim_specs><model/></xmile>',
                NativeFile::export(Build::model(['p' => '3'])),
            ] as $text
        ) {
            $file = $this->file(self::tank());
            file_put_contents($file, $text);
            foreach (['run', 'health'] as $command) {
                [$code, $out, $err] = self::orbit([$command, $file, '--lenient']);
                self::assertSame([3, ''], [$code, $out]);
                self::assertStringContainsString('nothing to compute', $err);
            }
        }
    }

    public function test_a_scenario_is_run_under_what_the_command_line_says(): void
    {
        $file = __DIR__.'/../../demo/ferry-season.json';
        $model = NativeFile::import((string) file_get_contents($file))->model;
        $scenario = array_values($model->scenarios)[0];
        $last = static fn (string ...$more): string => self::orbit(['run', $file, ...array_values($more)])[1];
        self::assertNotSame($last(), $last("--scenario=$scenario->name"));
        $setting = \MerryOrbit\Core\Model\Scenario::settingOf($model->scenarios, $scenario->id);
        $by = array_map(
            static fn (string $id): string => '--set='.$model->nameOf($id).'='.$setting->parameters[$id],
            array_keys($setting->parameters),
        );
        self::assertSame($last(...$by), $last('--scenario='.strtoupper($scenario->name)));
        [$code, , $err] = self::orbit(['run', $file, '--scenario=nothing']);
        self::assertSame(2, $code);
        self::assertStringContainsString('no scenario `nothing`', $err);
    }

    public function test_a_report_is_written_as_files_and_cut_to_what_is_wanted(): void
    {
        $to = sys_get_temp_dir().'/merry-orbit-report-'.bin2hex(random_bytes(4));
        $model = __DIR__.'/../../demo/kelp-and-urchins.json';
        [$code, $out, $err] = self::orbit(['report', $model, "--out=$to", '--sections=tests,runs', '--paper=letter']);
        self::assertSame([0, ''], [$code, $err]);
        $names = explode("\n", trim($out));
        self::assertSame(['report.html', 'report.md'], array_slice($names, 0, 2));
        $files = array_map(static fn (string $n): string => (string) file_get_contents("$to/$n"), array_combine($names, $names));
        self::assertMatchesRegularExpression('/## What was tested.*## What happens/s', $files['report.md']);
        self::assertStringNotContainsString('All variables', $files['report.md']);
        self::assertStringContainsString('size: letter', $files['report.html']);
        array_push($this->files, ...array_map(static fn (string $n): string => "$to/$n", $names));
        foreach ([['--sections=poems', '`poems`'], ['--report=none', 'no report `none`'], ['', '--out']] as [$wrong, $said]) {
            [$code, , $err] = self::orbit(array_values(array_filter(['report', $model, $wrong === '' ? '' : "--out=$to", $wrong])));
            self::assertSame(2, $code);
            self::assertStringContainsString($said, $err);
        }
    }

    public function test_a_page_for_readers_shows_what_readers_see_and_no_more(): void
    {
        $model = __DIR__.'/../../demo/ferry-season.json';
        [$code, $out, $err] = self::orbit(['show', $model, '--at-step=boat', '--move', 'boat=1']);
        self::assertSame([0, ''], [$code, $err]);
        self::assertStringContainsString("A second boat: 1\n", $out);
        // One boat carries 2,400 guests a month: no more come, and that is what the text says.
        self::assertStringContainsString('At the height **2,400 guests** come', $out);
        [, $json] = self::orbit(['show', $model, '--at-step=boat', '--move=price=1e9', '--format=json']);
        $told = json_decode($json, true);
        self::assertIsArray($told);
        // No further than the dial goes.
        self::assertEquals(['price' => 90, 'boat' => 2], $told['inputs'] ?? null);
        foreach (
            [
                [['--page=none'], 'There is no page `none`; there are guests.'],
                [['--at-step=none'], 'no step `none`; it has word, boat, water, yours'],
                [['--at-step=boat', '--move=trips=3'], 'no input `trips`; it has price, boat'],
                [['--move=price'], 'as price=60'],
            ] as [$wrong, $said]
        ) {
            [$code, , $err] = self::orbit(['show', $model, ...$wrong]);
            self::assertSame(2, $code);
            self::assertStringContainsString($said, $err);
        }
        self::assertStringContainsString('no page for readers', self::orbit(['show', __DIR__.'/../../demo/fresh-water.json'])[2]);
    }
}
