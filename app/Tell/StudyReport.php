<?php

declare(strict_types=1);

namespace App\Tell;

use App\Fit\FitView;
use App\Models\EditRow;
use App\Models\ModelDocument;
use App\Studies\Versions;
use MerryOrbit\Core\Model\FitPlan;
use MerryOrbit\Core\Model\ReportPlan;
use MerryOrbit\Core\Report\Besides;
use MerryOrbit\Core\Report\Paper;
use MerryOrbit\Core\Report\PaperMarkdown;
use MerryOrbit\Core\Report\Report;
use MerryOrbit\Core\Simulate\Simulator;

/**
 * The report of a stored study: with its history and what was searched for, which no model file holds.
 *
 * @phpstan-import-type Found from Besides
 */
final readonly class StudyReport
{
    /** So much of the history is told, newest first. */
    private const MOST = 200;

    public function __construct(private ModelDocument $document)
    {
    }

    /** @param  ?string  $id  of a report of the study; null for one that tells everything */
    public function paper(Simulator $simulator, ?string $id): ?Paper
    {
        $model = $this->document->core();
        $plan =
            $id === null
                ? new ReportPlan('report', $model->name === '' ? 'Untitled' : $model->name)
                : $model->part('reports')[$id] ?? null;
        if (! ($plan instanceof ReportPlan)) {
            return null;
        }
        $versions = new Versions($this->document);
        $named = $versions->named($this->document->revision);
        $of =
            "Of the model {$model->name}, version {$this->document->revision}".
            (str_starts_with($named, 'revision') ? '' : " ($named)").
            ', made on '.
            now()->format('j F Y').
            '.';
        $kinds = array_column($plan->told(), 'kind');

        return Report::of(
            $simulator,
            $model,
            $plan,
            new Besides(
                $of,
                in_array('history', $kinds, true) ? $this->history() : [],
                in_array('fits', $kinds, true) ? $this->fits() : [],
            ),
        );
    }

    /** @return list<array{at: string, by: string, words: string, version: int}> */
    private function history(): array
    {
        $names = $this->document->milestones()->pluck('name', 'revision')->all();

        return array_values(
            $this->document
                ->edits()
                ->whereNull('undone_at_revision')
                ->where('kind', '<>', 'undo')
                ->latest('revision')
                ->limit(self::MOST)
                ->with('user:id,name')
                ->get(['revision', 'words', 'created_at', 'user_id'])
                ->map(
                    static fn (EditRow $row): array => [
                        'version' => $row->revision,
                        'at' => $row->created_at->format('j F Y H:i'),
                        'by' => $row->user->name,
                        'words' => strtr($row->words, ['`' => '']).
                            (isset($names[$row->revision]) ? " – named “{$names[$row->revision]}”" : ''),
                    ],
                )
                ->all(),
        );
    }

    /** @return list<Found> the last of each plan */
    private function fits(): array
    {
        $plans = $this->document->core()->part('calibrations');
        $told = [];
        foreach ($this->document->fits()->latest()->orderByDesc('id')->take(self::MOST)->get() as $fit) {
            $state = (new FitView($fit))->state();
            if (isset($told[$fit->plan]) || $state['kind'] !== 'fit' || ! is_array($state['best'])) {
                continue;
            }
            /** @var array{distance: float, point: list<float>} $best */
            $best = $state['best'];
            /** @var list<array{name: string, unit: string}> $numbers */
            $numbers = $state['numbers'];
            $plan = $plans[$fit->plan] ?? null;
            $told[$fit->plan] = [
                'name' => $plan instanceof FitPlan ? $plan->name : 'A calibration that is gone',
                'at' => $fit->created_at->format('j F Y'),
                'found' => array_map(
                    static fn (array $n, float $v): array => ['name' => $n['name'], 'value' => $v, 'unit' => Paper::unit($n['unit'])],
                    array_slice($numbers, 0, count($best['point'])),
                    array_slice($best['point'], 0, count($numbers)),
                ),
                'words' => "Searched in version {$fit->revision}, with {$state['points']} measured values in {$state['series']} series".
                    ($state['finished'] ? '.' : '; the search was not at its end.'),
            ];
        }

        return array_values($told);
    }

    /** @return string a ZIP with Markdown and its pictures */
    public static function packed(Paper $paper): string
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'orbit-data');
        $zip = new \ZipArchive();
        $zip->open($path, \ZipArchive::CREATE | \ZipArchive::OVERWRITE);
        foreach (PaperMarkdown::files($paper) as $name => $content) {
            $zip->addFromString($name, $content);
        }
        $zip->close();
        $content = (string) file_get_contents($path);
        @unlink($path);

        return $content;
    }
}
