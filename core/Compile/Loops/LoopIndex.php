<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Shape\ShapedPlan;

/** Where the elements of values stand in their lists, as code at a place within loops. */
final class LoopIndex
{
    /** @var array<string, string> variables, by the code of where a row begins */
    private array $rows = [];

    /** @param  \Closure(string): string  $whole  the variable that holds all elements of a key */
    public function __construct(
        private readonly ShapedPlan $shaped,
        private readonly LoopData $data,
        private readonly \Closure $whole,
        private readonly LoopNest $nest,
    ) {
    }

    public function wholeOf(string $key): string
    {
        return ($this->whole)($key);
    }

    /** @param  list<string>  $conditions */
    public function value(string $key, string $index, array $conditions): string
    {
        $whole = $this->wholeOf($key);
        $code = "{$whole}[$index]";
        if (preg_match('/^\$q(\d)$/D', $index, $level) === 1) {
            // What an inner loop does not change is read outside of it.
            $local = '$lq'.$level[1].substr($whole, 1);
            $line = "$local = $code;";
            $depth = (int) $level[1] + 1;
            $this->nest->before[$depth] = array_values(array_unique([...$this->nest->before[$depth] ?? [], $line]));
            $code = $local;
        }

        return $conditions === [] ? $code : '('.implode(' && ', $conditions)." ? $code : 0.0)";
    }

    /**
     * Where an element stands in the list of all.
     *
     * @param  list<string>  $extent
     * @param  array<string, string>  $fixed  places by dimension that are known already
     * @return array{string, list<string>} code, and what must hold for it to be there
     */
    public function index(array $extent, LoopPlace $place, array $fixed = []): array
    {
        $code = '';
        $conditions = [];
        foreach ($extent as $dimension) {
            $size = $this->shaped->extents->dimensions->size($dimension);
            $own = $fixed[$dimension] ?? null;
            if ($own === null) {
                [$own, $isPart] = $this->position($dimension, $dimension, 0, $place);
                array_push($conditions, ...$isPart ? ["$own >= 0"] : []);
            }
            $before = $code === '' ? '' : self::enclosed($code)." * $size";
            $isRow = $before !== '' && $own === $place->inner && ! str_contains($before, $own) && $dimension === end($extent);
            $code = $before === '' ? $own : ($isRow ? $this->row($before) : $before)." + $own";
        }

        return [$code, $conditions];
    }

    /** Where a row begins along which the innermost loop goes. */
    private function row(string $code): string
    {
        return $this->rows[$code] ??= $this->data->variable('r');
    }

    /**
     * @param  \Closure(): list<string>  $body  of an innermost loop
     * @return list<string> lines that have to stand before that loop
     *
     * @param-out list<string> $lines  of the body
     */
    public function rowsOf(\Closure $body, mixed &$lines): array
    {
        [$before, $this->rows] = [$this->rows, []];
        $lines = $body();
        [$rows, $this->rows] = [$this->rows, $before];

        return array_map(static fn (string $code, string $variable): string => "$variable = $code;", array_keys($rows), $rows);
    }

    private static function enclosed(string $code): string
    {
        return str_contains($code, ' ') ? "($code)" : $code;
    }

    /**
     * Where the present element of a dimension stands in another one, or so many elements further.
     *
     * @return array{string, bool} code, and whether it may be −1, which means that it is not there
     */
    public function position(string $over, string $in, int $by, LoopPlace $place): array
    {
        $dimensions = $this->shaped->extents->dimensions;
        $from = $place->found($dimensions, $over) ?? throw new \LogicException("No element of $over is present.");
        $here = $dimensions->elements($from);
        $there = $dimensions->elements($in);
        if ($by === 0 && $here === $there) {
            return [$place->at[$from], false];
        }
        $list = [];
        foreach ($here as $element) {
            $own = $dimensions->place($in, $element);
            $list[] = $own !== null && isset($there[$own + $by]) ? $own + $by : -1;
        }

        return [$this->data->add($list)."[{$place->at[$from]}]", in_array(-1, $list, true)];
    }
}
