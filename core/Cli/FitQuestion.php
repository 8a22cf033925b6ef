<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Analysis\KeyReading;
use MerryOrbit\Core\Data\Evidence;
use MerryOrbit\Core\Fit\Calibration;
use MerryOrbit\Core\Fit\Freed;
use MerryOrbit\Core\Fit\Misses;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Law\Distribution;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Problem\Nearest;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\Processes;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\CurvePoints;
use MerryOrbit\Core\Uncertain\Opened;
use MerryOrbit\Core\Uncertain\Starts;

/** What the command line says of a fit: which numbers may move, and what was measured, how well. */
final readonly class FitQuestion
{
    public const TAKES = ['data', 'match', 'free', 'sd', 'jobs', ...DataCommands::READING];

    /** @var non-empty-list<Evidence> */
    public array $evidence;

    /** @var non-empty-list<Freed> */
    public array $freed;

    /** @var list<float> */
    public array $sds;

    /**
     * @param  resource  $err  where remarks go
     *
     * @throws UsageError|NotUnderstood|ModelRefused
     */
    public function __construct(private Arguments $arguments, private Analysis $analysis, private Setting $setting, mixed $err)
    {
        $freed = self::freedOf($arguments, 'free', $analysis, $setting);
        $this->freed = $freed === [] ? throw new UsageError('Say what may move: --free "NAME=low..high".') : $freed;
        $evidence = DataCommands::evidence($arguments, $analysis, $err);
        $this->evidence = $evidence === [] ? throw new UsageError('The data hold nothing that can be compared.') : $evidence;
        $this->sds = $this->sds($arguments->all('sd'));
    }

    /**
     * @param  string  $option  which says them
     * @return list<Freed>
     *
     * @throws UsageError|NotUnderstood
     */
    public static function freedOf(Arguments $arguments, string $option, Analysis $analysis, Setting $setting): array
    {
        $freed = array_map(static fn (string $said): Freed => self::freed($said, $option, $analysis, $setting), $arguments->all($option));
        $twice = array_diff_key($freed, array_unique(array_column($freed, 'key')));

        return $twice === [] ? $freed : throw new UsageError('`'.array_values($twice)[0]->name."` stands in --$option twice.");
    }

    public function jobs(): int
    {
        return max(1, (int) ($this->arguments->number('jobs') ?? Processes::cores()));
    }

    /** @throws RunRefused|NotUnderstood */
    public function calibration(Simulator $simulator, Model $model, bool $isBelieved = false): Calibration
    {
        $jobs = $this->jobs();

        $misses =
            $this->sds === []
                ? array_map(static fn (): Misses => Misses::normal(1.0, isEstimated: true), $this->evidence)
                : array_map(Misses::normal(...), $this->sds);

        return Calibration::of($simulator, $model, $this->setting, $this->evidence, $this->freed, $misses, $jobs, $isBelieved);
    }

    /**
     * @param  list<string>  $said
     * @return array<string, Distribution> by key
     *
     * @throws UsageError|NotUnderstood
     */
    public function priors(array $said): array
    {
        $priors = [];
        foreach ($said as $one) {
            [$name, $law] = [...array_map(trim(...), explode('=', $one, 2)), ''];
            $found = array_values(array_filter($this->freed, static fn (Freed $f): bool => Name::key($f->name) === Name::key($name)));
            if ($found === []) {
                throw new UsageError(
                    "--prior is about `$name`, which is not freed.".Nearest::question($name, array_column($this->freed, 'name')),
                );
            }
            $priors[$found[0]->key] = Distribution::read($law);
        }

        return $priors;
    }

    /** @throws UsageError|NotUnderstood */
    private static function freed(string $said, string $option, Analysis $analysis, Setting $setting): Freed
    {
        if (preg_match('/^(.+)=\s*(\S+?)\s*\.\.\s*(\S+?)\s*$/Ds', $said, $m) !== 1 || ! is_numeric($m[2]) || ! is_numeric($m[3])) {
            throw new UsageError("--$option takes a name and its bounds, as in --$option \"growth rate=0.1..2\", not `$said`.");
        }
        $model = $analysis->model;
        $key = KeyReading::key($analysis, trim($m[1]));
        $id = $key === null ? '' : Key::ownerOf($key);
        $element = $model->elements[$id] ?? null;
        [$low, $high] = [(float) $m[2], (float) $m[3]];
        if ($key !== null && $element instanceof Parameter) {
            $value = $setting->parameters[$key] ?? $analysis->parameter($key);

            return new Freed($key, $analysis->nameOf($key), (float) $value, $low, $high);
        }
        $point = self::point($model, trim($m[1]), $low, $high);
        if ($point !== null) {
            return $point;
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
                : "The model computes `$name`; only parameters, initial values and points of curves can be freed.",
        );
    }

    /** A point of a curve, as in `effect of crowding[0.5]`; null of all else. */
    private static function point(Model $model, string $said, float $low, float $high): ?Freed
    {
        if (preg_match('/^(.*\S)\s*\[\s*([^\[\]]*?)\s*\]$/Dsu', $said, $m) !== 1) {
            return null;
        }
        $id = $model->idOf(Name::key(trim($m[1], '"'))) ?? '';
        $value = CurvePoints::at($model, $id, $m[2]) === null ? null : Opened::value($model, $id, [$m[2]]);

        return $value === null
            ? null
            : new Freed(Opened::parameter($model, $id, [$m[2]]), "{$model->nameOf($id)} at $m[2]", $value, $low, $high);
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
}
