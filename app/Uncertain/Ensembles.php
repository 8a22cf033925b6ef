<?php

declare(strict_types=1);

namespace App\Uncertain;

use App\Models\Ensemble;
use App\Models\EnsemblePart;
use App\Models\ModelDocument;
use App\Models\User;
use App\Runs\Engine;
use App\Runs\Lanes;
use App\Runs\Lost;
use App\Runs\Results;
use App\Runs\RunSource;
use Carbon\CarbonImmutable;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;
use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Meaning;
use MerryOrbit\Core\Model\SoughtOutcome;
use MerryOrbit\Core\Model\UncertainInput;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\ColumnsAt;
use MerryOrbit\Core\Reduce\Outcome;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Uncertain\Design;
use MerryOrbit\Core\Uncertain\EnsemblePlan;

/** Begins, goes on with, and stops what is run many times. */
final class Ensembles
{
    public const MOST_RUNS = 1_000_000;

    /** The same of a plan for shares or steps, which is looked at as a whole. */
    private const MOST_PLANNED = 100_000;

    public const MOST_SCENARIOS = 12;

    /** Those of one model and person that are kept. */
    private const KEPT = 30;

    /** Values over time that are kept of a run: things times moments. */
    private const MOST_VALUES = 8_000;

    /** The same of all runs of an ensemble, four bytes each. */
    private const MOST_KEPT = 1e8;

    private const FEWEST_MOMENTS = 51;

    private const MOST_MOMENTS = 201;

    /** Elements of one thing whose courses are kept. */
    private const MOST_ELEMENTS = 12;

    /** Evaluations of an equation that the request makes at once, for a first picture. */
    private const AT_ONCE = 3e6;

    /** Seconds that a request gives where there are no workers. */
    private const HELP = 0.4;

    /** Runs after which there is something to see, and less than which there is nothing. */
    private const FIRST = 100;

    private const FEWEST = 10;

    /** The same for a part, which no kill of a worker loses more than. */
    private const PART = 4e7;

    private const MOST_IN_PART = 250;

    /** Parts of an ensemble at about the most, and runs from which on fewer moments are kept. */
    private const MOST_PARTS = 1_000;

    private const MANY = 20_000;

    /**
     * @param  list<string>  $scenarios  ids; '' for the present setting
     * @param  array<mixed>  $setting  the present one, as a record
     * @param  value-of<Design::KINDS>  $sample
     * @param  value-of<EnsemblePlan::PURPOSES>  $purpose
     * @return list<Ensemble>
     *
     * @throws NotUnderstood|RunRefused
     */
    public static function make(
        ModelDocument $document,
        User $user,
        array $scenarios,
        array $setting,
        string $sample,
        int $runs,
        int $seed,
        string $purpose = 'spread',
    ): array {
        $made = [];
        foreach ($scenarios as $scenario) {
            $source = RunSource::of($document, $scenario === '' ? ['setting' => $setting] : ['scenario' => $scenario]);
            [$spec, $isSoon] = self::spec($document, $source, $sample, $runs, $seed, $purpose);
            $soon = $isSoon ? self::soon($spec) : [];
            self::tidy($document, $user);
            $made[] = DB::transaction(static function () use ($document, $user, $purpose, $scenario, $source, $spec, $soon): Ensemble {
                self::list($spec->folder(), $spec, $soon);

                /** @var Ensemble */
                return $document->ensembles()->create([
                    'user_id' => $user->id,
                    'revision' => $document->revision,
                    'purpose' => $purpose,
                    'scenario' => $scenario,
                    'name' => $scenario === '' ? '' : mb_substr($source->name, 0, 120),
                    'meaning' => Meaning::of($document->core()),
                    'document' => $spec->document,
                    'folder' => $spec->folder(),
                    'spec' => $spec->written(),
                ]);
            });
        }
        foreach ($made as $ensemble) {
            if (self::isLeft($ensemble)) {
                self::dispatch($ensemble);
            }
        }

        return $made;
    }

    /**
     * @param  value-of<Design::KINDS>  $sample
     * @param  value-of<EnsemblePlan::PURPOSES>  $purpose
     * @return array{EnsembleSpec, bool} and whether its first part is made in a moment
     */
    private static function spec(ModelDocument $document, RunSource $source, string $sample, int $runs, int $seed, string $purpose): array
    {
        $model = $document->core();
        $decided = array_map(strval(...), array_keys($source->setting->parameters));
        $inputs = $model->part('uncertain');
        if ($purpose !== 'spread' && $runs > self::MOST_PLANNED) {
            throw NotUnderstood::because(
                'For shares and steps at most '.number_format(self::MOST_PLANNED).' runs are made here; the command line makes more.',
            );
        }
        $plan = EnsemblePlan::ofStudy($inputs, $model->part('rankPairs'), $decided, $sample, $runs, $seed, $purpose);
        $runs = $plan->runs();
        if ($plan->laws === []) {
            $drawn = array_filter($inputs, static fn (mixed $i): bool => $i instanceof UncertainInput && ! $i->off);
            throw NotUnderstood::because(
                $drawn === []
                    ? 'Nothing is uncertain yet: say of a parameter how likely its values are.'
                    : 'All that is uncertain is decided by this setting or scenario, so every run would be the same.',
            );
        }
        // What cannot hold together is said now.
        $plan->values(0);
        $trial = $source->trial();
        $analysis = $trial->analysis;
        $outcomes = self::outcomes($analysis, $model->part('outcomes'));
        $time = $source->setting->timeOf($model->time);
        $work = $source->work();
        $all = self::columns($analysis, $outcomes);
        $moments = ColumnsAt::moments($time, self::moments(count($all), $runs));
        $first = (int) min(self::FIRST, self::AT_ONCE / $work);
        $chunk = max(5, (int) min(max(self::MOST_IN_PART, $runs / self::MOST_PARTS), max(self::FIRST, $runs / 40), self::PART / $work));

        $spec = new EnsembleSpec(
            Results::ofModel($model),
            $source->setting->toRecord(),
            $plan,
            $outcomes,
            array_slice(
                $all,
                0,
                max(1, (int) (min(self::MOST_VALUES, self::MOST_KEPT / min($runs, EnsembleSpec::COURSES)) / count($moments))),
            ),
            $moments,
            array_map(
                static fn (int $block): array => [$block === 0 && $first >= self::FEWEST ? $first : $chunk, $chunk],
                array_keys($plan->blocks),
            ),
        );

        return [$spec, $first >= self::FEWEST];
    }

    private static function moments(int $columns, int $runs): int
    {
        return $runs > self::MANY
            ? self::FEWEST_MOMENTS
            : max(self::FEWEST_MOMENTS, min(self::MOST_MOMENTS, intdiv(self::MOST_VALUES, max(1, $columns))));
    }

    /**
     * What a study looks at; the last value of its first stocks where it says nothing.
     *
     * @param  array<mixed>  $sought
     * @return list<array{id: string, key: string, kind: 'last'|'at'|'min'|'max'|'total'|'mean'|'peak', time: float, unit: string}>
     */
    public static function outcomes(Analysis $analysis, array $sought): array
    {
        $found = [];
        foreach ($sought as $one) {
            if ($one instanceof SoughtOutcome && self::isSingle($analysis, $one->key())) {
                $found[] = ['id' => $one->id, 'key' => $one->key(), 'kind' => $one->kind, 'time' => $one->time, 'place' => $one->place];
            }
        }
        usort($found, static fn (array $a, array $b): int => $a['place'] <=> $b['place']);
        foreach ($found === [] ? $analysis->model->elements : [] as $id => $element) {
            if ($element->kind() === Kind::Stock && $analysis->canCompute($id) && count($found) < 8) {
                foreach (array_slice($analysis->positions->first($id, 2), 0, 2) as $key) {
                    $found[] = ['id' => $key, 'key' => $key, 'kind' => 'last', 'time' => 0.0, 'place' => 0.0];
                }
            }
        }

        return array_map(
            static fn (array $one): array => [
                'id' => $one['id'],
                'key' => $one['key'],
                'kind' => $one['kind'],
                'time' => $one['time'],
                'unit' => (new Outcome($one['id'], $one['key'], $one['kind'], $one['time']))->unit($analysis->model),
            ],
            $found,
        );
    }

    /** Whether a key is of one number that a run computes. */
    public static function isSingle(Analysis $analysis, string $key): bool
    {
        $id = Key::ownerOf($key);

        return $analysis->model->element($id) !== null &&
            $analysis->canCompute($id) &&
            in_array($key, $analysis->positions->of($id), true);
    }

    /**
     * What is kept over time, what is looked at first.
     *
     * @param  list<array{id: string, key: string, kind: string, time: float, unit: string}>  $outcomes
     * @return list<string>
     */
    private static function columns(Analysis $analysis, array $outcomes): array
    {
        $first = array_column($outcomes, 'key');
        foreach ($analysis->model->tracks as $track) {
            foreach ($track->of as $id) {
                array_push($first, ...$analysis->positions->first($id, self::MOST_ELEMENTS));
            }
        }
        $rest = [];
        foreach ([Kind::Stock, Kind::Flow, Kind::Auxiliary] as $kind) {
            foreach ($analysis->model->elements as $id => $element) {
                if ($element->kind() === $kind) {
                    array_push($rest, ...$analysis->positions->first($id, self::MOST_ELEMENTS));
                }
            }
        }

        return array_values(
            array_unique(array_filter([...$first, ...$rest], static fn (string $key): bool => $analysis->canCompute(Key::ownerOf($key)))),
        );
    }

    /**
     * The middle run and a first part, for a first picture, unless they are there.
     *
     * @return array<string, array{made: true, failed: int, seconds: float}> by name
     *
     * @throws RunRefused
     */
    private static function soon(EnsembleSpec $spec): array
    {
        $folder = $spec->folder();
        $known = EnsemblePart::query()->where('folder', $folder)->where('made', true)->pluck('name')->all();
        $maker = new PartMaker($spec, $folder, Engine::inRequest());
        $soon = [];
        foreach (array_slice($spec->parts(), 0, 2) as $part) {
            if (! in_array($part['name'], $known, true)) {
                $soon[$part['name']] = $maker->make(...$part);
            }
        }

        return $soon;
    }

    /** @phpstan-impure */
    private static function isLeft(Ensemble $ensemble): bool
    {
        return PartMaker::left($ensemble->folder)->exists();
    }

    /** @param  array<string, array{made: true, failed: int, seconds: float}>  $soon  what is made already, by name */
    private static function list(string $folder, EnsembleSpec $spec, array $soon = []): void
    {
        $rows = array_map(
            static fn (array $part): array => [
                'folder' => $folder,
                ...$part,
                ...$soon[$part['name']] ?? ['made' => false, 'failed' => 0, 'seconds' => 0.0],
            ],
            $spec->parts(),
        );
        foreach (array_chunk($rows, 200) as $some) {
            EnsemblePart::query()->insertOrIgnore($some);
        }
        // Some may be listed since they were asked for before, and not made then.
        foreach ($soon as $name => $told) {
            EnsemblePart::query()->where('folder', $folder)->where('name', $name)->where('made', false)->update($told);
        }
    }

    private static function dispatch(Ensemble $ensemble): void
    {
        Lanes::send($ensemble, static fn (int $lane): MakeParts => new MakeParts($ensemble->id, $lane));
    }

    /**
     * More runs behind those there are, or those that were not made because it was stopped.
     *
     * @throws NotUnderstood
     */
    public static function goOn(Ensemble $ensemble, int $more): Ensemble
    {
        $spec = EnsembleSpec::read($ensemble->spec);
        if ($more > 0 && $spec->plan->purpose !== 'spread') {
            throw NotUnderstood::because('These runs are a plan as a whole. Make it anew with more of them.');
        }
        if ($spec->plan->runs() + $more > self::MOST_RUNS) {
            throw NotUnderstood::because(
                'An ensemble has at most '.number_format(self::MOST_RUNS).' runs here; the command line makes more.',
            );
        }
        $values = count($spec->columns) * count($spec->moments);
        if (min($spec->plan->runs() + $more, EnsembleSpec::COURSES) * (float) $values > self::MOST_KEPT) {
            throw NotUnderstood::because(
                'The courses of so many runs are more than can be kept here. Run them anew with the number you want: then fewer courses are kept.',
            );
        }
        if ($more > 0) {
            $spec = $spec->with($more, max(5, min(self::MOST_IN_PART, $spec->parts[0][1])));
            $ensemble->update(['spec' => $spec->written()]);
        }
        self::list($ensemble->folder, $spec);
        $jobs = $ensemble->jobs();
        if (self::isLeft($ensemble) && ($jobs === null || $jobs->cancelled() || $jobs->finished())) {
            self::dispatch($ensemble);
        }

        return $ensemble;
    }

    /** Where there are no workers, whoever asks how far it is makes some of it; where some were killed, others are sent. */
    public static function help(Ensemble $ensemble): void
    {
        if ($ensemble->jobs()?->cancelled() === true) {
            return;
        }
        if (config()->boolean('merry-orbit.run.workers')) {
            $job = static fn (int $lane): MakeParts => new MakeParts($ensemble->id, $lane);
            Lanes::revive($ensemble, PartMaker::left($ensemble->folder), $job);

            return;
        }
        $maker = PartMaker::of($ensemble, Engine::inRequest());
        $until = hrtime(true) + self::HELP * 1e9;
        while (hrtime(true) < $until && $maker->next("$ensemble->id/help"));
    }

    /** Those whose jobs were lost. */
    public static function sendLost(CarbonImmutable $after, CarbonImmutable $before): void
    {
        $left = EnsemblePart::query()->whereColumn('folder', 'ensembles.folder')->where('made', false);
        $ensembles = Ensemble::query()
            ->whereBetween('created_at', [$after, $before])
            ->whereExists($left)
            ->get();
        $ensembles->filter(Lost::is(...))->each(self::dispatch(...));
    }

    public static function stop(Ensemble $ensemble): void
    {
        $ensemble->jobs()?->cancel();
    }

    private static function tidy(ModelDocument $document, User $user): void
    {
        /** @var Collection<int, Ensemble> $old */
        $old = $document
            ->ensembles()
            ->where('user_id', $user->id)
            ->latest()
            ->orderByDesc('id')
            ->skip(self::KEPT - 1)
            ->take(50)
            ->get();
        foreach ($old as $one) {
            self::stop($one);
            $one->delete();
        }
    }
}
