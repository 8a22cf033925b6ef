<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Data\CsvReader;
use MerryOrbit\Core\Data\Grid;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\NotUnderstood;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\Nearest;
use MerryOrbit\Core\Reduce\ColumnsAt;
use MerryOrbit\Core\Reduce\Outcome;
use MerryOrbit\Core\Reduce\Outcomes;
use MerryOrbit\Core\Reduce\Several;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\Design;
use MerryOrbit\Core\Uncertain\Distribution;
use MerryOrbit\Core\Uncertain\Ensemble;
use MerryOrbit\Core\Uncertain\Summary;

/** Many runs under uncertainty, as the command line asks for them. */
final class EnsembleCommand
{
    public const TAKES = ['runs', 'sample', 'uncertain', 'draws-in', 'draws-out', 'outcome', 'bands', 'percentiles', 'jobs'];

    private const MOST_RUNS = 1_000_000;

    /** Moments at which bands are told. */
    private const MOST_MOMENTS = 1_000;

    /** @var array<string, string> names of parameters by id */
    private array $inputs = [];

    /** @var \Closure(int): array<string, float> */
    private \Closure $values;

    /** @var array<string, float> */
    private array $medians = [];

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

    /** @throws UsageError|NotUnderstood */
    public function __construct(
        private readonly Arguments $arguments,
        private readonly Analysis $analysis,
        private readonly Setting $setting,
    ) {
        $model = $analysis->model;
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
            $this->outcomes[] = Outcome::read($text, $model);
        }
        foreach ($arguments->all('bands') as $name) {
            $id = $model->idOf(Name::key($name));
            $this->bands[] =
                $id !== null && $analysis->canCompute($id)
                    ? $id
                    : throw new UsageError("The model has no variable `$name`.".Nearest::question($name, $model->names()));
        }
        if ($this->outcomes === [] && $this->bands === []) {
            throw new UsageError('Say what is wanted of the runs: --outcome=NAME or --bands=NAME.');
        }
        $this->moments = self::saved($setting->timeOf($model->time));
        $file = $arguments->last('draws-in');
        $file === null ? $this->drawn($model) : $this->given($model, $file);
    }

    /** @return list<float> the saved moments, thinned where there are too many */
    private static function saved(TimeSettings $time): array
    {
        $every = max(1, (int) ceil($time->steps() / $time->stepsPerSave() / self::MOST_MOMENTS)) * $time->stepsPerSave();
        $moments = [];
        for ($i = 0; $i <= $time->steps(); $i += $every) {
            $moments[] = $time->timeAt($i);
        }

        return $moments;
    }

    private function drawn(Model $model): void
    {
        $laws = [];
        foreach ($this->arguments->all('uncertain') as $said) {
            [$name, $written] = [...array_map(trim(...), explode('=', $said, 2)), ''];
            $id = $this->parameter($model, $name);
            $laws[$id] = Distribution::read($written);
            $this->inputs[$id] = $model->elements[$id]->name;
            $this->medians[$id] = $laws[$id]->median();
        }
        if ($laws === []) {
            throw new UsageError('Say what is uncertain: --uncertain "NAME=normal(3.5, 1.3)", or --draws-in=FILE.csv.');
        }
        $kind = $this->arguments->last('sample') ?? 'random';
        $at = array_search($kind, Design::KINDS, true);
        if ($at === false) {
            throw new UsageError('--sample is one of '.implode(', ', Design::KINDS).", not `$kind`.");
        }
        $ids = array_map(strval(...), array_keys($laws));
        $design = Design::of(Design::KINDS[$at], $ids, $this->runs, $this->seed);
        $this->values = static function (int $run) use ($design, $laws, $ids): array {
            $values = [];
            foreach ($design->draws($run) as $i => $u) {
                $values[$ids[$i]] = $laws[$ids[$i]]->quantile($u);
            }

            return $values;
        };
    }

    private function given(Model $model, string $file): void
    {
        $text =
            is_readable($file) && ! is_dir($file) ? (string) file_get_contents($file) : throw new UsageError("There is no file $file.");
        $grid = CsvReader::grid($text, basename($file));
        foreach ($grid->rows[0] ?? [] as $column => $cell) {
            $id = $this->parameter($model, Grid::text($cell));
            $this->inputs[$id] = $model->elements[$id]->name;
            $columns[$id] = $column;
        }
        $rows = [];
        for ($row = 1; $row < count($grid->rows); $row++) {
            foreach ($grid->filled($row) > 0 ? $columns ?? [] : [] as $id => $column) {
                $cell = Grid::text($grid->cell($row, $column));
                $rows[$row - 1][$id] = is_numeric($cell)
                    ? (float) $cell
                    : throw new UsageError('Row '.($row + 1)." of the draws has no number for `{$this->inputs[$id]}`.");
            }
        }
        $rows = array_values($rows);
        if ($rows === []) {
            throw new UsageError('The draws hold no rows: a head with names of parameters, and a row for each run.');
        }
        $this->runs = count($rows);
        foreach (array_keys($this->inputs) as $id) {
            $column = Summary::of(array_column($rows, $id), [50.0]);
            $this->medians[(string) $id] = $column->percentiles['50'] ?? 0.0;
        }
        $this->values = static fn (int $run): array => $rows[$run];
    }

    private function parameter(Model $model, string $name): string
    {
        $id = $model->idOf(Name::key(trim($name, ' "')));
        $names = array_map(
            static fn (Parameter $p): string => $p->name,
            array_values(array_filter($model->elements, static fn ($e): bool => $e instanceof Parameter)),
        );

        return $id !== null && $model->elements[$id] instanceof Parameter && ($this->analysis->extents[$id] ?? []) === []
            ? $id
            : throw new UsageError("The model has no parameter `$name` that is a single number.".Nearest::question($name, $names));
    }

    /** @return array<string, mixed> as docs/command-line.md says */
    public function document(Simulator $simulator, Model $model): array
    {
        $jobs = (int) ($this->arguments->number('jobs') ?? self::cores());
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
            $this->values,
            $this->medians,
            $this->runs,
            $this->seed,
            max(1, $jobs),
        );
        $this->keepDraws();

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
        $at = count($this->outcomes);
        foreach ($this->bands as $id) {
            $mean = $percentiles = [];
            foreach (array_keys($this->moments) as $k) {
                $s = Summary::of($ensemble->column($at + $k), $this->percents);
                $mean[] = $s?->mean;
                foreach ($s->percentiles ?? [] as $p => $value) {
                    $percentiles[$p][] = $value;
                }
            }
            $bands[(string) $this->analysis->model->nameOf($id)] = [
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
        $lines = implode(',', array_map(self::field(...), array_values($this->inputs)))."\n";
        for ($run = 0; $run < $this->runs; $run++) {
            $lines .=
                implode(',', array_map(static fn (float $v): string => (string) json_encode($v), array_values(($this->values)($run)))).
                "\n";
        }
        if (@file_put_contents($file, $lines) === false) {
            throw new UsageError("The draws cannot be written to $file.");
        }
    }

    private static function field(string $name): string
    {
        return preg_match('/[",]/', $name) === 1 ? '"'.str_replace('"', '""', $name).'"' : $name;
    }

    public static function cores(): int
    {
        return is_readable('/proc/cpuinfo') ? max(1, substr_count((string) file_get_contents('/proc/cpuinfo'), "processor\t:")) : 1;
    }

    /**
     * @param  array<string, mixed>  $document
     * @return \Generator<int, string> for people
     */
    public static function lines(array $document): \Generator
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
