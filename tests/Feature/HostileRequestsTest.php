<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\ModelDocument;
use Illuminate\Contracts\Http\Kernel;
use Illuminate\Http\Request;
use PHPUnit\Framework\Attributes\DataProvider;

/** Requests that mean nothing get a sentence, whatever stands where something else is meant; none ends in an error of ours. */
final class HostileRequestsTest extends TestCase
{
    private const ODD = [[1], ['a' => 1], true, -1, 1.5, '', "a\u{0}b", '99999999999999999999', 1e300, [[[]]], null];

    /** @return iterable<string, array{string, array<string, mixed>}> a route, and the body of a sound request */
    public static function routes(): iterable
    {
        yield 'a run' => [
            'runs',
            ['run' => ['setting' => ['parameters' => ['rate' => 1]]], 'only' => ['tank'], 'points' => 100, 'at' => 1],
        ];
        yield 'a run of the logbook' => ['runs', ['run' => ['log' => 1]]];
        yield 'a run of many' => ['runs', ['run' => ['batch' => 1, 'position' => 0]]];
        yield 'a run held by hand' => [
            'runs',
            ['run' => ['setting' => ['grips' => ['tank' => ['signal' => 'step', 'values' => ['before' => 1, 'value' => 2, 'at' => 3]]]]]],
        ];
        yield 'a trail' => ['trail', ['run' => ['setting' => []], 'element' => 'tank', 'time' => 1]];
        yield 'effects' => ['effects', ['run' => [], 'at' => 1, 'look' => ['a' => 'b']]];
        yield 'loops' => ['loops', ['run' => ['setting' => []]]];
        yield 'a table' => ['table', ['runs' => [['setting' => []]], 'of' => ['tank'], 'times' => [1]]];
        yield 'a pasted ledger' => ['books/paste', ['text' => "a\tb\n1\t2", 'id' => 'n', 'sides' => ['owns']]];
        yield 'another holder' => ['books/rewire', ['claim' => 'a', 'holder' => 'b']];
        yield 'expectations' => [
            'expectations',
            ['expectations' => [['id' => 'x', 'of' => 'tank', 'shape' => 'never-below', 'value' => 1]]],
        ];
        yield 'many runs' => ['batches', ['runs' => [['name' => 'a', 'setting' => ['parameters' => ['rate' => 2]]]]]];
        yield 'a kept run' => ['kept', ['name' => 'a', 'run' => ['setting' => []]]];
        yield 'candidates' => ['candidates', ['of' => 'tank', 'with' => ['a'], 'at' => 1]];
        yield 'a nudge' => ['nudge', ['outcomes' => ['tank'], 'by' => 0.1]];
        yield 'a distribution' => ['distribution', ['parameter' => 'rate', 'kind' => 'normal', 'values' => [1, 2]]];
        yield 'an ensemble' => ['ensembles', ['runs' => 10, 'seed' => 1, 'inputs' => [['of' => 'rate']]]];
        yield 'a fit' => ['fits', ['plan' => 'a', 'policy' => 'b']];
        yield 'changes' => ['changes', ['run' => [], 'base' => [], 'element' => 'tank', 'time' => 1]];
        yield 'a formula' => ['formula', ['element' => 'tank', 'text' => 'rate + 1']];
        yield 'a preview' => ['preview', ['edit' => ['kind' => 'rename', 'id' => 'tank', 'name' => 'y']]];
        yield 'a copy' => ['copy', ['ids' => ['tank']]];
        yield 'a version brought back' => ['restore', ['base' => 0, 'window' => 'w', 'id' => 'x', 'revision' => 0, 'ids' => ['tank']]];
        yield 'an edit' => [
            'edits',
            ['base' => 0, 'window' => 'w', 'edits' => [['id' => 'x', 'edit' => ['kind' => 'rename', 'id' => 'tank', 'name' => 'y']]]],
        ];
    }

    /** @param  array<string, mixed>  $body */
    #[DataProvider('routes')]
    public function test_whatever_stands_in_a_field_is_answered_with_a_sentence(string $route, array $body): void
    {
        $this->describedRequests = false;
        $model = $this->tank();
        $failed = [];
        foreach (self::places($body) as $place) {
            foreach (self::ODD as $odd) {
                $sent = $body;
                data_set($sent, $place, $odd);
                $answer = $this->postJson("/api/models/$model->id/$route", $sent);
                $what = "$route, $place: ".json_encode($odd);
                if ($answer->status() >= 500) {
                    $failed[] = $what;
                }
                if ($answer->status() >= 400 && $answer->status() !== 404) {
                    self::assertNotSame('', (string) $answer->json('detail'), $what);
                }
            }
        }
        self::assertSame([], $failed);
    }

    /** @return list<string> */
    private static function places(mixed $body, string $at = ''): array
    {
        $places = [];
        foreach (is_array($body) ? $body : [] as $key => $value) {
            $here = $at === '' ? (string) $key : "$at.$key";
            $places = [...$places, $here, ...self::places($value, $here)];
        }

        return $places;
    }

    public function test_numbers_of_twenty_digits_in_addresses_are_of_nothing(): void
    {
        $model = $this->tank();
        $long = '99999999999999999999';
        foreach (["versions/$long", "comparison?from=$long&to=0", "history?before=$long", "fits/$long", "ensembles/$long"] as $path) {
            self::assertLessThan(500, $this->statusOf("models/$model->id/$path"), $path);
        }
        foreach (["models/$long", "studies/$long"] as $path) {
            self::assertLessThan(500, $this->statusOf($path), $path);
        }
        self::assertLessThan(500, $this->statusOf("models/$model->id/milestones/$long", 'PUT'));
    }

    public function test_a_table_of_many_long_runs_holds_one_at_a_time(): void
    {
        $model = $this->tank();
        $time = ['start' => 0, 'end' => 20_000, 'step' => 1, 'saveEvery' => 1, 'method' => 'euler'];
        $this->edit($model, ['kind' => 'time', 'unit' => 'day', ...$time])->assertOk();
        for ($i = 0; $i < 12; $i++) {
            $this->edit($model, [
                'kind' => 'add',
                'id' => "a$i",
                'element' => 'auxiliary',
                'name' => "a$i",
                'formula' => "tank * $i + time",
            ]);
        }
        $peak = function (int $count) use ($model): int {
            memory_reset_peak_usage();
            $before = memory_get_usage();
            $runs = array_map(static fn (int $i): array => ['setting' => ['parameters' => ['rate' => $i]]], range(1, $count));
            $this->postJson("/api/models/$model->id/table", ['runs' => $runs, 'of' => ['tank'], 'times' => [7.0]])->assertOk();

            return memory_get_peak_usage() - $before;
        };
        $peak(1);
        self::assertLessThan(1.5 * $peak(1), $peak(8));
        $this->postJson("/api/models/$model->id/table", [
            'runs' => array_fill(0, 60, []),
            'of' => array_fill(0, 100, 'tank'),
            'times' => range(1, 100),
        ])
            ->assertUnprocessable()
            ->assertJsonPath('detail', static fn (string $said): bool => str_contains($said, '600,000 cells'));
    }

    /** Of an address that may be none: what is not described cannot be held against its description. */
    private function statusOf(string $path, string $method = 'GET'): int
    {
        return $this->app->make(Kernel::class)->handle(Request::create("/api/$path", $method, ['name' => 'x']))->getStatusCode();
    }

    private function tank(): ModelDocument
    {
        $model = $this->study()->model;
        $this->edit($model, ['kind' => 'add', 'id' => 'rate', 'element' => 'parameter', 'name' => 'rate', 'formula' => '1']);
        $this->edit($model, ['kind' => 'add', 'id' => 'tank', 'element' => 'stock', 'name' => 'tank', 'formula' => '5']);

        return $model->refresh();
    }
}
