<?php

declare(strict_types=1);

namespace App\Runs;

use App\Models\ModelDocument;
use App\Models\User;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Validator;
use Illuminate\Support\Str;
use Illuminate\Validation\ValidationException;
use MerryOrbit\Core\Data\Fits;
use MerryOrbit\Core\Exchange\CsvTable;
use MerryOrbit\Core\Experiment\Alignment;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Plan\Positions;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\Gathered;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Simulate\Trajectory;
use MerryOrbit\Core\Simulate\Values;

/** What a page wants to know of a run: which one, perhaps as its difference from another, which columns and how finely. */
final readonly class RunRequest
{
    private const RULES = [
        'run' => ['sometimes', 'array'],
        'against' => ['sometimes', 'array'],
        'measure' => ['sometimes', 'in:difference,difference-percent'],
        'remember' => ['sometimes', 'boolean'],
        'only' => ['sometimes', 'list'],
        'only.*' => ['string'],
        'along' => ['sometimes', 'list', 'max:4000'],
        'along.*' => ['string', 'max:400'],
        'points' => ['sometimes', 'integer', 'min:2', 'max:100000'],
        'token' => ['sometimes', 'uuid'],
        'from' => ['sometimes', 'numeric'],
        'until' => ['sometimes', 'numeric'],
        'at' => ['sometimes', 'numeric'],
    ];

    private const TIMES = '`from`, `until` and `at` are times, as numbers.';

    private const SENTENCES = [
        'run.*' => '`run` is an object that says which run is meant.',
        'against.*' => '`against` is an object that says which run is the base.',
        'measure.*' => '`measure` is difference or difference-percent.',
        'remember.*' => '`remember` is true or false.',
        'only' => '`only` is a list of ids: the columns to send.',
        'only.*' => '`only` is a list of ids: the columns to send.',
        'along.*' => '`along` is a list of up to 4,000 keys: elements of things, or gatherings over them, such as `oysters[*sum,seed]`.',
        'along' => '`along` is a list of up to 4,000 keys: elements of things, or gatherings over them, such as `oysters[*sum,seed]`.',
        'points.*' => '`points` is a whole number from 2 to 100,000: at most so many moments of each column.',
        'token.*' => '`token` is a UUID under which the run can be followed and stopped.',
        'from.*' => self::TIMES,
        'until.*' => self::TIMES,
        'at.*' => self::TIMES,
    ];

    /** @param  array{run?: array<mixed>, against?: array<mixed>, measure?: string, remember?: bool, only?: list<string>, along?: list<string>, points?: int, token?: string, from?: float, until?: float, at?: float}  $given */
    private function __construct(private array $given)
    {
    }

    /**
     * @param  array<mixed>  $given  as the page sent it
     *
     * @throws ValidationException
     */
    public static function read(array $given): self
    {
        /** @var array{run?: array<mixed>, against?: array<mixed>, measure?: string, remember?: bool, only?: list<string>, along?: list<string>, points?: int, token?: string, from?: float, until?: float, at?: float} $valid */
        $valid = Validator::make($given, self::RULES, self::SENTENCES)->validate();

        return new self($valid);
    }

    /**
     * Makes the run, or looks it up, and answers with columns; or says with 202 which batch it will be found in, when it takes long.
     *
     * @param  array{edit?: mixed}  $beside  told in the header with them
     *
     * @throws RunRefused|NotUnderstood
     */
    public function answer(ModelDocument $model, User $user, Simulator $simulator, array $beside = []): Response|JsonResponse
    {
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $begun = hrtime(true);
        $source = RunSource::of($model, $this->given['run'] ?? []);
        $run = $this->run($source, $simulator);
        if (($this->given['remember'] ?? false) && $source->revision === $model->revision) {
            RunLog::remember($model, $user, $source->setting, isset($this->given['run']['scenario']) ? $source->name : '');
        }
        if ($run === null) {
            // Who sent an edit along asks for the run by itself.
            return $beside === [] ? $this->handedOver($model, $user, $source, 'run') : new JsonResponse($beside['edit']);
        }
        $untold = [];
        $along = $this->given['along'] ?? [];
        if ($along !== []) {
            [$run, $untold] = Gathered::added($run, $source->trial()->analysis, $along);
        }
        if (isset($this->given['against'])) {
            $base = RunSource::of($model, $this->given['against']);
            $other = $this->run($base, $simulator);
            if ($other === null) {
                return $this->handedOver($model, $user, $base, 'against');
            }
            if ($along !== []) {
                $other = Gathered::added($other, $base->trial()->analysis, $along)[0];
            }
            $run = $this->difference($run, $other);
        }
        if (! isset($this->given['against']) && $model->core()->part('evidence') !== []) {
            $beside['fits'] = (object) Fits::of($simulator, $source->trial(), $run, $model->core());
        }
        JitBuffer::askForMoreWhenLow();
        $message = new ColumnsMessage(
            $this->given['only'] ?? null,
            $along,
            $untold,
            $this->given['points'] ?? null,
            $this->time('from'),
            $this->time('until'),
            $this->time('at'),
        );

        return $message->of($run, $source->timeUnit(), $source->revision, (hrtime(true) - $begun) / 1e6, $beside);
    }

    /**
     * The same as a table (CSV), with names as they are written; `only` may hold names. It waits for the run as long as a request may.
     *
     * @throws RunRefused|NotUnderstood
     */
    public function table(ModelDocument $model, User $user, Simulator $simulator): Response
    {
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $source = RunSource::of($model, $this->given['run'] ?? []);
        $analysis = $source->trial()->analysis;
        $only = isset($this->given['only'])
            ? array_map(static fn (string $o): string => $analysis->model->idOf(Name::key($o)) ?? $o, $this->given['only'])
            : null;
        $run = $source->trajectory($simulator, null, $only ?? []);
        if ($this->given['remember'] ?? false) {
            RunLog::remember($model, $user, $source->setting, isset($this->given['run']['scenario']) ? $source->name : '');
        }
        JitBuffer::askForMoreWhenLow();

        return new Response(implode('', iterator_to_array(CsvTable::lines($analysis->columns($only), $run))), 200, [
            'Content-Type' => 'text/csv; charset=utf-8',
        ]);
    }

    /** @return ?Trajectory null if it takes longer than a request has, and a worker can make it */
    private function run(RunSource $source, Simulator $simulator): ?Trajectory
    {
        $token = $this->given['token'] ?? null;
        $begun = hrtime(true);
        $spent = false;
        $watch = match (true) {
            config()->boolean('merry-orbit.run.workers') => RunProgress::watchFor(
                $token ?? 'nobody',
                config()->float('merry-orbit.run.free_seconds'),
                $spent,
            ),
            $token !== null => RunProgress::watch($token),
            default => null,
        };
        try {
            $run = $source->trajectory($simulator, $watch, $this->looked());
        } finally {
            // What took no time was never told of.
            if ($token !== null && ! $spent && hrtime(true) - $begun > 1e8) {
                RunProgress::forget($token);
            }
        }

        return $spent && $run->stopped ? null : $run;
    }

    /** @return list<string> what of a large model has to be kept to answer: ids of things that are gathered over, and keys of elements */
    private function looked(): array
    {
        return array_values(
            array_unique(
                array_map(
                    static fn (string $k): string => str_contains($k, '[*') || str_contains($k, ',*') ? Key::ownerOf($k) : $k,
                    $this->given['along'] ?? [],
                ),
            ),
        );
    }

    /**
     * Where the run will be, for whoever asks again with that instead.
     *
     * @param  'run'|'against'  $which  which of the two runs that were asked for
     */
    private function handedOver(ModelDocument $model, User $user, RunSource $source, string $which): JsonResponse
    {
        return new JsonResponse(
            [
                'batch' => Batches::one($model, $user, $source, $this->given['token'] ?? (string) Str::uuid())->id,
                'position' => 0,
                'which' => $which,
            ],
            202,
        );
    }

    /** @param  'from'|'until'|'at'  $key */
    private function time(string $key): ?float
    {
        return isset($this->given[$key]) ? (float) $this->given[$key] : null;
    }

    /** The run as its difference from a base, on the times of the base. */
    private function difference(Trajectory $run, Trajectory $base): Trajectory
    {
        $only = $this->given['only'] ?? null;
        $percent = ($this->given['measure'] ?? '') === 'difference-percent';
        $columns = [];
        $along = $this->given['along'] ?? [];
        $ids = [];
        foreach ([$base, $run] as $one) {
            $ids = [
                ...$ids,
                ...$one->columns(Positions::MOST_TOLD),
                ...array_map(strval(...), array_keys($one->steady(Positions::MOST_TOLD))),
            ];
        }
        $ids = ColumnsMessage::wanted(array_values(array_unique([...$ids, ...$along])), $only, $along);
        foreach (array_filter($ids, static fn (string $id): bool => $base->has($id) && $run->has($id)) as $id) {
            $there = Alignment::at($run->times(), $run->column($id), $base->times());
            $columns[$id] = $percent ? Alignment::percent($there, $base->column($id)) : Alignment::difference($there, $base->column($id));
        }

        return new Trajectory(
            Values::byColumn(array_values($columns)),
            array_map(strval(...), array_keys($columns)),
            [],
            $base->times(),
            $run->fault,
            $run->evaluations,
            $run->method,
        );
    }
}
