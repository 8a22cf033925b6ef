<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** Series of a table in the long layout: of each time there is a row for each of what words tell apart. */
final readonly class LongLayout
{
    public function __construct(private Understood $u, private Grid $grid, private Remarks $remarks, private bool $isTraced)
    {
    }

    /**
     * @param  array<int, float>  $sorted  times by row, increasing
     * @param  array<int, array{string, array<int, float|null>}>  $columns
     * @param  list<int>  $categories
     * @return array{list<float>, list<DataSeries>} each time once, and for each of what is told of a series
     */
    public function series(array $sorted, array $columns, array $categories): array
    {
        $u = $this->u;
        $times = [];
        $kinds = $this->measures($columns, $categories);
        $made = $rows = $elements = [];
        foreach ($sorted as $row => $time) {
            if ($times === [] || $time !== $times[count($times) - 1]) {
                $times[] = $time;
            }
            $i = count($times) - 1;
            $at = [];
            foreach ($categories as $category) {
                $at[$u->names[$category]] = Grid::text($this->grid->cell($row, $category));
            }
            foreach ($columns as $column => [, $values]) {
                $name = $kinds === null ? $u->nameOf($column) : $at[$kinds];
                $own = $kinds === null ? $at : array_diff_key($at, [$kinds => '']);
                $key = json_encode([$column, $name, $own], JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR);
                $elements[$key] ??= [$column, $name, $own];
                if (isset($made[$key][$i]) && $values[$row] !== null) {
                    $there = $rows[$key][$i] + 1;
                    $this->remarks->say($row, $column, "This time stands in row $there too, for the same; the first of them counts.");

                    continue;
                }
                $made[$key][$i] = $values[$row];
                $rows[$key][$i] = $row;
            }
        }
        $series = [];
        foreach ($made as $key => $values) {
            [$column, $name, $own] = $elements[$key];
            $whole = array_map(static fn (int $i): ?float => $values[$i] ?? null, array_keys($times));
            $at = static fn (int $i): string => isset($rows[$key][$i]) ? $u->cell($rows[$key][$i], $column) : '';
            $cells = $this->isTraced ? array_map($at, array_keys($times)) : [];
            $series[] = new DataSeries($name, $columns[$column][0], $own, $whole, $u->line($column), '', $cells);
        }

        return [$times, $series];
    }

    /**
     * Where a single column of values stands beside one that says of what: then that names the series.
     *
     * @param  array<int, array{string, array<int, float|null>}>  $columns
     * @param  list<int>  $categories
     */
    private function measures(array $columns, array $categories): ?string
    {
        $only = count($columns) === 1 ? mb_strtolower($this->u->names[array_key_first($columns)]) : '';
        if (! in_array($only, ['value', 'values', 'amount', 'number', 'measurement', 'reading', 'v'], true)) {
            return null;
        }
        foreach ($categories as $category) {
            $name = $this->u->names[$category];
            if (preg_match('/^(?:variable|name|series|measure|indicator|item|quantity|what|parameter)$/', mb_strtolower($name)) === 1) {
                return $name;
            }
        }

        return null;
    }
}
