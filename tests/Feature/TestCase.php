<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Http\TypedRequest;
use App\Models\ModelDocument;
use App\Models\Study;
use App\Models\User;
use App\Studies\StudyMaker;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Testing\RefreshDatabase;
use Illuminate\Foundation\Testing\TestCase as Base;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\Queue;
use Illuminate\Support\Facades\Redis;
use Illuminate\Support\Facades\Storage;
use Illuminate\Support\Str;
use Illuminate\Testing\TestResponse;
use MerryOrbit\Core\Exchange\NativeFile;

abstract class TestCase extends Base
{
    use RefreshDatabase;

    /** Commands are looked at by what they print; the mocking package Laravel would use is not needed. */
    public $mockConsoleOutput = false;

    /** Whether what is sent is what the description knows; a test with a part of its own says no. */
    protected bool $describedRequests = true;

    protected function setUp(): void
    {
        parent::setUp();
        Storage::fake(config()->string('merry-orbit.results_disk'));
        if (self::queue() === 'redis') {
            config(['cache.default' => 'redis']);
            Redis::connection()->command('flushall');
        }
    }

    /** Where jobs wait in tests that have a queue: in the database, or in the Redis that bin/test starts. */
    protected static function queue(): string
    {
        return getenv('TEST_QUEUE') === 'redis' ? 'redis' : 'database';
    }

    /** What is kept for a while runs out as the time of a test goes on, which Redis knows nothing of. */
    protected static function ownTime(): void
    {
        config(['cache.default' => 'array']);
    }

    /** @return int jobs that wait or are being done */
    protected static function waiting(): int
    {
        return Queue::connection()->size('default') + Queue::connection()->size('long');
    }

    protected function work(): void
    {
        Artisan::call('queue:work', ['--stop-when-empty' => true, '--queue' => 'default,long']);
    }

    public function createApplication(): Application
    {
        /** @var Application $app */
        $app = require __DIR__.'/../../bootstrap/app.php';
        $app->make(Kernel::class)->bootstrap();

        return $app;
    }

    /**
     * Every answer of the API that a test gets, and every request that was taken, is held against its description.
     *
     * @param  array<string, mixed>  $parameters
     * @param  array<string, mixed>  $cookies
     * @param  array<string, mixed>  $files
     * @param  array<string, mixed>  $server
     * @return TestResponse<\Illuminate\Http\Response>
     */
    public function call($method, $uri, $parameters = [], $cookies = [], $files = [], $server = [], $content = null)
    {
        $answer = parent::call($method, $uri, $parameters, $cookies, $files, $server, $content);
        $route = $this->app['router']->getCurrentRoute()?->uri();
        $body = $answer->baseResponse->getContent();
        if (
            $this->describedRequests &&
            $route !== null &&
            str_starts_with($route, 'api/') &&
            $answer->isSuccessful() &&
            is_string($content) &&
            str_starts_with($content, '{')
        ) {
            Contract::read()->checkRequest($method, $route, $content);
        }
        if ($route !== null && str_starts_with($route, 'api/') && is_string($body) && $body !== '' && $answer->getStatusCode() !== 405) {
            Contract::read()->check(
                $method,
                $route,
                $answer->getStatusCode(),
                strtok((string) $answer->headers->get('Content-Type'), ';') ?: '',
                $body,
            );
        }

        return $answer;
    }

    /** As the page's requests are, but in a test. */
    protected function createTestRequest($symfonyRequest): TypedRequest
    {
        return TypedRequest::createFromBase($symfonyRequest);
    }

    protected function study(?User $user = null): Study
    {
        // Without its dates and data, which some tests give themselves.
        $model = NativeFile::import((string) file_get_contents(base_path('demo/fresh-water.json')))->model;

        return StudyMaker::make(
            $user ?? User::demoAnalyst(),
            $model->with(['time' => $model->time->with(['startDate' => null]), 'sources' => [], 'evidence' => []]),
        )->load('model');
    }

    protected function stranger(): User
    {
        return User::query()->create(['name' => 'A stranger', 'email' => 'stranger@quillhaven.example']);
    }

    /**
     * @param  array<string, mixed>  $edit
     * @return TestResponse<\Illuminate\Http\Response>
     */
    protected function edit(
        ModelDocument $model,
        array $edit,
        ?int $base = null,
        string $window = 'window-1',
        ?string $id = null,
    ): TestResponse {
        return $this->postJson("/api/models/$model->id/edits", [
            'base' => $base ?? $model->refresh()->revision,
            'window' => $window,
            'edits' => [['id' => $id ?? (string) Str::uuid(), 'edit' => $edit]],
        ]);
    }

    /** @return TestResponse<\Illuminate\Http\Response> */
    protected function step(ModelDocument $model, string $way): TestResponse
    {
        return $this->postJson("/api/models/$model->id/$way", [
            'base' => $model->refresh()->revision,
            'window' => 'window-1',
            'id' => (string) Str::uuid(),
        ]);
    }
}
