<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Compile\Compiler;
use MerryOrbit\Core\Edit\Connect;
use MerryOrbit\Core\Edit\SetFormula;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\TestCase;

final class AnalysisTest extends TestCase
{
    /** @return list<string> */
    private static function sentences(Model $model): array
    {
        return array_map(static fn ($p): string => $p->sentence, Analyser::analyse($model)->problems);
    }

    public function test_what_is_missing_is_said_and_what_depends_on_it_waits(): void
    {
        $analysis = Analyser::analyse(
            Build::model(
                ['rate' => ''],
                ['lens' => ''],
                ['rain' => ['rate * 2', 'to' => 'lens']],
                ['thickness' => 'lens / 3', 'free' => '1'],
            ),
        );
        self::assertSame(
            ['`lens` has no initial value yet.', '`rate` has no value yet.'],
            array_map(static fn ($p): string => $p->sentence, $analysis->problems),
        );
        self::assertSame(['lens' => 'lens', 'rate' => 'rate', 'thickness' => 'lens', 'rain' => 'rate'], $analysis->waiting);
        self::assertTrue($analysis->canCompute('free'));
    }

    public function test_an_unknown_name_is_said_with_its_place_and_the_nearest_names(): void
    {
        $problem = Analyser::analyse(Build::model(['rainfall' => '1'], [], [], ['seeping' => '2 * rainfal']))->problems[0];
        self::assertSame(['name.unknown', 'seeping', 4, 7], [$problem->code, $problem->element, $problem->from, $problem->length]);
        self::assertStringContainsString('Did you mean `rainfall`?', $problem->sentence);
    }

    public function test_circles_are_named_in_order(): void
    {
        $now = Build::model([], [], [], ['a' => 'b + 1', 'b' => 'c', 'c' => 'a * 2', 'own' => 'own + 1', 'after' => 'a']);
        self::assertSame(['circle.now', 'circle.now'], Build::codes($now));
        self::assertStringContainsString('`a` uses `b` uses `c` uses `a`', self::sentences($now)[0]);
        self::assertStringContainsString('`own` uses itself at the same moment', self::sentences($now)[1]);
        self::assertFalse(Analyser::analyse($now)->canCompute('after'));

        $start = Build::model([], ['x' => 'y', 'y' => 'z'], [], ['z' => 'x + 1']);
        self::assertSame(['circle.start'], Build::codes($start));
        self::assertStringContainsString('how the run starts', self::sentences($start)[0]);
        // Through a stock a circle is a feedback loop and quite all right.
        self::assertSame([], Build::codes(Build::model([], ['s' => '1'], ['f' => ['s * g', 'to' => 's']], ['g' => 's / 2'])));
    }

    public function test_a_parameter_is_a_plain_number(): void
    {
        $model = Build::model(['sum' => '2 * (3 + 4%) ^ 2', 'moving' => 'time * 2', 'computed' => 'sum', 'none' => '1 / 0']);
        self::assertSame(['parameter.moving', 'parameter.computed', 'parameter.value'], Build::codes($model));
        self::assertEqualsWithDelta(2 * 3.04 ** 2, Analyser::analyse($model)->parameters['sum'], 1e-12);
    }

    public function test_links_come_from_formulas_and_from_drawing(): void
    {
        $model = Build::model(['depth' => '2', 'rate' => '1'], ['lens' => 'depth * 3'], ['drain' => ['lens / 2', 'from' => 'lens']]);
        $drawn = (new Connect('rate', 'drain'))->apply($model);
        $links = Analyser::analyse($drawn)->links();
        self::assertContains(['from' => 'depth', 'to' => 'lens', 'kind' => 'start'], $links);
        self::assertContains(['from' => 'lens', 'to' => 'drain', 'kind' => 'now'], $links);
        self::assertContains(['from' => 'rate', 'to' => 'drain', 'kind' => 'unused'], $links);
        self::assertStringContainsString('not used in its formula yet', self::sentences($drawn)[0]);
        self::assertSame([], Build::codes((new SetFormula('drain', 'lens * rate'))->apply($drawn)));
    }

    public function test_a_quoted_name_may_equal_a_word_of_the_language(): void
    {
        $model = Build::model(['time' => '7', 'step' => '2'], [], [], ['both' => '"time" * "step"', 'clock' => 'time']);
        self::assertSame(['name.quoted', 'name.quoted'], Build::codes($model));
        self::assertSame([14.0, 0.5], [Build::run($model)->steady()['both'], Build::run($model)->column('clock')[1]]);
    }

    public function test_time_settings_that_allow_no_run_are_explained(): void
    {
        foreach (
            [
                [['end' => 0.0], 'end', 'larger than the start'],
                [['step' => 0.0], 'step', 'larger than zero'],
                [['step' => -1.0], 'step', 'larger than zero'],
                [['step' => 0.3], 'step', 'nearest step that fits is 0.3003003'],
                [['step' => 400.0], 'step', 'nearest step that fits is 100'],
                [['saveEvery' => 0.3], 'saveEvery', 'save every 0.25 instead of 0.3'],
                [['saveEvery' => 0.1], 'saveEvery', 'save every 0.25'],
                [['saveEvery' => 200.0], 'saveEvery', 'at least once'],
                [['step' => 1e-9], 'step', 'longer step'],
                [['unit' => ' '], 'unit', 'as a word'],
                [['start' => NAN], 'start', 'numbers'],
                [['end' => INF], 'end', 'numbers'],
                [['step' => 0.0001], 'saveEvery', 'Save less often'],
                [['start' => 1e14, 'end' => 1e14 + 1, 'step' => 0.001, 'saveEvery' => 1.0], 'step', 'too small beside'],
            ] as [$change, $field, $words]
        ) {
            $problems = (new TimeSettings(0, 100, 0.25))->with($change)->problems();
            self::assertCount(1, $problems, json_encode($change, JSON_PARTIAL_OUTPUT_ON_ERROR) ?: '');
            self::assertSame($field, $problems[0]->field);
            self::assertStringContainsString($words, $problems[0]->sentence);
        }
        self::assertSame([], (new TimeSettings(0, 1000, 0.1))->problems());
    }

    public function test_compiled_source_holds_nothing_that_was_typed(): void
    {
        $model = Build::model(['phpinfo' => '1', 'R&D "x"' => '2'], [], [], ['exec' => '"phpinfo" + "R&D ""x""" * 2']);
        $source = Compiler::compile(Analyser::analyse($model)->plan(), Method::Euler)->source;
        foreach (['phpinfo', 'R&D', 'exec', '"'] as $typed) {
            self::assertStringNotContainsString($typed, $source);
        }
        self::assertSame(5.0, Build::run($model)->steady()['exec']);
    }
}
