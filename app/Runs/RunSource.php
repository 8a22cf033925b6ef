<?php

declare(strict_types=1);

namespace App\Runs;

use App\Models\BatchRun;
use App\Models\KeptRun;
use App\Models\ModelDocument;
use App\Studies\Versions;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Library\RunWatcher;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Scenario;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Simulate\Trajectory;

/**
 * Which run is meant, wherever one can be named: `{"kept": id}`, `{"log": number}`, `{"batch": id, "position": number}`,
 * or a model at a `revision` (else the newest) under a `scenario` with a `setting` on top, each of them if wished.
 */
final class RunSource
{
    /** Evaluations for each saved moment of a method that chooses its steps, about. */
    private const ADAPTIVE = 40;

    private ?Model $model = null;

    private function __construct(
        private readonly ModelDocument $document,
        public readonly Setting $setting,
        public readonly int $revision,
        public readonly string $name,
        private readonly ?KeptRun $kept = null,
        private readonly ?string $result = null,
    ) {
    }

    /** The model that the run is of; an old one is worked out of the history when it is asked for. */
    public function model(): Model
    {
        return $this->model ??= (new Versions($this->document))->at($this->revision);
    }

    /** Of the run's time: of one whose numbers are there, what the study has today. */
    public function timeUnit(): string
    {
        return ($this->kept !== null || $this->result !== null ? $this->document->core() : $this->model())->time->unit;
    }

    /** @throws NotUnderstood when no such run can be meant */
    public static function of(ModelDocument $document, mixed $reference): self
    {
        $given = is_array($reference) ? $reference : [];
        foreach (['kept', 'batch', 'log'] as $field) {
            if (isset($given[$field]) && ! is_string($given[$field]) && ! is_int($given[$field])) {
                throw NotUnderstood::because("`$field` of a run is the id of one.");
            }
        }
        if (isset($given['kept'])) {
            $kept =
                KeptRun::withTrashed()->where('model_id', $document->id)->where('id', $given['kept'])->first() ??
                throw NotUnderstood::because('This run was removed. Keep another, or bring it back by undo.');

            return new self($document, Setting::read($kept->setting), $kept->revision, $kept->name, kept: $kept);
        }
        if (isset($given['batch'])) {
            $batch = $document->batches()->where('id', $given['batch'])->first();
            $run = $batch?->runs()->where('position', self::number($given['position'] ?? -1))->first();
            if ($batch === null || ! ($run instanceof BatchRun) || $run->result === null || $run->seconds === null) {
                throw NotUnderstood::because('The results of these runs are not there any more. Run the scenarios again.');
            }

            return new self($document, Setting::read($run->setting), $batch->revision, $run->name, result: $run->result);
        }
        if (isset($given['log'])) {
            $row =
                $document->runs()->where('id', self::number($given['log']))->first() ??
                throw NotUnderstood::because(
                    'This run is not in the logbook any more, which remembers the last '.
                        config()->integer('merry-orbit.quota.kept_runs').
                        ' and all with a star or a comment.',
                );

            return new self(
                $document,
                Setting::read($row->settings),
                $row->revision,
                $row->scenario === '' ? "Run of revision $row->revision" : $row->scenario,
            );
        }
        $revision = $given['revision'] ?? $document->revision;
        if (! is_int($revision)) {
            throw NotUnderstood::because('The revision of a run is a whole number.');
        }
        $name = 'Baseline';
        $setting = Setting::read($given['setting'] ?? []);
        if (isset($given['scenario'])) {
            $model = (new self($document, new Setting(), $revision, ''))->model();
            $scenario =
                $model->scenarios[is_string($given['scenario']) ? $given['scenario'] : ''] ??
                throw NotUnderstood::because('There is no such scenario. It may have been removed; undo brings it back.');
            $name = $scenario->name;
            $setting = $setting->over(Scenario::settingOf($model->scenarios, $scenario->id));
        }

        return new self($document, $setting, $revision, $name);
    }

    /** @throws RunRefused */
    public function trial(): Trial
    {
        return Trial::of($this->model(), $this->setting);
    }

    /**
     * Evaluations of an equation that one such run takes, about.
     *
     * @throws RunRefused
     */
    public function work(): float
    {
        [$equations, $states] = $this->trial()->analysis->size();
        $time = $this->setting->timeOf($this->model()->time);

        return (float) max(1, $time->steps()) *
            ($time->method->isAdaptive() ? self::ADAPTIVE : count($time->method->stages())) *
            max(1, $equations + $states);
    }

    /**
     * The numbers: as they were kept, or computed.
     *
     * @param  list<string>  $looked  ids of things of which all elements are looked at, and keys of single ones; of a large model not all are kept
     *
     * @throws RunRefused
     */
    public function trajectory(Simulator $simulator, ?RunWatcher $watch = null, array $looked = []): Trajectory
    {
        $kept = match (true) {
            $this->kept !== null => Results::ofKept($this->kept),
            $this->result !== null => Results::run($this->result),
            default => null,
        };
        if ($kept !== null && ($looked === [] || $kept->fault !== null || $this->holds($kept, $looked))) {
            return $kept;
        }
        $trial = $this->trial();
        $s = $trial->settings;

        return $simulator->run($trial->analysis, new RunOptions($s->parameters, $s->time, $s->seed, $s->grain, $watch), $looked);
    }

    /** @param  list<string>  $looked */
    private function holds(Trajectory $kept, array $looked): bool
    {
        $analysis = $this->trial()->analysis;
        $positions = $analysis->positions;
        foreach ($analysis->shaped === null ? [] : $looked as $key) {
            if (! $kept->has($positions->isShaped($key) ? $positions->at($key, $positions->count($key) - 1) : $key)) {
                return false;
            }
        }

        return true;
    }

    /** Of a row; what is none is that of no row, and not put to the database. */
    private static function number(mixed $given): int
    {
        $number = is_int($given) || is_string($given) ? filter_var($given, FILTER_VALIDATE_INT) : false;

        return $number !== false && $number <= 2 ** 31 - 1 ? $number : -1;
    }
}
