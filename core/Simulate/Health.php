<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Roster;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Problem\Remedy;
use MerryOrbit\Core\Problem\Shown;

/**
 * How far a run depends on its time step: it is run again at half the step (or, where the method chooses its steps, at a tenth of
 * the tolerance), with the same draws of chance, and compared at the saved moments.
 */
final readonly class Health implements \JsonSerializable
{
    /** Smaller shares are not told apart from nothing. */
    private const LEAST = 1e-6;

    private const FINE = 1e-3;

    private const FAIR = 2e-2;

    /** @param  list<array{element: string, name: string, what: string, difference: float}>  $differences  largest first; as shares of the largest value */
    private function __construct(
        public array $differences,
        public string $verdict,
        public string $sentence,
        public ?NumericFault $fault = null,
        public ?Remedy $remedy = null,
    ) {
    }

    /** @throws RunRefused */
    public static function check(Simulator $simulator, Model $model, RunOptions $settings = new RunOptions()): self
    {
        $flows = array_keys(array_filter($model->elements, static fn (Element $e): bool => $e instanceof Flow));
        $with = Totals::of($model, $flows);
        [$model, $totals] = [$with->model, array_flip($with->ids)];
        $analysis = Analyser::analyse($model);
        $time = $settings->time ?? $model->time;
        $stocks = array_keys(array_filter($model->elements, static fn (Element $e): bool => $e instanceof Stock));
        $looked = array_map(strval(...), $stocks);
        $coarse = $simulator->run($analysis, new RunOptions($settings->parameters, $time, $settings->seed), $looked);
        $finer = $time->method->isAdaptive()
            ? $time->with(['tolerance' => max(1e-13, $time->tolerance / 10), 'absoluteTolerance' => $time->absoluteTolerance / 10])
            : $time->with(['step' => $time->step / 2, 'saveEvery' => $time->saveEvery ?? $time->step]);
        $fine = $simulator->run(
            $analysis,
            new RunOptions($settings->parameters, $finer, $settings->seed, $time->method->isAdaptive() ? 1 : 2),
            $looked,
        );
        $fault = $fine->fault ?? $coarse->fault;
        $differences = [];
        foreach ($model->elements as $id => $element) {
            if (! ($element instanceof Stock || isset($totals[$id]))) {
                continue;
            }
            $of = $totals[$id] ?? $id;
            foreach (array_filter($analysis->positions->of($id), $coarse->has(...)) as $key) {
                $differences[] = [
                    'element' => $of,
                    'name' => $model->nameOf($of).$analysis->positions->shown($key),
                    'what' => isset($totals[$id]) ? 'accumulated flow' : 'stock',
                    'difference' => self::difference($coarse->column($key), $fine->column($key)),
                ];
            }
        }
        usort($differences, static fn (array $a, array $b): int => $b['difference'] <=> $a['difference']);
        $isStep = ! $time->method->isAdaptive();
        // What breaks off only because of the step is no fault of the model.
        $broken = $isStep && $coarse->fault !== null && $fine->fault === null ? $coarse->fault : null;
        [$verdict, $sentence] =
            $broken === null
                ? self::words($differences, ! $isStep, $fault)
                : ['poor', $broken->sentence().' At half the step it goes on: the step is too long for this model.'];
        if ($verdict === 'poor' && $broken === null && $isStep && self::isByMembers($model)) {
            // One that goes a step earlier changes all that follows, however short the step is.
            [$verdict, $sentence] = ['fair', self::ofMembers($differences[0])];
        }
        $half = ['kind' => 'time', ...$time->toRecord(), 'step' => $time->step / 2, 'saveEvery' => $time->saveEvery ?? $time->step];
        $remedy = $verdict === 'poor' && $isStep ? new Remedy('Halve the time step to '.Shown::number($time->step / 2), [$half]) : null;

        return new self($differences, $verdict, $sentence, $broken === null ? $fault : null, $remedy);
    }

    private static function isByMembers(Model $model): bool
    {
        return array_filter($model->part('rosters'), static fn (mixed $r): bool => $r instanceof Roster && $r->isOpen()) !== [];
    }

    /** @param  array{element: string, name: string, what: string, difference: float}  $worst */
    private static function ofMembers(array $worst): string
    {
        return 'Half the step changes '.
            self::named($worst).
            ' by up to '.
            self::percent($worst['difference']).
            '. Members come and go one by one here, and one that goes a step earlier changes all that follows, so this alone does not '.
            'tell that the step is too long. Compare what many runs come to at both steps.';
    }

    /** @param  array{element: string, name: string, what: string, difference: float}  $worst */
    private static function named(array $worst): string
    {
        return $worst['what'] === 'stock' ? "`$worst[name]`" : "what flows through `$worst[name]` in all";
    }

    /**
     * @param  list<float>  $a
     * @param  list<float>  $b
     */
    private static function difference(array $a, array $b): float
    {
        $largest = $difference = 0.0;
        for ($i = 0, $n = min(count($a), count($b)); $i < $n; $i++) {
            $difference = max($difference, abs($a[$i] - $b[$i]));
            $largest = max($largest, abs($b[$i]), abs($a[$i]));
        }

        return $largest === 0.0 ? 0.0 : $difference / $largest;
    }

    /**
     * @param  list<array{element: string, name: string, what: string, difference: float}>  $differences
     * @return array{string, string}
     */
    private static function words(array $differences, bool $adaptive, ?NumericFault $fault): array
    {
        if ($fault !== null) {
            return ['fault', $fault->sentence()];
        }
        if ($differences === []) {
            return ['fine', 'There is nothing that a time step could change.'];
        }
        $worst = $differences[0];
        $by = self::percent($worst['difference']);
        $change = $adaptive ? 'A tenth of the tolerance' : 'Half the step';
        $name = self::named($worst);

        return match (true) {
            $worst['difference'] <= self::FINE => [
                'fine',
                "$change changes nothing by more than ".
                self::percent(max($worst['difference'], self::LEAST)).
                ': the settings are fine.',
            ],
            $worst['difference'] <= self::FAIR => [
                'fair',
                "$change changes $name by up to $by: good enough to see the shape, not for fine comparisons.",
            ],
            default => [
                'poor',
                "$change changes $name by up to $by: ".
                ($adaptive
                    ? 'choose a smaller tolerance.'
                    : 'the step is too long for this model. Halve it until this says fine, or choose a method of higher order.'),
            ],
        };
    }

    private static function percent(float $share): string
    {
        return $share === 0.0
            ? '0 %'
            : ($share < self::LEAST
                ? 'less than 0.0001 %'
                : Shown::brief((float) sprintf('%.2g', 100.0 * $share)).' %');
    }

    /** @return array{verdict: string, sentence: string, differences: list<array{element: string, name: string, what: string, difference: float}>, fault: ?NumericFault, remedy: ?array{words: string, edits: non-empty-list<array<string, mixed>>}} */
    public function jsonSerialize(): array
    {
        return [
            'verdict' => $this->verdict,
            'sentence' => $this->sentence,
            'differences' => $this->differences,
            'fault' => $this->fault,
            'remedy' => $this->remedy?->jsonSerialize(),
        ];
    }
}
