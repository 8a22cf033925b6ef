<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Library\Moment;
use MerryOrbit\Core\Library\RunWatcher;
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

    /** A step that is shorter than this part of the span leads nowhere. */
    private const SHORTEST = 1e-30;

    /** Every so many steps it is looked whether stability holds them back; so many looks in a row say that it does. */
    private const LOOK = 10;

    private const LOOKS = 15;

    /** So many looks in a row take that back. */
    private const FREE = 6;

    /** Where stability ends along the negative axis, for Dormand–Prince. */
    private const STABLE = 3.25;

    /** Seconds between two looks at the pace of a run. */
    private const PACED = 0.3;

    /** So many times as long as a run may take is too far away. */
    private const HOPELESS = 3.0;

    /** So many steps more are taken all the same. */
    private const BEARABLE = 20_000;

    /** @var list<list<float>> one for each column of the program */
    public array $columns = [];

    /** @var list<float> */
    public array $times = [];

    /** @var array<int, float> first times of the watches */
    public array $watches = [];

    public bool $ended = false;

    public bool $stopped = false;

    /** @var array{float, list<float>}|null time and state where it could not go on */
    public ?array $stuck = null;

    /** Why it could not go on. */
    public ?Hindrance $hindrance = null;

    /** How many steps it would have needed more, where it gave up. */
    public float $ahead = 0.0;

    private int $steps = 0;

    private int $held = 0;

    private int $free = 0;

    /** @var array{int, float} when the steps began to be held back: how many there were, and the time in the run */
    private array $since = [0, 0.0];

    private float $begun = 0.0;

    private float $spentBefore = 0.0;

    /** @var array{seconds: float, spent: float, time: float, pace: float}|null when it was looked last how fast the run goes on, and how fast it was: time of the run per second */
    private ?array $pace = null;

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
        private readonly float $mostSeconds,
        private readonly ?float $halt = null,
        private readonly ?RunWatcher $watch = null,
    ) {
    }

    public function run(): void
    {
        $y = $this->functions->start()[0] ?? null;
        if ($y === null) {
            return;
        }
        $saved = $this->time->savedTimes();
        $this->columns = array_fill(0, count($this->functions->program->columns), []);
        $t = $this->time->start;
        $h = null;
        $this->begun = hrtime(true) / 1e9;
        $this->spentBefore = self::spent();
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
            $next = count($this->times);
            if ($ends === null || ((($saved[$next] ?? INF) <= $t || $ends) && ! $this->save($t, $y))) {
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
                $this->hindrance ??= Hindrance::Abrupt;

                return;
            }
            [$reached, $after, $parts, $h] = $step;
            $this->hindrance = $this->watched($t, $y, $step);
            if ($this->hindrance !== null) {
                $this->stuck = [$t, $y];

                return;
            }
            while (($saved[count($this->times)] ?? INF) < $reached) {
                $when = $saved[count($this->times)];
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
            if (($length < self::SHORTEST * ($this->time->end - $this->time->start) && ! $short) || $t + $length <= $t) {
                return null;
            }
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
            if ($this->isTooLong($t)) {
                $this->hindrance = Hindrance::Long;

                return null;
            }
        }
    }

    private function isTooLong(float $t): bool
    {
        $seconds = hrtime(true) / 1e9 - $this->begun;
        if ($this->functions->evaluations <= $this->mostEvaluations && $seconds <= $this->mostSeconds && ! $this->crawls($t, $seconds)) {
            return false;
        }
        $this->ahead = (($this->time->end - $t) / max(PHP_FLOAT_MIN, $t - $this->time->start)) * max(1, $this->steps);

        return true;
    }

    /** Seconds that this process has computed. */
    private static function spent(): float
    {
        /** @var array<string, int> $used */
        $used = getrusage() ?: [];
        $seconds = 0.0;
        foreach (['utime', 'stime'] as $kind) {
            $seconds += (float) ($used["ru_$kind.tv_sec"] ?? 0) + (float) ($used["ru_$kind.tv_usec"] ?? 0) / 1e6;
        }

        return $seconds;
    }

    /**
     * Whether the end is out of reach at the pace of the run, which is looked at a few times a second. One that gets faster, as
     * after a sudden change at its start, is given its time.
     */
    private function crawls(float $t, float $seconds): bool
    {
        $this->pace ??= ['seconds' => 0.0, 'spent' => $this->spentBefore, 'time' => $this->time->start, 'pace' => INF];
        if ($seconds - $this->pace['seconds'] < self::PACED) {
            return false;
        }
        // The pace is that of this process: what others do on the machine makes no run slower.
        $spent = self::spent();
        $since = $spent - $this->pace['spent'];
        if ($since < self::PACED) {
            return false;
        }
        $pace = ($t - $this->pace['time']) / $since;
        $steady = $pace <= 1.5 * $this->pace['pace'];
        $this->pace = ['seconds' => $seconds, 'spent' => $spent, 'time' => $t, 'pace' => $pace];

        return $steady &&
            $spent - $this->spentBefore > 2.5 * self::PACED &&
            $this->time->end - $t > self::HOPELESS * $this->mostSeconds * $pace;
    }

    /**
     * Whether it makes sense to go on after a step: it does not where stability keeps steps so short that the end is out of reach.
     *
     * @param  list<float>  $y
     * @param  array{float, list<float>, list<list<float>>, float}  $step  as step() gave it
     */
    private function watched(float $t, array $y, array $step): ?Hindrance
    {
        [$reached, $after, $parts] = $step;
        if (++$this->steps % self::LOOK !== 0) {
            return null;
        }
        if ($this->stepper->reach($y, $after, $parts, $reached - $t) <= self::STABLE) {
            $this->held = ++$this->free >= self::FREE ? 0 : $this->held;
        } else {
            $this->free = 0;
            $this->since = $this->held++ === 0 ? [$this->steps, $t] : $this->since;
            if ($this->held >= self::LOOKS && $t > $this->since[1]) {
                $this->ahead = (($this->time->end - $t) / ($t - $this->since[1])) * ($this->steps - $this->since[0]);
                if ($this->ahead > self::BEARABLE) {
                    return Hindrance::Stiff;
                }
            }
        }

        return $this->isTooLong($t) ? Hindrance::Long : null;
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
        // A sum may overflow where no value does.
        if ($row === null || (! is_finite(array_sum($row[0])) && array_filter($row[0], is_finite(...)) !== $row[0])) {
            return false;
        }
        foreach ($row[1] as $w => $first) {
            $this->watches[$w] = min($this->watches[$w] ?? INF, $first);
        }
        foreach ($row[0] as $k => $value) {
            $this->columns[$k][] = $value;
        }
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
        foreach ($after as $value) {
            if (! is_finite($value)) {
                return INF;
            }
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

        $guess = $size > 1e-10 && $speed > 1e-10 ? 0.01 * sqrt($size / $speed) : 1e-6 * $span;

        return max(10.0 * self::SHORTEST * $span, min($span, is_nan($guess) ? 0.0 : $guess));
    }
}
