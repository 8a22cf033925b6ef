<?php

declare(strict_types=1);

namespace Tests\Attack;

use App\Http\TypedRequest;
use App\Models\Study;
use App\Models\User;
use App\Studies\StudyMaker;
use Illuminate\Contracts\Console\Kernel as ConsoleKernel;
use Illuminate\Contracts\Http\Kernel;
use Illuminate\Foundation\Application;
use Illuminate\Http\Request;
use Illuminate\Routing\Route;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use MerryOrbit\Core\Exchange\NativeFile;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/**
 * Requests with something wrong in them, at random from a seed, to every route: each is answered within seconds, and one that is refused
 * gets a sentence. On data of their own, in memory.
 */
final class Requests
{
    public const ODD = [[1], ['a' => 1], true, -1, 1.5, '', "a\u{0}b", '99999999999999999999', 1e300, [[[]]], null];

    /** @var array<string, array{string, array<string, mixed>}> routes behind a model, and the body of a sound request */
    public const SOUND = [
        'a run' => ['runs', ['run' => ['setting' => ['parameters' => ['rate' => 1]]], 'only' => ['tank'], 'points' => 100, 'at' => 1]],
        'a run of the logbook' => ['runs', ['run' => ['log' => 1]]],
        'a run of many' => ['runs', ['run' => ['batch' => 1, 'position' => 0]]],
        'a run held by hand' => [
            'runs',
            ['run' => ['setting' => ['grips' => ['tank' => ['signal' => 'step', 'values' => ['before' => 1, 'value' => 2, 'at' => 3]]]]]],
        ],
        'a trail' => ['trail', ['run' => ['setting' => []], 'element' => 'tank', 'time' => 1]],
        'effects' => ['effects', ['run' => [], 'at' => 1, 'look' => ['a' => 'b']]],
        'loops' => ['loops', ['run' => ['setting' => []]]],
        'a table' => ['table', ['runs' => [['setting' => []]], 'of' => ['tank'], 'times' => [1]]],
        'a pasted ledger' => ['books/paste', ['text' => "a\tb\n1\t2", 'id' => 'n', 'sides' => ['owns']]],
        'another holder' => ['books/rewire', ['claim' => 'a', 'holder' => 'b']],
        'expectations' => ['expectations', ['expectations' => [['id' => 'x', 'of' => 'tank', 'shape' => 'never-below', 'value' => 1]]]],
        'many runs' => ['batches', ['runs' => [['name' => 'a', 'setting' => ['parameters' => ['rate' => 2]]]]]],
        'a kept run' => ['kept', ['name' => 'a', 'run' => ['setting' => []]]],
        'candidates' => ['candidates', ['of' => 'tank', 'with' => ['a'], 'at' => 1]],
        'a nudge' => ['nudge', ['outcomes' => ['tank'], 'by' => 0.1]],
        'a distribution' => ['distribution', ['parameter' => 'rate', 'kind' => 'normal', 'values' => [1, 2]]],
        'an ensemble' => ['ensembles', ['runs' => 10, 'seed' => 1, 'inputs' => [['of' => 'rate']]]],
        'a fit' => ['fits', ['plan' => 'a', 'policy' => 'b']],
        'changes' => ['changes', ['run' => [], 'base' => [], 'element' => 'tank', 'time' => 1]],
        'a formula' => ['formula', ['element' => 'tank', 'text' => 'rate + 1']],
        'a preview' => ['preview', ['edit' => ['kind' => 'rename', 'id' => 'tank', 'name' => 'y']]],
        'a copy' => ['copy', ['ids' => ['tank']]],
        'a version brought back' => ['restore', ['base' => 0, 'window' => 'w', 'id' => 'x', 'revision' => 0, 'ids' => ['tank']]],
        'an edit' => [
            'edits',
            ['base' => 0, 'window' => 'w', 'edits' => [['id' => 'x', 'edit' => ['kind' => 'rename', 'id' => 'tank', 'name' => 'y']]]],
        ],
    ];

    private const PLACES = ['', 'x', '0', '-1', '1', '99999999999999999999', '%00', '..', '%2e%2e%2f', 'tank', "a'b", 'ä', '%ff', 'null'];

    private Randomizer $random;

    private Study $study;

    private int $made = 0;

    /** @var list<Route> */
    private array $routes = [];

    public function __construct(private readonly Application $app, private readonly string $seed)
    {
        $this->random = new Randomizer(new Xoshiro256StarStar(hash('sha256', "requests $seed", true)));
        foreach ($app->make('router')->getRoutes()->getRoutes() as $route) {
            if (str_starts_with($route->uri(), 'api/')) {
                $this->routes[] = $route;
            }
        }
    }

    public static function start(string $seed): self
    {
        foreach (
            [
                'APP_ENV' => 'testing',
                'APP_KEY' => 'base64:AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA=',
                'DB_DATABASE' => ':memory:',
                'SESSION_DRIVER' => 'array',
                'CACHE_STORE' => 'array',
                'QUEUE_CONNECTION' => 'sync',
                'MERRY_ORBIT_WORKERS' => 'false',
                'MERRY_ORBIT_DEMO' => 'true',
            ] as $name => $value
        ) {
            $_ENV[$name] = $_SERVER[$name] = $value;
        }
        /** @var Application $app */
        $app = require dirname(__DIR__, 2).'/bootstrap/app.php';
        $app->make(ConsoleKernel::class)->bootstrap();
        Artisan::call('migrate', ['--force' => true]);
        Storage::fake('local');
        config(['merry-orbit.per_minute' => array_map(static fn (): int => PHP_INT_MAX, config()->array('merry-orbit.per_minute'))]);

        return new self($app, $seed);
    }

    /** @return array{Request, string} a request, and what it is */
    public function next(): array
    {
        // A model that others have worked on for too long is no model any more.
        if ($this->made++ % 200 === 0) {
            DB::table('studies')->delete();
            Cache::flush();
            $model = NativeFile::import((string) file_get_contents(dirname(__DIR__, 2).'/demo/fresh-water.json'))->model;
            $this->study = StudyMaker::make(User::demoAnalyst(), $model)->load('model');
        }
        if ($this->random->getInt(0, 1) === 0) {
            $name = $this->random->pickArrayKeys(self::SOUND, 1)[0];
            [$path, $body] = self::SOUND[$name];
            for ($i = $this->random->getInt(0, 2); $i > 0; $i--) {
                $this->mutate($body);
            }

            return $this->request('POST', "api/models/{$this->study->model->id}/$path", $body);
        }
        $route = $this->routes[$this->random->getInt(0, count($this->routes) - 1)];
        $known = [
            'study' => $this->study->id,
            'model' => $this->study->model->id,
            'content' => str_repeat('0', 64),
            'element' => 'wells',
        ];
        $path = (string) preg_replace_callback(
            '/\{(\w+)\}/',
            fn (array $m): string => $this->random->getInt(0, 3) > 0 && isset($known[$m[1]]) ? $known[$m[1]] : $this->of(self::PLACES),
            $route->uri(),
        );
        $body = self::SOUND[$this->random->pickArrayKeys(self::SOUND, 1)[0]][1];
        $this->mutate($body);

        return $this->request($route->methods()[0], $path, $body);
    }

    /**
     * @param  array<string, mixed>  $body
     * @return array{Request, string}
     */
    private function request(string $method, string $path, array $body): array
    {
        $json = (string) json_encode($body, JSON_PARTIAL_OUTPUT_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE);
        if ($this->random->getInt(0, 19) === 0) {
            $json = substr_replace(
                $json,
                $this->of(['{', '}', "\xff", '1e999', '"', ']', '']),
                $this->random->getInt(0, strlen($json)),
                1,
            );
        }
        $query = $method === 'GET' ? $body : [];
        $type = $this->random->getInt(0, 30) === 0 ? 'text/plain' : 'application/json';
        $server = ['CONTENT_TYPE' => $type, 'HTTP_ACCEPT' => 'application/json', 'HTTP_HOST' => 'localhost'];

        return [
            TypedRequest::create("/$path", $method, $query, [], [], $server, $json),
            "$this->seed: $method $path ".substr($json, 0, 600),
        ];
    }

    /** @param  array<array-key, mixed>  $at */
    private function mutate(array &$at): void
    {
        if ($at === []) {
            return;
        }
        $key = $this->random->pickArrayKeys($at, 1)[0];
        if (is_array($at[$key]) && $this->random->getInt(0, 4) > 0) {
            $this->mutate($at[$key]);
        } elseif ($this->random->getInt(0, 5) === 0) {
            unset($at[$key]);
        } else {
            $at[$key] = self::ODD[$this->random->getInt(0, count(self::ODD) - 1)];
        }
    }

    /**
     * @param  list<string>  $list
     */
    private function of(array $list): string
    {
        return $list[$this->random->getInt(0, count($list) - 1)];
    }

    /** What is wrong with an answer; null where all is well. */
    public function harm(Request $request): ?string
    {
        $this->app->forgetScopedInstances();
        $this->app->make('auth')->forgetGuards();
        $kernel = $this->app->make(Kernel::class);
        $answer = $kernel->handle($request);
        $kernel->terminate($request, $answer);
        // What one asked for is no limit of all others.
        set_time_limit(0);
        $status = $answer->getStatusCode();
        $said = json_decode((string) $answer->getContent(), true);
        // Health says in sentences what is wrong with the machine: that is its answer.
        if ($request->is('api/health') && $status === 503) {
            return is_array($said) && ($said['said'] ?? []) !== [] ? null : 'Health is not well and says nothing.';
        }
        if ($status >= 500) {
            return "It was answered with $status.";
        }
        if ($status >= 400 && (! is_array($said) || ! is_string($said['detail'] ?? null) || strlen($said['detail']) < 12)) {
            return "It was refused with $status and without a sentence.";
        }

        return null;
    }
}
