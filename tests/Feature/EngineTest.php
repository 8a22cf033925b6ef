<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\ModelDocument;
use App\Models\User;
use App\Studies\StudyMaker;
use MerryOrbit\Core\Exchange\ModelFile;

/** What the engine can do, through the API. */
final class EngineTest extends TestCase
{
    private function bay(): ModelDocument
    {
        $file = [
            'format' => 'merry-orbit model',
            'version' => 2,
            'name' => 'Bay',
            'time' => ['start' => 0, 'end' => 10, 'step' => 0.5, 'unit' => 'month'],
            'elements' => [
                ['kind' => 'stock', 'id' => 'oysters', 'name' => 'oysters', 'formula' => '100', 'unit' => 'oyster'],
                ['kind' => 'flow', 'id' => 'harvest', 'name' => 'harvest', 'formula' => 'oysters * lifespan', 'from' => 'oysters'],
                ['kind' => 'parameter', 'id' => 'lifespan', 'name' => 'lifespan', 'formula' => '40', 'unit' => 'months'],
            ],
        ];

        return StudyMaker::make(User::demoAnalyst(), ModelFile::import((string) json_encode($file))->model)->load('model')->model;
    }

    public function test_units_are_inferred_and_their_remarks_bring_a_mend(): void
    {
        $model = $this->bay();
        $view = $this->getJson("/api/models/$model->id")
            ->assertOk()
            ->json('model');
        self::assertSame(
            ['', 'oyster/month', null],
            [$view['elements']['harvest']['unit'], $view['elements']['harvest']['inferred'], $view['elements']['oysters']['inferred']],
        );
        $remark = $view['problems'][0];
        self::assertSame(
            ['unit.duration', 'harvest', 'remark', 'oysters / lifespan'],
            [$remark['code'], $remark['element'], $remark['severity'], $remark['mend']],
        );
        $news = $this->edit($model, ['kind' => 'formula', 'id' => 'harvest', 'text' => $remark['mend']])->assertOk();
        self::assertSame([], $news->json('changed.problems'));
        $news = $this->edit($model, ['kind' => 'same-units', 'lines' => ['oyster = mussel', ' ']])->assertOk();
        self::assertSame(['oyster = mussel'], $news->json('changed.sameUnits'));
        $this->edit($model, ['kind' => 'same-units', 'lines' => ['oyster']])
            ->assertUnprocessable()
            ->assertJsonPath('code', 'units.line');
    }

    public function test_rules_curves_and_ends_are_edited_and_taken_back(): void
    {
        $model = $this->bay();
        $before = $this->getJson("/api/models/$model->id")->json('model');
        $this->edit($model, ['kind' => 'stock', 'id' => 'oysters', 'neverNegative' => true, 'travel' => 'lifespan / 2'])
            ->assertOk()
            ->assertJsonPath('changed.elements.oysters.travel', 'lifespan / 2')
            ->assertJsonPath('changed.elements.harvest.arrives', true);
        $this->edit($model, ['kind' => 'flow', 'id' => 'harvest', 'oneWay' => true, 'priority' => 2])
            ->assertOk()
            ->assertJsonPath('changed.elements.harvest.oneWay', true);
        $this->edit($model, ['kind' => 'add', 'id' => 'bend', 'element' => 'curve', 'name' => 'bend'])
            ->assertOk()
            ->assertJsonPath('changed.problems.0.code', 'curve.missing');
        $this->edit($model, [
            'kind' => 'curve',
            'id' => 'bend',
            'points' => [[0, 1], [2, 0.9], [4, 0]],
            'between' => 'smooth',
            'beyond' => 'extended',
            'inputUnit' => '1',
        ])
            ->assertOk()
            ->assertJsonPath('changed.elements.bend.between', 'smooth')
            ->assertJsonCount(25, 'changed.elements.bend.path');
        $this->edit($model, ['kind' => 'curve', 'id' => 'bend', 'points' => [[4, 1], [0, 0]]])
            ->assertUnprocessable()
            ->assertJsonPath('code', 'curve.points');
        $this->edit($model, ['kind' => 'end', 'text' => 'oysters < 1'])
            ->assertOk()
            ->assertJsonPath('changed.endWhen', 'oysters < 1');
        $this->edit($model, ['kind' => 'rename', 'id' => 'oysters', 'name' => 'mussels'])
            ->assertOk()
            ->assertJsonPath('changed.endWhen', 'mussels < 1');
        for ($i = 0; $i < 6; $i++) {
            $this->step($model, 'undo')->assertOk();
        }
        self::assertSame($before, $this->getJson("/api/models/$model->id")->json('model'));
    }

    public function test_the_check_of_the_step_answers_in_words(): void
    {
        $model = $this->bay();
        $this->postJson("/api/models/$model->id/health")
            ->assertOk()
            ->assertJsonPath('verdict', 'poor')
            ->assertJsonPath('differences.0.element', 'oysters');
        $this->postJson("/api/models/$model->id/health", ['run' => ['setting' => ['parameters' => ['lifespan' => 0.001]]]])
            ->assertOk()
            ->assertJsonPath('verdict', 'fine');
        $this->postJson("/api/models/$model->id/health", ['run' => ['setting' => ['seed' => 'lucky']]])->assertUnprocessable();
        $this->edit($model, ['kind' => 'formula', 'id' => 'harvest', 'text' => '1 / (time - 5)'])->assertOk();
        $this->postJson("/api/models/$model->id/health")
            ->assertOk()
            ->assertJsonPath('verdict', 'fault')
            ->assertJsonPath('fault.element', 'harvest');
    }

    public function test_a_run_tells_its_method_notices_and_end_and_repeats_for_its_seed(): void
    {
        $model = $this->bay();
        $this->edit($model, ['kind' => 'formula', 'id' => 'harvest', 'text' => 'gaussian(30, 5)'])->assertOk();
        $this->edit($model, ['kind' => 'stock', 'id' => 'oysters', 'neverNegative' => true])->assertOk();
        $wish = static fn (int $seed): array => ['run' => ['setting' => ['seed' => $seed]]];
        $run = fn (int $seed): string => (string) $this->postJson("/api/models/$model->id/runs", $wish($seed))
            ->assertOk()
            ->getContent();
        $header = static fn (string $body): array => json_decode(
            substr($body, 4, unpack('V', $body)[1] ?? 0),
            true,
            flags: JSON_THROW_ON_ERROR,
        );
        $columns = static fn (string $body): string => substr($body, 4 + (unpack('V', $body)[1] ?? 0));
        self::assertSame($columns($run(3)), $columns($run(3)));
        self::assertNotSame($columns($run(3)), $columns($run(4)));
        $told = $header($run(3));
        self::assertSame(['Runge–Kutta 4', false, 'flow.limited'], [$told['method'], $told['ended'], $told['notices'][0]['code']]);
        $this->edit($model, ['kind' => 'end', 'text' => 'oysters < 50'])->assertOk();
        $ended = $header($run(3));
        self::assertTrue($ended['ended']);
        self::assertLessThan(21, $ended['length']);
        $this->edit($model, [
            'kind' => 'time',
            'start' => 0,
            'end' => 10,
            'step' => 0.5,
            'unit' => 'month',
            'method' => 'dopri5',
        ])->assertOk();
        $refused = $this->postJson("/api/models/$model->id/runs", [])
            ->assertUnprocessable()
            ->assertJsonPath('code', 'method.adaptive');
        self::assertStringContainsString('Choose Runge–Kutta 4', $refused->json('detail'));
    }

    public function test_the_import_log_stays_with_the_study_and_can_be_ticked_off(): void
    {
        $this->actingAs(User::demoAnalyst());
        $file =
            '<xmile version="1.0"><sim_specs><start>0</start><stop>2</stop><dt>0</dt></sim_specs><model><variables><aux name="a"><eqn>TIME</eqn></aux></variables><views><view><aux name="a" x="1" y="2"/><alias x="3" y="4"><of>a</of></alias></view></views></model></xmile>';
        $made = $this->call(
            'POST',
            '/api/studies/import',
            [],
            [],
            [],
            ['CONTENT_TYPE' => 'application/xml', 'HTTP_ACCEPT' => 'application/json'],
            $file,
        )->assertCreated();
        self::assertEqualsCanonicalizing(['numbers', 'drawing'], array_column($made->json('log'), 'grade'));
        $study = $made->json('data.id');
        self::assertSame(2, $made->json('data.toCheck'));
        $this->patchJson("/api/studies/$study/import-log", ['lines' => [0], 'done' => true])
            ->assertOk()
            ->assertJsonPath('log.0.done', true)
            ->assertJsonPath('log.1.done', false);
        self::assertSame(1, $this->getJson("/api/studies/$study")->json('data.toCheck'));
        self::assertStringContainsString(
            'larger than zero',
            implode(
                ' ',
                array_column(
                    $this->getJson("/api/studies/$study/import-log")
                        ->assertOk()
                        ->json('log'),
                    'sentence',
                ),
            ),
        );
        $this->patchJson("/api/studies/$study/import-log", ['lines' => 'all', 'done' => true])->assertUnprocessable();
        // A step of 0 is no step: the study opens and runs.
        $model = $made->json('data.model');
        $this->getJson("/api/models/$model")->assertOk();
        $this->postJson("/api/models/$model/runs")->assertOk();
        $this->actingAs($this->stranger())
            ->getJson("/api/studies/$study/import-log")
            ->assertNotFound();
    }

    public function test_where_a_run_has_been_on_a_curve_follows_the_run_that_is_shown(): void
    {
        $model = $this->bay();
        $this->edit($model, ['kind' => 'add', 'id' => 'bend', 'element' => 'curve', 'name' => 'bend'])->assertOk();
        $this->edit($model, ['kind' => 'curve', 'id' => 'bend', 'points' => [[0, 1], [400, 0]]])->assertOk();
        $this->edit($model, [
            'kind' => 'add',
            'id' => 'seen',
            'element' => 'auxiliary',
            'name' => 'seen',
            'formula' => 'bend(lifespan)',
        ])->assertOk();
        $inputs = fn (array $body): array => $this->postJson("/api/models/$model->id/elements/bend/visits", $body)
            ->assertOk()
            ->json('visits.0.inputs');
        self::assertEquals([40.0], array_values(array_unique($inputs([]))));
        self::assertEquals([300.0], array_values(array_unique($inputs(['run' => ['setting' => ['parameters' => ['lifespan' => 300]]]]))));
    }

    public function test_what_extends_over_dimensions_tells_its_elements_and_their_columns(): void
    {
        $file = [
            'format' => 'merry-orbit model',
            'version' => 2,
            'time' => ['start' => 0, 'end' => 4, 'step' => 1, 'unit' => 'day'],
            'dimensions' => [['name' => 'pool', 'elements' => ['children', 'hot']], ['name' => 'berth', 'from' => 1, 'to' => 30]],
            'elements' => [
                ['kind' => 'parameter', 'id' => 'volume', 'name' => 'volume', 'formula' => '40', 'dimensions' => ['pool']],
                ['kind' => 'parameter', 'id' => 'width', 'name' => 'width', 'formula' => '2', 'dimensions' => ['berth']],
                ['kind' => 'auxiliary', 'id' => 'need', 'name' => 'need', 'formula' => 'volume * time'],
                ['kind' => 'auxiliary', 'id' => 'room', 'name' => 'room', 'formula' => 'width * time'],
                ['kind' => 'auxiliary', 'id' => 'all-need', 'name' => 'all need', 'formula' => 'sum(need)'],
                ['kind' => 'auxiliary', 'id' => 'double', 'name' => 'double', 'formula' => '2 * need'],
            ],
        ];
        $model = StudyMaker::make(User::demoAnalyst(), ModelFile::import((string) json_encode($file))->model)->load('model')->model;
        $view = $this->getJson("/api/models/$model->id")
            ->assertOk()
            ->json('model');
        self::assertSame(
            [
                'over' => ['pool'],
                'dimensions' => ['pool'],
                'size' => 2,
                'parts' => [['key' => 'need[children]', 'name' => 'children'], ['key' => 'need[hot]', 'name' => 'hot']],
            ],
            $view['elements']['need']['along'],
        );
        self::assertArrayNotHasKey('along', $view['elements']['all-need']);
        self::assertSame([30, 12], [$view['elements']['room']['along']['size'], count($view['elements']['room']['along']['parts'])]);
        $columns = fn (array $only): array => $this->header($model, ['only' => $only])['columns'];
        self::assertSame(['need[children]', 'need[hot]', 'all-need'], $columns(['need', 'all-need']));
        self::assertSame(['need[hot]'], $columns(['need[hot]']));
        self::assertCount(12, $columns(['room']), 'never all columns because one is shown');
        self::assertSame(['room[29]'], $columns(['room[29]']));

        // Elements and gatherings by name, with a reason for what cannot be told.
        $asked = ['need[*sum]', 'need[hot]', 'width[*mean]', 'need[*median]'];
        $header = $this->header($model, ['only' => ['all-need'], 'along' => $asked]);
        self::assertEqualsCanonicalizing(['all-need', 'need[*sum]', 'need[hot]'], $header['columns']);
        self::assertEquals(2.0, $header['steady']['width[*mean]']);
        self::assertSame(['need[*median]'], array_keys($header['untold']));
        self::assertCount(12, (array) preg_grep('/^width\[\d/', array_keys($header['steady'])));
        $wish = ['runs' => [['setting' => ['seed' => 1]]], 'of' => ['need[*sum]', 'all-need', 'need[gone]'], 'times' => [0, 3]];
        $table = $this->postJson("/api/models/$model->id/table", $wish)->assertOk();
        self::assertSame($table->json('rows.1.cells'), $table->json('rows.0.cells'));
        self::assertStringContainsString('has nothing for', $table->json('untold')['need[gone]']);
        self::assertSame([null, null], $table->json('rows.2.cells.0'));
        $limited = ['setting' => ['limits' => ['pool' => ['hot']]]];
        $run = $this->header($model, ['run' => $limited, 'along' => ['need[*sum]', 'need[children]']]);
        self::assertContains('need[*sum]', $run['columns']);
        self::assertStringContainsString('as it is limited', $run['untold']['need[children]']);

        // Why one element changes; of all at once nothing can be said.
        $asked = ['run' => ['setting' => ['seed' => 1]], 'time' => 2];
        $trail = $this->postJson("/api/models/$model->id/trail", [...$asked, 'element' => 'double[hot]'])->assertOk();
        self::assertContains('need[hot]', array_column($trail->json('causes'), 'cause'));
        $this->postJson("/api/models/$model->id/trail", [...$asked, 'element' => 'double'])
            ->assertStatus(422)
            ->assertJsonPath('detail', '`double` extends over pool: say of which element, by choosing one of each.');

        // What follows from a formula extends over less as soon as that does.
        $changed = $this->edit($model, ['kind' => 'formula', 'id' => 'need', 'text' => 'sum(volume) * time'])
            ->assertOk()
            ->json('changed');
        self::assertArrayNotHasKey('along', $changed['elements']['need']);
        self::assertArrayNotHasKey('along', $changed['elements']['double']);
    }

    /**
     * @param  array<string, mixed>  $wish
     * @return array<string, mixed>
     */
    private function header(ModelDocument $model, array $wish): array
    {
        $message = (string) $this->postJson("/api/models/$model->id/runs", $wish)
            ->assertOk()
            ->getContent();
        /** @var array{1: int} $size */
        $size = unpack('V', $message);

        return (array) json_decode(substr($message, 4, $size[1]), true, flags: JSON_THROW_ON_ERROR);
    }
}
