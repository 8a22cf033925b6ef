<?php

declare(strict_types=1);

namespace App\Uncertain;

use App\Models\Ensemble;
use App\Models\EnsemblePart;
use App\Runs\Claim;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\Cache;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Uncertain\Beyond;
use MerryOrbit\Core\Uncertain\Density;
use MerryOrbit\Core\Uncertain\Histogram;
use MerryOrbit\Core\Uncertain\Ranks;
use MerryOrbit\Core\Uncertain\Summary;

/** What is shown of an ensemble. */
final readonly class EnsembleView
{
    public const PERCENTS = [5.0, 25.0, 50.0, 75.0, 95.0];

    /** Single runs that are shown beside the bands. */
    private const SINGLES = 6;

    /** Runs by which it is told how far ranks go together. */
    private const MOST_RANKED = 2_000;

    /** Runs of which all is told anew each time, and seconds for which what is told of more is kept. */
    private const MANY = 50_000;

    private const STANDS = 3600;

    /** Steps of a cumulative course. */
    private const MOST_STEPS = 200;

    private EnsembleResults $results;

    public function __construct(private Ensemble $ensemble)
    {
        $this->results = new EnsembleResults($ensemble);
    }

    /** @return array<string, mixed> */
    public function state(): array
    {
        $spec = $this->results->spec;
        $made = $this->results->parts->where('made', true);
        $left = $this->results->parts->where('made', false);
        $jobs = $this->ensemble->jobs();
        $done = (int) $made->sum('runs');
        $seconds = (float) $made->sum('seconds');
        $isFinished = $left->isEmpty();
        $toMake = (int) $left->sum('runs');

        return [
            'id' => $this->ensemble->id,
            'scenario' => $this->ensemble->scenario,
            'name' => $this->ensemble->name,
            'revision' => $this->ensemble->revision,
            'meaning' => $this->ensemble->meaning,
            'runs' => $spec->plan->runs(),
            'done' => $done,
            'failed' => (int) $made->where('name', '<>', EnsembleSpec::CENTRAL)->sum('failed'),
            'finished' => $isFinished,
            // By hand; or because its jobs ended without it, or never began.
            'stopped' => ! $isFinished && ($jobs === null ? $this->isForgotten() : $jobs->cancelled() || $jobs->finished()),
            'seconds_left' => $isFinished || $done === 0 ? null : round(($seconds / $done) * ($toMake / self::atWork($left)), 1),
            'purpose' => $spec->plan->purpose,
            'sample' => $spec->plan->sample,
            'seed' => $spec->plan->seed,
            'blocks' => $spec->plan->blocks,
            'inputs' => array_map(
                static fn (string $key): array => [
                    'key' => $key,
                    'law' => $spec->plan->laws[$key]->written,
                    'median' => $spec->plan->laws[$key]->median(),
                ],
                $spec->plan->keys(),
            ),
            'together' => array_map(
                fn (array $pair): array => [
                    'one' => $pair[0],
                    'other' => $pair[1],
                    'rank' => $pair[2],
                    'reached' => $this->reached($pair[0], $pair[1]),
                ],
                $spec->plan->together,
            ),
            'outcomes' => $spec->outcomes,
            'columns' => $spec->columns,
            'moments' => count($spec->moments),
            'courses' => min($spec->plan->runs(), EnsembleSpec::COURSES),
            'room' => max(0, Ensembles::MOST_RUNS - $spec->plan->runs()),
            'setting' => (object) $spec->setting,
        ];
    }

    /**
     * @param  Collection<int, EnsemblePart>  $left
     * @return int how many workers are at it
     */
    private static function atWork(Collection $left): int
    {
        $since = time() - Claim::STALE;

        return max(1, $left->filter(static fn (EnsemblePart $p): bool => $p->claimed_by !== '' && $p->claimed_at >= $since)->count());
    }

    /** Nobody makes it: the request that began it did not come to hand it over. */
    private function isForgotten(): bool
    {
        return config()->boolean('merry-orbit.run.workers') && $this->ensemble->created_at->lt(now()->subSeconds(Claim::STALE));
    }

    private function reached(string $one, string $other): ?float
    {
        $at = array_flip($this->results->spec->plan->keys());
        $rows = array_slice(array_values($this->results->numbers(self::MOST_RANKED)), 0, self::MOST_RANKED);

        return count($rows) < 3 ? null : Ranks::correlation(array_column($rows, $at[$one]), array_column($rows, $at[$other]));
    }

    /**
     * A variable over time: percentiles at each kept moment, some runs as they are, and the one in the middle.
     *
     * @return array<string, mixed>
     *
     * @throws NotUnderstood
     */
    public function bands(string $key): array
    {
        $most = min($this->results->spec->plan->runs(), EnsembleSpec::COURSES);

        /** @var array<string, mixed> */
        return $this->remembered("bands $key", $most, fn (): array => $this->bandsOf($key));
    }

    /** @return array<string, mixed> */
    private function bandsOf(string $key): array
    {
        $runs = self::sound($this->results->column($key));
        $over = Summary::overTime(array_values($runs), 0, count($this->results->spec->moments), self::PERCENTS);

        return [
            'of' => $key,
            'runs' => count($runs),
            'times' => $this->results->spec->moments,
            'mean' => $over['mean'],
            'percentiles' => (object) $over['percentiles'],
            'central' => self::known($this->results->centralColumn($key) ?? []),
            'singles' => array_map(
                static fn (int $run, array $values): array => ['run' => $run, 'values' => self::known($values)],
                array_slice(array_keys($runs), 0, self::SINGLES),
                array_slice($runs, 0, self::SINGLES),
            ),
        ];
    }

    /**
     * How one number lies: an outcome, or a variable at a moment.
     *
     * @return array<string, mixed>
     *
     * @throws NotUnderstood
     */
    public function moment(string $key, ?float $time, string $outcome, ?float $above): array
    {
        $all = $this->results->spec->plan->runs();
        $what = json_encode(['moment', $key, $time, $outcome, $above], JSON_THROW_ON_ERROR);

        /** @var array<string, mixed> */
        return $this->remembered(
            $what,
            $outcome === '' ? min($all, EnsembleSpec::COURSES) : $all,
            fn (): array => $this->lying($key, $time, $outcome, $above),
        );
    }

    /** @return array<string, mixed> */
    private function lying(string $key, ?float $time, string $outcome, ?float $above): array
    {
        [$values, $central, $at] = $outcome !== '' ? $this->outcome($outcome) : $this->at($key, $time);
        $values = array_values(array_filter($values, is_finite(...)));
        sort($values);
        $s = Summary::of($values, self::PERCENTS);
        $density = Density::of($values);
        $beyond = $above === null ? null : Beyond::of($values, $above);

        return [
            'time' => $at,
            'runs' => count($values),
            'central' => $central,
            'mean' => $s?->mean,
            'sd' => $s?->sd,
            'min' => $s?->min,
            'max' => $s?->max,
            'percentiles' => $s === null ? null : (object) $s->percentiles,
            'smoothed_over' => $density->width,
            'density' => array_map(static fn (float $x, float $y): array => [$x, $y], $density->at, $density->density),
            'cumulative' => Histogram::cumulative($values, self::MOST_STEPS),
            'histogram' => Histogram::of($values),
            'above' => $beyond === null ? null : ['limit' => $above, ...(array) $beyond],
        ];
    }

    /**
     * @return array{list<float>, ?float, float} values, the middle run's, and the moment
     *
     * @throws NotUnderstood
     */
    private function at(string $key, ?float $time): array
    {
        $moments = $this->results->spec->moments;
        $near = 0;
        foreach ($moments as $i => $moment) {
            $near = abs($moment - ($time ?? INF)) < abs($moments[$near] - ($time ?? INF)) ? $i : $near;
        }
        $near = $time === null ? count($moments) - 1 : $near;
        $central = $this->results->centralColumn($key);

        return [array_column($this->results->column($key), $near), self::known($central ?? [])[$near] ?? null, $moments[$near]];
    }

    /**
     * @return array{list<float>, ?float, null}
     *
     * @throws NotUnderstood
     */
    private function outcome(string $id): array
    {
        $at = $this->results->positionOf($id);

        return [$this->results->values([$at])[0], self::known($this->results->centralNumbers() ?? [])[$at] ?? null, null];
    }

    /** @return list<array<string, mixed>> a row for each outcome */
    public function summary(): array
    {
        /** @var list<array<string, mixed>> */
        return $this->remembered('summary', $this->results->spec->plan->runs(), $this->summarised(...));
    }

    /**
     * What many runs come to takes seconds: it is kept, and while more come, what was told of nine tenths of them stands.
     *
     * @param  int  $most  runs that it is told of in the end
     * @param  \Closure(): array<mixed>  $make
     * @return array<mixed>
     */
    private function remembered(string $what, int $most, \Closure $make): array
    {
        $count = min($most, $this->results->count());
        if ($count <= self::MANY) {
            return $make();
        }
        $stage = $count === $most ? $count : 'about '.(int) floor(log($count, 1.1));

        return Cache::remember(
            'ensembles/'.hash('xxh128', "{$this->ensemble->folder} {$this->ensemble->spec} $what $stage"),
            self::STANDS,
            $make,
        );
    }

    /** @return list<array<string, mixed>> */
    private function summarised(): array
    {
        $central = self::known($this->results->centralNumbers() ?? []);
        $from = count($this->results->spec->plan->laws);
        $places = array_map(static fn (int $i): int => $from + $i, array_keys($this->results->spec->outcomes));
        $values = $this->results->values($places);

        return array_map(
            static function (array $outcome, int $i) use (&$values, $central, $from): array {
                $s = Summary::of($values[$i], self::PERCENTS);
                $values[$i] = [];

                return [
                    'outcome' => $outcome['id'],
                    'central' => $central[$from + $i] ?? null,
                    'mean' => $s?->mean,
                    'sd' => $s?->sd,
                    'min' => $s?->min,
                    'max' => $s?->max,
                    'percentiles' => $s === null ? null : (object) $s->percentiles,
                ];
            },
            $this->results->spec->outcomes,
            array_keys($this->results->spec->outcomes),
        );
    }

    /**
     * The draws themselves, and what each came to.
     *
     * @param  string  $sort  '' for the order of the runs, or the key of an input, or the id of an outcome
     * @return array<string, mixed>
     */
    public function draws(string $sort, bool $down, int $from, int $count): array
    {
        $runs = $this->results->runs();
        $names = [...$this->results->spec->plan->keys(), ...array_column($this->results->spec->outcomes, 'id')];
        $at = array_search($sort, $names, true);
        if ($at !== false) {
            // What is not known stands at the end, whichever way.
            $last = $down ? -INF : INF;
            $by = array_map(static fn (float $v): float => is_nan($v) ? $last : $v, $this->results->values([$at])[0]);
            array_multisort($by, $down ? SORT_DESC : SORT_ASC, $runs);
        } elseif ($down) {
            $runs = array_reverse($runs);
        }
        $rows = [];
        foreach (array_slice($runs, $from, $count) as $run) {
            $rows[$run] = $this->results->row($run);
        }

        return [
            'names' => $names,
            'runs' => count($runs),
            'rows' => array_map(
                static fn (int $run, array $row): array => ['run' => $run, 'numbers' => self::known($row)],
                array_keys($rows),
                array_values($rows),
            ),
        ];
    }

    /**
     * How often this one has more of an outcome than another under the same draws, and by how much.
     *
     * @return array<string, mixed>
     *
     * @throws NotUnderstood
     */
    public function against(self $other, string $outcome): array
    {
        [$a, $b] = [$this->results->positionOf($outcome), $other->results->positionOf($outcome)];
        $mine = array_combine($this->results->runs(), $this->results->values([$a])[0]);
        $theirs = array_combine($other->results->runs(), $other->results->values([$b])[0]);
        $moved = [];
        foreach ($mine as $run => $value) {
            $difference = $value - ($theirs[$run] ?? NAN);
            if (is_finite($difference)) {
                $moved[] = $difference;
            }
        }
        $s = Summary::of($moved, self::PERCENTS);
        $more = Beyond::of($moved, 0.0);
        $same = count(array_filter($moved, static fn (float $d): bool => $d === 0.0));

        return [
            'runs' => count($moved),
            'more' => $more?->share,
            'low' => $more?->low,
            'high' => $more?->high,
            'same' => $moved === [] ? null : $same / count($moved),
            'mean' => $s?->mean,
            'percentiles' => $s === null ? null : (object) $s->percentiles,
        ];
    }

    /**
     * @param  array<int, list<float>>  $columns
     * @return array<int, list<float>> those that did not fail
     */
    private static function sound(array $columns): array
    {
        return array_filter($columns, static fn (array $c): bool => array_filter($c, is_finite(...)) !== []);
    }

    /**
     * @param  list<float>  $values
     * @return list<?float>
     */
    private static function known(array $values): array
    {
        return array_map(static fn (float $v): ?float => is_finite($v) ? $v : null, $values);
    }
}
