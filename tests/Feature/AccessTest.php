<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Http\Middleware\TokenScope;
use App\Models\User;
use Illuminate\Auth\Middleware\Authorize;
use Illuminate\Contracts\Debug\ExceptionHandler;
use Illuminate\Database\QueryException;
use Illuminate\Log\Events\MessageLogged;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\Log;
use Illuminate\Support\Facades\Route;
use Illuminate\Testing\TestResponse;
use PHPUnit\Framework\Attributes\DataProvider;

final class AccessTest extends TestCase
{
    private const OPEN = [
        'api/health',
        'api/metrics',
        '{path?}',
        // For who is not signed in yet.
        'POST api/session',
        'POST api/join/key',
        'POST api/join',
        'POST api/join/address',
        'POST api/forgotten',
        'PUT api/forgotten',
        // By a link.
        'api/shown',
        'POST api/shown/pass',
        'POST api/shown/study',
        'POST api/shown/copies',
        'POST api/copies/key',
        'POST api/copies/open',
        // By a short address, from a phone in a workshop.
        'api/room',
    ];

    public function test_every_route_but_the_page_and_the_health_check_has_a_policy(): void
    {
        $guarded = 0;
        foreach (Route::getRoutes()->getRoutes() as $route) {
            if (array_intersect([$route->uri(), $route->methods()[0].' '.$route->uri()], self::OPEN) !== []) {
                continue;
            }
            $middleware = $route->gatherMiddleware();
            self::assertContains('auth:sanctum,web', $middleware, $route->uri());
            self::assertContains(TokenScope::class, $middleware, $route->uri());
            self::assertNotSame(
                [],
                array_filter(
                    $middleware,
                    static fn (mixed $m): bool => is_string($m) && (str_starts_with($m, 'can:') || str_starts_with($m, Authorize::class)),
                ),
                $route->uri(),
            );
            $guarded++;
        }
        self::assertGreaterThan(15, $guarded);
    }

    public function test_an_address_with_a_zero_byte_is_no_fault(): void
    {
        $code =
            '$_SERVER["REQUEST_URI"] = "/%00"; $_SERVER["REQUEST_METHOD"] = "GET"; $_SERVER["HTTP_HOST"] = "localhost"; require "bin/router.php";';
        $answer = (string) shell_exec(escapeshellarg(PHP_BINARY).' -d display_errors=1 -r '.escapeshellarg($code).' 2>&1');
        self::assertStringStartsWith('<!doctype html>', $answer);
        self::assertStringNotContainsString('rror:', $answer);
        self::assertStringNotContainsString(base_path(), $answer);
    }

    public function test_the_api_description_lists_exactly_the_routes_and_every_answer(): void
    {
        $routes = [];
        foreach (Route::getRoutes()->getRoutes() as $route) {
            if (str_starts_with($route->uri(), 'api/')) {
                $routes[] = $route->methods()[0].' '.$route->uri();
            }
        }
        self::assertEqualsCanonicalizing($routes, Contract::read()->operations());
        self::assertSame([], Contract::read()->undescribed());
    }

    public function test_what_belongs_to_someone_else_is_neither_seen_nor_changed(): void
    {
        $study = $this->study($this->stranger());
        $values = [
            'study' => $study->id,
            'model' => $study->model->id,
            'element' => 'wells',
            'run' => '1',
            'revision' => '0',
            'token' => '0190b5a0-0000-7000-8000-000000000000',
            'kept' => 'x',
            'batch' => 'x',
            'ensemble' => 'x',
            'fit' => 'x',
            'other' => 'x',
            'content' => str_repeat('0', 64),
            'grant' => 'x',
            'comment' => 'x',
            'link' => 'x',
            'showcase' => 'x',
            'station' => 'old well',
        ];
        $turnedAway = 0;
        foreach (Route::getRoutes()->getRoutes() as $route) {
            if (! str_contains($route->uri(), '{study}') && ! str_contains($route->uri(), '{model}')) {
                continue;
            }
            $path = preg_replace_callback(
                '/\{(\w+)\}/',
                static fn (array $m): string => $values[$m[1]] ?? self::fail("Say here what {{$m[1]}} may be."),
                $route->uri(),
            );
            $said = $this->json($route->methods()[0], "/$path");
            self::assertSame([404, 'not-found'], [$said->status(), $said->json('code')], $route->methods()[0]." $path");
            $turnedAway++;
        }
        self::assertGreaterThan(40, $turnedAway);
        self::assertNotNull($study->fresh());
        self::assertSame([], $this->getJson('/api/studies')->assertOk()->json('data'));
    }

    public function test_only_a_browser_on_this_machine_is_signed_in_and_only_in_demo_mode(): void
    {
        $this->getJson('/api/studies')->assertOk();
        $this->flushSession();
        $this->app->make('auth')->forgetGuards();
        $this->withServerVariables(['REMOTE_ADDR' => '192.168.7.7'])
            ->getJson('/api/studies', ['X-Forwarded-For' => '127.0.0.1'])
            ->assertUnauthorized()
            ->assertJsonPath('code', 'signed-out');
        config(['merry-orbit.demo' => false]);
        $this->withServerVariables(['REMOTE_ADDR' => '127.0.0.1'])
            ->getJson('/api/studies')
            ->assertUnauthorized();
    }

    /** @return iterable<string, array{string, array<string, string>}> requests that reach this machine's own address from elsewhere */
    public static function fromElsewhere(): iterable
    {
        foreach (['X-Forwarded-For', 'X-Forwarded-Host', 'X-Forwarded-Proto', 'Forwarded', 'Via', 'X-Real-IP'] as $header) {
            yield $header => ['http://127.0.0.1', [$header => 'quillhaven.example']];
        }
        yield 'a page of another name' => ['http://127.0.0.1', ['Referer' => 'https://quillhaven.example/studies/1']];
        yield 'a host of another name' => ['http://quillhaven.example', []];
        yield 'a proxy that says nothing' => ['http://localhost', ['SERVER_PROTOCOL' => 'HTTP/1.0']];
    }

    /** @param  array<string, string>  $headers */
    #[DataProvider('fromElsewhere')]
    public function test_a_proxy_on_this_machine_lets_nobody_in(string $at, array $headers): void
    {
        config(['merry-orbit.hosts' => ['quillhaven.example']]);
        // Also with a session from here.
        $this->get('http://127.0.0.1/')->assertOk();
        $this->getJson('http://127.0.0.1/api/studies')->assertOk();
        $this->withServerVariables(array_intersect_key($headers, ['SERVER_PROTOCOL' => 1]));
        $this->app->make('auth')->forgetGuards();
        $this->getJson("$at/api/studies", array_diff_key($headers, ['SERVER_PROTOCOL' => 1]))
            ->assertUnauthorized()
            ->assertJsonPath('code', 'signed-out');
    }

    public function test_a_key_lets_in_one_browser_at_the_host_it_was_used_at(): void
    {
        $folder = sys_get_temp_dir().'/merry-orbit-keys-'.bin2hex(random_bytes(4));
        mkdir($folder);
        $key = bin2hex(random_bytes(16));
        touch("$folder/".hash('sha256', $key));
        config(['merry-orbit.hosts' => ['quillhaven.example', 'other.example'], 'merry-orbit.keys' => $folder]);
        $this->withServerVariables(['REMOTE_ADDR' => '192.168.7.7']);
        $at = function (string $host, array $headers = []): TestResponse {
            $this->app->make('auth')->forgetGuards();

            return $this->getJson("http://$host/api/studies", $headers);
        };
        $this->get('http://quillhaven.example/?key=wrong')->assertRedirect('/');
        $this->get('http://quillhaven.example/?key[]='.$key)->assertRedirect('/');
        $at('quillhaven.example')->assertUnauthorized();
        $this->get("http://quillhaven.example/?key=$key")->assertRedirect('/');
        $at('quillhaven.example')->assertOk();
        $at('other.example')->assertUnauthorized();
        $at('quillhaven.example', ['X-Forwarded-For' => '127.0.0.1'])->assertUnauthorized();
        // Another browser finds it used.
        $this->flushSession();
        $this->get("http://quillhaven.example/?key=$key")->assertRedirect('/');
        $at('quillhaven.example')->assertUnauthorized();
        rmdir($folder);
    }

    public function test_whoever_asks_for_too_much_waits_and_nobody_else_does(): void
    {
        config(['merry-orbit.per_minute.studies' => 2, 'merry-orbit.per_minute.edits' => 1]);
        $model = $this->study()->model;
        $this->postJson('/api/studies')->assertCreated();
        $this->postJson('/api/studies')->assertCreated();
        $over = $this->postJson('/api/studies')->assertStatus(429)->assertJsonPath('code', 'too-many');
        self::assertThat((int) $over->headers->get('Retry-After'), self::logicalAnd(self::greaterThan(0), self::lessThanOrEqual(60)));
        // Each kind by itself, and looking always.
        $this->edit($model, ['kind' => 'rename', 'id' => 'wells', 'name' => 'springs'])->assertOk();
        $this->edit($model, ['kind' => 'rename', 'id' => 'wells', 'name' => 'wells'])->assertStatus(429);
        $this->postJson("/api/models/$model->id/runs")->assertOk();
        $this->getJson('/api/studies')->assertOk();
        $this->actingAs($this->stranger())->postJson('/api/studies')->assertCreated();
        $this->travel(61)->seconds();
        $this->actingAs(User::demoAnalyst())->postJson('/api/studies')->assertCreated();
    }

    public function test_nobody_is_turned_away_because_nothing_can_be_counted(): void
    {
        config(['cache.default' => 'file', 'cache.stores.file.path' => '/proc/nowhere']);
        Cache::forgetDriver();
        $this->postJson('/api/studies')->assertCreated();
    }

    public function test_answers_are_kept_in_no_cache_and_give_nothing_away(): void
    {
        foreach (['/api/studies', '/', '/api/health'] as $path) {
            $answer = $this->get($path)->assertOk()->assertHeaderMissing('X-Powered-By');
            self::assertStringContainsString('no-store', (string) $answer->headers->get('Cache-Control'));
            self::assertSame((string) strlen((string) $answer->getContent()), $answer->headers->get('Content-Length'), $path);
        }
    }

    public function test_a_statement_that_fails_is_logged_without_what_people_wrote(): void
    {
        $said = [];
        Log::listen(static function (MessageLogged $e) use (&$said): void {
            $said[] = $e->message.json_encode($e->context);
        });
        $this->app
            ->make(ExceptionHandler::class)
            ->report(
                new QueryException(
                    'sqlite',
                    'insert into studies (name) values (?)',
                    ['a private name'],
                    new \PDOException('no such table'),
                ),
            );
        self::assertCount(1, $said);
        self::assertStringContainsString('no such table in insert', $said[0]);
        self::assertStringNotContainsString('private', $said[0]);
    }

    public function test_other_names_and_other_pages_are_turned_away(): void
    {
        $this->getJson('http://quillhaven.example/api/studies')->assertStatus(421)->assertJsonPath('code', 'host.unknown');
        config(['merry-orbit.hosts' => ['quillhaven.example']]);
        $this->getJson('http://quillhaven.example/api/studies')->assertUnauthorized();
        $this->postJson('http://localhost/api/studies', [], ['Origin' => 'http://evil.example'])
            ->assertForbidden()
            ->assertJsonPath('code', 'origin.foreign');
        $this->postJson('http://localhost/api/studies', [], ['Origin' => 'http://localhost:81'])->assertForbidden();
        $this->postJson('http://localhost/api/studies', [], ['Origin' => 'http://localhost'])->assertCreated();
    }

    public function test_the_page_brings_its_own_rules_for_the_browser(): void
    {
        $page = $this->get('/studies/anything/model')->assertOk();
        self::assertStringContainsString("script-src 'self'", (string) $page->headers->get('Content-Security-Policy'));
        $this->getJson('/api/nowhere')->assertNotFound()->assertHeader('Content-Type', 'application/problem+json');
        $this->getJson('/api/models/nothing')->assertNotFound();
    }

    public function test_trouble_inside_is_a_sentence_that_gives_nothing_away(): void
    {
        $model = $this->study()->model;
        $model->update(['document' => '{"secret": "broken"']);
        $answer = $this->getJson("/api/models/$model->id/elements/wells/equation")
            ->assertInternalServerError()
            ->assertHeader('Content-Type', 'application/problem+json')
            ->assertJsonPath('code', 'trouble');
        self::assertStringContainsString('Nothing of yours is lost', $answer->json('detail'));
        self::assertStringNotContainsString('secret', (string) $answer->getContent());
        self::assertArrayNotHasKey('exception', (array) $answer->json());
        $this->putJson('/api/studies')->assertStatus(405)->assertJsonPath('code', 'method');
    }

    public function test_health_tells_how_the_parts_are(): void
    {
        $this->getJson('/api/health')
            ->assertOk()
            ->assertJsonPath('database', true)
            ->assertJsonPath('jit.tracing', false)
            ->assertJsonStructure(['queue' => ['waiting', 'failed'], 'disks' => [['of', 'free_megabytes']]]);
    }

    public function test_a_monitor_reads_figures_in_the_text_format_of_prometheus(): void
    {
        $answer = $this->get('/api/metrics')->assertOk()->assertHeader('Content-Type', 'text/plain; version=0.0.4; charset=utf-8');
        $text = (string) $answer->getContent();
        self::assertStringEndsWith("\n", $text);
        $said = [];
        foreach (explode("\n", trim($text)) as $line) {
            // As the format is defined: a name, labels in quotes, a number; words about it before its first line.
            if (preg_match('/^# (HELP|TYPE) (merry_orbit_[a-z_]+) ./', $line, $found) === 1) {
                $said[$found[2]][] = $found[1];

                continue;
            }
            self::assertMatchesRegularExpression(
                '/^merry_orbit_[a-z_]+(\{[a-z]+="(?:[^"\\\\\n]|\\\\["\\\\n])*"(,[a-z]+="[^"]*")*\})? -?\d+(\.\d+)?(e[+-]?\d+)?$/',
                $line,
            );
            self::assertSame(['HELP', 'TYPE'], $said[(string) preg_replace('/[{ ].*/', '', $line)] ?? []);
        }
        self::assertStringContainsString("\nmerry_orbit_well 1\n", $text);
        self::assertStringContainsString("\nmerry_orbit_queue_jobs_waiting 0\n", $text);
        self::assertStringContainsString('merry_orbit_disk_free_bytes{of="', $text);
        // Nobody's name, study or address.
        self::assertStringNotContainsString('@', $text);
    }

    public function test_the_catalogue_holds_what_completion_needs(): void
    {
        $catalogue = $this->getJson('/api/catalogue')->assertOk();
        self::assertSame(['euler', 'heun', 'rk4', 'dopri5', 'rosenbrock'], array_column($catalogue->json('methods'), 'name'));
        self::assertContains('pulse(amount, at, [every], [until])', array_column($catalogue->json('functions'), 'signature'));
    }
}
