<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Model\Expectation;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\Reducer;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Simulate\Trajectory;

/** By how much a run is not as it is expected to be, for each expectation: 0 where it holds, 1 where its breach has no size. */
final class Breaches implements Reducer
{
    private ?Subjects $subjects = null;

    /** @var list<string> keys of stocks that must not fall below 0 */
    private array $stocks = [];

    /** @param  list<Expectation>  $all */
    private function __construct(private readonly array $all)
    {
    }

    /**
     * @param  list<Expectation>  $all
     *
     * @throws NotUnderstood where one is no sentence about any run of the model
     */
    public static function of(Simulator $simulator, Model $model, array $all): self
    {
        foreach ($all as $e) {
            $name = $e->name === '' ? 'One that must hold' : "“{$e->name}”";
            if (! $e->isUnconditional()) {
                throw NotUnderstood::because(
                    "$name is expected under conditions of its own, so a choice cannot be held to it. Leave it out.",
                );
            }
        }
        foreach (
            Expectations::check($simulator, $model, array_map(static fn (Expectation $e): Expectation => $e->inOneRun(), $all)) as $told
        ) {
            if ($told['holds'] === null) {
                throw NotUnderstood::because(
                    "What must hold cannot be checked: {$told['sentence']} Mend the expectation, or leave it out.",
                );
            }
        }

        return new self($all);
    }

    public function extended(Model $model): Model
    {
        $this->subjects = Subjects::of($model, $this->all);
        $shapes = array_column($this->all, 'shape');
        $this->stocks = in_array('sound', $shapes, true) ? self::stocks($this->subjects->model) : [];

        return $this->subjects->model;
    }

    /** @return list<string> */
    private static function stocks(Model $model): array
    {
        $analysis = Analyser::analyse($model);
        $keys = [];
        foreach ($model->elements as $id => $element) {
            if ($element instanceof Stock && $analysis->canCompute($id)) {
                array_push($keys, ...$analysis->positions->first($id, Watch::MOST_ELEMENTS));
            }
        }

        return $keys;
    }

    public function columns(): array
    {
        return array_values(array_unique([...$this->subjects?->all() ?? [], ...$this->stocks]));
    }

    public function saving(TimeSettings $time): TimeSettings
    {
        return $time->with(['saveEvery' => null]);
    }

    public function names(): array
    {
        return array_column($this->all, 'id');
    }

    public function reduce(Trajectory $run): array
    {
        return array_map(fn (Expectation $e): float => $this->breach($e, $run), $this->all);
    }

    private function breach(Expectation $e, Trajectory $run): float
    {
        if ($e->shape === 'sound') {
            $least = array_map(static fn (string $k): float => Watch::fallen($run->has($k) ? $run->column($k) : []), $this->stocks);

            return max([0.0, ...$least]);
        }
        $of = $this->subjects?->id($e, 'of') ?? '';
        if (! $run->has($of)) {
            return NAN;
        }
        $others = $e->shape === 'near' ? $run->column($this->subjects?->id($e, 'other') ?? $of) : [];
        $watch = Watch::of($e, $run->times(), $run->column($of), $others, static fn (): string => '');

        return $watch->holds ? 0.0 : max($watch->by ?? 1.0, PHP_FLOAT_MIN);
    }
}
