<?php

declare(strict_types=1);

namespace App\Fit;

use App\Database\Locked;
use App\Models\Fit;
use App\Models\FitWalk;
use App\Runs\Claim;
use App\Runs\Results;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;
use MerryOrbit\Core\Fit\Found;
use MerryOrbit\Core\Fit\OpenReport;
use MerryOrbit\Core\Fit\PlannedFit;
use MerryOrbit\Core\Fit\PlannedPolicy;
use MerryOrbit\Core\Fit\PolicyReport;
use MerryOrbit\Core\Fit\Posterior;
use MerryOrbit\Core\Fit\Report;
use MerryOrbit\Core\Fit\Sampled;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\Processes;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

/**
 * Goes on with the walks of a fit, a short stretch of one after the other. What a walk was told is written down after each stretch; whoever
 * goes on with it is told that again first, and comes to where it was: on another machine, after a restart, after a worker was killed.
 */
final class Walker
{
    /** First from all starts, then each number by itself around the best end. Draws of what is left open begin when somebody asks. */
    public const STAGES = ['search', 'profile', 'done', 'chain', 'drawn', 'seek'];

    /** Seconds of a stretch. */
    private const STRETCH = 0.3;

    /** Seconds to wait for the database where something must be written. */
    private const PATIENCE = 75.0;

    /** Walks that are kept as they stand, so that they need not be told all again. */
    private const MOST_KEPT = 40;

    private ?PlannedFit $planned = null;

    private ?PlannedPolicy $policy = null;

    /** Seconds that a point takes, as the last ones did. */
    private ?float $each = null;

    /**
     * By walk: after how many pieces, where it stands, and what it has been told already of what it asks for now.
     *
     * @var array<int, array{int, \Generator<mixed, mixed, mixed, mixed>, list<mixed>}>
     */
    private array $standing = [];

    /** @param  float  $stretch  seconds, after which what was told is written down */
    public function __construct(
        private readonly Fit $fit,
        private readonly Simulator $simulator,
        private readonly float $stretch = self::STRETCH,
    ) {
    }

    /** @return Builder<FitWalk> */
    public static function left(string $fit): Builder
    {
        return FitWalk::query()->where('fit_id', $fit)->where('made', false);
    }

    /**
     * A stretch of a walk that nobody else goes.
     *
     * @param  string  $who  whose claims are one's own
     * @return bool whether there was one
     *
     * @throws RunRefused|NotUnderstood
     */
    public function next(string $who): bool
    {
        $walk = Locked::waitOut(fn (): ?FitWalk => Claim::next($this->wanted(...), $who), self::PATIENCE);
        if ($walk !== null) {
            $this->stretch($walk);
        }
        // Also where whoever ended the last walk of a stage was killed before the next one began.
        $isStage = ($walk === null || $walk->made) && ! self::left($this->fit->id)->exists();

        return ($isStage && $this->advance()) || $walk !== null;
    }

    /**
     * Those that stand here, or were not begun; of them the one that is least far.
     *
     * @return Builder<FitWalk>
     */
    private function wanted(): Builder
    {
        $here = implode(',', [0, ...array_keys($this->standing)]);

        return self::left($this->fit->id)
            ->orderByRaw("case when pieces = 0 or id in ($here) then 0 else 1 end")
            ->orderBy('runs')
            ->orderBy('id');
    }

    private function planned(): PlannedFit
    {
        return $this->planned ??= FitSpec::read($this->fit->spec)->planned($this->simulator);
    }

    private function policy(): PlannedPolicy
    {
        return $this->policy ??= FitSpec::read($this->fit->spec)->policy($this->simulator, Processes::cores());
    }

    private function stretch(FitWalk $walk): void
    {
        [$pieces, $steps, $some] = $this->standing[$walk->id] ?? [-1, null, []];
        if ($steps === null || $pieces !== $walk->pieces) {
            [$steps, $some] = $this->again($walk);
        }
        $path = $walk->nearer();
        $runs = $walk->runs;
        $best = $walk->best ?? INF;
        $told = [];
        $until = hrtime(true) + $this->stretch * 1e9;
        while ($steps->valid() && ($told === [] || hrtime(true) < $until)) {
            $share = $this->share($steps, $some);
            $begun = hrtime(true);
            [$there, $standings] = $this->answer($walk->name, $share);
            $this->each = (hrtime(true) - $begun) / 1e9 / max(1, count($share));
            $told[] = $there;
            foreach ($standings as [$cost, $standing, $point]) {
                $runs += $cost;
                if ($standing < $best) {
                    $best = $standing;
                    $path[] = [$runs, $best, $point];
                }
            }
            $some = self::given($steps, [...$some, ...$there]);
        }
        if ($told !== []) {
            Results::write(self::file($this->fit, $walk->name, $walk->pieces), (string) gzcompress(serialize($told), 1));
        }
        $isEnd = ! $steps->valid();
        $this->standing = array_slice($this->standing, -self::MOST_KEPT, preserve_keys: true);
        $this->standing[$walk->id] = [$walk->pieces + 1, $steps, $some];
        if ($isEnd) {
            unset($this->standing[$walk->id]);
        }
        $gone = [
            'pieces' => $walk->pieces + 1,
            'runs' => $runs,
            'best' => is_finite($best) ? $best : null,
            'path' => json_encode(self::thinned($path), JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION),
            'ends' => $isEnd ? self::written($steps->getReturn()) : null,
            'made' => $isEnd,
            'claimed_by' => '',
        ];
        Locked::waitOut(static fn (): bool => $walk->update($gone), self::PATIENCE);
    }

    /**
     * Of what a walk asks for, as much as a stretch has time for: one choice of a policy may be hundreds of runs.
     *
     * @param  \Generator<mixed, mixed, mixed, mixed>  $steps
     * @param  list<mixed>  $some  what it was told of it already
     * @return list<mixed>
     */
    private function share(\Generator $steps, array $some): array
    {
        $most = $this->each === null ? 1 : max(1, (int) ((0.5 * $this->stretch) / max(1e-9, $this->each)));

        return array_slice(self::asked($steps), count($some), $most);
    }

    /**
     * Tells a walk what it asks for, once all of that is known.
     *
     * @param  \Generator<mixed, mixed, mixed, mixed>  $steps
     * @param  list<mixed>  $some
     * @return list<mixed> what it is still to be told
     */
    private static function given(\Generator $steps, array $some): array
    {
        if (count($some) < count(self::asked($steps))) {
            return $some;
        }
        $steps->send($some);

        return [];
    }

    /**
     * @param  \Generator<mixed, mixed, mixed, mixed>  $steps
     * @return list<mixed>
     */
    private static function asked(\Generator $steps): array
    {
        $asked = $steps->current();

        return is_array($asked) ? array_values($asked) : [];
    }

    /**
     * What a walk asks for.
     *
     * @param  list<mixed>  $asked
     * @return array{list<mixed>, list<array{int, float, list<float>}>} what it is told; of each point how many runs it took, how good it is,
     *   the less the better, and where
     */
    private function answer(string $walk, array $asked): array
    {
        if (str_starts_with($walk, 'seek')) {
            /** @var list<array{?int, list<float>}> $asked */
            $there = $this->policy()->runs($asked);
            $standings = array_map(
                fn (array $one, ?array $runs): array => [
                    $this->policy()->cost($one[0]),
                    $one[0] === null ? $this->policy()->standing($runs) : INF,
                    $one[1],
                ],
                $asked,
                $there,
            );

            return [$there, $standings];
        }
        /** @var list<list<float>> $asked */
        $there = $this->planned()->runs($asked);
        $isChain = str_starts_with($walk, 'chain');

        return [
            $there,
            array_map(
                fn (array $point, ?array $one): array => [1, $isChain ? INF : $this->planned()->distance($one), $point],
                $asked,
                $there,
            ),
        ];
    }

    /**
     * A walk where it stands, told all that it was told before.
     *
     * @return array{\Generator<mixed, mixed, mixed, mixed>, list<mixed>} and what it was told of what it asks for now
     */
    private function again(FitWalk $walk): array
    {
        $steps = $this->anew($walk->name);
        $some = [];
        for ($piece = 0; $piece < $walk->pieces; $piece++) {
            foreach (self::told($this->fit, $walk->name, $piece) as $there) {
                $some = self::given($steps, [...$some, ...$there]);
            }
        }

        return [$steps, $some];
    }

    /** A walk from its beginning. What it asks for and is told depends on its kind; see answer(). */
    private function anew(string $walk): \Generator
    {
        [$stage, $number] = [...explode('-', $walk), '0'];
        if ($stage === 'seek') {
            return $this->policy()->walk();
        }
        if ($stage === 'search') {
            return $this->planned()->search((int) $number);
        }
        /** @var array{point: list<float>, parameters: list<array{standard_error: ?float}>} $result */
        $result = $this->result();
        $error = $result['parameters'][(int) $number]['standard_error'] ?? null;

        return $stage === 'profile'
            ? $this->planned()->profile($result['point'], $error, (int) $number)
            : $this->planned()->chain($result['point'], (int) $number, $this->each());
    }

    /** @return list<list<mixed>> what a walk was told in a stretch */
    private static function told(Fit $fit, string $walk, int $piece): array
    {
        $file = self::file($fit, $walk, $piece);
        $bytes = Results::disk()->exists($file) ? @gzuncompress((string) Results::disk()->get($file)) : false;

        /** @var list<list<mixed>>|false $told */
        $told = $bytes === false ? false : unserialize($bytes, ['allowed_classes' => false]);

        return $told === false ? throw NotUnderstood::because('What this search was told is not there any more. Begin it anew.') : $told;
    }

    private static function file(Fit $fit, string $walk, int $piece): string
    {
        return "$fit->folder/$walk-$piece.told";
    }

    /**
     * @param  list<array{int, float, list<float>}>  $path
     * @return list<array{int, float, list<float>}>
     */
    private static function thinned(array $path): array
    {
        // Early steps are many and tell little; those of the end are kept.
        while (count($path) > 120) {
            $path = array_values(
                array_filter($path, static fn (int $i): bool => $i % 2 === 0 || $i > count($path) - 40, ARRAY_FILTER_USE_KEY),
            );
        }

        return $path;
    }

    private static function written(mixed $end): string
    {
        if (is_array($end) && is_float($end['value'] ?? null) && is_nan($end['value'])) {
            $end['value'] = null;
        }

        return json_encode(
            $end instanceof Found ? [$end->point, is_finite($end->distance) ? $end->distance : null, $end->isConverged] : $end,
            JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION,
        );
    }

    /** @return array<string, mixed> */
    private function result(): array
    {
        /** @var array<string, mixed> */
        return json_decode((string) $this->fit->fresh()?->result, true, flags: JSON_THROW_ON_ERROR);
    }

    /**
     * What comes next, once all walks of a stage are made. Several may find that they are; what they do is the same, and done once.
     *
     * @return bool whether there was a stage to end
     */
    private function advance(): bool
    {
        $fit = $this->fit->fresh();
        if ($fit === null || $fit->isAtRest()) {
            return false;
        }
        if ($fit->stage === 'search') {
            $result = $this->searched();
            $isSomewhere = $result['distance'] !== null;
            $this->put('search', $isSomewhere ? 'profile' : 'done', $result, $isSomewhere ? array_keys($this->planned()->numbers()) : []);
        } elseif ($fit->stage === 'profile') {
            $ends = $this->ends('profile');
            $this->put('profile', 'done', [...$this->result(), 'profiles' => $ends], []);
        } elseif ($fit->stage === 'seek') {
            /** @var array{choice: list<float>, value: ?float, base: ?float, near: list<array{float, float}>, isFeasible: bool,
             *     others: list<array{list<float>, float}>} $end */
            [$end] = $this->ends('seek');
            $this->put('seek', 'done', (new PolicyReport($this->policy()))->of([...$end, 'value' => $end['value'] ?? NAN]), []);
        } else {
            $sampled = self::sampled($this->planned(), $this->ends('chain'), $this->each());
            $open = OpenReport::of($this->simulator, $this->planned(), $sampled);
            $this->put('chain', 'drawn', [...$this->result(), 'open' => $open], []);
        }

        return true;
    }

    /** @return array<string, mixed> */
    private function searched(): array
    {
        $found = [];
        foreach ($this->ends('search') as $end) {
            /** @var array{list<float>, ?float, bool} $end */
            $found[] = new Found($end[0], $end[1] ?? INF, $end[2]);
        }
        $planned = $this->planned();

        return Report::of(
            $this->simulator,
            $planned,
            $planned->fitted($found === [] ? throw new \LogicException('Every fit has a start.') : $found),
        );
    }

    /** Draws of each chain. */
    private function each(): int
    {
        $fit = $this->fit->fresh() ?? $this->fit;

        return Posterior::each($fit->draws, max(1, $fit->chains));
    }

    /** @param  list<mixed>  $ends  of all chains */
    public static function sampled(PlannedFit $planned, array $ends, int $each): Sampled
    {
        /** @var list<array{draws: list<list<float>>, sds: list<list<float>>, accepted: int}> $ends */
        return new Sampled($planned->numbers(), $ends, $each);
    }

    /** @return list<mixed> what the walks of a stage came to */
    private function ends(string $stage): array
    {
        $ends = [];
        foreach (
            $this->fit
                ->walks()
                ->where('name', 'like', "$stage-%")
                ->pluck('ends') as $end
        ) {
            $ends[] = json_decode(is_string($end) ? $end : 'null', true);
        }

        return $ends;
    }

    /**
     * @param  array<string, mixed>  $result
     * @param  list<int>  $numbers  of which a profile is wanted
     */
    private function put(string $from, string $to, array $result, array $numbers): void
    {
        $written = json_encode($result, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION);
        Locked::waitOut(
            fn () => DB::transaction(function () use ($from, $to, $written, $numbers): void {
                $isFirst =
                    Fit::query()
                        ->whereKey($this->fit->id)
                        ->where('stage', $from)
                        ->update(['stage' => $to, 'result' => $written]) === 1;
                foreach ($isFirst ? $numbers : [] as $number) {
                    FitWalk::query()->create(['fit_id' => $this->fit->id, 'name' => "profile-$number", 'path' => '[]']);
                }
            }),
            self::PATIENCE,
        );
    }
}
