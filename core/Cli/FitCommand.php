<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Data\Evidence;
use MerryOrbit\Core\Data\Fits;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Fit\Calibration;
use MerryOrbit\Core\Fit\Fitted;
use MerryOrbit\Core\Fit\Freed;
use MerryOrbit\Core\Fit\Profile;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\Opened;

/** Calibration, as the command line asks for it. */
final class FitCommand implements Reporting
{
    public const TAKES = [...FitQuestion::TAKES, 'using', 'starts', 'profile', 'calibration'];

    private const MOST_STARTS = 1_000;

    private readonly FitQuestion $question;

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
        mixed $err,
    ) {
        $this->using = Requested::oneOf($arguments->last('using') ?? 'least-squares', Calibration::WAYS, '--using');
        $this->starts = (int) ($arguments->number('starts') ?? 10);
        if ($this->starts < 1 || $this->starts > self::MOST_STARTS) {
            throw new UsageError('--starts is a whole number from 1 to '.number_format(self::MOST_STARTS).'.');
        }
        $this->question = new FitQuestion($arguments, $analysis, $setting, $err);
    }

    public function document(Simulator $simulator, Model $model): array
    {
        $calibration = $this->question->calibration($simulator, $model);
        $fitted = $calibration->fit($this->using, $this->starts, (int) ($this->arguments->number('seed') ?? 1));
        $this->isFailed = ! is_finite($fitted->distance);

        return [
            'objective' => $this->isFailed ? null : $fitted->distance,
            'converged' => $fitted->isConverged,
            'evaluations' => $fitted->evaluations,
            'parameters' => $fitted->parameters(),
            'residual_sd' => $this->isFailed ? null : $fitted->residualSd(),
            'rss' => $this->isFailed ? null : $fitted->rss,
            'n' => $fitted->n,
            'correlations' => $fitted->correlations,
            'remarks' => $fitted->sentences(),
            ...$this->arguments->last('profile') === null || $this->isFailed
                ? []
                : ['profiles' => $this->profiles($calibration, $fitted)],
            'series' => $this->isFailed ? [] : $this->compared($simulator, $model, $fitted),
        ];
    }

    /** @return list<array{name: string, points: list<array{value: float, objective: ?float}>}> */
    private function profiles(Calibration $calibration, Fitted $fitted): array
    {
        return array_map(
            static fn (Freed $f, array $points): array => [
                'name' => $f->name,
                'points' => array_map(static fn (array $p): array => ['value' => $p[0], 'objective' => $p[1]], $points),
            ],
            $this->question->freed,
            Profile::of($calibration, $fitted),
        );
    }

    /** @return list<array<string, mixed>> */
    private function compared(Simulator $simulator, Model $model, Fitted $fitted): array
    {
        $values = array_combine(array_column($this->question->freed, 'key'), $fitted->point);
        $opened = Opened::of($model, array_map(strval(...), array_keys($values)));
        $trial = Trial::of($opened, (new Setting($values))->over($this->setting));
        $keys = array_values(array_unique(array_map(static fn (Evidence $e): string => $e->key, $this->question->evidence)));
        $run = $trial->run($simulator, $keys);

        return DataCommands::compared(
            $this->question->evidence,
            $this->analysis,
            Fits::simulated($simulator, $trial, $run, $this->question->evidence),
        );
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
        return self::shown($document);
    }

    /**
     * @param  array<string, mixed>  $document
     * @return \Generator<int, string>
     */
    public static function shown(array $document): \Generator
    {
        $n = static fn (mixed $v): string => is_float($v) || is_int($v) ? sprintf('%.7g', $v) : '–';
        yield "{$n($document['n'])} measured values, {$n($document['evaluations'])} runs; ".
            ($document['rss'] === null
                ? "off by {$n($document['objective'])}\n"
                : "sum of squares {$n($document['rss'])}, standard deviation of what is left {$n($document['residual_sd'])}\n");
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
