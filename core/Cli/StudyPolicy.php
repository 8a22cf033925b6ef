<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Fit\PlannedPolicy;
use MerryOrbit\Core\Fit\PolicyReport;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\PolicyPlan;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\Nearest;
use MerryOrbit\Core\Reduce\Processes;
use MerryOrbit\Core\Simulate\Simulator;

/** A policy that the study itself looks for, as the page does. */
final class StudyPolicy implements Reporting
{
    private bool $isFailed = false;

    public function __construct(private readonly Arguments $arguments, private readonly Setting $setting)
    {
    }

    public function document(Simulator $simulator, Model $model): array
    {
        $jobs = max(1, (int) ($this->arguments->number('jobs') ?? Processes::cores()));
        $policy = PlannedPolicy::of($simulator, $model, $this->setting, $this->plan($model), $jobs);
        $walk = $policy->walk();
        $runs = 0;
        while ($walk->valid()) {
            $runs += array_sum(array_map(static fn (array $asked): int => $policy->cost($asked[0]), $walk->current()));
            $walk->send($policy->runs($walk->current()));
        }
        $end = $walk->getReturn();
        $this->isFailed = is_nan($end['value']);
        $names = array_column($policy->chosen, 'name');
        $report = (new PolicyReport($policy))->of($end);

        return [
            'value' => $report['value'],
            'choice' => (object) array_combine($names, $end['choice']),
            'evaluations' => $runs,
            'base' => $end['base'],
            'near' => (object) array_combine($names, $end['near']),
            'holds' => $end['isFeasible'],
            'others' => array_map(
                static fn (array $o): array => ['value' => $o[1], 'choice' => (object) array_combine($names, $o[0])],
                $end['others'],
            ),
            'limits' => $report['limits'],
            'expected' => $report['expected'],
            'against' => $report['against'],
            'remarks' => $report['sentences'],
        ];
    }

    /** @throws UsageError */
    private function plan(Model $model): PolicyPlan
    {
        $said = $this->arguments->last('policy') ?? '';
        $names = [];
        foreach ($model->part('policies') as $plan) {
            if ($plan instanceof PolicyPlan) {
                if ($plan->id === $said || Name::key($plan->name) === Name::key($said)) {
                    return $plan;
                }
                $names[] = $plan->name;
            }
        }
        throw new UsageError("The study has no policy `$said`.".Nearest::question($said, $names));
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
        return OptimiseCommand::shown($this->arguments->last('policy') ?? '', $document);
    }
}
