<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Edit\DeleteElements;
use MerryOrbit\Core\Edit\Edit;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\Patch;
use MerryOrbit\Core\Edit\SetTrack;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Experiment\Changes;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Model\Grip;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Scenario;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunRefused;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class ScenarioTest extends TestCase
{
    private static function model(): Model
    {
        $model = Build::model(
            ['rain' => '2', 'rate' => '0.1'],
            ['tank' => '10'],
            ['filling' => ['rain', 'to' => 'tank'], 'leaking' => ['tank * rate', 'from' => 'tank']],
            [],
            new TimeSettings(0, 10, 0.5, 'year', Method::Euler),
        );
        foreach (['low' => [[0.0, 1.0], [10.0, 2.0]], 'high' => [[0.0, 5.0], [10.0, 6.0]]] as $name => $points) {
            $model = (new AddElement($name, Kind::Curve, $name))->apply($model);
            $model = $model->withElement($model->elements[$name]->with(['points' => $points]));
        }

        return (new AddElement('need', Kind::Auxiliary, 'need', 'low(tank)'))->apply($model);
    }

    /** @param  array<string, mixed>  $record */
    private static function edit(array $record): Edit
    {
        return EditReader::read($record);
    }

    /** @param  list<string>  $on */
    private static function with(Model $model, string $id, array $on = [], mixed $setting = []): Model
    {
        return self::edit(['kind' => 'scenario', 'id' => $id, 'name' => strtoupper($id), 'on' => $on, 'setting' => $setting])->apply(
            $model,
        );
    }

    /** a over b: what a says counts, what only b says stays; of two that are built on, the later one decides. */
    public function test_stacked_scenarios_resolve_in_the_order_they_are_named(): void
    {
        $model = self::with(self::model(), 'dry', [], ['parameters' => ['rain' => 1, 'rate' => 0.5], 'time' => ['end' => 20]]);
        $model = self::with($model, 'leaky', [], ['parameters' => ['rate' => 0.9], 'curves' => ['low' => 'high']]);
        $model = self::with(
            $model,
            'both',
            ['dry', 'leaky'],
            ['grips' => ['need' => ['signal' => 'constant', 'values' => ['value' => 3]]]],
        );
        $model = self::with($model, 'other-way', ['leaky', 'dry']);
        $model = self::with($model, 'top', ['both', 'dry'], ['parameters' => ['rain' => 7]]);
        $of = static fn (string $id): Setting => Scenario::settingOf($model->scenarios, $id);
        self::assertSame(['rain' => 1.0, 'rate' => 0.9], $of('both')->parameters);
        self::assertSame(['rate' => 0.5, 'rain' => 1.0], $of('other-way')->parameters);
        self::assertSame(['end' => 20.0], $of('both')->time);
        self::assertSame(['low' => 'high'], $of('both')->curves);
        self::assertSame(['need'], array_keys($of('top')->grips));
        self::assertSame(
            ['dry', 'leaky', 'both', 'top'],
            array_map(static fn (Scenario $s): string => $s->id, Scenario::stack($model->scenarios, 'top')),
            'each once, where it is first needed',
        );
        self::assertSame(['rain' => 7.0, 'rate' => 0.9], $of('top')->parameters);
    }

    public function test_a_setting_changes_the_run_and_not_the_model(): void
    {
        $model = self::model();
        $trial = Trial::of(
            $model,
            Setting::read([
                'parameters' => ['rain' => 5, 'gone' => 1],
                'time' => ['end' => 5, 'step' => 0.25, 'method' => 'rk4'],
                'curves' => ['low' => 'high'],
            ]),
        );
        $run = $trial->run(Build::simulator());
        self::assertSame([21, 5.0, Method::RungeKutta4], [$run->length(), $run->steady()['rain'], $run->method]);
        self::assertSame(6.0, $run->column('need')[0]);
        self::assertSame('2', $model->formulaOf($model->elements['rain']));
        // By hand: T' = 5 − 0.1 T from 10.
        self::assertEqualsWithDelta(50 - 40 * exp(-0.5), $run->column('tank')[20], 1e-6);
    }

    public function test_what_makes_no_sense_for_a_model_is_refused(): void
    {
        foreach ([['curves' => ['low' => 'tank']], ['grips' => ['tank' => ['signal' => 'series', 'series' => 'rain']]]] as $record) {
            try {
                Trial::of(self::model(), Setting::read($record));
                self::fail('refused');
            } catch (RunRefused $e) {
                self::assertStringContainsString('does not have', $e->getMessage());
            }
        }
        $this->expectException(RunRefused::class);
        Trial::of(self::model(), Setting::read(['time' => ['end' => -5]]))->run(Build::simulator());
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function refused(): iterable
    {
        yield 'no name' => [['kind' => 'scenario', 'id' => 'x', 'name' => '  '], 'a name'];
        yield 'a name twice' => [['kind' => 'scenario', 'id' => 'x', 'name' => 'dry'], 'Choose another name'];
        yield 'on itself' => [['kind' => 'scenario', 'id' => 'x', 'name' => 'X', 'on' => ['x']], 'cannot build on itself'];
        yield 'a circle' => [['kind' => 'scenario', 'id' => 'dry', 'name' => 'Dry', 'on' => ['wet']], 'which builds on it'];
        yield 'no id' => [['kind' => 'scenario', 'name' => 'X'], 'needs an id'];
        yield 'ids of nothing' => [['kind' => 'scenario', 'id' => 'x', 'name' => 'X', 'on' => [3]], 'ids of the scenarios'];
        yield 'a word for a number' => [
            ['kind' => 'scenario', 'id' => 'x', 'name' => 'X', 'setting' => ['parameters' => ['rain' => 'much']]],
            'must be a number',
        ];
        yield 'a wrong time' => [
            ['kind' => 'scenario', 'id' => 'x', 'name' => 'X', 'setting' => ['time' => ['colour' => 3]]],
            'start, end, step',
        ];
        yield 'a wrong method' => [
            ['kind' => 'scenario', 'id' => 'x', 'name' => 'X', 'setting' => ['time' => ['method' => 'guess']]],
            'method must be one of',
        ];
        yield 'a wrong curve' => [
            ['kind' => 'scenario', 'id' => 'x', 'name' => 'X', 'setting' => ['curves' => ['low' => 3]]],
            'names, for a curve',
        ];
        yield 'a wrong seed' => [['kind' => 'scenario', 'id' => 'x', 'name' => 'X', 'setting' => ['seed' => 1.5]], 'whole number'];
        yield 'no object' => [['kind' => 'scenario', 'id' => 'x', 'name' => 'X', 'setting' => 3], 'is an object'];
        yield 'plot without a thing' => [
            ['kind' => 'plot-put', 'plot' => ['id' => 'p', 'of' => ['gone'], 'name' => 'P']],
            'at least one thing',
        ];
        yield 'plot without a name' => [['kind' => 'plot-put', 'plot' => ['id' => 'p', 'of' => ['tank']]], 'a name'];
        yield 'plot of another kind' => [
            ['kind' => 'plot-put', 'plot' => ['id' => 'p', 'of' => ['tank'], 'kind' => 'pie']],
            'kind of a plot',
        ];
        yield 'plot with an odd scale' => [
            ['kind' => 'plot-put', 'plot' => ['id' => 'p', 'of' => ['tank'], 'options' => ['low' => 3, 'high' => 2]]],
            'has to be larger',
        ];
        yield 'plot with an unknown option' => [
            ['kind' => 'plot-put', 'plot' => ['id' => 'p', 'of' => ['tank'], 'options' => ['shadow' => true]]],
            'no option `shadow`',
        ];
        yield 'plot of nothing known' => [
            ['kind' => 'plot-put', 'plot' => ['id' => 'p', 'of' => ['tank'], 'options' => ['measure' => 'mood']]],
            'A plot shows',
        ];
        yield 'plot with words for times' => [
            ['kind' => 'plot-put', 'plot' => ['id' => 'p', 'of' => ['tank'], 'options' => ['times' => ['now']]]],
            'list of at most',
        ];
        yield 'plot pinned nowhere' => [
            ['kind' => 'plot-put', 'plot' => ['id' => 'p', 'of' => ['tank'], 'pin' => ['x' => 1]]],
            'a place on it',
        ];
        yield 'finding without a title' => [['kind' => 'finding', 'id' => 'f', 'title' => '', 'view' => ['kind' => 'plot']], 'a title'];
        yield 'finding of nothing' => [['kind' => 'finding', 'id' => 'f', 'title' => 'F', 'view' => []], 'shows one of'];
        yield 'a view too large' => [
            ['kind' => 'finding', 'id' => 'f', 'title' => 'F', 'view' => ['kind' => 'plot', 'x' => str_repeat('x', 300_000)]],
            'too large',
        ];
        yield 'discarding what is not there' => [
            ['kind' => 'discard', 'what' => 'scenario', 'id' => 'nothing'],
            'not in the model any more',
        ];
        yield 'discarding another kind' => [['kind' => 'discard', 'what' => 'model', 'id' => 'nothing'], 'must be one of'];
        yield 'one choice' => [['kind' => 'choices', 'id' => 'rain', 'choices' => [['name' => 'a', 'value' => 1]]], 'two to'];
        yield 'a choice twice' => [
            ['kind' => 'choices', 'id' => 'rain', 'choices' => [['name' => 'a', 'value' => 1], ['name' => 'A', 'value' => 2]]],
            'name of its own',
        ];
        yield 'a choice without a value' => [['kind' => 'choices', 'id' => 'rain', 'choices' => [['name' => 'a']]], 'a value'];
        yield 'choices of a stock' => [['kind' => 'choices', 'id' => 'tank', 'choices' => []], 'no parameter'];
    }

    /** @param  array<string, mixed>  $record */
    #[DataProvider('refused')]
    public function test_refusals_say_what_would_be_right(array $record, string $sentence): void
    {
        $model = self::with(self::with(self::model(), 'dry'), 'wet', ['dry']);
        $this->expectException(EditRefused::class);
        $this->expectExceptionMessageMatches('/'.preg_quote($sentence, '/').'/i');
        self::edit($record)->apply($model);
    }

    private static function full(): Model
    {
        $model = self::with(
            self::with(
                self::model(),
                'dry',
                [],
                [
                    'parameters' => ['rain' => 1],
                    'grips' => ['tank' => ['signal' => 'drawn', 'points' => [[0, 1], [5, 2]], 'from' => 1, 'on' => false]],
                    'time' => ['method' => 'rk4'],
                    'curves' => ['low' => 'high'],
                    'seed' => 4,
                ],
            ),
            'wet',
            ['dry'],
        );
        foreach (
            [
                [
                    'kind' => 'plot-put',
                    'track' => true,
                    'plot' => ['id' => 't1', 'of' => ['tank', 'need'], 'options' => ['log' => true, 'low' => 1]],
                ],
                ['kind' => 'track', 'id' => 'need', 'shown' => true],
                [
                    'kind' => 'plot-put',
                    'plot' => [
                        'id' => 'p1',
                        'of' => ['tank', 'rain'],
                        'kind' => 'phase',
                        'name' => 'Rain against tank',
                        'pin' => ['sheet' => 'sheet-1', 'x' => 10, 'y' => 20],
                    ],
                ],
                [
                    'kind' => 'finding',
                    'id' => 'f1',
                    'title' => 'It dries',
                    'words' => '**Why**',
                    'view' => ['kind' => 'plot', 'plot' => ['of' => ['tank']]],
                    'place' => 2,
                ],
                ['kind' => 'choices', 'id' => 'rain', 'choices' => [['name' => 'dry', 'value' => 1], ['name' => 'wet', 'value' => 3]]],
            ] as $record
        ) {
            $model = self::edit($record)->apply($model);
        }

        return $model;
    }

    /** Through JSON and back. */
    private static function again(Patch $patch): Patch
    {
        /** @var array<string, mixed> $record */
        $record = json_decode(json_encode($patch->record, JSON_THROW_ON_ERROR), true);

        return Patch::fromRecord($record);
    }

    public function test_all_of_it_survives_storage_files_and_undo(): void
    {
        $model = self::full();
        $record = ModelRecord::of($model);
        $json = static fn (mixed $v): string => json_encode($v, JSON_THROW_ON_ERROR);
        /** @var array<string, mixed> $stored */
        $stored = json_decode($json($record), true);
        self::assertSame($json($record), $json(ModelRecord::of(ModelRecord::toModel($stored))));
        $file = NativeFile::export($model);
        $imported = NativeFile::import($file);
        self::assertSame([], $imported->log);
        self::assertSame($file, NativeFile::export($imported->model));
        self::assertSame($json($record), $json(ModelRecord::of($imported->model)));
        foreach (
            [
                ['kind' => 'discard', 'what' => 'scenario', 'id' => 'dry'],
                ['kind' => 'discard', 'what' => 'plot', 'id' => 'p1'],
                ['kind' => 'discard', 'what' => 'track', 'id' => 't1'],
                ['kind' => 'discard', 'what' => 'finding', 'id' => 'f1'],
                ['kind' => 'choices', 'id' => 'rain', 'choices' => []],
                ['kind' => 'delete', 'ids' => ['tank']],
            ] as $edit
        ) {
            $edit = self::edit($edit);
            $next = $edit->apply($model);
            $forward = self::again(Patch::between($model, $next));
            self::assertSame($json(ModelRecord::of($next)), $json(ModelRecord::of($forward->apply($model))), $edit->words($model));
            $back = self::again($edit->inverse($model));
            self::assertSame($json($record), $json(ModelRecord::of($back->apply($next))), $edit->words($model));
        }
    }

    public function test_what_is_gone_leaves_plots_and_those_that_built_on_it(): void
    {
        $model = self::full();
        $left = (new DeleteElements(['tank']))->apply($model);
        self::assertSame([['need'], ['need']], array_map(static fn ($p): array => $p->of, $left->tracks));
        self::assertSame(['rain'], $left->plots['p1']->of);
        self::assertSame([], self::edit(['kind' => 'discard', 'what' => 'scenario', 'id' => 'dry'])->apply($model)->scenarios['wet']->on);
        self::assertSame(
            [['tank']],
            array_map(static fn ($p): array => $p->of, (new SetTrack('need', false))->apply($model)->tracks),
            'a thing leaves every track it is in',
        );
    }

    public function test_tracks_keep_their_places(): void
    {
        $model = self::full();
        $above = self::edit(['kind' => 'plot-put', 'track' => true, 'plot' => ['id' => 't0', 'of' => ['rain']], 'before' => 't1'])->apply(
            $model,
        );
        self::assertSame(['t0', 't1', 't-need'], array_column($above->tracks, 'id'));
        $changed = self::edit(['kind' => 'plot-put', 'track' => true, 'plot' => ['id' => 't1', 'of' => ['rain']]])->apply($above);
        self::assertSame(['t0', 't1', 't-need'], array_column($changed->tracks, 'id'));
        self::assertSame(
            ['t-need', 't0', 't1'],
            array_column(
                self::edit([
                    'kind' => 'plot-put',
                    'track' => true,
                    'plot' => ['id' => 't-need', 'of' => ['need']],
                    'before' => 't0',
                ])->apply($above)->tracks,
                'id',
            ),
        );
    }

    public function test_what_another_program_wrote_is_read_as_far_as_it_goes(): void
    {
        $file = str_replace('"signal":"drawn"', '"signal":"doodle"', NativeFile::export(self::full()));
        $imported = NativeFile::import($file);
        self::assertSame(['wet'], array_keys($imported->model->scenarios));
        self::assertStringContainsString('signal', $imported->log[0]->sentence);
        self::assertNotSame([], $imported->model->findings);
        $rain = $imported->model->elements['rain'];
        self::assertInstanceOf(Parameter::class, $rain);
        self::assertSame(['dry', 'wet'], array_column($rain->choices, 'name'));
    }

    public function test_two_settings_differ_in_words(): void
    {
        $model = self::model();
        $was = Setting::read([
            'parameters' => ['rain' => 3],
            'grips' => ['tank' => ['signal' => 'step', 'values' => ['before' => 1, 'value' => 2, 'at' => 4], 'from' => 2]],
        ]);
        $now = Setting::read([
            'parameters' => ['rain' => 3, 'rate' => 0.25],
            'time' => ['end' => 20],
            'curves' => ['low' => 'high'],
            'seed' => 9,
        ]);
        $found = [];
        foreach (Changes::between($model, $was, $model, $now) as $change) {
            foreach ($change['fields'] as ['field' => $field, 'was' => $a, 'now' => $b]) {
                $found["{$change['name']} $field"] = [$a, $b];
            }
        }
        self::assertSame(
            [
                'Study and time end' => ['10', '20'],
                'rate value' => ['0.1', '0.25'],
                'low points' => ['0 → 1  10 → 2, straight, held', '0 → 5  10 → 6, straight, held'],
                'tank taken by hand' => ['step from 1 to 2 at 4, from 2', ''],
                'Chance seed' => ['1', '9'],
            ],
            $found,
        );
        self::assertSame([], Changes::between($model, $now, $model, $now));
        self::assertSame(['rain: 2 → 3', 'tank, taken by hand: step from 1 to 2 at 4, from 2'], Changes::words($model, $was));
        // A parameter set to what it is anyway is no change; a formula changed since is one.
        self::assertSame([], Changes::between($model, new Setting(), $model, new Setting(['rain' => 2.0])));
        $later = (new \MerryOrbit\Core\Edit\SetFormula('leaking', 'tank * rate * 2'))->apply($model);
        self::assertSame(['leaking'], array_column(Changes::between($model, new Setting(), $later, new Setting()), 'name'));
    }

    public function test_grips_are_told_in_words(): void
    {
        $model = self::model();
        $words = static fn (array $record): string => Changes::grip(Grip::read('tank', $record), $model);
        self::assertSame('constant 3, until 7', $words(['signal' => 'constant', 'values' => ['value' => 3], 'until' => 7]));
        self::assertSame(
            'pulses of 4 from 0, 1 wide, every 5 from 2',
            $words(['signal' => 'pulses', 'values' => ['before' => 0, 'value' => 4, 'at' => 2, 'width' => 1, 'every' => 5]]),
        );
        self::assertStringStartsWith('drawn by hand in 2 points', $words(['signal' => 'drawn', 'points' => [[0, 1], [1, 2]]]));
        self::assertNotSame(
            $words(['signal' => 'drawn', 'points' => [[0, 1], [1, 2]]]),
            $words(['signal' => 'drawn', 'points' => [[0, 1], [1, 3]]]),
        );
        self::assertSame('the series that is gone', $words(['signal' => 'series', 'series' => 'nothing']));
    }

    public function test_a_record_comes_back_as_it_was(): void
    {
        $record = [
            'parameters' => ['rain' => 1.5],
            'grips' => [
                'tank' => [
                    'signal' => 'window',
                    'values' => ['before' => 0.0, 'value' => 1.0, 'at' => 2.0, 'to' => 3.0],
                    'from' => 1.0,
                    'until' => 9.0,
                    'on' => false,
                ],
            ],
            'time' => ['end' => 20.0, 'method' => 'euler'],
            'curves' => ['low' => 'high'],
            'seed' => 3,
        ];
        self::assertSame($record, Setting::read($record)->toRecord());
        self::assertTrue(Setting::read([])->isEmpty());
        $this->expectException(NotUnderstood::class);
        Setting::read(['parameters' => array_fill(0, 3000, 1)]);
    }

    public function test_curves_are_the_models_own(): void
    {
        $low = Trial::of(self::model(), Setting::read(['curves' => ['low' => 'high']]))->model()->elements['low'];
        self::assertInstanceOf(Relation::class, $low);
        self::assertSame([[0.0, 5.0], [10.0, 6.0]], $low->points);
        self::assertSame('low', $low->name);
    }
}
