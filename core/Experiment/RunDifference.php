<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Experiment;

use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Simulate\Trajectory;

/**
 * Why two runs differ in a variable at one moment: the difference shared out among its causes.
 *
 * A stock differs by what it started with and by what has flowed since. For all others, the causes' values of one run are
 * put into the formula in place of those of the other, one after the other, and what each brings is averaged over the orders
 * in which that can be done (L. S. Shapley, "A value for n-person games", 1953). The shares add up to the whole difference.
 */
final readonly class RunDifference
{
    /** Stands for a formula, curve or grip that is not the same in both runs. */
    public const FORMULA = 'formula';

    /** Stands for different initial values. */
    public const START = 'start';

    /** Up to so many causes all orders are averaged; beyond, the rotations of one order and of its reverse. */
    private const MOST_EXACT = 9;

    public function __construct(private Instant $run, private Instant $base, private Trajectory $course, private Trajectory $baseCourse)
    {
    }

    /** How far the run is above the base; null where one of them has no value. */
    public function difference(string $id): ?float
    {
        [$a, $b] = [$this->run->value($id), $this->base->value($id)];

        return $a === null || $b === null ? null : $a - $b;
    }

    /**
     * @return array{causes: list<array{cause: string, change: float}>, rest: float} largest first; they and the rest come to difference()
     */
    public function causes(string $id): array
    {
        $difference = $this->difference($id) ?? 0.0;
        $causes = isset($this->run->trial->analysis->plan()->states[$id]) ? $this->ofStock($id) : $this->ofFormula($id);
        $causes = array_values(array_filter($causes, static fn (array $c): bool => $c['change'] != 0.0));
        usort($causes, static fn (array $a, array $b): int => abs($b['change']) <=> abs($a['change']));

        return ['causes' => $causes, 'rest' => $difference - array_sum(array_column($causes, 'change'))];
    }

    /** @return list<array{cause: string, change: float}> */
    private function ofStock(string $id): array
    {
        $first = static fn (Trajectory $run): float => $run->column($id)[0] ?? 0.0;
        $causes = [['cause' => self::START, 'change' => $first($this->course) - $first($this->baseCourse)]];
        $flows = [];
        foreach ([[$this->run, $this->course, 1.0], [$this->base, $this->baseCourse, -1.0]] as [$instant, $course, $side]) {
            foreach ($instant->trial->analysis->plan()->states[$id]->rates ?? [] as [$flow, $sign]) {
                $flows[$flow] = ($flows[$flow] ?? 0.0) + $side * $sign * $this->flowed($course, $flow, $instant);
            }
        }
        foreach ($flows as $flow => $change) {
            $causes[] = ['cause' => (string) $flow, 'change' => $change];
        }

        return $causes;
    }

    /** How much has flowed up to the moment: exactly as Euler adds it up, else by the trapezia between saved points. */
    private function flowed(Trajectory $course, string $flow, Instant $instant): float
    {
        $times = $course->times();
        $values = $course->column($flow);
        $sum = 0.0;
        $until = $instant->time() + 1e-9 * $instant->trial->model()->time->step;
        for ($i = 1; $i < count($times) && $times[$i] <= $until; $i++) {
            $sum +=
                ($times[$i] - $times[$i - 1]) *
                ($course->method === Method::Euler ? $values[$i - 1] : ($values[$i - 1] + $values[$i]) / 2.0);
        }

        return $sum;
    }

    /** @return list<array{cause: string, change: float}> */
    private function ofFormula(string $id): array
    {
        $players = [];
        foreach (array_unique([...$this->base->inputs($id), ...$this->run->inputs($id)]) as $input) {
            if ($this->run->value($input) !== $this->base->value($input)) {
                $players[] = $input;
            }
        }
        if (! $this->isSameFormula($id)) {
            $players[] = self::FORMULA;
        } elseif (
            array_filter(
                $this->run->memory($id),
                fn (string $k): bool => ($this->run->walker->values[$k] ?? null) !== ($this->base->walker->values[$k] ?? null),
            ) !== []
        ) {
            $players[] = Instant::MEMORY;
        }
        $known = [];
        $worth = function (int $set) use (&$known, $players, $id): float {
            return $known[$set] ??= $this->worth(
                $id,
                array_values(array_filter($players, static fn (int $i): bool => (($set >> $i) & 1) === 1, ARRAY_FILTER_USE_KEY)),
            );
        };
        $shares =
            count($players) <= self::MOST_EXACT ? self::exactShares(count($players), $worth) : self::rotatedShares(count($players), $worth);

        return array_map(static fn (string $cause, float $change): array => ['cause' => $cause, 'change' => $change], $players, $shares);
    }

    private function isSameFormula(string $id): bool
    {
        $hidden = static fn (Instant $i): array => array_filter(
            $i->trial->analysis->parameters,
            static fn (string $key): bool => $i->trial->analysis->plan()->keys->isHidden($key) &&
                $i->trial->analysis->plan()->keys->owner($key) === $id,
            ARRAY_FILTER_USE_KEY,
        );

        return $this->run->nodes($id) == $this->base->nodes($id) &&
            $this->run->curves($id) == $this->base->curves($id) &&
            $hidden($this->run) === $hidden($this->base);
    }

    /**
     * What the element would be worth with some causes as in the run and all others as in the base.
     *
     * @param  list<string>  $taken
     */
    private function worth(string $id, array $taken): float
    {
        $formula = in_array(self::FORMULA, $taken, true) ? $this->run : $this->base;
        $values = [];
        foreach ($formula->inputs($id) as $input) {
            $value = (in_array($input, $taken, true) ? $this->run : $this->base)->value($input) ?? $formula->value($input);
            $values += $value === null ? [] : [$input => $value];
        }
        if (in_array(Instant::MEMORY, $taken, true)) {
            foreach ($this->run->memory($id) as $key) {
                $values[$key] = $this->run->walker->values[$key] ?? 0.0;
            }
        }
        $all = $formula->equations($id);

        return $all === []
            ? $formula->value($id) ?? 0.0
            : $formula->walker->probe($all, $values, $formula->index)[$id] ?? ($formula->value($id) ?? 0.0);
    }

    /**
     * @param  \Closure(int): float  $worth  of a set of players, as bits
     * @return list<float>
     */
    private static function exactShares(int $n, \Closure $worth): array
    {
        $factorial = [1.0];
        for ($i = 1; $i <= $n; $i++) {
            $factorial[] = $factorial[$i - 1] * $i;
        }
        $shares = array_fill(0, $n, 0.0);
        for ($set = 0; $set < 1 << $n; $set++) {
            $size = substr_count(decbin($set), '1');
            for ($i = 0; $i < $n; $i++) {
                if ((($set >> $i) & 1) === 0) {
                    $shares[$i] +=
                        (($factorial[$size] * $factorial[$n - $size - 1]) / $factorial[$n]) * ($worth($set | (1 << $i)) - $worth($set));
                }
            }
        }

        return array_values($shares);
    }

    /**
     * @param  \Closure(int): float  $worth
     * @return list<float>
     */
    private static function rotatedShares(int $n, \Closure $worth): array
    {
        $shares = array_fill(0, $n, 0.0);
        foreach ([range(0, $n - 1), range($n - 1, 0)] as $order) {
            for ($turn = 0; $turn < $n; $turn++) {
                $set = 0;
                for ($k = 0; $k < $n; $k++) {
                    $i = $order[($turn + $k) % $n];
                    $shares[$i] += ($worth($set | (1 << $i)) - $worth($set)) / (2 * $n);
                    $set |= 1 << $i;
                }
            }
        }

        return array_values($shares);
    }
}
