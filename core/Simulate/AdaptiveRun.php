<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Compile\Moment;
use MerryOrbit\Core\Compile\Watch;
use MerryOrbit\Core\Model\TimeSettings;

/**
 * Runs compiled rates with a method that chooses its own steps. It stops at the events it is given, and gives values at the
 * saved moments by the method's dense output.
 *
 * Step control after E. Hairer, S. P. Nørsett, G. Wanner, "Solving Ordinary Differential Equations I", II.4.
 */
final class AdaptiveRun
{
    private const SAFETY = 0.9;

    /** @var list<list<float>> */
    public array $rows = [];

    /** @var list<float> */
    public array $times = [];

    /** @var array<int, float> first times of the watches */
    public array $watches = [];

    public bool $ended = false;

    public bool $stopped = false;

    /** @var array{float, list<float>}|null time and state where it could not go on */
    public ?array $stuck = null;

    /** @var list<float>|null the state at the time to halt at, before the step that begins there; null if that was not reached */
    public ?array $halted = null;

    /**
     * @param  list<int>|null  $events  the steps of the time grid at which something happens; null for all
     * @param  ?float  $halt  a time at which to stop; null for the end
     */
    public function __construct(
        private readonly AdaptiveFunctions $functions,
        private readonly TimeSettings $time,
        private readonly Stepper $stepper,
        private readonly ?array $events,
        private readonly float $mostEvaluations,
        private readonly ?float $halt = null,
        private readonly ?Watch $watch = null,
    ) {
    }

    public function run(): void
    {
        $y = $this->functions->start()[0] ?? null;
        if ($y === null) {
            return;
        }
        $saved = $this->time->savedTimes();
        $t = $this->time->start;
        $h = null;
        while (true) {
            if ($this->watch?->stops(($t - $this->time->start) / ($this->time->end - $this->time->start)) === true) {
                $this->stopped = true;

                return;
            }
            if ($this->halt !== null && $t >= $this->halt) {
                $this->halted = $y;

                return;
            }
            [$i, $begun] = $this->grid($t);
            $y = $this->functions->hold($t, $begun, $y);
            $ends = $this->functions->begin($t, $i, $begun, $y);
            $next = count($this->rows);
            if ($ends === null || (($saved[$next] ?? INF) <= $t || $ends) && ! $this->save($t, $y)) {
                $this->stuck = [$t, $y];

                return;
            }
            if ($ends || $t >= $this->time->end) {
                $this->ended = $ends;

                return;
            }
            $step = $this->step($t, $y, $h, min($this->halt ?? INF, $this->nextStop($t, $i)));
            if ($step === null) {
                $this->stuck = [$t, $y];

                return;
            }
            [$reached, $after, $parts, $h] = $step;
            while (($saved[count($this->rows)] ?? INF) < $reached) {
                $when = $saved[count($this->rows)];
                $within = $this->stepper->dense($y, $after, $parts, $reached - $t, ($when - $t) / ($reached - $t));
                if (! $this->save($when, $within)) {
                    $this->stuck = [$when, $within];

                    return;
                }
            }
            // A hand that lets go leaves the stock where its course has come to.
            [$t, $y] = [$reached, $this->functions->hold($reached, $begun, $after)];
        }
    }

    /**
     * One step that meets the tolerance.
     *
     * @param  list<float>  $y
     * @param  ?float  $h  how long to try; null to find out
     * @return array{float, list<float>, list<list<float>>, float}|null the time reached, the state there, what dense output needs, and how long to try next; null if there is no such step
     */
    private function step(float $t, array $y, ?float $h, float $stop): ?array
    {
        $rates = $this->functions->rates(...);
        try {
            $k = $rates($t, $y);
        } catch (NotFinite) {
            return null;
        }
        $h ??= $this->firstStep($y, $k);
        $rejected = false;
        while (true) {
            $short = $t + 1.0000001 * $h >= $stop;
            $length = $short ? $stop - $t : $h;
            try {
                [$after, $error, $parts] = $this->stepper->step($rates, $t, $y, $k, $length);
                $norm = $this->norm($y, $after, $error);
            } catch (NotFinite) {
                [$after, $parts, $norm] = [$y, [], INF];
            }
            $factor = $norm > 0.0 ? self::SAFETY * $norm ** (-1.0 / $this->stepper->errorOrder()) : 10.0;
            if ($norm <= 1.0) {
                $grown = $length * max(0.2, min($rejected ? 1.0 : 10.0, $factor));

                // A step cut short by an event says little about how long the next may be.
                return [$short ? $stop : $t + $length, $after, $parts, $short ? max($h, $grown) : $grown];
            }
            $rejected = true;
            $h = $length * max(0.1, min(0.9, $factor));
            if ($t + $h <= $t || $this->functions->evaluations > $this->mostEvaluations) {
                return null;
            }
        }
    }

    /**
     * The step of the time grid that a moment belongs to, and the time up to its start.
     *
     * @return array{int, float}
     */
    private function grid(float $t): array
    {
        $i = (int) floor(($t - $this->time->start) / $this->time->step + Moment::TOLERANCE);

        return [$i, ($i + Moment::TOLERANCE) * $this->time->step];
    }

    private function nextStop(float $t, int $i): float
    {
        if ($this->events === null) {
            return $this->time->timeAt($i + 1);
        }
        foreach ($this->events as $step) {
            if ($step > $i && $this->time->timeAt($step) > $t) {
                return min($this->time->end, $this->time->timeAt($step));
            }
        }

        return $this->time->end;
    }

    /** @param  list<float>  $y */
    private function save(float $t, array $y): bool
    {
        $row = $this->functions->row($t, $y);
        if ($row === null) {
            return false;
        }
        foreach ($row[1] as $w => $first) {
            $this->watches[$w] = min($this->watches[$w] ?? INF, $first);
        }
        $this->rows[] = $row[0];
        $this->times[] = $t;

        return true;
    }

    /**
     * The error as a share of what is tolerated.
     *
     * @param  list<float>  $y
     * @param  list<float>  $after
     * @param  list<float>  $error
     */
    private function norm(array $y, array $after, array $error): float
    {
        $sum = 0.0;
        foreach ($error as $j => $e) {
            $scale = $this->time->absoluteTolerance + $this->time->tolerance * max(abs($y[$j]), abs($after[$j]));
            $sum += $e == 0.0 ? 0.0 : ($e / $scale) ** 2;
        }
        $norm = sqrt($sum / max(1, count($y)));

        return is_finite($norm) ? $norm : INF;
    }

    /**
     * @param  list<float>  $y
     * @param  list<float>  $k
     */
    private function firstStep(array $y, array $k): float
    {
        $size = $speed = 0.0;
        foreach ($y as $j => $value) {
            $scale = $this->time->absoluteTolerance + $this->time->tolerance * abs($value);
            $size += $scale > 0.0 ? ($value / $scale) ** 2 : 0.0;
            $speed += $scale > 0.0 ? ($k[$j] / $scale) ** 2 : 0.0;
        }
        $span = $this->time->end - $this->time->start;

        return min($span, $size > 1e-10 && $speed > 1e-10 ? 0.01 * sqrt($size / $speed) : 1e-6 * $span);
    }
}
