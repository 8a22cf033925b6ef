<?php

declare(strict_types=1);

namespace App\Fit;

use App\Models\Fit;
use App\Models\FitWalk;
use App\Runs\Engine;
use MerryOrbit\Core\Fit\Chain;
use MerryOrbit\Core\Fit\Chains;
use MerryOrbit\Core\Fit\Posterior;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunRefused;

/** What is shown of a fit. */
final readonly class FitView
{
    /** Earlier bests that are drawn. */
    private const EARLIER = 4;

    /** Draws of a chain whose course is drawn, draws that stand for all, and bars of their ranks. */
    private const TRACED = 250;

    private const SOME = 400;

    private const BINS = 20;

    private FitSpec $spec;

    public function __construct(private Fit $fit)
    {
        $this->spec = FitSpec::read($fit->spec);
    }

    /** @return array<string, mixed> */
    public function state(): array
    {
        $jobs = $this->fit->jobs();
        // What a chain came to is long.
        $walks = $this->fit->walks()->get(['id', 'fit_id', 'name', 'runs', 'path', 'made']);
        $isFinished = $this->fit->isAtRest();
        [$distance, $point] = $this->best();

        return [
            'id' => $this->fit->id,
            'plan' => $this->fit->plan,
            'kind' => $this->spec->isPolicy() ? 'policy' : 'fit',
            'trial' => ($this->spec->plan['trial'] ?? false) === true,
            'revision' => $this->fit->revision,
            'meaning' => $this->fit->meaning,
            'wish' => (object) $this->spec->plan,
            'stage' => $this->fit->stage,
            'draws' => $this->fit->draws,
            'steps' => $this->fit->draws === 0 ? 0 : $this->steps(),
            'finished' => $isFinished,
            'stopped' => ! $isFinished && ($this->fit->trouble !== null || $jobs === null || $jobs->cancelled() || $jobs->finished()),
            'trouble' => $this->fit->trouble,
            'made_at' => $this->fit->created_at->toIso8601String(),
            'runs' => (int) $walks->sum('runs'),
            ...$this->spec->told,
            'best' => $point === null ? null : ['distance' => $distance, 'point' => $point],
            'walks' => $walks
                ->map(
                    fn (FitWalk $w): array => [
                        'name' => $w->name,
                        'runs' => $w->runs,
                        'made' => $w->made,
                        'path' => array_map(fn (array $step): array => [$step[0], $this->sign() * $step[1]], $w->nearer()),
                    ],
                )
                ->values()
                ->all(),
            'result' => $this->spec->isPolicy() ? null : $this->result(),
            'found' => $this->spec->isPolicy() ? $this->result() : null,
        ];
    }

    private function result(): mixed
    {
        return $this->fit->result === null ? null : json_decode($this->fit->result, false, flags: JSON_THROW_ON_ERROR);
    }

    /** Searches make small what they look for: what is to be large is told as it is. */
    private function sign(): float
    {
        $plan = $this->spec->plan;

        return $this->spec->isPolicy() && ($plan['small'] ?? false) === false && ($plan['over'] ?? '') !== 'regret' ? -1.0 : 1.0;
    }

    /** Steps of all chains together, with those of their warm-up. */
    private function steps(): int
    {
        $each = Posterior::each($this->fit->draws, max(1, $this->fit->chains));

        return $this->fit->chains * ($each + Chain::warmUp($each));
    }

    /**
     * The draws themselves: the course of each chain, how ranks are spread over chains, and some that stand for all.
     *
     * @return array<string, mixed>
     *
     * @throws NotUnderstood
     */
    public function draws(): array
    {
        $chains = [];
        foreach ($this->fit->walks()->where('name', 'like', 'chain-%')->where('made', true)->pluck('ends') as $end) {
            /** @var array{draws: list<list<float>>} $one */
            $one = json_decode(is_string($end) ? $end : '{"draws":[]}', true, flags: JSON_THROW_ON_ERROR);
            $chains[] = $one['draws'];
        }
        if ($chains === [] || $this->fit->stage !== 'drawn') {
            throw NotUnderstood::because('Nothing is drawn yet.');
        }
        $thin = static function (array $draws, int $most): array {
            $every = max(1, (int) ceil(count($draws) / $most));

            return array_values(array_filter($draws, static fn (int $i): bool => $i % $every === 0, ARRAY_FILTER_USE_KEY));
        };
        $numbers = array_keys($this->spec->told['numbers']);

        return [
            'traces' => array_map(static fn (array $draws): array => $thin($draws, self::TRACED), $chains),
            'ranks' => array_map(
                static fn (int $j): array => Chains::ranks(
                    array_map(static fn (array $draws): array => array_column($draws, $j), $chains),
                    self::BINS,
                ),
                $numbers,
            ),
            'some' => $thin(array_merge(...$chains), self::SOME),
        ];
    }

    /** @return array{float, ?list<float>} */
    private function best(): array
    {
        $steps = $this->nearer();
        $last = end($steps);
        if ($this->fit->result !== null && ! $this->spec->isPolicy()) {
            /** @var array{point: list<float>, distance: ?float} $result */
            $result = json_decode($this->fit->result, true, flags: JSON_THROW_ON_ERROR);

            return $result['distance'] === null ? [INF, null] : [$result['distance'], $result['point']];
        }

        return $last === false ? [INF, null] : [$this->sign() * $last[0], $last[1]];
    }

    /** @return list<array{float, list<float>}> the best of all searches at its time, ever nearer */
    private function nearer(): array
    {
        $steps = [];
        foreach (
            $this->fit->walks()->where(static fn ($q) => $q->where('name', 'like', 'search-%')->orWhere('name', 'seek-0'))->get() as $walk
        ) {
            array_push($steps, ...$walk->nearer());
        }
        // Searches go side by side, so about as many runs are at about the same time.
        usort($steps, static fn (array $a, array $b): int => [$a[0], $b[1]] <=> [$b[0], $a[1]]);
        $best = INF;
        $nearer = [];
        foreach ($steps as [, $distance, $point]) {
            if ($distance < $best) {
                $nearer[] = [($best = $distance), $point];
            }
        }

        return $nearer;
    }

    /**
     * Runs beside what was measured: before, some earlier bests, and the best so far.
     *
     * @return array<string, mixed>
     *
     * @throws NotUnderstood|RunRefused
     */
    public function picture(): array
    {
        $simulator = Engine::inRequest();
        $planned = $this->spec->planned($simulator);
        $nearer = array_slice($this->nearer(), 0, -1);
        // As many steps from one to the next, seen by how much nearer they came.
        $earlier = [];
        $count = count($nearer);
        for ($k = 0; $k < min(self::EARLIER, $count); $k++) {
            $earlier[] = $nearer[intdiv($count * $k, min(self::EARLIER, $count))];
        }
        [$distance, $best] = $this->best();
        $own = array_column($this->spec->told['numbers'], 'value');
        $runs = [
            ['kind' => 'before', 'distance' => $this->spec->told['before'], 'point' => $own],
            ...array_map(static fn (array $one): array => ['kind' => 'earlier', 'distance' => $one[0], 'point' => $one[1]], $earlier),
            ...$best === null ? [] : [['kind' => 'best', 'distance' => $distance, 'point' => $best]],
        ];

        return FitPicture::of($simulator, $planned, $runs);
    }
}
