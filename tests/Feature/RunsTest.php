<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\RunRow;
use App\Runs\ColumnsMessage;
use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\Simulator;

final class RunsTest extends TestCase
{
    /** @return array{array<string, mixed>, list<list<float>>} header and columns, the first being the time */
    private static function read(string $message): array
    {
        /** @var array{1: int} $size */
        $size = unpack('V', $message);
        self::assertSame(0, ($size[1] + 4) % 8, 'the columns start at a multiple of eight bytes');
        /** @var array{length: int<1, max>, columns: list<string>} $header */
        $header = json_decode(substr($message, 4, $size[1]), true, flags: JSON_THROW_ON_ERROR);
        $columns = [];
        foreach (str_split(substr($message, 4 + $size[1]), 8 * $header['length']) as $bytes) {
            $columns[] = array_values(unpack('e*', $bytes) ?: []);
        }

        return [$header, $columns];
    }

    public function test_a_run_is_answered_with_the_columns_of_the_engine(): void
    {
        $model = $this->study()->model;
        $response = $this->postJson("/api/models/$model->id/runs", ['run' => ['setting' => ['parameters' => ['islanders' => 6000]]]])
            ->assertOk()
            ->assertHeader('Content-Type', ColumnsMessage::TYPE);
        [$header, $columns] = self::read((string) $response->getContent());
        $run = (new Simulator(new ProgramStore(sys_get_temp_dir().'/merry-orbit-tests-'.getmyuid())))->run(
            Analyser::analyse($model->core()),
            new RunOptions(['islanders' => 6000.0]),
        );
        self::assertSame(521, $header['length']);
        self::assertSame($run->times(), $columns[0]);
        foreach ($header['columns'] as $i => $id) {
            self::assertSame($run->column($id), $columns[$i + 1], $id);
        }
        self::assertEqualsWithDelta(6000, $header['steady']['islanders'], 0);
        self::assertNull($header['fault']);
        self::assertSame(0, RunRow::query()->count(), 'a dial on its way is not remembered');
    }

    public function test_a_fault_and_what_waits_are_told(): void
    {
        $model = $this->study()->model;
        $this->edit($model, ['kind' => 'formula', 'id' => 'rainfall', 'text' => '1 / (100 - time)'])->assertOk();
        $this->edit($model, ['kind' => 'formula', 'id' => 'salt-in-the-wells', 'text' => 'nothing here'])->assertOk();
        [$header] = self::read(
            (string) $this->postJson("/api/models/$model->id/runs", [])
                ->assertOk()
                ->getContent(),
        );
        self::assertSame(100, $header['length']);
        self::assertStringContainsString('`rainfall` meets a division by zero', $header['fault']['sentence']);
        self::assertNotContains('salt-in-the-wells', $header['columns']);
    }

    public function test_runs_are_remembered_as_settings_and_revision_up_to_a_number(): void
    {
        config(['merry-orbit.quota.kept_runs' => 3]);
        $model = $this->study()->model;
        for ($i = 0; $i < 5; $i++) {
            $this->postJson("/api/models/$model->id/runs", ['remember' => true])->assertOk();
            $this->postJson("/api/models/$model->id/runs", ['remember' => true])->assertOk();
            $this->edit($model, ['kind' => 'formula', 'id' => 'saving', 'text' => "$i%"])->assertOk();
        }
        self::assertSame(
            [4, 3, 2],
            array_column(
                $this->getJson("/api/models/$model->id/runs")
                    ->assertOk()
                    ->json('runs'),
                'revision',
            ),
        );
    }

    public function test_a_run_beyond_the_limits_is_refused_with_a_sentence(): void
    {
        $model = $this->study()->model;
        config(['merry-orbit.run.most_evaluations' => 1000.0]);
        $answer = $this->postJson("/api/models/$model->id/runs", [])
            ->assertUnprocessable()
            ->assertJsonPath('code', 'run.limit');
        self::assertStringContainsString('longer step', $answer->json('detail'));
        $this->postJson("/api/models/$model->id/runs", [
            'run' => ['setting' => ['parameters' => ['islanders' => 'many']]],
        ])->assertUnprocessable();
        $this->postJson("/api/models/$model->id/runs", [
            'run' => ['setting' => ['parameters' => ['islanders' => 1e999]]],
        ])->assertUnprocessable();
        foreach (['kept', 'batch', 'log'] as $field) {
            $odd = $this->postJson("/api/models/$model->id/runs", ['run' => [$field => ['a', 'b']]])->assertUnprocessable();
            self::assertStringContainsString("`$field` of a run is the id of one", $odd->json('detail'));
        }
    }

    public function test_formulas_are_checked_while_they_are_typed(): void
    {
        $model = $this->study()->model;
        $check = fn (string $text) => $this->postJson("/api/models/$model->id/formula", ['element' => 'wells', 'text' => $text]);
        $check('water wanted * 2')
            ->assertOk()
            ->assertExactJson(['problems' => []]);
        $check('')
            ->assertOk()
            ->assertExactJson(['problems' => []]);
        $check('water wanted * (2')->assertOk()->assertJsonPath('problems.0.from', 15);
        foreach (["system('id')", '`id`', '${x}', str_repeat('(', 10_000)] as $hostile) {
            self::assertNotSame('', $check($hostile)->assertOk()->json('problems.0.sentence'));
        }
        $check(str_repeat('x', 20_001))->assertUnprocessable();
        $this->postJson("/api/models/$model->id/formula", ['element' => 'gone', 'text' => '1'])
            ->assertUnprocessable()
            ->assertJsonPath('code', 'element.gone');
    }

    public function test_hostile_formulas_are_stored_as_drafts_and_never_run(): void
    {
        $model = $this->study()->model;
        foreach (
            ["system('touch /tmp/owned')", '`touch /tmp/owned`', '${phpinfo()}', '"; phpinfo(); //', str_repeat('(', 10_000)] as $text
        ) {
            $this->edit($model, ['kind' => 'formula', 'id' => 'rainfall', 'text' => $text])
                ->assertOk()
                ->assertJsonPath('changed.elements.rainfall.formula', $text);
            [$header] = self::read(
                (string) $this->postJson("/api/models/$model->id/runs", [])
                    ->assertOk()
                    ->getContent(),
            );
            self::assertNotContains('rainfall', $header['columns']);
        }
        self::assertFileDoesNotExist('/tmp/owned');
    }
}
