<?php

declare(strict_types=1);

namespace App\Runs;

use App\Models\Batch;
use App\Models\BatchRun;
use App\Models\ModelDocument;
use App\Models\User;
use Carbon\CarbonImmutable;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\Bus;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunRefused;

/** Makes many runs at once: short work in the request, long work in parts by the queue. */
final class Batches
{
    public const MOST = 1_000;

    /** Batches of one model that are kept. */
    private const KEPT = 4;

    /** Evaluations of an equation that one request may spend. */
    private const SHORT = 3e6;

    /** The same for one job of the queue, which takes a few seconds with it. */
    private const LONG = 1e8;

    /** Parts the work is cut into, so that workers end at about the same time: at least, at most, and of about which size. */
    private const PARTS = [8, 64];

    private const PART = 1e7;

    /**
     * @param  list<mixed>  $references  as RunSource reads them
     *
     * @throws NotUnderstood
     */
    public static function make(ModelDocument $document, User $user, array $references): Batch
    {
        if ($references === [] || count($references) > self::MOST) {
            throw NotUnderstood::because(
                'Run one to '.number_format(self::MOST).' settings at once; these are '.number_format(count($references)).'.',
            );
        }
        $sources = array_map(static fn (mixed $reference): RunSource => RunSource::of($document, $reference), $references);
        [$work, $values] = self::sizes($sources);
        if (array_sum($values) > config()->float('merry-orbit.run.most_batch_values')) {
            throw NotUnderstood::because(
                'The results of '.
                    number_format(count($sources)).
                    ' such runs are more than can be kept here at once. Run fewer, or save less often.',
            );
        }
        self::tidy($document, $user);
        /** @var Batch $batch */
        $batch = $document->batches()->create(['user_id' => $user->id, 'revision' => $document->revision]);
        $rows = $documents = [];
        foreach ($sources as $position => $source) {
            $reference = $references[$position];
            $blob = $documents[$source->revision] ??= Results::ofModel($source->model());
            $scenario = is_array($reference) && is_string($reference['scenario'] ?? null) ? $reference['scenario'] : '';
            $rows[] = ['batch_id' => $batch->id, 'position' => $position, 'scenario' => $scenario, ...self::row($source, $blob)];
        }
        BatchRun::query()->insert($rows);
        foreach ($sources as $position => $source) {
            if ($rows[$position]['scenario'] !== '') {
                RunLog::remember($document, $user, $source->setting, $source->name);
            }
        }
        if (array_sum($work) <= self::SHORT) {
            RunPart::dispatchSync($batch->id, array_keys($sources));
        } else {
            self::queue($batch, self::parts($work));
        }

        return $batch;
    }

    /** One run that takes long, as a batch of its own; the page follows it under its token. */
    public static function one(ModelDocument $document, User $user, RunSource $source, string $token): Batch
    {
        self::tidy($document, $user, alone: true);
        /** @var Batch $batch */
        $batch = $document->batches()->create(['user_id' => $user->id, 'revision' => $source->revision, 'token' => $token]);
        BatchRun::query()->insert([
            'batch_id' => $batch->id,
            'position' => 0,
            'scenario' => '',
            ...self::row($source, Results::ofModel($source->model())),
        ]);
        self::queue($batch, [[0]]);

        return $batch;
    }

    /**
     * @param  string  $blob  of its model
     * @return array<string, string> of the table of runs; written past the casts, which would make whole numbers of floats
     */
    private static function row(RunSource $source, string $blob): array
    {
        $setting = $source->setting->toRecord();

        return [
            'name' => mb_substr($source->name, 0, 120),
            'setting' => json_encode($setting, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION),
            'state' => 'waiting',
            'words' => '',
            'document' => $blob,
            'result' => Results::nameOf($blob, $setting),
        ];
    }

    /** @param  list<list<int>>  $parts  positions */
    private static function queue(Batch $batch, array $parts): void
    {
        $jobs = Bus::batch(array_map(static fn (array $part): RunPart => new RunPart($batch->id, $part), $parts))
            ->allowFailures()
            ->name("runs $batch->id");
        // The runs can be stopped as soon as they can begin.
        $jobs->before(
            static fn (\Illuminate\Bus\Batch $made): bool => Batch::query()
                ->whereKey($batch->id)
                ->update(['bus_id' => $made->id]) > 0,
        );
        $batch->bus_id = $jobs->dispatch()->id;
    }

    /** What is not made of batches whose jobs were lost; each run as a job, as nobody knows any more how long they take. */
    public static function sendLost(CarbonImmutable $after, CarbonImmutable $before): void
    {
        $waits = static fn (mixed $q): mixed => $q->whereIn('state', ['waiting', 'running']);
        $batches = Batch::query()
            ->whereBetween('created_at', [$after, $before])
            ->whereHas('runs', $waits)
            ->get();
        foreach ($batches->filter(Lost::is(...)) as $batch) {
            $left = $batch
                ->runs()
                ->whereIn('state', ['waiting', 'running'])
                ->orderBy('position')
                ->get();
            self::queue($batch, array_values($left->map(static fn (BatchRun $run): array => [$run->position])->all()));
        }
    }

    /**
     * Parts of about the same work, so that two workers end at about the same time, none longer than a job should take.
     *
     * @param  list<float>  $work  of each run
     * @return list<list<int>> positions
     */
    public static function parts(array $work): array
    {
        [$fewest, $count] = self::PARTS;
        $most = min(self::LONG, array_sum($work) / max($fewest, min($count, array_sum($work) / self::PART)));
        $parts = [];
        $part = [];
        $sum = 0.0;
        foreach ($work as $position => $one) {
            if ($part !== [] && $sum + $one > $most) {
                $parts[] = $part;
                [$part, $sum] = [[], 0.0];
            }
            $part[] = $position;
            $sum += $one;
        }

        return $part === [] ? $parts : [...$parts, $part];
    }

    /**
     * How often each run evaluates an equation, and how many values it saves. Runs of one model with the same hands and curves are
     * analysed once.
     *
     * @param  list<RunSource>  $sources
     * @return array{list<float>, list<float>}
     */
    private static function sizes(array $sources): array
    {
        $counts = [];
        $work = $values = [];
        foreach ($sources as $source) {
            $record = $source->setting->toRecord();
            $key = json_encode([$source->revision, $record['grips'] ?? [], $record['curves'] ?? []], JSON_THROW_ON_ERROR);
            $counts[$key] ??= self::counts($source);
            $time = $source->setting->timeOf($source->model()->time);
            if ($counts[$key] === null || $time->problems() !== []) {
                [$work[], $values[]] = [1.0, 0.0];

                continue;
            }
            [$equations, $states] = $counts[$key];
            $work[] = (float) $time->steps() * ($time->method->isAdaptive() ? 40 : count($time->method->stages())) * $equations;
            $values[] = (float) $time->savedCount() * ($equations + $states);
        }

        return [$work, $values];
    }

    /** @return array{int, int}|null equations and states; null if the run will be refused */
    private static function counts(RunSource $source): ?array
    {
        try {
            [$equations, $states] = $source->trial()->analysis->size();
        } catch (RunRefused) {
            return null;
        }

        return [max(1, $equations), $states];
    }

    private static function tidy(ModelDocument $document, User $user, bool $alone = false): void
    {
        /** @var Collection<int, Batch> $old */
        $old = $document
            ->batches()
            ->where('user_id', $user->id)
            ->where('token', $alone ? '<>' : '=', null)
            ->latest()
            ->orderByDesc('id')
            ->skip(self::KEPT - 1)
            ->take(50)
            ->get();
        foreach ($old as $batch) {
            $batch->delete();
        }
    }

    /** @return array<string, mixed> how far it is */
    public static function state(Batch $batch): array
    {
        /** @var Collection<int, BatchRun> $runs */
        $runs = $batch->runs()->orderBy('position')->get();
        $share = $runs->isEmpty()
            ? 1.0
            : $runs->sum(static fn (BatchRun $r): float => in_array($r->state, ['waiting', 'running'], true) ? $r->share : 1.0) /
                $runs->count();

        return [
            'id' => $batch->id,
            'revision' => $batch->revision,
            'cancelled' => $batch->isCancelled(),
            'share' => $share,
            'finished' => $runs->doesntContain(static fn (BatchRun $r): bool => in_array($r->state, ['waiting', 'running'], true)),
            'runs' => $runs
                ->map(
                    static fn (BatchRun $r): array => [
                        'position' => $r->position,
                        'name' => $r->name,
                        'scenario' => $r->scenario,
                        'state' => $r->state,
                        'share' => $r->share,
                        'seconds' => $r->seconds,
                        'words' => $r->words,
                    ],
                )
                ->values()
                ->all(),
        ];
    }
}
