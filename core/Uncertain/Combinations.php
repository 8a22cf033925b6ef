<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Model\Candidate;

/** Every combination of what is ticked: one value of a parameter sets it, several open a dimension, none leaves it as it is. */
final readonly class Combinations
{
    /**
     * @param  array<string, list<float>>  $dimensions  by parameter, the values that are tried, two at least
     * @param  array<string, float>  $fixed  by parameter, the one value
     */
    private function __construct(public array $dimensions, public array $fixed)
    {
    }

    /** @param  list<Candidate>  $all  in the order of their dimensions */
    public static function of(array $all): self
    {
        $dimensions = $fixed = [];
        foreach ($all as $one) {
            if (count($one->ticked) > 1) {
                $dimensions[$one->of] = $one->ticked;
            } elseif ($one->ticked !== []) {
                $fixed[$one->of] = $one->ticked[0];
            }
        }

        return new self($dimensions, $fixed);
    }

    /** How many there are; INF where that is no number any more. */
    public function count(): float
    {
        return array_product(array_map(static fn (array $values): float => (float) count($values), $this->dimensions));
    }

    /**
     * The values of parameters in one combination; the last dimension changes first.
     *
     * @return array<string, float>
     */
    public function values(int $at): array
    {
        $values = $this->fixed;
        foreach (array_reverse($this->dimensions, true) as $of => $list) {
            $values[$of] = $list[$at % count($list)];
            $at = intdiv($at, count($list));
        }

        return $values;
    }
}
