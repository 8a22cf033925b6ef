<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Http\TypedRequest;
use App\Models\ModelDocument;
use Illuminate\Contracts\Http\Kernel;
use PHPUnit\Framework\Attributes\DataProvider;
use Tests\Attack\Requests;

/** Requests that mean nothing get a sentence, whatever stands where something else is meant; none ends in an error of ours. */
final class HostileRequestsTest extends TestCase
{
    /** @return iterable<string, array{string, array<string, mixed>}> a route, and the body of a sound request */
    public static function routes(): iterable
    {
        yield from Requests::SOUND;
    }

    /** @param  array<string, mixed>  $body */
    #[DataProvider('routes')]
    public function test_whatever_stands_in_a_field_is_answered_with_a_sentence(string $route, array $body): void
    {
        $this->describedRequests = false;
        $model = $this->tank();
        $failed = [];
        foreach (self::places($body) as $place) {
            foreach (Requests::ODD as $odd) {
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

    public function test_a_number_that_nothing_holds_is_refused_wherever_it_stands(): void
    {
        $this->describedRequests = false;
        $model = $this->tank();
        foreach (Requests::SOUND as $name => [$route, $body]) {
            foreach (self::places($body) as $place) {
                $sent = $body;
                data_set($sent, $place, '@huge@');
                $text = str_replace('"@huge@"', '1e99900', (string) json_encode($sent));
                $server = ['CONTENT_TYPE' => 'application/json', 'HTTP_ACCEPT' => 'application/json'];
                $answer = $this->call('POST', "/api/models/$model->id/$route", server: $server, content: $text);
                self::assertSame(422, $answer->status(), "$name, $place");
                self::assertStringContainsString('is too large', (string) $answer->json('detail'), "$name, $place");
            }
        }
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

    public function test_requests_at_random_are_answered_with_a_sentence(): void
    {
        $this->describedRequests = false;
        $attack = new Requests($this->app, 'in bin/test');
        for ($i = 0; $i < 500; $i++) {
            [$request, $done] = $attack->next();
            self::assertNull($attack->harm($request), $done);
        }
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
        return $this->app->make(Kernel::class)->handle(TypedRequest::create("/api/$path", $method, ['name' => 'x']))->getStatusCode();
    }

    private function tank(): ModelDocument
    {
        $model = $this->study()->model;
        $this->edit($model, ['kind' => 'add', 'id' => 'rate', 'element' => 'parameter', 'name' => 'rate', 'formula' => '1']);
        $this->edit($model, ['kind' => 'add', 'id' => 'tank', 'element' => 'stock', 'name' => 'tank', 'formula' => '5']);

        return $model->refresh();
    }
}
