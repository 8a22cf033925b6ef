<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Analysis\KeyReading;
use MerryOrbit\Core\Data\Evidence;
use MerryOrbit\Core\Data\Fits;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Fit\Calibration;
use MerryOrbit\Core\Fit\Fitted;
use MerryOrbit\Core\Fit\Freed;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Problem\Nearest;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\Starts;

/** Calibration, as the command line asks for it. */
final class FitCommand implements Reporting
{
    public const TAKES = ['data', 'match', 'free', 'using', 'starts', 'sd', 'jobs', ...DataCommands::READING];

    private const MOST_STARTS = 1_000;

    /** @var non-empty-list<Evidence> */
    private readonly array $evidence;

    /** @var non-empty-list<Freed> */
    private readonly array $freed;

    /** @var list<float> */
    private readonly array $sds;

    private readonly string $using;

    private readonly int $starts;

    private bool $isFailed = false;

    /**
     * @param  resource  $err  where remarks go
     *
     * @throws UsageError|NotUnderstood|ModelRefused
     */
    public function __construct(
        private readonly Arguments $arguments,
        private readonly Analysis $analysis,
        private readonly Setting $setting,
        private readonly mixed $err,
    ) {
        $this->using = Requested::oneOf($arguments->last('using') ?? 'least-squares', Calibration::WAYS, '--using');
        $this->starts = (int) ($arguments->number('starts') ?? 10);
        if ($this->starts < 1 || $this->starts > self::MOST_STARTS) {
            throw new UsageError('--starts is a whole number from 1 to '.number_format(self::MOST_STARTS).'.');
        }
        $freed = array_map($this->freed(...), $arguments->all('free'));
        $this->freed = $freed === [] ? throw new UsageError('Say what may move: --free "NAME=low..high".') : $freed;
        $twice = array_diff_key($freed, array_unique(array_column($freed, 'key')));
        if ($twice !== []) {
            throw new UsageError('`'.array_values($twice)[0]->name.'` is freed twice.');
        }
        $evidence = DataCommands::evidence($arguments, $analysis, $err);
        $this->evidence = $evidence === [] ? throw new UsageError('The data hold nothing that can be compared.') : $evidence;
        $this->sds = $this->sds($arguments->all('sd'));
    }

    /** @throws UsageError */
    private function freed(string $said): Freed
    {
        if (preg_match('/^(.+)=\s*(\S+?)\s*\.\.\s*(\S+?)\s*$/Ds', $said, $m) !== 1 || ! is_numeric($m[2]) || ! is_numeric($m[3])) {
            throw new UsageError("--free takes a name and its bounds, as in --free \"growth rate=0.1..2\", not `$said`.");
        }
        $model = $this->analysis->model;
        $key = KeyReading::key($this->analysis, trim($m[1]));
        $id = $key === null ? '' : Key::ownerOf($key);
        $element = $model->elements[$id] ?? null;
        [$low, $high] = [(float) $m[2], (float) $m[3]];
        if ($key !== null && $element instanceof Parameter) {
            $value = $this->setting->parameters[$key] ?? $this->analysis->parameter($key);

            return new Freed($key, $this->analysis->nameOf($key), (float) $value, $low, $high);
        }
        if ($element instanceof Stock) {
            $value = Starts::plain($model, $id);

            return $value === null
                ? throw new UsageError(
                    "The initial value of `$element->name` is no plain number, so it cannot be freed. Free what it follows from.",
                )
                : new Freed(Starts::parameter($id), $element->name, $value, $low, $high);
        }
        $name = trim($m[1]);
        throw new UsageError(
            $element === null
                ? "The model has no parameter `$name`.".Nearest::question($name, $model->names())
                : "The model computes `$name`; only parameters and initial values can be freed.",
        );
    }

    /**
     * @param  list<string>  $said
     * @return list<float> for all series, or none
     *
     * @throws UsageError
     */
    private function sds(array $said): array
    {
        $given = [];
        foreach ($said as $one) {
            [$name, $number] = [...array_map(trim(...), explode('=', $one, 2)), ''];
            $sd = is_numeric($number) ? (float) $number : 0.0;
            if ($sd <= 0.0 || ! is_finite($sd)) {
                throw new UsageError("--sd takes a variable and a number above 0, as in --sd \"kelp=5\", not `$one`.");
            }
            $given[Name::key($name)] = $sd;
        }
        if ($given === []) {
            return [];
        }
        $sds = $missing = [];
        foreach ($this->evidence as $e) {
            $names = [Name::key($this->analysis->nameOf($e->key)), Name::key($e->label)];
            $found = array_values(array_intersect($names, array_map(strval(...), array_keys($given))));
            $found === [] ? ($missing[] = $e->label) : ($sds[] = $given[$found[0]]);
        }

        return $missing === []
            ? $sds
            : throw new UsageError('Say --sd for all series or for none: it is missing for '.implode(', ', $missing).'.');
    }

    public function document(Simulator $simulator, Model $model): array
    {
        $jobs = (int) ($this->arguments->number('jobs') ?? EnsembleCommand::cores());
        $calibration = Calibration::of($simulator, $model, $this->setting, $this->evidence, $this->freed, $this->sds, max(1, $jobs));
        $fitted = $calibration->fit($this->using, $this->starts, (int) ($this->arguments->number('seed') ?? 1));
        $this->isFailed = ! is_finite($fitted->distance);
        $parameters = [];
        foreach ($this->freed as $j => $f) {
            $error = $fitted->errors[$j] ?? null;
            $parameters[] = [
                'name' => $f->name,
                'value' => $fitted->point[$j],
                'standard_error' => $error,
                'low' => $error === null ? null : $fitted->point[$j] - $fitted->width * $error,
                'high' => $error === null ? null : $fitted->point[$j] + $fitted->width * $error,
                'at_bound' => $f->isAtBound($fitted->point[$j]),
            ];
        }

        return [
            'objective' => $this->isFailed ? null : $fitted->distance,
            'converged' => $fitted->isConverged,
            'evaluations' => $fitted->evaluations,
            'parameters' => $parameters,
            'residual_sd' => $this->isFailed ? null : $fitted->residualSd(),
            'rss' => $this->isFailed ? null : $fitted->rss,
            'n' => $fitted->n,
            'correlations' => $fitted->correlations,
            'remarks' => $fitted->sentences(),
            'series' => $this->isFailed ? [] : $this->compared($simulator, $model, $fitted),
        ];
    }

    /** @return list<array<string, mixed>> */
    private function compared(Simulator $simulator, Model $model, Fitted $fitted): array
    {
        $values = array_combine(array_column($this->freed, 'key'), $fitted->point);
        $stocks = array_values(
            array_filter(
                array_map(strval(...), array_keys($model->elements)),
                static fn (string $id): bool => isset($values[Starts::parameter($id)]),
            ),
        );
        $trial = Trial::of(Starts::opened($model, $stocks), (new Setting($values))->over($this->setting));
        $keys = array_values(array_unique(array_map(static fn (Evidence $e): string => $e->key, $this->evidence)));
        $run = $trial->run($simulator, $keys);

        return DataCommands::compared($this->evidence, $this->analysis, Fits::simulated($simulator, $trial, $run, $this->evidence));
    }

    public function isFailed(): bool
    {
        return $this->isFailed;
    }

    /**
     * @param  array<string, mixed>  $document
     * @return \Generator<int, string>
     */
    public function lines(array $document): \Generator
    {
        $n = static fn (mixed $v): string => is_float($v) || is_int($v) ? sprintf('%.7g', $v) : '–';
        yield "{$n($document['n'])} measured values, {$n($document['evaluations'])} runs; sum of squares {$n($document['rss'])}, ".
            "standard deviation of what is left {$n($document['residual_sd'])}\n";
        /** @var list<array<string, mixed>> $parameters */
        $parameters = $document['parameters'];
        foreach ($parameters as $p) {
            $name = is_string($p['name']) ? $p['name'] : '';
            yield "  $name: {$n($p['value'])} ± {$n($p['standard_error'])}, 95 % {$n($p['low'])} to {$n($p['high'])}\n";
        }
        /** @var list<string> $remarks */
        $remarks = $document['remarks'];
        foreach ($remarks as $remark) {
            yield "$remark\n";
        }
        /** @var list<array<string, string|int|float|null>> $series */
        $series = $document['series'];
        yield from DataCommands::comparedLines($series);
    }
}
