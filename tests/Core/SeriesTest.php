<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Edit\RenameElement;
use MerryOrbit\Core\Edit\SetCurve;
use MerryOrbit\Core\Exchange\ModelFile;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Unit\UnitChecker;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class SeriesTest extends TestCase
{
    /** Rain as the triangle 0, 8, 0 over ten weeks, gathered in a lens. */
    private static function model(string $formula = 'at(rainfall, time - 2)', Between $between = Between::Straight): Model
    {
        $model = Build::model([], ['lens' => '0'], [], [], new TimeSettings(0, 10, 0.5, 'week'));
        foreach (
            [
                new AddElement('rain', Kind::Series, 'rainfall', unit: 'mm/week'),
                new SetCurve('rain', [[0.0, 0.0], [4.0, 8.0], [8.0, 0.0]], $between, Beyond::Held, ''),
                new AddElement('f', Kind::Flow, 'gathering', 'rainfall', to: 'lens'),
                new AddElement('v', Kind::Auxiliary, 'before', $formula),
            ] as $edit
        ) {
            $model = $edit->apply($model);
        }

        return $model;
    }

    public function test_its_name_is_its_value_now_also_between_the_steps(): void
    {
        foreach (Method::cases() as $method) {
            $run = Build::run(self::model()->with(['time' => new TimeSettings(0, 10, 0.5, 'week', $method)]));
            foreach ($run->times() as $i => $t) {
                $now = max(0.0, $t < 4 ? 2 * $t : 16 - 2 * $t);
                self::assertEqualsWithDelta($now, $run->column('rain')[$i], 1e-12, 'it has a column of its own');
                self::assertEqualsWithDelta($t < 2 ? 0.0 : max(0.0, $t < 6 ? 2 * ($t - 2) : 20 - 2 * $t), $run->column('v')[$i], 1e-12);
            }
            // Straight pieces that end on steps are integrated exactly by methods of second order.
            self::assertEqualsWithDelta(
                32.0,
                $run->column('lens')[20],
                $method === Method::Euler ? 1.0 : ($method->isAdaptive() ? 1e-3 : 1e-12),
                $method->title(),
            );
        }
    }

    public function test_a_run_beyond_the_data_says_so_once(): void
    {
        $notices = Build::run(self::model('0'))->notices;
        self::assertCount(1, $notices);
        self::assertStringContainsString(
            'beyond the data of the series `rainfall`, which reach from 0 to 8, first at week 8.25',
            $notices[0]->sentence,
        );
    }

    public function test_names_units_and_files_follow(): void
    {
        $model = (new RenameElement('rain', 'rain gauge 2'))->apply(self::model());
        self::assertSame(
            ['rain gauge 2', 'at(rain gauge 2, time - 2)'],
            [$model->formulaOf($model->elements['f']), $model->formulaOf($model->elements['v'])],
        );
        $analysis = Analyser::analyse($model);
        self::assertSame([], $analysis->problems);
        $units = UnitChecker::check($model, $analysis->nodes);
        self::assertSame([], $units->remarks);
        self::assertSame(['mm', 'mm/week'], [$units->units['lens']->text(), $units->units['v']->text()]);
        $native = NativeFile::import(NativeFile::export($model));
        self::assertSame([], $native->log);
        self::assertSame(NativeFile::export($model), NativeFile::export($native->model));
        [$xmile, $log] = ModelFile::export($model, 'xmile');
        self::assertSame(['A series became a graphical function of time.'], array_map(static fn ($l): string => $l->sentence, $log));
        $back = ModelFile::import($xmile)->model;
        self::assertSame(Build::run($model)->column('lens'), Build::run($back)->column((string) $back->idOf('lens')));
    }

    /** @return iterable<string, array{string, string, string}> */
    public static function slips(): iterable
    {
        yield 'at of a stock' => ['at(lens, 3)', 'series.wanted', 'first argument is the name of one'];
        yield 'at of a number' => ['at(3, 3)', 'series.wanted', 'first argument is the name of one'];
        yield 'called like a curve' => ['rainfall(3)', 'function.unknown', '`at(rainfall, …)` its value at another time'];
        yield 'too few arguments' => ['at(rainfall)', 'function.arguments', '`at` takes 2 arguments'];
    }

    #[DataProvider('slips')]
    public function test_slips_are_said(string $formula, string $code, string $words): void
    {
        $problem = Analyser::analyse(self::model($formula))->problems[0];
        self::assertSame([$code, 'v'], [$problem->code, $problem->element]);
        self::assertNotNull($problem->from);
        self::assertStringContainsString($words, $problem->sentence);
    }

    public function test_a_series_without_data_waits_and_what_uses_it_too(): void
    {
        $model = (new SetCurve('rain', [], Between::Straight, Beyond::Held, ''))->apply(self::model('1'));
        $analysis = Analyser::analyse($model);
        self::assertSame(['curve.missing'], array_map(static fn ($p): string => $p->code, $analysis->problems));
        self::assertSame(['rain', 'rain', 'rain'], [$analysis->waiting['rain'], $analysis->waiting['f'], $analysis->waiting['lens']]);
        self::assertTrue(Build::run($model)->has('v'));
    }
}
