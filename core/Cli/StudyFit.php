<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Data\Comparison;
use MerryOrbit\Core\Fit\Found;
use MerryOrbit\Core\Fit\Judged;
use MerryOrbit\Core\Fit\OpenReport;
use MerryOrbit\Core\Fit\PlannedFit;
use MerryOrbit\Core\Fit\Posterior;
use MerryOrbit\Core\Fit\Report;
use MerryOrbit\Core\Fit\Sampled;
use MerryOrbit\Core\Fit\Walk;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\FitPlan;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\Nearest;
use MerryOrbit\Core\Reduce\Processes;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

/**
 * A calibration that the study has itself, with its own data, as the page carries it out; and what it leaves open.
 *
 * @phpstan-import-type Told from Report
 */
final class StudyFit implements Reporting
{
    private bool $isFailed = false;

    private int $runs = 0;

    public function __construct(private readonly Arguments $arguments, private readonly Setting $setting)
    {
    }

    public function document(Simulator $simulator, Model $model): array
    {
        $fit = PlannedFit::of($simulator, $model, $this->setting, $this->plan($model));
        $starts = range(0, $fit->starts() - 1);
        /** @var non-empty-list<array{list<float>, float, bool}> $ends */
        $ends = $this->walked($fit, $starts, static fn (int $i): Walk => new Walk($fit->search($i)));
        $fitted = $fit->fitted(array_map(static fn (array $end): Found => new Found(...$end), $ends));
        $report = Report::of($simulator, $fit, $fitted);
        $this->isFailed = $report['distance'] === null;

        return $this->arguments->command === 'posterior' && ! $this->isFailed
            ? $this->drawn($fit, $report)
            : $this->told($simulator, $fit, $report);
    }

    /** @throws UsageError */
    private function plan(Model $model): FitPlan
    {
        $said = $this->arguments->last('calibration') ?? '';
        $names = [];
        foreach ($model->part('calibrations') as $plan) {
            if ($plan instanceof FitPlan) {
                if ($plan->id === $said || Name::key($plan->name) === Name::key($said)) {
                    return $plan;
                }
                $names[] = $plan->name;
            }
        }
        throw new UsageError("The study has no calibration `$said`.".Nearest::question($said, $names));
    }

    /**
     * Walks, some in each process from their start to their end.
     *
     * @param  list<int>  $walks  their numbers
     * @param  \Closure(int): Walk  $from
     * @return list<mixed> what they came to
     */
    private function walked(PlannedFit $fit, array $walks, \Closure $from): array
    {
        $jobs = min(count($walks), max(1, (int) ($this->arguments->number('jobs') ?? Processes::cores())));
        $parts = [];
        for ($job = 0; $job < $jobs; $job++) {
            $parts[] = function () use ($fit, $walks, $from, $job, $jobs): array {
                $ends = [];
                $runs = 0;
                for ($i = $job; $i < count($walks); $i += $jobs) {
                    $walk = $from($walks[$i])->steps;
                    while ($walk->valid()) {
                        $asked = $walk->current();
                        $runs += count($asked);
                        $walk->send($fit->runs($asked));
                    }
                    $end = $walk->getReturn();
                    $ends[$i] = $end instanceof Found ? [$end->point, $end->distance, $end->isConverged] : $end;
                }

                return [$runs, $ends];
            };
        }
        $all = [];
        foreach (Processes::each($parts) as [$runs, $ends]) {
            $this->runs += $runs;
            $all += $ends;
        }
        ksort($all);

        return array_values($all);
    }

    /**
     * @param  Told  $report
     * @return array<string, mixed>
     *
     * @throws RunRefused
     */
    private function told(Simulator $simulator, PlannedFit $fit, array $report): array
    {
        $judged = $this->isFailed ? null : Judged::of($simulator, $fit, $report['point']);
        $names = array_column($fit->numbers(), 'name');
        $errors = array_map(static fn (array $p): ?float => $p['standard_error'], $report['parameters']);
        $isProfiled = $this->arguments->last('profile') !== null && ! $this->isFailed;
        $from = static fn (int $j): Walk => new Walk($fit->profile($report['point'], $errors[$j], $j));
        $profiles = $isProfiled ? $this->walked($fit, array_keys($names), $from) : [];

        return [
            'objective' => $report['distance'] === null ? null : $report['distance'] * $report['n'],
            'converged' => $report['converged'],
            'evaluations' => $this->runs,
            'parameters' => $report['parameters'],
            'residual_sd' => null,
            'rss' => null,
            'n' => $report['n'],
            'correlations' => $report['correlations'],
            'sizes' => $report['sizes'],
            'remarks' => $report['sentences'],
            ...$profiles === [] ? [] : ['profiles' => array_map(self::profile(...), $names, $profiles)],
            'series' => $this->compared($fit, $judged, static fn (array $s): Comparison => $s['counted']),
            'held' => $this->compared($fit, $judged, static fn (array $s): Comparison => $s['held']),
        ];
    }

    /**
     * @param  \Closure(array{counted: Comparison, held: Comparison, ...}): Comparison  $which
     * @return list<array<string, mixed>>
     */
    private function compared(PlannedFit $fit, ?Judged $judged, \Closure $which): array
    {
        $analysis = Analyser::analyse($fit->model);

        return array_map(
            static fn (array $s): array => [
                'column' => $fit->measured[$s['evidence']]->column,
                'variable' => $analysis->nameOf($s['key']),
                ...$which($s)->toRecord(),
            ],
            $judged->series ?? [],
        );
    }

    /** @return array{name: string, points: list<array{value: float, objective: ?float}>} */
    private static function profile(string $name, mixed $points): array
    {
        /** @var list<array{float, ?float}> $points */
        return ['name' => $name, 'points' => array_map(static fn (array $p): array => ['value' => $p[0], 'objective' => $p[1]], $points)];
    }

    /**
     * @param  Told  $report
     * @return array<string, mixed>
     *
     * @throws UsageError
     */
    private function drawn(PlannedFit $fit, array $report): array
    {
        [$draws, $chains] = PosteriorCommand::counts($this->arguments);
        $each = Posterior::each($draws, $chains);
        /** @var list<array{draws: list<list<float>>, sds: list<list<float>>, accepted: int}> $all */
        $all = $this->walked($fit, range(0, $chains - 1), static fn (int $c): Walk => new Walk($fit->chain($report['point'], $c, $each)));
        $sampled = new Sampled($fit->numbers(), $all, $each);
        $file = $this->arguments->last('draws-out');
        if ($file !== null) {
            UncertainInputs::write($file, array_column($fit->numbers(), 'name'), $sampled->draws());
        }

        return [
            'parameters' => $sampled->parameters(),
            'acceptance' => $sampled->acceptance(),
            'draws' => $each * $chains,
            'chains' => $chains,
            'sds' => self::sizes($fit, $sampled),
            'remarks' => $sampled->sentences(),
        ];
    }

    /** @return list<array<string, mixed>> */
    private static function sizes(PlannedFit $fit, Sampled $sampled): array
    {
        $analysis = Analyser::analyse($fit->model);
        $named = [];
        foreach (OpenReport::sizes($fit, $sampled) as $size) {
            $measured = $fit->counted[is_string($size['evidence']) ? $size['evidence'] : ''];
            unset($size['evidence']);
            $named[] = ['series' => $analysis->nameOf(Model::keyAt($measured->of, $measured->at)), ...$size];
        }

        return $named;
    }

    public function isFailed(): bool
    {
        return $this->isFailed;
    }

    /**
     * @param  array<string, mixed>  $document
     * @return iterable<string>
     */
    public function lines(array $document): iterable
    {
        if (isset($document['acceptance'])) {
            return PosteriorCommand::shown($document);
        }

        return FitCommand::shown($document);
    }
}
