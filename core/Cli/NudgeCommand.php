<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Analysis\KeyReading;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\Nearest;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Reduce\Outcome;
use MerryOrbit\Core\Reduce\Outcomes;
use MerryOrbit\Core\Reduce\Processes;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\Nudge;
use MerryOrbit\Core\Uncertain\NudgedInput;

/** Every parameter down and up, as the command line asks for it. */
final class NudgeCommand implements Reporting
{
    public const TAKES = ['by', 'outcome', 'parameters', 'also', 'jobs'];

    private readonly ?float $by;

    /** @var list<NudgedInput> */
    private array $inputs;

    /** @var non-empty-list<Outcome> */
    private readonly array $outcomes;

    private bool $isFailed = false;

    /**
     * @param  resource  $err  where it is said what one would not expect
     *
     * @throws UsageError|NotUnderstood
     */
    public function __construct(
        private readonly Arguments $arguments,
        private readonly Analysis $analysis,
        private readonly Setting $setting,
        mixed $err,
    ) {
        $this->by = self::share($arguments->last('by') ?? '10%');
        $kinds = ['parameter'];
        foreach (array_filter(array_map(trim(...), explode(',', $arguments->last('also') ?? ''))) as $also) {
            $kinds[] = match ($also) {
                'initials' => 'initial',
                'curves' => 'curve',
                default => throw new UsageError("--also takes initials, curves or both, not `$also`."),
            };
        }
        $this->inputs = $this->chosen(NudgedInput::all($analysis, $setting, $this->by, $kinds));
        if ($this->inputs === []) {
            throw new UsageError('There is nothing to nudge: the model has no parameter that is a plain number.');
        }
        foreach ($this->inputs as $input) {
            fwrite($err, $input->note === '' ? '' : "# $input->name: $input->note\n");
        }
        $outcomes = array_map(static fn (string $text): Outcome => Outcome::read($text, $analysis), $arguments->all('outcome'));
        $outcomes = $outcomes === [] ? self::usual($analysis) : $outcomes;
        $this->outcomes = $outcomes === [] ? throw new UsageError('Say what is looked at: --outcome=NAME.') : $outcomes;
    }

    private static function share(string $said): ?float
    {
        if ($said === 'range') {
            return null;
        }
        $number = is_numeric($said)
            ? (float) $said
            : (preg_match('/^([\d.]+)\s*%$/', $said, $m) === 1 && is_numeric($m[1])
                ? $m[1] / 100.0
                : NAN);

        return $number > 0.0 && $number <= 10.0
            ? $number
            : throw new UsageError("--by takes a share such as 10% (or 0.1), or the word range for each dial’s own; not `$said`.");
    }

    /** @return list<Outcome> the last value of every stock, or of whatever else is computed */
    private static function usual(Analysis $analysis): array
    {
        $usual = [];
        foreach ([[Kind::Stock], [Kind::Flow, Kind::Auxiliary]] as $kinds) {
            foreach ($usual === [] ? $analysis->model->elements : [] as $id => $element) {
                foreach (
                    in_array($element->kind(), $kinds, true) && $analysis->canCompute($id) ? $analysis->positions->of($id) : [] as $key
                ) {
                    $usual[] = new Outcome($analysis->nameOf($key), $key);
                }
            }
        }

        return array_slice($usual, 0, 1_000);
    }

    /**
     * @param  list<NudgedInput>  $all
     * @return list<NudgedInput> those that --parameters names, in its order
     */
    private function chosen(array $all): array
    {
        $said = $this->arguments->last('parameters');
        if ($said === null) {
            return $all;
        }
        $byId = array_combine(array_map(static fn (NudgedInput $i): string => $i->id, $all), $all);
        $names = array_map(static fn (NudgedInput $i): string => $i->name, $all);

        return array_map(
            fn (?string $name): NudgedInput => $byId[KeyReading::key($this->analysis, (string) $name) ?? ''] ??
                throw new UsageError(
                    'The model has no parameter `'.trim((string) $name).'` to nudge.'.Nearest::question((string) $name, $names),
                ),
            str_getcsv($said, escape: ''),
        );
    }

    public function document(Simulator $simulator, Model $model): array
    {
        $jobs = (int) ($this->arguments->number('jobs') ?? Processes::cores());
        $nudge = Nudge::of($simulator, $model, $this->setting, new Outcomes($this->outcomes), $this->inputs, max(1, $jobs));
        $base = $effects = [];
        foreach ($this->outcomes as $at => $outcome) {
            $base[$outcome->written] = ManyRuns::known($nudge->base, $at);
        }
        $this->isFailed = $nudge->base === null;
        foreach ($nudge->ranked(0) as $effect) {
            $results = [];
            foreach ($this->outcomes as $at => $outcome) {
                $results[$outcome->written] = [
                    'low' => ManyRuns::known($effect['low'], $at),
                    'high' => ManyRuns::known($effect['high'], $at),
                ];
            }
            $input = $effect['input'];
            $effects[] = [
                'parameter' => $input->name,
                'low' => $input->low,
                'high' => $input->high,
                'results' => $results,
                ...$input->kind === 'parameter' ? [] : ['kind' => $input->kind],
                ...$input->note === '' ? [] : ['note' => $input->note],
            ];
            $this->isFailed = $this->isFailed && $effect['low'] === null && $effect['high'] === null;
        }

        return ['by' => $this->by, 'base' => (object) $base, 'effects' => $effects];
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
        $shown = static fn (mixed $v): string => is_float($v) || is_int($v) ? sprintf('%.5g', $v) : '–';
        /** @var list<array{parameter: string, low: ?float, high: ?float, results: array<string, array{low: ?float, high: ?float}>}> $effects */
        $effects = $document['effects'];
        $wide = max([9, ...array_map(static fn (array $e): int => mb_strlen($e['parameter']), $effects)]);
        foreach ((array) $document['base'] as $outcome => $base) {
            yield "$outcome: {$shown($base)}\n";
            yield '  '.
                mb_str_pad('parameter', $wide).
                sprintf("  %12s → %-12s  %12s → %-12s\n", 'lower', 'outcome', 'higher', 'outcome');
            foreach ($effects as $effect) {
                $result = $effect['results'][$outcome];
                yield '  '.
                    mb_str_pad($effect['parameter'], $wide).
                    sprintf(
                        "  %12s → %-12s  %12s → %-12s\n",
                        $shown($effect['low']),
                        $shown($result['low']),
                        $shown($effect['high']),
                        $shown($result['high']),
                    );
            }
        }
    }
}
