<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Report;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Map\Record;
use MerryOrbit\Core\Model\Boundary;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Question;
use MerryOrbit\Core\Model\ReferenceMode;
use MerryOrbit\Core\Model\ReportPlan;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

/** Makes the report of a study: what it asks, how it is built, what comes of it, on which grounds. Made from the model as it is. */
final class Report
{
    public const TITLES = [
        'question' => 'The question',
        'map' => 'What acts on what',
        'structure' => 'How it is built',
        'runs' => 'What happens',
        'data' => 'The data',
        'fits' => 'Calibration',
        'tests' => 'What was tested',
        'uncertainty' => 'What is uncertain',
        'findings' => 'Findings',
        'variables' => 'All variables',
        'history' => 'How it came about',
    ];

    private const MODES = [
        'seen' => 'as it was',
        'feared' => 'as it is feared',
        'hoped' => 'as it is hoped',
        'expected' => 'as it is expected',
    ];

    private const SIDES = ['inside' => 'Inside', 'given' => 'Given from outside', 'left' => 'Left out'];

    public static function of(Simulator $simulator, Model $model, ReportPlan $plan, Besides $besides = new Besides()): Paper
    {
        $paper = new Paper($plan->title, $besides->of === '' ? "Of the model {$model->name}." : $besides->of, $plan->paper);
        $paper->text($plan->words);
        $analysis = Analyser::analyse($model);
        $trouble = '';
        try {
            $trial = Trial::of($model);
            $run = $trial->run($simulator);
        } catch (RunRefused $e) {
            [$trial, $run, $trouble] = [null, null, $e->getMessage()];
        }
        $documents = new Documents($analysis);
        $results = new Results($simulator, $analysis, $trial, $run, $trouble);
        foreach ($plan->told() as ['kind' => $kind, 'words' => $words]) {
            $section = new Paper('', '');
            match ($kind) {
                'question' => self::question($section, $model),
                'map' => self::map($section, $model),
                'structure' => $documents->structure($section),
                'variables' => $documents->variables($section),
                'runs' => $results->runs($section),
                'data' => $results->data($section),
                'fits' => $results->fits($section, $besides->fits),
                'tests' => $results->tests($section),
                'uncertainty' => $results->uncertainty($section),
                'findings' => $results->findings($section),
                'history' => self::history($section, $besides),
            };
            // A section of which the study says nothing is left out, unless its author says something.
            if ($section->pieces !== [] || trim($words) !== '') {
                $paper->heading(2, self::TITLES[$kind]);
                $paper->text($words);
                $paper->add($section);
            }
        }

        return $paper;
    }

    private static function question(Paper $paper, Model $model): void
    {
        foreach ($model->part('questions') as $question) {
            if ($question instanceof Question) {
                $paper->text($question->text === '' ? '' : '**'.Paper::plain($question->text).'**');
                $paper->text($question->who === '' ? '' : 'Who asks: '.Paper::plain($question->who));
                $paper->text($question->decision === '' ? '' : 'What will be decided: '.Paper::plain($question->decision));
                if ($question->answers !== []) {
                    $answers = array_map(static fn (string $a): string => '1. '.Paper::plain($a), $question->answers);
                    $paper->text("What would count as an answer:\n\n".implode("\n", $answers));
                }
            }
        }
        $paper->text($model->note);
        $lines = array_filter($model->part('boundary'), static fn (mixed $l): bool => $l instanceof Boundary);
        usort(
            $lines,
            static fn (Boundary $a, Boundary $b): int => [array_search($a->side, Boundary::SIDES, true), $a->place] <=> [
                array_search($b->side, Boundary::SIDES, true),
                $b->place,
            ],
        );
        if ($lines !== []) {
            $paper->heading(3, 'The boundary');
            $paper->table(
                ['', 'what', 'why'],
                array_map(static fn (Boundary $l): array => [self::SIDES[$l->side], $l->name, $l->why], $lines),
            );
        }
        $modes = array_filter($model->part('modes'), static fn (mixed $m): bool => $m instanceof ReferenceMode && $m->points !== []);
        if ($modes !== []) {
            $paper->heading(3, 'The course that is to be explained');
        }
        foreach (self::byWhat($model, array_values($modes)) as $what => $courses) {
            $unit = $courses[0]->unit === '' ? $model->element($courses[0]->of)->unit ?? '' : $courses[0]->unit;
            $paper->picture(
                PlotSvg::of(
                    array_map(
                        static fn (ReferenceMode $m): array => [
                            'name' => self::MODES[$m->kind],
                            'times' => array_column($m->points, 0),
                            'values' => array_column($m->points, 1),
                        ],
                        $courses,
                    ),
                    $model->time->unit,
                    $unit,
                ),
                "Drawn by hand, $what: ".
                    implode(', ', array_map(static fn (ReferenceMode $m): string => self::MODES[$m->kind], $courses)),
                ucfirst($what).', drawn by hand.',
            );
            $said = array_filter($courses, static fn (ReferenceMode $m): bool => $m->words !== '');
            $paper->text(
                implode(
                    "\n",
                    array_map(
                        static fn (ReferenceMode $m): string => '- '.ucfirst(self::MODES[$m->kind]).': '.Paper::plain($m->words),
                        $said,
                    ),
                ),
            );
        }
    }

    /**
     * @param  list<ReferenceMode>  $modes
     * @return array<string, non-empty-list<ReferenceMode>>
     */
    private static function byWhat(Model $model, array $modes): array
    {
        $groups = [];
        foreach ($modes as $mode) {
            $groups[$model->nameOf($mode->of) ?? ($mode->what === '' ? 'what is asked about' : $mode->what)][] = $mode;
        }

        return $groups;
    }

    private static function map(Paper $paper, Model $model): void
    {
        if ($model->part('causalLinks') === []) {
            return;
        }
        $svg = MapSvg::of($model);
        if ($svg !== null) {
            $count = count($model->part('causalLinks'));
            $paper->picture(
                $svg,
                "The causal map: $count links between factors. Each stands as a sentence below.",
                'The causal map. + is the same way, − is turned over; two strokes across a link say that it takes long.',
            );
        }
        $paper->text(Record::ofMap($model));
    }

    private static function history(Paper $paper, Besides $besides): void
    {
        $paper->table(
            ['version', 'when', 'who', 'what'],
            array_map(static fn (array $h): array => [(string) $h['version'], $h['at'], $h['by'], $h['words']], $besides->history),
        );
    }
}
