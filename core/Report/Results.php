<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Report;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Expectation;
use MerryOrbit\Core\Model\Finding;
use MerryOrbit\Core\Model\FitPlan;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Measured;
use MerryOrbit\Core\Model\Plot;
use MerryOrbit\Core\Model\Scenario;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Model\Source;
use MerryOrbit\Core\Model\UncertainInput;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Simulate\Thinning;
use MerryOrbit\Core\Simulate\Trajectory;
use MerryOrbit\Core\Uncertain\Expectations;
use MerryOrbit\Core\Uncertain\ExpectationWords;

/**
 * What comes of a model, on which data it rests, what was tested, what was found.
 *
 * @phpstan-import-type Found from Besides
 */
final readonly class Results
{
    /** More are not told apart in one picture. */
    private const LINES = 6;

    private const MOMENTS = 400;

    private const OVER = ['' => '', 'mean' => ' means of periods', 'sum' => ' sums of periods'];

    public function __construct(
        private Simulator $simulator,
        private Analysis $analysis,
        private ?Trial $trial,
        private ?Trajectory $run,
        private string $trouble,
    ) {
    }

    public function runs(Paper $paper): void
    {
        $model = $this->analysis->model;
        if ($this->run === null) {
            $paper->text($model->elements === [] ? '' : 'The model does not run: '.Paper::plain($this->trouble));

            return;
        }
        if ($this->analysis->blockers() !== []) {
            $paper->text('Not all of the model can be computed: “What was tested” tells what is in the way.');
        }
        $of = array_map(static fn (Plot $p): array => $p->of, $model->tracks);
        if ($of === []) {
            $stocks = array_keys(array_filter($model->elements, static fn (Element $e): bool => $e->kind() === Kind::Stock));
            $of = array_map(static fn (string $id): array => [$id], array_slice($stocks, 0, self::LINES));
        }
        foreach ($of as $ids) {
            $this->plot($paper, $ids, ['' => $this->run], 'In a run of the model as it is.');
        }
        $rows = [];
        foreach ($model->scenarios as $scenario) {
            $rows[] = [$scenario->name, implode('; ', $this->changes(Scenario::settingOf($model->scenarios, $scenario->id)))];
        }
        if ($rows !== []) {
            $paper->heading(3, 'Scenarios');
            $paper->table(['scenario', 'what it changes'], $rows);
        }
    }

    /** @return list<string> */
    private function changes(Setting $setting): array
    {
        $model = $this->analysis->model;
        $told = [];
        foreach ($setting->parameters as $key => $value) {
            $own = $this->analysis->parameter((string) $key);
            $told[] =
                $this->analysis->nameOf((string) $key).' '.($own === null ? '' : Shown::brief($own).' → ').Shown::brief($value);
        }
        foreach (array_keys($setting->grips) as $key) {
            $told[] = $this->analysis->nameOf((string) $key).' held';
        }
        $time = array_keys($setting->time);

        return [...$told, ...$time === [] ? [] : [implode(', ', $time).' of the run']];
    }

    /**
     * @param  list<string>  $ids
     * @param  array<string, Trajectory>  $runs  by name; '' for the only one
     */
    private function plot(Paper $paper, array $ids, array $runs, string $caption): void
    {
        $model = $this->analysis->model;
        $byUnit = [];
        foreach ($this->analysis->columns($ids) as $key => $name) {
            $owner = Key::ownerOf((string) $key);
            $byUnit[trim($model->element($owner)->unit ?? '')][(string) $key] = $name;
        }
        foreach ($byUnit as $unit => $columns) {
            $lines = [];
            foreach ($runs as $called => $run) {
                $thin = Thinning::of($run, self::MOMENTS);
                foreach ($columns as $key => $name) {
                    if ($run->has((string) $key)) {
                        $told = match (true) {
                            $called === '' => $name,
                            count($columns) === 1 => $called,
                            default => "$name, $called",
                        };
                        $lines[] = ['name' => $told, 'times' => $thin->times(), 'values' => $thin->column((string) $key)];
                    }
                }
            }
            if ($lines === []) {
                continue;
            }
            $left = count($lines) - self::LINES;
            $shown = array_slice($lines, 0, self::LINES);
            $ends = array_map(
                static fn (array $l): string => "{$l['name']} ends at ".Shown::brief($l['values'][count($l['values']) - 1] ?? NAN),
                $shown,
            );
            $what = implode(', ', array_slice(array_values($columns), 0, self::LINES));
            $paper->picture(
                PlotSvg::of($shown, $model->time->unit, (string) $unit),
                "$what over time: ".implode('; ', $ends).'.',
                "$what. $caption".($left > 0 ? ' The first '.self::LINES.' of '.count($lines).' lines.' : ''),
            );
        }
    }

    public function data(Paper $paper): void
    {
        $model = $this->analysis->model;
        $sources = [];
        foreach ($model->part('sources') as $source) {
            if ($source instanceof Source) {
                $sources[] = [
                    $source->name,
                    $source->note,
                    implode(
                        '; ',
                        array_filter([
                            $source->station === '' ? '' : "listened to the station {$source->station}",
                            $source->steps === [] ? '' : count($source->steps).' steps of cleaning',
                            $source->content === '' ? '' : 'content '.substr($source->content, 0, 12),
                        ]),
                    ),
                ];
            }
        }
        $paper->table(['source', 'what is said of it', 'from where'], $sources);
        $all = array_filter($model->part('evidence'), static fn (mixed $m): bool => $m instanceof Measured && $m->points !== []);
        $rows = [];
        foreach ($all as $one) {
            $source = $model->part('sources')[$one->source] ?? null;
            $times = array_column($one->points, 0) ?: [NAN];
            $rows[] = [
                trim($model->nameOf($one->of).' '.implode(', ', $one->at)),
                count($one->points).self::OVER[$one->over],
                Shown::brief(min($times)).' to '.Shown::brief(max($times)),
                $one->error > 0.0 ? '± '.Shown::brief($one->error).($one->errorIn === '%' ? ' %' : '') : '',
                ($source instanceof Source ? $source->name : '').($one->column === '' ? '' : ", {$one->column}"),
            ];
        }
        $paper->table(['measured', 'values', 'times', 'error', 'from'], $rows);
        foreach ($all as $one) {
            // What is along a dimension is many: the table names it. Means and sums of periods are no values of a moment to lie beside a run.
            if ($this->run === null || $one->at !== [] || $one->over !== '' || ! $this->run->has($one->of)) {
                continue;
            }
            $name = (string) $model->nameOf($one->of);
            $thin = Thinning::of($this->run, self::MOMENTS);
            $paper->picture(
                PlotSvg::of(
                    [
                        ['name' => 'the model', 'times' => $thin->times(), 'values' => $thin->column($one->of)],
                        [
                            'name' => 'measured',
                            'times' => array_column($one->points, 0),
                            'values' => array_column($one->points, 1),
                            'points' => true,
                        ],
                    ],
                    $model->time->unit,
                    $model->element($one->of)->unit ?? '',
                ),
                "$name as measured, ".count($one->points).' values, beside a run of the model as it is.',
                "$name: what was measured, and a run of the model as it is.",
            );
        }
    }

    /** @param  list<Found>  $found */
    public function fits(Paper $paper, array $found): void
    {
        $model = $this->analysis->model;
        foreach ($model->part('calibrations') as $plan) {
            if ($plan instanceof FitPlan) {
                $paper->heading(3, $plan->name);
                $paper->table(
                    ['free', 'from', 'to', 'now'],
                    array_map(function (array $f): array {
                        $value = $this->analysis->parameter($f['of']);

                        return [
                            (string) $this->analysis->model->nameOf($f['of']),
                            Shown::brief($f['low']),
                            Shown::brief($f['high']),
                            $value === null ? '' : Shown::brief($value),
                        ];
                    }, $plan->free),
                    'What a search may change, to come near what was measured.',
                );
            }
        }
        foreach ($found as $fit) {
            $paper->heading(3, "{$fit['name']}, searched {$fit['at']}");
            $paper->table(
                ['parameter', 'found', 'unit'],
                array_map(static fn (array $f): array => [$f['name'], Shown::brief($f['value']), $f['unit']], $fit['found']),
            );
            $paper->text(Paper::plain($fit['words']));
        }
    }

    public function tests(Paper $paper): void
    {
        $model = $this->analysis->model;
        $all = $model->part('expectations');
        $rows = [];
        try {
            foreach ($all === [] ? [] : Expectations::check($this->simulator, $model) as $one) {
                $e = $all[$one['id']] ?? null;
                $rows[] = [
                    $one['name'] !== '' || ! ($e instanceof Expectation) ? $one['name'] : ExpectationWords::of($this->analysis, $e),
                    match ($one['holds']) {
                        true => 'holds',
                        false => 'does not hold',
                        null => 'not known',
                    },
                    $one['holds'] === true ? '' : $one['sentence'],
                ];
            }
        } catch (RunRefused|NotUnderstood $e) {
            $paper->text('The expectations could not be tried: '.Paper::plain($e->getMessage()));
        }
        $paper->table(['what is expected', 'state', ''], $rows);
        $problems = array_map(
            static fn (Problem $p): string => '- '.Paper::plain(strtr($p->sentence, ['`' => ''])),
            $this->analysis->problems,
        );
        if ($problems !== []) {
            $paper->heading(3, 'What the check of the model says');
            $paper->text(implode("\n", $problems));
        }
    }

    public function uncertainty(Paper $paper): void
    {
        $rows = [];
        foreach ($this->analysis->model->part('uncertain') as $input) {
            if ($input instanceof UncertainInput) {
                $rows[] = [$this->analysis->nameOf($input->key()), $input->law.($input->off ? ' (left out)' : ''), $input->note];
            }
        }
        $paper->table(['input', 'what it may be', 'why'], $rows, '', [1]);
    }

    public function findings(Paper $paper): void
    {
        $model = $this->analysis->model;
        $all = array_values($model->findings);
        usort($all, static fn (Finding $a, Finding $b): int => $a->place <=> $b->place);
        foreach ($all as $finding) {
            $paper->heading(3, $finding->title);
            $this->picture($paper, $finding);
            $paper->text($finding->words);
        }
    }

    /** A plot over time of runs is drawn anew from their settings; what cannot be drawn as it was shown is told by its words alone. */
    public function picture(Paper $paper, Finding $finding): void
    {
        $plot = $finding->view['plot'] ?? null;
        $of = is_array($plot) ? $plot['of'] ?? null : null;
        $options = is_array($plot) ? $plot['options'] ?? [] : [];
        $measure = is_array($options) ? $options['measure'] ?? 'value' : 'value';
        if (! is_array($plot) || ! is_array($of) || $finding->view['kind'] !== 'plot') {
            return;
        }
        if (($plot['kind'] ?? 'lines') !== 'lines' || $measure !== 'value' || $this->trial === null) {
            return;
        }
        $runs = [];
        foreach (array_slice(is_array($finding->view['courses'] ?? null) ? $finding->view['courses'] : [[]], 0, self::LINES) as $course) {
            $name = is_array($course) && is_string($course['name'] ?? null) ? $course['name'] : '';
            try {
                $setting = $this->settingOf(is_array($course) ? $course['ref'] ?? [] : []);
                if ($setting !== null) {
                    $runs[$name] = Trial::of($this->analysis->model, $setting)->run($this->simulator);
                }
            } catch (RunRefused|NotUnderstood) {
                // What cannot be run any more is not drawn; the words stay.
                continue;
            }
        }
        $this->plot($paper, array_values(array_filter($of, is_string(...))), $runs, 'Runs of the model as it is now.');
    }

    /**
     * @return ?Setting null where a run is meant whose setting stands elsewhere: one that was kept, logged, or made in a batch
     *
     * @throws NotUnderstood
     */
    private function settingOf(mixed $ref): ?Setting
    {
        $ref = is_array($ref) ? $ref : [];
        if (array_intersect_key($ref, ['kept' => 0, 'log' => 0, 'batch' => 0]) !== []) {
            return null;
        }
        $own = Setting::read(is_array($ref['setting'] ?? null) ? $ref['setting'] : []);
        $scenario = $ref['scenario'] ?? '';
        if (! is_string($scenario) || $scenario === '') {
            return $own;
        }

        return isset($this->analysis->model->scenarios[$scenario])
            ? $own->over(Scenario::settingOf($this->analysis->model->scenarios, $scenario))
            : null;
    }
}
