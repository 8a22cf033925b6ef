<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Experiment;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Roster;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Simulate\Thinning;
use MerryOrbit\Core\Simulate\Trajectory;

/** One question answered by single members, by classes and by one aggregate, side by side: where they part, and why they must. */
final readonly class LevelsView
{
    private const MOMENTS = 300;

    /** Runs of single members, whose chances differ from run to run. */
    public const RUNS = 60;

    /** Nor do they take longer than that. */
    private const SECONDS = 2.0;

    /** So many moments in a row outside of nine in ten runs of single members are no accident. */
    private const APART = 6;

    public function __construct(private Simulator $simulator, private Model $model, private Roster $roster, private Setting $setting)
    {
    }

    /** @return array<string, string> names by id of what can be asked for: single numbers that are computed */
    public function choices(Analysis $analysis): array
    {
        $choices = [];
        foreach ($analysis->model->elements as $id => $element) {
            $isSingle = ($analysis->extents[(string) $id] ?? []) === [] && ! ($element instanceof Parameter);
            if ($isSingle && $analysis->canCompute((string) $id) && $this->model->element((string) $id) !== null) {
                $choices[(string) $id] = $element->name;
            }
        }

        return $choices;
    }

    /**
     * @param  string  $key  of a single number
     * @return array<string, mixed>
     *
     * @throws NotUnderstood|RunRefused
     */
    public function of(string $key): array
    {
        $trial = $this->trial('members');
        $choices = $this->choices($trial->analysis);
        if (! isset($choices[$key])) {
            throw NotUnderstood::because('Levels are compared by a single number that is computed. Choose another.');
        }
        [$members, $times] = $this->members($trial, $key);
        $levels = [['level' => 'members', ...$members]];
        foreach (['classes', 'one'] as $level) {
            $levels[] = ['level' => $level, ...$this->level($level, $key)];
        }
        $parts = [];
        foreach (array_slice($levels, 1) as $one) {
            $parts[$one['level']] = $this->parts($times, $one['values'], $members['low'], $members['high']);
        }

        return [
            'of' => $key,
            'name' => $choices[$key],
            'unit' => trim($trial->analysis->model->element($key)->unit ?? ''),
            'choices' => array_map(
                static fn (string $id, string $name): array => ['key' => $id, 'name' => $name],
                array_keys($choices),
                array_values($choices),
            ),
            'times' => $times,
            'levels' => $levels,
            'parts' => (object) $parts,
            'sentences' => $this->sentences($parts),
        ];
    }

    private function trial(string $level): Trial
    {
        $levels = new Setting(levels: [$this->roster->id => $level]);

        return Trial::of($this->model, $levels->over($this->setting));
    }

    /** @return array{array{values: list<?float>, low: list<?float>, high: list<?float>, runs: int, lost: list<string>, refusal: null, most: ?float, mean: ?float}, list<float>} */
    private function members(Trial $trial, string $key): array
    {
        $prepared = $this->simulator->prepare($trial->analysis, $trial->settings, [$key], self::RUNS);
        $begun = hrtime(true);
        $columns = [];
        $times = [];
        for ($k = 0; $k < self::RUNS && ($k < 3 || (hrtime(true) - $begun) / 1e9 < self::SECONDS); $k++) {
            $run = $prepared->run(seed: $trial->settings->seed + $k, diagnose: $k === 0);
            if ($run->fault !== null) {
                throw NotUnderstood::because($run->fault->sentence());
            }
            self::refuseEnded($run);
            $thin = Thinning::of($run, self::MOMENTS);
            $times = $thin->times();
            $columns[] = $thin->column($key);
        }
        $mean = $low = $high = [];
        foreach (array_keys($times) as $i) {
            $all = array_column($columns, $i);
            sort($all);
            $mean[] = array_sum($all) / count($all);
            $low[] = $all[(int) floor(0.05 * (count($all) - 1))];
            $high[] = $all[(int) ceil(0.95 * (count($all) - 1))];
        }

        return [
            [
                'values' => $mean,
                'low' => $low,
                'high' => $high,
                'runs' => count($columns),
                'lost' => [],
                'refusal' => null,
                ...self::told($mean),
            ],
            $times,
        ];
    }

    /** Runs of different lengths do not lie side by side moment by moment. */
    private static function refuseEnded(Trajectory $run): void
    {
        if ($run->ended) {
            throw NotUnderstood::because(
                'A run ends early by the condition of the study; levels are compared over the whole time. Take the condition away.',
            );
        }
    }

    /** @return array{values: list<?float>, low: list<?float>, high: list<?float>, runs: int, lost: list<string>, refusal: ?string, most: ?float, mean: ?float} */
    private function level(string $level, string $key): array
    {
        $none = ['values' => [], 'low' => [], 'high' => [], 'runs' => 0, 'lost' => [], 'most' => null, 'mean' => null];
        try {
            $trial = $this->trial($level);
            $problems = $trial->analysis->blockers();
            if ($problems !== []) {
                return [...$none, 'refusal' => $problems[0]->sentence];
            }
            $run = $this->simulator->prepare($trial->analysis, $trial->settings, [$key])->run();
            self::refuseEnded($run);
            $values = Thinning::of($run, self::MOMENTS)->column($key);
            [, $lost] = Levels::at($this->model, $this->roster, $level);

            return [
                ...$none,
                'values' => $values,
                'runs' => 1,
                'lost' => $lost,
                'refusal' => $run->fault?->sentence(),
                ...self::told($values),
            ];
        } catch (NotUnderstood|RunRefused $e) {
            return [...$none, 'refusal' => $e->getMessage()];
        }
    }

    /**
     * @param  list<float>  $values
     * @return array{most: ?float, mean: ?float}
     */
    private static function told(array $values): array
    {
        return ['most' => $values === [] ? null : max($values), 'mean' => $values === [] ? null : array_sum($values) / count($values)];
    }

    /**
     * @param  list<float>  $times
     * @param  list<?float>  $values
     * @param  list<?float>  $low
     * @param  list<?float>  $high
     * @return ?float the time from which on it is not as single members are; null if it is all along
     */
    private function parts(array $times, array $values, array $low, array $high): ?float
    {
        $outside = 0;
        foreach ($values as $i => $value) {
            $room = 1e-6 * max(abs($low[$i] ?? 0.0), abs($high[$i] ?? 0.0));
            $isOut = $value !== null && ($value < ($low[$i] ?? $value) - $room || $value > ($high[$i] ?? $value) + $room);
            $outside = $isOut ? $outside + 1 : 0;
            if ($outside === self::APART) {
                return $times[$i - self::APART + 1];
            }
        }

        return null;
    }

    /**
     * @param  array<string, ?float>  $parts
     * @return list<string>
     */
    private function sentences(array $parts): array
    {
        $unit = $this->model->time->unit;
        $name = $this->model->dimensions()->nameOf($this->roster->of);
        $told = array_filter($parts, static fn (?float $t): bool => $t !== null);
        $words = ['classes' => 'The classes', 'one' => 'The aggregate'];
        if ($told === []) {
            return ['All along they say what single members say: in nine of ten runs these lie about them.'];
        }
        $sentences = array_map(
            static fn (string $level, float $t): string => "$words[$level] part".
                ($level === 'one' ? 's' : '').
                " from single members at $unit ".
                Shown::number(round($t, 3)).
                '.',
            array_keys($told),
            array_values($told),
        );
        $whens = array_filter($this->roster->exits, static fn (array $e): bool => $e['kind'] === 'when');
        foreach (array_slice($whens, 0, 1) as $exit) {
            $sentences[] = "A threshold is crossed by all of a class together: all are “{$exit['words']}” in one step, where single ones go one by one.";
        }
        $sentences[] = "Each $name differs from the others; a class has one value for all, its mean, and bent formulas of a mean are not the mean of them.";

        return $sentences;
    }
}
