<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ReportPlan;
use MerryOrbit\Core\Report\Besides;
use MerryOrbit\Core\Report\PaperHtml;
use MerryOrbit\Core\Report\PaperMarkdown;
use MerryOrbit\Core\Report\Report;
use MerryOrbit\Core\Simulate\Simulator;

/** The report of a study as files: `report.html`, which needs nothing else, `report.md`, and its pictures. */
final readonly class ReportCommand
{
    public const TAKES = ['report', 'sections', 'paper'];

    /**
     * @return list<string> the files that were written
     *
     * @throws UsageError
     */
    public static function write(Simulator $simulator, Model $model, Arguments $arguments): array
    {
        $to = $arguments->last('out') ?? throw new UsageError('Say where the report goes: --out=FOLDER.');
        $of = 'Of the model '.($model->name === '' ? 'Untitled' : $model->name).', made on '.date('j F Y').'.';
        $paper = Report::of($simulator, $model, self::plan($model, $arguments), new Besides($of));
        $files = ['report.html' => (new PaperHtml())->of($paper), ...PaperMarkdown::files($paper)];
        foreach ($files as $name => $content) {
            $path = "$to/$name";
            if (! is_dir(dirname($path)) && ! @mkdir(dirname($path), 0777, true)) {
                throw new UsageError("The folder $to cannot be made.");
            }
            if (@file_put_contents($path, $content) === false) {
                throw new UsageError("$path cannot be written.");
            }
        }

        return array_keys($files);
    }

    private static function plan(Model $model, Arguments $arguments): ReportPlan
    {
        $plans = array_filter($model->part('reports'), static fn (mixed $p): bool => $p instanceof ReportPlan);
        $wanted = $arguments->last('report');
        $plan =
            $wanted === null
                ? reset($plans)
                : $plans[$wanted] ??
                    throw new UsageError(
                        "The study has no report `$wanted`".
                            ($plans === [] ? '.' : '; it has '.implode(', ', array_keys($plans)).'.'),
                    );
        $plan = $plan === false ? new ReportPlan('report', $model->name === '' ? 'Untitled' : $model->name) : $plan;
        $sections = $plan->sections;
        $chosen = $arguments->last('sections');
        if ($chosen !== null) {
            $sections = [];
            foreach (explode(',', $chosen) as $kind) {
                Requested::oneOf(trim($kind), ReportPlan::SECTIONS, '--sections');
                $sections[] = ['kind' => trim($kind)];
            }
        }
        $paper = Requested::oneOf($arguments->last('paper') ?? $plan->paper, ReportPlan::PAPERS, '--paper');

        return ReportPlan::read([...$plan->toRecord(), 'paper' => $paper, 'sections' => $sections]);
    }
}
