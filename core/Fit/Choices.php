<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

/**
 * Choices that were looked at, what each came to, and by how much it broke limits: the best, how far one may go from it, and the next
 * best elsewhere.
 *
 * @phpstan-type Known array{list<float>, float, float}
 */
final class Choices
{
    /** Flat is where less than this part of what the outcome goes over the bounds is lost. */
    private const FLAT = 0.01;

    /** How far another good choice is, as a part of some number's bounds, and how many are told. */
    private const ELSEWHERE = 0.1;

    private const MOST_OTHERS = 4;

    /** @var list<Known> */
    private array $known = [];

    /** @param  non-empty-list<Freed>  $chosen  the numbers that a choice is of */
    public function __construct(private readonly array $chosen)
    {
    }

    /** @param  list<float>  $point */
    public function add(array $point, float $value, float $broken): void
    {
        $this->known[] = [$point, $value, $broken];
    }

    public function isFeasible(): bool
    {
        return array_filter($this->known, static fn (array $k): bool => $k[2] <= 0.0) !== [];
    }

    /**
     * Those that keep all limits, or where none does, all of them.
     *
     * @param  \Closure(list<float>): float  $score  of value and breach, the less the better
     * @return list<Known> the best first
     */
    public function ranked(\Closure $score): array
    {
        $sound = array_values(array_filter($this->known, static fn (array $k): bool => $k[2] <= 0.0));
        $all = $sound === [] ? $this->known : $sound;
        usort($all, static fn (array $a, array $b): int => $score([$a[1], $a[2]]) <=> $score([$b[1], $b[2]]));

        return $all;
    }

    /**
     * From where to where each number goes among the choices that are nearly as good as the best.
     *
     * @param  list<Known>  $ranked
     * @param  float  $size  how far the outcome goes over the bounds
     * @return list<array{float, float}>
     */
    public function near(array $ranked, float $size): array
    {
        $best = $ranked[0] ?? null;
        $near = array_filter($ranked, static fn (array $k): bool => abs($k[1] - ($best[1] ?? NAN)) <= self::FLAT * $size);
        $spans = [];
        foreach ($this->chosen as $j => $f) {
            $values = array_map(static fn (array $k): float => $k[0][$j], [...$best === null ? [] : [$best], ...$near]);
            $spans[] = $values === [] ? [$f->value, $f->value] : [min($values), max($values)];
        }

        return $spans;
    }

    /**
     * The next best, each of them somewhere else.
     *
     * @param  list<Known>  $ranked
     * @return list<Known>
     */
    public function others(array $ranked): array
    {
        $taken = array_slice($ranked, 0, 1);
        foreach ($ranked as $one) {
            foreach ($taken as $other) {
                if ($this->apart($one[0], $other[0]) < self::ELSEWHERE) {
                    continue 2;
                }
            }
            $taken[] = $one;
            if (count($taken) > self::MOST_OTHERS) {
                break;
            }
        }

        return array_slice($taken, 1);
    }

    /**
     * How far two choices are from each other, as a part of the bounds of the number that differs most.
     *
     * @param  list<float>  $one
     * @param  list<float>  $other
     */
    private function apart(array $one, array $other): float
    {
        $most = 0.0;
        foreach ($this->chosen as $j => $f) {
            $most = max($most, abs($f->share($one[$j]) - $f->share($other[$j])));
        }

        return $most;
    }
}
