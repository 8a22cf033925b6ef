<?php

declare(strict_types=1);

namespace App\Fit;

use App\Models\Fit;
use App\Models\FitWalk;
use App\Models\ModelDocument;
use App\Models\User;
use App\Runs\Engine;
use App\Runs\Lanes;
use App\Runs\Lost;
use App\Runs\Results;
use Carbon\CarbonImmutable;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use MerryOrbit\Core\Fit\Freed;
use MerryOrbit\Core\Fit\PlannedFit;
use MerryOrbit\Core\Fit\PlannedPolicy;
use MerryOrbit\Core\Fit\PolicyReport;
use MerryOrbit\Core\Model\FitPlan;
use MerryOrbit\Core\Model\Measured;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\PolicyPlan;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Uncertain\Opened;

/**
 * Begins, goes on with, and stops fits.
 *
 * @phpstan-import-type Told from FitSpec
 * @phpstan-import-type Moving from FitSpec
 */
final class Searches
{
    /** Those of one model and person that are kept. */
    private const KEPT = 60;

    /** Seconds that one choice of a policy may take, with all its runs. */
    private const MOST_FOR_A_CHOICE = 40.0;

    /** And while somebody waits for it. */
    private const MOST_IN_A_REQUEST = 10.0;

    /** Seconds that a request gives where there are no workers. */
    private const HELP = 0.4;

    /** @throws NotUnderstood|RunRefused where the plan cannot be carried out */
    public static function begin(ModelDocument $document, User $user, string $plan): Fit
    {
        $fit = self::plan($document, $plan);
        $spec = self::spec($document->core(), $fit);

        return self::made(
            $document,
            $user,
            $plan,
            $spec,
            array_map(static fn (int $i): string => "search-$i", range(0, $fit->starts - 1)),
        );
    }

    /** @throws NotUnderstood|RunRefused where the policy cannot be looked for */
    public static function seek(ModelDocument $document, User $user, string $policy): Fit
    {
        return self::made($document, $user, $policy, self::policySpec($document->core(), self::policy($document, $policy)), ['seek-0']);
    }

    /** @param  non-empty-list<string>  $walks  which the first stage has */
    private static function made(ModelDocument $document, User $user, string $plan, FitSpec $spec, array $walks): Fit
    {
        self::tidy($document, $user);
        $fit = DB::transaction(static function () use ($document, $user, $plan, $spec, $walks): Fit {
            $folder = strtolower((string) Str::ulid());
            /** @var Fit $fit */
            $fit = $document->fits()->create([
                'user_id' => $user->id,
                'revision' => $document->revision,
                'plan' => $plan,
                'meaning' => $spec->told['meaning'],
                'document' => $spec->document,
                'folder' => 'fits/'.substr($folder, -2)."/$folder",
                'spec' => $spec->written(),
                'stage' => explode('-', $walks[0])[0],
                'draws' => 0,
                'chains' => 0,
            ]);
            foreach ($walks as $walk) {
                $fit->walks()->create(['name' => $walk, 'path' => '[]']);
            }

            return $fit;
        });
        self::dispatch($fit);

        return $fit;
    }

    /** @throws NotUnderstood */
    public static function policy(ModelDocument $document, string $id): PolicyPlan
    {
        $policy = $document->core()->part('policies')[$id] ?? null;

        return $policy instanceof PolicyPlan
            ? $policy
            : throw NotUnderstood::because('There is no such policy. It may have been removed; undo brings it back.');
    }

    /** @throws NotUnderstood|RunRefused */
    public static function policySpec(Model $model, PolicyPlan $policy): FitSpec
    {
        $setting = new Setting();
        $planned = PlannedPolicy::of(Engine::inRequest(), $model, $setting, $policy);
        self::refuseWhatTakesTooLong($planned);

        return new FitSpec(Results::ofModel($model), $setting->toRecord(), $policy->toRecord(), [
            'numbers' => self::numbers($model, $planned->chosen),
            'points' => 0,
            'series' => 0,
            'held' => 0,
            'before' => null,
            'known' => true,
            'unit' => $planned->unit(),
            'meaning' => $planned->meaning(),
        ]);
    }

    /**
     * What a policy came to beside something else, under the same draws.
     *
     * @param  array<array-key, float>  $values  of parameters, by id
     * @return array<string, mixed>
     *
     * @throws NotUnderstood|RunRefused
     */
    public static function beside(Fit $fit, array $values): array
    {
        $spec = FitSpec::read($fit->spec);
        /** @var array{choice?: list<float>, value?: ?float} $found */
        $found = json_decode($fit->result ?? '{}', true, flags: JSON_THROW_ON_ERROR);
        if (! $spec->isPolicy() || ! isset($found['choice'], $found['value'])) {
            throw NotUnderstood::because('Nothing was found yet that could be held against something else.');
        }
        $planned = $spec->policy(Engine::inRequest());
        self::refuseWhatTakesTooLong($planned, self::MOST_IN_A_REQUEST, 'To hold two against each other');
        $byId = array_combine(array_map(strval(...), array_keys($values)), $values);

        return (new PolicyReport($planned))->beside($found['choice'], $byId);
    }

    /** @throws NotUnderstood where one choice is more than can be done at a stretch */
    private static function refuseWhatTakesTooLong(
        PlannedPolicy $policy,
        float $most = self::MOST_FOR_A_CHOICE,
        string $what = 'To look at one of hundreds of choices',
    ): void {
        $own = array_map(static fn (Freed $f): float => $f->value, $policy->chosen);
        // The first one compiles.
        $policy->runs([[0, $own]]);
        $begun = hrtime(true);
        $policy->runs([[0, $own]]);
        $seconds = ((hrtime(true) - $begun) / 1e9) * $policy->cost(null);
        if ($seconds > $most) {
            throw NotUnderstood::because(
                "$what in ".
                    number_format($policy->cost(null)).
                    ' runs takes about '.
                    round($seconds).
                    ' s here. Look at fewer runs.',
            );
        }
    }

    /**
     * @param  list<Freed>  $freed
     * @return list<Moving>
     */
    private static function numbers(Model $model, array $freed): array
    {
        return array_map(static function (Freed $f) use ($model): array {
            ['of' => $of, 'key' => $key] = Opened::meant($model, $f->key);

            return [
                'key' => $key,
                'of' => $of,
                'name' => $f->name,
                'unit' => $model->element($of)->unit ?? '',
                'value' => $f->value,
                'low' => $f->low,
                'high' => $f->high,
                'log' => $f->isLog,
            ];
        }, $freed);
    }

    /** @throws NotUnderstood */
    public static function plan(ModelDocument $document, string $id): FitPlan
    {
        $plan = $document->core()->part('calibrations')[$id] ?? null;

        return $plan instanceof FitPlan
            ? $plan
            : throw NotUnderstood::because('There is no such calibration. It may have been removed; undo brings it back.');
    }

    /** @throws NotUnderstood|RunRefused */
    private static function spec(Model $model, FitPlan $plan): FitSpec
    {
        $setting = new Setting();

        return new FitSpec(
            Results::ofModel($model),
            $setting->toRecord(),
            $plan->toRecord(),
            self::told(PlannedFit::of(Engine::inRequest(), $model, $setting, $plan)),
        );
    }

    /**
     * What is about to be fitted.
     *
     * @return Told
     */
    public static function told(PlannedFit $fit): array
    {
        $own = array_map(static fn (Freed $f): float => $f->value, $fit->numbers());
        $before = $fit->distance($fit->runs([$own])[0]);
        $all = array_sum(array_map(static fn (Measured $m): int => count($m->points), $fit->measured));
        $counted = array_sum(array_map(static fn (Measured $m): int => count($m->points), $fit->counted));

        return [
            'numbers' => self::numbers($fit->model, $fit->numbers()),
            'points' => $fit->points(),
            'series' => count($fit->counted),
            'held' => $all - $counted,
            'before' => is_finite($before) ? $before : null,
            'known' => $fit->calibration->isKnown,
            'unit' => '',
            'meaning' => $fit->meaning(),
        ];
    }

    /**
     * Draws of what the data leave open, once it is known where the numbers are nearest; those there were are thrown away.
     *
     * @param  int  $draws  of all chains together
     *
     * @throws NotUnderstood
     */
    public static function draw(Fit $fit, int $draws, int $chains): void
    {
        if (! $fit->isAtRest() || ! str_contains((string) $fit->result, '"profiles"')) {
            throw NotUnderstood::because('What the data leave open is drawn around the nearest run. Let the fit come to its end first.');
        }
        DB::transaction(static function () use ($fit, $draws, $chains): void {
            $fit->walks()->where('name', 'like', 'chain-%')->delete();
            $fit->update(['stage' => 'chain', 'draws' => $draws, 'chains' => $chains, 'trouble' => null]);
            for ($chain = 0; $chain < $chains; $chain++) {
                $fit->walks()->create(['name' => "chain-$chain", 'path' => '[]']);
            }
        });
        self::dispatch($fit);
    }

    /** Goes on where it was stopped, or where its jobs were lost. */
    public static function goOn(Fit $fit): void
    {
        $jobs = $fit->jobs();
        if (! $fit->isAtRest() && ($jobs === null || $jobs->cancelled() || $jobs->finished())) {
            $fit->update(['trouble' => null]);
            self::dispatch($fit);
        }
    }

    /** Those whose jobs were lost. */
    public static function sendLost(CarbonImmutable $after, CarbonImmutable $before): void
    {
        $fits = Fit::query()
            ->whereBetween('created_at', [$after, $before])
            ->whereNotIn('stage', Fit::AT_REST)
            ->whereNull('trouble')
            ->get();
        $fits->filter(Lost::is(...))->each(self::dispatch(...));
    }

    public static function stop(Fit $fit): void
    {
        $fit->jobs()?->cancel();
    }

    /** Where there are no workers, whoever asks how far it is makes some of it; where some were killed, others are sent. */
    public static function help(Fit $fit): void
    {
        if ($fit->isAtRest() || $fit->trouble !== null || $fit->jobs()?->cancelled() === true) {
            return;
        }
        if (config()->boolean('merry-orbit.run.workers')) {
            Lanes::revive($fit, Walker::left($fit->id), static fn (int $lane): WalkJob => new WalkJob($fit->id, $lane));

            return;
        }
        $walker = new Walker($fit, Engine::inRequest());
        $until = hrtime(true) + self::HELP * 1e9;
        while (hrtime(true) < $until && $walker->next("$fit->id/help"));
        $fit->refresh();
    }

    private static function dispatch(Fit $fit): void
    {
        Lanes::send($fit, static fn (int $lane): WalkJob => new WalkJob($fit->id, $lane));
    }

    private static function tidy(ModelDocument $document, User $user): void
    {
        $old = $document
            ->fits()
            ->where('user_id', $user->id)
            ->latest()
            ->orderByDesc('id')
            ->skip(self::KEPT - 1)
            ->take(50)
            ->get();
        foreach ($old as $one) {
            self::stop($one);
            FitWalk::query()->where('fit_id', $one->id)->delete();
            $one->delete();
        }
    }
}
