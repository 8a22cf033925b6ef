<?php

declare(strict_types=1);

namespace App\Fit;

use App\Models\Fit;
use App\Models\FitWalk;
use App\Runs\Engine;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunRefused;

/** What is shown of a fit. */
final readonly class FitView
{
    /** Earlier bests that are drawn. */
    private const EARLIER = 4;

    private FitSpec $spec;

    public function __construct(private Fit $fit)
    {
        $this->spec = FitSpec::read($fit->spec);
    }

    /** @return array<string, mixed> */
    public function state(): array
    {
        $jobs = $this->fit->jobs();
        $walks = $this->fit->walks()->get();
        $isFinished = $this->fit->stage === 'done';
        [$distance, $point] = $this->best();

        return [
            'id' => $this->fit->id,
            'plan' => $this->fit->plan,
            'trial' => ($this->spec->plan['trial'] ?? false) === true,
            'revision' => $this->fit->revision,
            'meaning' => $this->fit->meaning,
            'wish' => (object) $this->spec->plan,
            'stage' => $this->fit->stage,
            'finished' => $isFinished,
            'stopped' => ! $isFinished && ($this->fit->trouble !== null || $jobs === null || $jobs->cancelled() || $jobs->finished()),
            'trouble' => $this->fit->trouble,
            'made_at' => $this->fit->created_at->toIso8601String(),
            'runs' => (int) $walks->sum('runs'),
            ...$this->spec->told,
            'best' => $point === null ? null : ['distance' => $distance, 'point' => $point],
            'walks' => $walks
                ->map(
                    static fn (FitWalk $w): array => [
                        'name' => $w->name,
                        'runs' => $w->runs,
                        'made' => $w->made,
                        'path' => array_map(static fn (array $step): array => [$step[0], $step[1]], $w->nearer()),
                    ],
                )
                ->values()
                ->all(),
            'result' => $this->fit->result === null ? null : json_decode($this->fit->result, false, flags: JSON_THROW_ON_ERROR),
        ];
    }

    /** @return array{float, ?list<float>} */
    private function best(): array
    {
        $steps = $this->nearer();
        $last = end($steps);
        if ($this->fit->result !== null) {
            /** @var array{point: list<float>, distance: ?float} $result */
            $result = json_decode($this->fit->result, true, flags: JSON_THROW_ON_ERROR);

            return $result['distance'] === null ? [INF, null] : [$result['distance'], $result['point']];
        }

        return $last === false ? [INF, null] : $last;
    }

    /** @return list<array{float, list<float>}> the best of all searches at its time, ever nearer */
    private function nearer(): array
    {
        $steps = [];
        foreach ($this->fit->walks()->where('name', 'like', 'search-%')->get() as $walk) {
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
