<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Ensemble;
use App\Models\EnsemblePart;
use App\Runs\Claim;
use App\Runs\Liveness;
use App\Runs\Results;
use App\Runs\RunProgress;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\Queue;
use Illuminate\Support\Facades\Redis;
use Illuminate\Support\Str;

/** Queue and cache on Redis, as workers on several machines need them; a server of one's own that keeps nothing. */
final class RedisTest extends TestCase
{
    use MakesManyRuns;
    use SharedDatabase {
        setUp as private shared;
        tearDown as private unshared;
    }

    private const PORT = 8789;

    private const RUNS = 2_000;

    /** @var resource|null */
    private $server = null;

    protected function setUp(): void
    {
        $this->shared();
        if (! extension_loaded('redis') || trim((string) shell_exec('command -v redis-server')) === '') {
            self::markTestSkipped('Needs redis-server and php8.2-redis.');
        }
        $command = ['redis-server', '--port', (string) self::PORT, '--bind', '127.0.0.1', '--save', '', '--appendonly', 'no'];
        $server = proc_open($command, [1 => ['file', '/dev/null', 'w'], 2 => ['file', '/dev/null', 'w']], $pipes);
        self::assertIsResource($server);
        $this->server = $server;
        for ($i = 0; $i < 200 && @fsockopen('127.0.0.1', self::PORT) === false; $i++) {
            usleep(25_000);
        }
        $url = 'redis://127.0.0.1:'.self::PORT;
        config([
            'database.redis.default.url' => $url,
            'database.redis.cache.url' => $url,
            'queue.default' => 'redis',
            'cache.default' => 'redis',
            'merry-orbit.run.workers' => true,
        ]);
        // Where all tests are on a Redis, it was another one.
        $this->app->forgetInstance('redis');
        Redis::clearResolvedInstance('redis');
    }

    protected function tearDown(): void
    {
        if ($this->server !== null) {
            proc_terminate($this->server, SIGKILL);
            proc_close($this->server);
        }
        $this->unshared();
    }

    /** @return array{resource, array<int, resource>} */
    private function worker(): array
    {
        return $this->process(
            'worker.php',
            [Results::disk()->path('')],
            [
                'QUEUE_CONNECTION' => 'redis',
                'CACHE_STORE' => 'redis',
                'REDIS_URL' => 'redis://127.0.0.1:'.self::PORT,
            ],
        );
    }

    public function test_workers_make_the_same_bits_though_one_is_killed_one_is_cut_off_and_two_join_late(): void
    {
        $model = $this->slow();
        config(['merry-orbit.run.workers' => false, 'queue.default' => 'sync']);
        $this->run0($model, ['runs' => self::RUNS]);
        $whole = $this->files();
        EnsemblePart::query()->delete();
        Ensemble::query()->delete();
        Results::disk()->deleteDirectory('ensembles');

        config(['merry-orbit.run.workers' => true, 'queue.default' => 'redis']);
        $state = $this->run0($model, ['runs' => self::RUNS]);
        self::assertFalse($state['finished']);
        self::assertSame(2, Liveness::state()['waiting'] + Queue::connection('redis')->reservedSize('long'));
        [$first] = $this->worker();
        for ($i = 0; $i < 1200 && ! ($this->made() > 0 && $this->begun()->exists()); $i++) {
            usleep(25_000);
        }
        proc_terminate($first, SIGKILL);
        proc_close($first);
        self::assertSame(1, (int) Queue::connection('redis')->reservedSize('long'), 'it was killed while it worked');
        // One is cut off while it works: what it has begun is begun anew by others, and comes to the same twice.
        [$cut] = $this->worker();
        $before = $this->made();
        for ($i = 0; $i < 1200 && ! ($this->made() > $before && $this->begun()->exists()); $i++) {
            usleep(25_000);
        }
        proc_terminate($cut, SIGSTOP);
        $this->begun()->decrement('claimed_at', Claim::STALE + 1);
        // Two others join; one of them finds the file of the dead one, and its job is taken up at once.
        $late = [$this->worker(), $this->worker()];
        foreach ($late as [$worker, $printed]) {
            self::assertSame('', trim((string) stream_get_contents($printed[1]).stream_get_contents($printed[2])));
            proc_close($worker);
        }
        self::assertTrue($this->told($model, $state['id'], '')['finished']);
        $others = $this->files();
        proc_terminate($cut, SIGCONT);
        for ($i = 0; $i < 1200 && proc_get_status($cut)['running']; $i++) {
            usleep(25_000);
        }
        self::assertSame(0, (int) Queue::connection('redis')->reservedSize('long'));
        self::assertSame([$whole, $whole], [$others, $this->files()]);
    }

    public function test_what_is_counted_and_known_is_shared_by_all(): void
    {
        Cache::put('seen by all', ['a word', 7], 60);
        self::assertSame(['a word', 7], Cache::get('seen by all'));
        self::assertNotSame([], Redis::connection('cache')->command('keys', ['*']));
        // What is a number comes back as a text: how far a run has come is told all the same, and that it is to stop.
        RunProgress::stop('token');
        self::assertTrue(RunProgress::tell('token', 0.25));
        self::assertFalse(RunProgress::tell('token', 0.25));
        self::assertSame(0.25, RunProgress::share('token'));
        $model = $this->tank();
        config(['merry-orbit.per_minute.runs' => 2]);
        foreach ([200, 200, 429] as $status) {
            $this->postJson("/api/models/$model->id/runs", [])->assertStatus($status);
        }
    }

    public function test_a_redis_that_is_away_is_said_and_asked_for_again(): void
    {
        $model = $this->tank();
        $this->getJson('/api/health')->assertOk();
        self::assertNotNull($this->server);
        proc_terminate($this->server, SIGKILL);
        proc_close($this->server);
        $this->server = null;
        Redis::purge('default');
        Redis::purge('cache');
        $health = $this->getJson('/api/health')->assertStatus(503)->assertJsonPath('database', true);
        self::assertSame(['The queue cannot be reached.'], $health->json('said'));
        $token = (string) Str::uuid();
        $this->getJson("/api/models/$model->id/progress/$token")
            ->assertStatus(503)
            ->assertHeader('Retry-After', '2')
            ->assertJsonPath('code', 'unavailable');
    }
}
