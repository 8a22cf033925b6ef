<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Shape;

use MerryOrbit\Core\Formula\Nature;
use MerryOrbit\Core\Formula\Node\Along;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Cases;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Pick;

/**
 * Whether the picks of a formula find something wherever they look, without writing it out for every element. It looks along one
 * dimension at a time, so where an exception leaves out the edge it may see a fault where there is none.
 */
final readonly class Edges
{
    private Resolver $resolver;

    public function __construct(private ShapedPlan $shaped, private ElementKeys $keys)
    {
        $this->resolver = new Resolver(
            $shaped->extents,
            $keys->at(...),
            static fn (Node $n): never => throw new \LogicException('Only picks'),
        );
    }

    /**
     * @param  list<string>  $extent  over what it is computed
     *
     * @throws ExtentError
     */
    public function check(Node $node, array $extent): void
    {
        $this->look($node, array_combine($extent, array_map($this->shaped->extents->dimensions->elements(...), $extent)));
    }

    /** @param  array<string, list<string>>  $at  the elements that may be present, by dimension */
    private function look(Node $node, array $at): void
    {
        if ($node instanceof Pick) {
            $this->pick($node, $at);
        } elseif ($node instanceof Cases) {
            $this->look($node->main, $at);
            foreach ($node->exceptions as $i => $exception) {
                try {
                    $this->look($exception, [...$at, ...$this->region($node->regions[$i], $at)]);
                } catch (ExtentError $e) {
                    throw $e->in("exceptions.$i");
                }
            }
        } elseif ($node instanceof Call && $node->function->nature === Nature::Along) {
            $values = array_values(array_filter($node->arguments, static fn (Node $a): bool => ! ($a instanceof Along)));
            $base = [];
            foreach ($values as $value) {
                $base = $this->shaped->extents->union($base, $this->shaped->extents->of($value), $node);
            }
            $within = $at;
            foreach ($values === [] ? [] : $this->shaped->extents->bound($node, $base) as $bound) {
                $within = array_filter($within, fn (string $d): bool => ! $this->pair($d, $bound->dimension), ARRAY_FILTER_USE_KEY);
                $within[$bound->dimension] = $this->shaped->extents->dimensions->elements($bound->dimension);
            }
            foreach ($values as $value) {
                $this->look($value, $within);
            }
        } else {
            foreach ($node->parts() as $part) {
                $this->look($part, $at);
            }
        }
    }

    /**
     * @param  array<string, list<string>>  $region
     * @param  array<string, list<string>>  $at
     * @return array<string, list<string>>
     */
    private function region(array $region, array $at): array
    {
        $within = [];
        foreach ($region as $dimension => $elements) {
            foreach (array_keys($at) as $own) {
                if ($this->pair($own, $dimension)) {
                    $within[$own] = array_values(array_intersect($at[$own], $elements));
                }
            }
        }

        return $within;
    }

    /** @param  array<string, list<string>>  $at */
    private function pick(Pick $node, array $at): void
    {
        if ($node->otherwise !== null) {
            $this->look($node->otherwise, $at);

            return;
        }
        $first = array_filter(array_map(static fn (array $elements): ?string => $elements[0] ?? null, $at), is_string(...));
        if (count($first) < count($at)) {
            // Nothing is computed over no elements.
            return;
        }
        $dimensions = $this->shaped->extents->dimensions;
        foreach ($this->shaped->extents->moves($node) as $dimension => $move) {
            $dimension = (string) $dimension;
            $over = $move->over === null ? null : $this->present($move->over, $at);
            if ($over === null) {
                $this->resolver->at($node, $first);

                continue;
            }
            $reached = [];
            foreach ($move->mapping->pairs ?? [] as [$from, , $weight]) {
                $reached[$from] = $weight !== 0.0 || isset($reached[$from]);
            }
            $elements = $dimensions->elements($dimension);
            foreach ($at[$over] as $one) {
                $place = $dimensions->place($dimension, $one);
                if ($move->mapping === null ? $place === null || ! isset($elements[$place + $move->by]) : ! ($reached[$one] ?? false)) {
                    // In the words of the one that it happens to.
                    $this->resolver->at($node, [...$first, $over => $one]);
                }
            }
        }
    }

    /** @param  array<string, list<string>>  $at */
    private function present(string $dimension, array $at): ?string
    {
        foreach ([$dimension, ...array_keys($at)] as $one) {
            if (isset($at[$one]) && $this->pair($one, $dimension)) {
                return $one;
            }
        }

        return null;
    }

    private function pair(string $a, string $b): bool
    {
        return $this->shaped->extents->dimensions->pair($a, $b);
    }
}
