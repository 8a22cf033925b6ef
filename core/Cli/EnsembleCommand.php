<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Analysis\KeyReading;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Problem\Nearest;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\ColumnsAt;
use MerryOrbit\Core\Reduce\Outcome;
use MerryOrbit\Core\Reduce\Outcomes;
use MerryOrbit\Core\Reduce\Processes;
use MerryOrbit\Core\Reduce\Several;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\Ensemble;
use MerryOrbit\Core\Uncertain\Summary;

/** Many runs under uncertainty, as the command line asks for them. */
final class EnsembleCommand implements Reporting
{
    public const TAKES = ['runs', 'sample', 'uncertain', 'together', 'draws-in', 'draws-out', 'outcome', 'bands', 'percentiles', 'jobs'];

    public const MOST_RUNS = 1_000_000;

    /** Moments that are read at once. */
    private const SLICE = 50;

    /** Moments at which bands are told. */
    private const MOST_MOMENTS = 1_000;

    private readonly UncertainInputs $inputs;

    /** @var \Closure(int): array<string, float> */
    private readonly \Closure $values;

    /** @var list<Outcome> */
    private array $outcomes = [];

    /** @var list<string> ids of variables whose bands are told */
    private array $bands = [];

    /** @var list<float> */
    private array $moments;

    /** @var list<float> */
    private array $percents;

    private int $runs;

    private int $seed;

    private bool $isFailed = false;

    /** @throws UsageError|NotUnderstood */
    public function __construct(
        private readonly Arguments $arguments,
        private readonly Analysis $analysis,
        private readonly Setting $setting,
    ) {
        $this->seed = (int) ($arguments->number('seed') ?? 1);
        $this->runs = (int) ($arguments->number('runs') ?? 1_000);
        if ($this->runs < 1 || $this->runs > self::MOST_RUNS) {
            throw new UsageError('--runs is a whole number from 1 to '.number_format(self::MOST_RUNS).'.');
        }
        $this->percents = array_map(
            static fn (string $p): float => is_numeric($p) && $p >= 0 && $p <= 100
                ? (float) $p
                : throw new UsageError("--percentiles takes numbers from 0 to 100, not `$p`."),
            array_map(trim(...), explode(',', $arguments->last('percentiles') ?? '5,25,50,75,95')),
        );
        foreach ($arguments->all('outcome') as $text) {
            $this->outcomes[] = Outcome::read($text, $analysis);
        }
        foreach ($arguments->all('bands') as $name) {
            array_push($this->bands, ...self::keysOf($analysis, $name));
        }
        if ($this->outcomes === [] && $this->bands === []) {
            throw new UsageError('Say what is wanted of the runs: --outcome=NAME or --bands=NAME.');
        }
        $this->moments = ColumnsAt::moments($setting->timeOf($analysis->model->time), self::MOST_MOMENTS);
        $file = $arguments->last('draws-in');
        $this->inputs = $file === null ? UncertainInputs::said($arguments, $analysis) : UncertainInputs::given($file, $analysis);
        $this->runs = $this->inputs->rows === [] ? $this->runs : count($this->inputs->rows);
        $this->values = $this->inputs->drawn(
            $arguments->last('sample'),
            $this->runs,
            $this->seed,
            $this->inputs->together($arguments->all('together'), $analysis),
        );
    }

    /**
     * @return list<string> what is told of a name: itself, or each of its elements
     *
     * @throws UsageError
     */
    private static function keysOf(Analysis $analysis, string $name): array
    {
        $key = KeyReading::key($analysis, $name);
        if ($key === null || ! $analysis->canCompute(Key::ownerOf($key))) {
            throw new UsageError("The model has no variable `$name`.".Nearest::question($name, $analysis->model->names()));
        }

        return $key === Key::ownerOf($key) ? $analysis->positions->of($key) : [$key];
    }

    /** @return array<string, mixed> as docs/command-line.md says */
    public function document(Simulator $simulator, Model $model): array
    {
        $jobs = (int) ($this->arguments->number('jobs') ?? Processes::cores());
        $outcomes = $this->outcomes === [] ? null : new Outcomes($this->outcomes);
        $bands = $this->bands === [] ? null : new ColumnsAt($this->bands, $this->moments);
        $reducer = $outcomes === null || $bands === null ? $outcomes ?? $bands : new Several([$outcomes, $bands]);
        if ($reducer === null) {
            throw new \LogicException('The constructor asks for something.');
        }
        $ensemble = Ensemble::of(
            $simulator,
            $model,
            $this->setting,
            $reducer,
            count($this->outcomes),
            $this->values,
            $this->inputs->medians,
            $this->runs,
            $this->seed,
            max(1, $jobs),
        );
        $this->keepDraws();
        $this->isFailed = $ensemble->failed() === $this->runs;

        return [
            'runs' => $this->runs,
            'failed' => $ensemble->failed(),
            'outcomes' => (object) $this->told($ensemble),
            'bands' => (object) $this->bandsOf($ensemble),
        ];
    }

    /** @return array<string, mixed> */
    private function told(Ensemble $ensemble): array
    {
        $told = [];
        foreach ($this->outcomes as $i => $outcome) {
            $central = $ensemble->central[$i] ?? NAN;
            $s = Summary::of($ensemble->column($i), $this->percents);
            $told[$outcome->written] = [
                'central' => is_finite($central) ? $central : null,
                'mean' => $s?->mean,
                'sd' => $s?->sd,
                'min' => $s?->min,
                'max' => $s?->max,
                'percentiles' => $s === null ? null : (object) $s->percentiles,
            ];
        }

        return $told;
    }

    /** @return array<string, mixed> */
    private function bandsOf(Ensemble $ensemble): array
    {
        $bands = [];
        $at = 0;
        foreach ($this->bands as $id) {
            $mean = $percentiles = [];
            // Some moments at a time: all of many runs would not fit into memory.
            for ($from = 0; $from < count($this->moments); $from += self::SLICE) {
                foreach ($ensemble->slice($at + $from, min(self::SLICE, count($this->moments) - $from)) as $values) {
                    $s = Summary::of($values, $this->percents);
                    $mean[] = $s?->mean;
                    foreach ($s->percentiles ?? [] as $p => $value) {
                        $percentiles[$p][] = $value;
                    }
                }
            }
            $bands[$this->analysis->nameOf($id)] = [
                'time' => $this->moments,
                'mean' => $mean,
                'percentiles' => (object) $percentiles,
            ];
            $at += count($this->moments);
        }

        return $bands;
    }

    /** A column for each parameter and a row for each run. */
    private function keepDraws(): void
    {
        $file = $this->arguments->last('draws-out');
        if ($file === null) {
            return;
        }
        UncertainInputs::write(
            $file,
            array_values($this->inputs->names),
            array_map(fn (int $run): array => array_values(($this->values)($run)), range(0, $this->runs - 1)),
        );
    }

    public function isFailed(): bool
    {
        return $this->isFailed;
    }

    /**
     * @param  array<string, mixed>  $document
     * @return \Generator<int, string> for people
     */
    public function lines(array $document): \Generator
    {
        $shown = static fn (mixed $v): string => is_float($v) || is_int($v) ? sprintf('%.5g', $v) : '–';
        yield "{$shown($document['runs'])} runs, {$shown($document['failed'])} of them failed\n";
        foreach ((array) $document['outcomes'] as $name => $o) {
            if (is_array($o)) {
                yield "$name: with every input at its median {$shown($o['central'])}, mean {$shown($o['mean'])}, sd {$shown(
                    $o['sd'],
                )}, least {$shown($o['min'])}, greatest {$shown($o['max'])}\n";
                foreach ((array) $o['percentiles'] as $p => $value) {
                    yield "  $p % are not above {$shown($value)}\n";
                }
            }
        }
        foreach ((array) $document['bands'] as $name => $band) {
            yield "bands of $name: --format=json prints them\n";
        }
    }
}
