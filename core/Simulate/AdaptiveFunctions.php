<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Compile\Program;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Library\History;
use MerryOrbit\Core\Library\Moment;
use MerryOrbit\Core\Model\TimeSettings;

/** The compiled functions of a program for adaptive methods, with the arguments that stay the same; see AdaptiveCompiler. */
final class AdaptiveFunctions
{
    /** @var array<string, callable> */
    private readonly array $functions;

    public int $evaluations = 0;

    /** @var list<float> */
    private array $constants = [];

    /** @var list<float|History> */
    private array $kept = [];

    /** Time up to the start of the present step of the grid, with the tolerance of events. */
    private float $begun = 0.0;

    /** @param  list<float>  $parameters */
    public function __construct(
        ProgramStore $programs,
        public readonly Program $program,
        private readonly TimeSettings $time,
        private readonly array $parameters,
    ) {
        $functions = [];
        foreach (['start', 'begin', 'rates', 'row', ...$program->holds ? ['hold'] : []] as $part) {
            $functions[$part] = $programs->load($program->function.'_'.$part, $program);
        }
        $this->functions = $functions;
    }

    /**
     * What goes from step to step, in the order of the program.
     *
     * @param  list<float>  $y
     * @return list<float|History>
     */
    public function carried(array $y): array
    {
        return [...$y, ...$this->kept];
    }

    /** @return list<float> what stays the same during the run */
    public function constants(): array
    {
        return $this->constants;
    }

    /** @return array{list<float>, list<float>}|null the state at the start and what stays the same; null if that cannot be computed */
    public function start(): ?array
    {
        try {
            /** @var array{float, list<float>, list<float>, list<float|History>} $start */
            $start = $this->functions['start']($this->time->start, $this->time->end, $this->time->step, ...$this->parameters);
        } catch (\ArithmeticError) {
            return null;
        }
        [$test, $this->constants, $y, $this->kept] = $start;

        return is_finite($test) ? [$y, $this->constants] : null;
    }

    /**
     * Begins a step: keeps what stays the same in it.
     *
     * @param  list<float>  $y
     * @return bool|null whether the end condition holds; null if something cannot be computed
     */
    public function begin(float $t, int $i, float $begun, array $y): ?bool
    {
        $this->begun = $begun;
        $onGrid = abs($t - $this->time->timeAt($i)) <= Moment::TOLERANCE * $this->time->step;
        try {
            /** @var array{float, list<float|History>, bool} $begin */
            $begin = $this->functions['begin'](...$this->arguments($t, $y), ...[$i, $onGrid], ...$this->parameters);
        } catch (\ArithmeticError) {
            return null;
        }
        [$test, $this->kept, $ends] = $begin;

        return is_finite($test) ? $ends : null;
    }

    /**
     * The state with the stocks that hands hold on their courses, in the step of the grid begun at `$begun`.
     *
     * @param  list<float>  $y
     * @return list<float>
     */
    public function hold(float $t, float $begun, array $y): array
    {
        $hold = $this->functions['hold'] ?? null;
        if ($hold === null) {
            return $y;
        }
        $this->begun = $begun;
        try {
            /** @var list<float> $held */
            $held = $hold(...$this->arguments($t, $y), ...$this->parameters);
        } catch (\ArithmeticError) {
            return $y;
        }

        return $held;
    }

    /**
     * @param  list<float>  $y
     * @return list<float>
     *
     * @throws NotFinite
     */
    public function rates(float $t, array $y): array
    {
        $this->evaluations++;
        try {
            /** @var list<float> $rates */
            $rates = $this->functions['rates'](...$this->arguments($t, $y), ...$this->parameters);
        } catch (\ArithmeticError) {
            throw new NotFinite();
        }
        if (! is_finite(array_sum($rates))) {
            throw new NotFinite();
        }
        array_pop($rates);

        return $rates;
    }

    /**
     * @param  list<float>  $y
     * @return array{list<float>, list<float>}|null the values of the columns, and the first times of the watches
     */
    public function row(float $t, array $y): ?array
    {
        try {
            /** @var list<float> $row */
            $row = $this->functions['row'](...$this->arguments($t, $y), ...$this->parameters);
        } catch (\ArithmeticError) {
            return null;
        }
        $columns = count($this->program->columns);

        return is_finite($row[$columns]) ? [array_slice($row, 0, $columns), array_slice($row, $columns + 1)] : null;
    }

    /**
     * @param  list<float>  $y
     * @return array{float, float, float, float, float, list<float>, list<float>, list<float|History>}
     */
    private function arguments(float $t, array $y): array
    {
        return [$this->time->start, $this->time->end, $this->time->step, $t, $this->begun, $this->constants, $y, $this->kept];
    }
}
