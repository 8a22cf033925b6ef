<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Model\Dimensions;

/**
 * Loops over all elements of some dimensions, in their order. `$n` counts through all of them; with several dimensions `$q0`, `$q1` …
 * are the places along each, where anything asks for them.
 */
final class LoopNest
{
    /** @var array<int, list<string>> by how many of the loops they stand in, lines before the next one */
    public array $before = [];

    /** @var array<int, list<string>> the same behind it */
    public array $after = [];

    /** @param  list<string>  $extent  ids of dimensions */
    public function __construct(private readonly Dimensions $dimensions, public readonly array $extent)
    {
    }

    public function place(): LoopPlace
    {
        $at = [];
        foreach ($this->extent as $i => $dimension) {
            $at[$dimension] = $this->at($i);
        }

        return new LoopPlace($at, $this->extent);
    }

    /** The variable with the place along one of the dimensions. */
    private function at(int $i): string
    {
        return count($this->extent) === 1 ? '$n' : "\$q$i";
    }

    /**
     * @param  list<string>  $body
     * @return list<string>
     */
    public function around(array $body): array
    {
        $size = (int) array_product(array_map($this->dimensions->size(...), $this->extent));
        $depth = count($this->extent);
        $isFlat =
            $depth === 1 ||
            (array_diff(array_keys($this->before + $this->after), [0]) === [] && preg_match('/\$q\d/', implode("\n", $body)) !== 1);
        if ($depth === 0 || $isFlat) {
            return [
                ...$this->before[0] ?? [],
                ...$depth === 0 ? $body : ["for (\$n = 0; \$n < $size; \$n++) {", ...$body, '}'],
                ...$this->after[0] ?? [],
            ];
        }
        $lines = ['$n = 0;'];
        foreach ($this->extent as $i => $dimension) {
            $q = $this->at($i);
            array_push($lines, ...$this->before[$i] ?? [], ...["for ($q = 0; $q < {$this->dimensions->size($dimension)}; $q++) {"]);
        }
        array_push($lines, ...$this->before[$depth] ?? [], ...$body, ...['$n++;']);
        for ($i = $depth - 1; $i >= 0; $i--) {
            array_push($lines, '}', ...$this->after[$i] ?? []);
        }

        return $lines;
    }
}
