<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Shape\ShapedPlan;

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

    /** Code for the first place along the first dimension: of members, only those from there on. */
    public string $first = '0';

    /** @param  list<string>  $extent  ids of dimensions */
    public function __construct(private readonly ShapedPlan $shaped, public readonly array $extent)
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
        $size = $this->shaped->sizeCode($this->extent);
        $depth = count($this->extent);
        $isFlat =
            $depth === 1 ||
            (array_diff(array_keys($this->before + $this->after), [0]) === [] && preg_match('/\$q\d/', implode("\n", $body)) !== 1);
        if ($depth === 0 || $isFlat) {
            return [
                ...$this->before[0] ?? [],
                ...$depth === 0 ? $body : ["for (\$n = {$this->begin()}; \$n < $size; \$n++) {", ...$body, '}'],
                ...$this->after[0] ?? [],
            ];
        }
        $lines = ["\$n = {$this->begin()};"];
        foreach ($this->extent as $i => $dimension) {
            $q = $this->at($i);
            array_push(
                $lines,
                ...$this->before[$i] ?? [],
                ...["for ($q = ".($i === 0 ? $this->first : '0')."; $q < {$this->shaped->sizeCode([$dimension])}; $q++) {"],
            );
        }
        array_push($lines, ...$this->before[$depth] ?? [], ...$body, ...['$n++;']);
        for ($i = $depth - 1; $i >= 0; $i--) {
            array_push($lines, '}', ...$this->after[$i] ?? []);
        }

        return $lines;
    }

    /** The first of all elements. */
    private function begin(): string
    {
        $each = $this->shaped->sizeOver(array_slice($this->extent, 1));

        return $this->first === '0' || $each === 1 ? $this->first : "$this->first * $each";
    }
}
