<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Problem\NotUnderstood;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/**
 * A first look at many inputs: paths on which one input after the other takes a step, and what each step does.
 *
 * Source: M. D. Morris, "Factorial sampling plans for preliminary computational experiments", Technometrics 33 (1991). The levels are
 * quantiles within the open interval from 0 to 1, so that distributions without ends can be asked too; effects are per unit of quantile.
 */
final readonly class Morris
{
    private const LEVELS = 4;

    /** Of quantile: two of four levels. */
    private const STEP = 0.5;

    /**
     * @param  list<list<float>>  $draws  of each run
     * @param  list<array{int, int, float}>  $steps  the run before, the run after, and by how much the input of that step moved
     * @param  list<int>  $moved  which input each step moves
     */
    private function __construct(public int $inputs, private array $draws, private array $steps, private array $moved)
    {
    }

    /** @throws NotUnderstood */
    public static function of(int $inputs, int $runs, int $seed): self
    {
        $paths = intdiv($runs, $inputs + 1);
        if ($paths < 2) {
            throw NotUnderstood::because(
                "$runs runs are too few: a path of Morris’ takes ".
                    ($inputs + 1).
                    " runs with $inputs inputs, and ten paths are usual.",
            );
        }
        $random = new Randomizer(new Xoshiro256StarStar(hash('sha256', "$seed/morris", true)));
        $draws = $steps = $moved = [];
        for ($path = 0; $path < $paths; $path++) {
            $levels = array_map(static fn (): int => $random->getInt(0, self::LEVELS - 1), range(1, $inputs));
            $draws[] = self::quantiles($levels);
            foreach ($random->shuffleArray(range(0, $inputs - 1)) as $input) {
                $up = $levels[$input] < self::LEVELS / 2;
                $levels[$input] += $up ? 2 : -2;
                $draws[] = self::quantiles($levels);
                $steps[] = [count($draws) - 2, count($draws) - 1, $up ? self::STEP : -self::STEP];
                $moved[] = $input;
            }
        }

        return new self($inputs, $draws, $steps, $moved);
    }

    /**
     * @param  array<int, int>  $levels
     * @return list<float>
     */
    private static function quantiles(array $levels): array
    {
        return array_values(array_map(static fn (int $l): float => ($l + 0.5) / self::LEVELS, $levels));
    }

    public function runs(): int
    {
        return count($this->draws);
    }

    /** @return list<float> */
    public function draws(int $run): array
    {
        return $this->draws[$run];
    }

    /**
     * @param  array<int, ?float>  $values  an outcome of each run; null or absent where it failed or is not made, which leaves two steps out
     * @return list<array{mean: ?float, mean_size: ?float, sd: ?float}> of the elementary effects of each input
     */
    public function from(array $values): array
    {
        /** @var list<list<float>> $effects */
        $effects = array_fill(0, $this->inputs, []);
        foreach ($this->steps as $at => [$before, $after, $step]) {
            $effect = (($values[$after] ?? NAN) - ($values[$before] ?? NAN)) / $step;
            if (is_finite($effect)) {
                $effects[$this->moved[$at]][] = $effect;
            }
        }

        return array_map(
            static fn (array $e): array => [
                'mean' => Summary::of($e, [])?->mean,
                'mean_size' => Summary::of(array_map(abs(...), $e), [])?->mean,
                'sd' => Summary::of($e, [])?->sd,
            ],
            $effects,
        );
    }
}
