<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Reduce\Outcome;
use MerryOrbit\Core\Reduce\Outcomes;
use MerryOrbit\Core\Reduce\Processes;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\Indices;
use MerryOrbit\Core\Uncertain\Morris;
use MerryOrbit\Core\Uncertain\Regression;

/** Which of the uncertain inputs matter, as the command line asks for it. All runs share one seed. */
final class IndicesCommand implements Reporting
{
    public const TAKES = ['uncertain', 'outcome', 'using', 'runs', 'jobs'];

    private readonly UncertainInputs $inputs;

    /** @var non-empty-list<Outcome> */
    private readonly array $outcomes;

    private readonly int $runs;

    private readonly int $seed;

    private readonly string $using;

    private bool $isFailed = false;

    /** @throws UsageError|NotUnderstood */
    public function __construct(private readonly Arguments $arguments, Analysis $analysis, private readonly Setting $setting)
    {
        $this->using = Requested::oneOf($arguments->last('using') ?? 'sobol', ['sobol', 'morris', 'regression'], '--using');
        $this->inputs = UncertainInputs::said($arguments, $analysis);
        $this->seed = (int) ($arguments->number('seed') ?? 1);
        $this->runs = (int) ($arguments->number('runs') ?? 1_000 * (count($this->inputs->names) + 2));
        if ($this->runs < 1 || $this->runs > EnsembleCommand::MOST_RUNS) {
            throw new UsageError('--runs is a whole number from 1 to '.number_format(EnsembleCommand::MOST_RUNS).'.');
        }
        $outcomes = array_map(static fn (string $text): Outcome => Outcome::read($text, $analysis), $arguments->all('outcome'));
        $this->outcomes = $outcomes === [] ? throw new UsageError('Say what is looked at: --outcome=NAME.') : $outcomes;
    }

    public function document(Simulator $simulator, Model $model): array
    {
        $keys = $this->inputs->keys();
        $plan = match ($this->using) {
            'sobol' => Indices::of($keys, $this->runs, $this->seed),
            'morris' => Morris::of(count($keys), $this->runs, $this->seed),
            default => null,
        };
        $count = $plan?->runs() ?? $this->runs;
        $drawn = $this->inputs->drawn('latin', $count, $this->seed, []);
        $values = $plan === null ? $drawn : fn (int $run): array => $this->inputs->values($plan->draws($run));
        $many = ManyRuns::of($simulator, $model, $this->setting, new Outcomes($this->outcomes), $count);
        $jobs = (int) ($this->arguments->number('jobs') ?? Processes::cores());
        $results = $many->all($count, static fn (int $run): array => [$values($run), null], max(1, $jobs));
        $failed = array_filter($results, static fn (?array $r): bool => $r === null);
        $this->isFailed = count($failed) === $count;
        $outcomes = [];
        foreach ($this->outcomes as $at => $outcome) {
            $found = array_map(static fn (?array $r): ?float => ManyRuns::known($r, $at), $results);
            $told = match (true) {
                $plan instanceof Indices => $plan->from($found),
                $plan instanceof Morris => ['inputs' => $plan->from($found)],
                default => $this->regressed($found, $values),
            };
            $told['inputs'] = array_map(
                static fn (string $name, array $one): array => ['name' => $name, ...$one],
                array_values($this->inputs->names),
                $told['inputs'],
            );
            $outcomes[$outcome->written] = $told;
        }

        return ['using' => $this->using, 'runs' => $count, 'failed' => count($failed), 'outcomes' => (object) $outcomes];
    }

    /**
     * @param  list<?float>  $found
     * @param  \Closure(int): array<string, float>  $values
     * @return array{explains: ?float, rank_explains: ?float, inputs: list<array{coefficient: ?float, rank_coefficient: ?float}>}
     */
    private function regressed(array $found, \Closure $values): array
    {
        $known = array_keys(array_filter($found, is_float(...)));
        $rows = array_map($values, $known);
        $columns = array_map(static fn (string $key): array => array_column($rows, $key), $this->inputs->keys());
        $fit = Regression::of($columns, array_values(array_filter($found, is_float(...))));

        return [
            'explains' => $fit->explains,
            'rank_explains' => $fit->rankExplains,
            'inputs' => array_map(
                static fn (?float $plain, ?float $rank): array => ['coefficient' => $plain, 'rank_coefficient' => $rank],
                $fit->plain,
                $fit->rank,
            ),
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
        $shown = static fn (mixed $v): string => is_float($v) || is_int($v) ? sprintf('%.4g', $v) : '–';
        yield "{$shown($document['runs'])} runs, {$shown($document['failed'])} of them failed\n";
        foreach ((array) $document['outcomes'] as $name => $outcome) {
            $told = (array) $outcome;
            /** @var list<array<string, mixed>> $inputs */
            $inputs = $told['inputs'];
            unset($told['inputs']);
            yield "$name".
                implode(
                    '',
                    array_map(static fn (string $k, mixed $v): string => ", $k {$shown($v)}", array_keys($told), array_values($told)),
                ).
                "\n";
            foreach ($inputs as $input) {
                $called = is_string($input['name']) ? $input['name'] : '';
                unset($input['name']);
                yield "  $called: ".
                    implode(
                        ', ',
                        array_map(
                            static fn (string $k, mixed $v): string => str_replace('_', ' ', $k)." {$shown($v)}",
                            array_keys($input),
                            $input,
                        ),
                    ).
                    "\n";
            }
        }
    }
}
