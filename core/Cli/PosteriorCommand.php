<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Data\Evidence;
use MerryOrbit\Core\Fit\Belief;
use MerryOrbit\Core\Fit\Posterior;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\Simulator;

/** What the data leave open, as the command line asks for it. */
final class PosteriorCommand implements Reporting
{
    public const TAKES = [...FitQuestion::TAKES, 'prior', 'draws', 'chains', 'draws-out', 'calibration'];

    private const MOST_DRAWS = 1_000_000;

    private const MOST_CHAINS = 64;

    private readonly FitQuestion $question;

    private readonly Belief $belief;

    private readonly int $draws;

    private readonly int $chains;

    private bool $isFailed = false;

    /**
     * @param  resource  $err  where remarks go
     *
     * @throws UsageError|NotUnderstood|ModelRefused
     */
    public function __construct(private readonly Arguments $arguments, private readonly Analysis $analysis, Setting $setting, mixed $err)
    {
        [$this->draws, $this->chains] = self::counts($arguments);
        $this->question = new FitQuestion($arguments, $analysis, $setting, $err);
        $this->belief = new Belief($this->question->freed, $this->question->priors($arguments->all('prior')));
    }

    /**
     * @return array{int, int} draws of all chains together, and chains
     *
     * @throws UsageError
     */
    public static function counts(Arguments $arguments): array
    {
        $draws = (int) ($arguments->number('draws') ?? 4_000);
        $chains = (int) ($arguments->number('chains') ?? 4);
        if ($draws < 40 || $draws > self::MOST_DRAWS) {
            throw new UsageError('--draws is a whole number from 40 to '.number_format(self::MOST_DRAWS).'.');
        }
        if ($chains < 1 || $chains > self::MOST_CHAINS) {
            throw new UsageError('--chains is a whole number from 1 to '.self::MOST_CHAINS.'.');
        }

        return [$draws, $chains];
    }

    public function document(Simulator $simulator, Model $model): array
    {
        $seed = (int) ($this->arguments->number('seed') ?? 1);
        $posterior = Posterior::of($this->question->calibration($simulator, $model, true), $this->belief, $seed);
        $sampled = $posterior->drawn($this->draws, $this->chains, $this->question->jobs());
        $this->isFailed = ! $posterior->isSomewhere;
        $file = $this->arguments->last('draws-out');
        if ($file !== null) {
            UncertainInputs::write($file, array_column($this->question->freed, 'name'), $sampled->draws());
        }
        $series = array_map(fn (Evidence $e): array => ['series' => $this->analysis->nameOf($e->key)], $this->question->evidence);

        return [
            'parameters' => $sampled->parameters(),
            'acceptance' => $sampled->acceptance(),
            'draws' => $sampled->each * $this->chains,
            'chains' => $this->chains,
            'sds' => array_map(
                static fn (array $name, array $sd): array => [...$name, ...$sd],
                $sampled->sds() === [] ? [] : $series,
                $sampled->sds(),
            ),
            'remarks' => $sampled->sentences(),
        ];
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
        $n = static fn (mixed $v): string => is_float($v) || is_int($v) ? sprintf('%.5g', $v) : '–';
        $taken = is_float($document['acceptance']) ? 100 * $document['acceptance'] : null;
        yield "{$n($document['draws'])} draws of {$n($document['chains'])} chains, {$n($taken)} % of steps taken\n";
        /** @var list<array{name?: string, series?: string, mean: ?float, sd: ?float, percentiles: object, rhat: ?float, ess: ?float}> $all */
        $all = [...(array) $document['parameters'], ...(array) $document['sds']];
        foreach ($all as $p) {
            $name = $p['name'] ?? 'sd of '.($p['series'] ?? '');
            $at = (array) $p['percentiles'];
            yield "  $name: {$n($p['mean'])} ± {$n($p['sd'])}, 95 % between {$n($at['2.5'] ?? null)} and {$n($at['97.5'] ?? null)}; ".
                "R̂ {$n($p['rhat'])}, {$n($p['ess'])} independent draws\n";
        }
        /** @var list<string> $remarks */
        $remarks = $document['remarks'];
        foreach ($remarks as $remark) {
            yield "$remark\n";
        }
    }
}
