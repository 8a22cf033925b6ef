<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Data\CsvReader;
use MerryOrbit\Core\Data\Figures;
use MerryOrbit\Core\Data\Grid;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Dimension;
use MerryOrbit\Core\Model\Dimensions;
use MerryOrbit\Core\Model\Mapping;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * Who is related to whom, as a list of pairs: each line names two members, and perhaps a weight. A gathering through the relation at the
 * second looks at the first: with lines `stone, wall` the wall waits for the stone by `all(done, waits for)`. What else a pair has stands in
 * further columns under a name: `days` of `suppliers` are the weights of another relation, `suppliers days`. The same pairs can be called
 * from the other side, too, and the table can say who there is at all: then another table alone is another network.
 */
final class RelationTable
{
    /** So many lines that cannot be used are told. */
    private const TOLD = 5;

    /**
     * @param  non-empty-list<Mapping>  $relations  the one that was asked for, what else its pairs have, and all of it from the other side
     * @param  list<string>  $members  by name, who there is, where the table says so
     * @param  ?list<array<string, mixed>>  $dimensions  as records, where the table says who there is
     * @param  list<string>  $remarks  what is left out, and why
     */
    private function __construct(
        private readonly array $relations,
        public readonly array $members,
        private readonly ?array $dimensions,
        public readonly array $remarks,
    ) {
    }

    /**
     * @param  string  $of  the id of the dimension of the members
     * @param  string  $name  of the relation; one that there is gets other pairs
     * @param  string  $id  of a new one
     * @param  string  $back  what the relation is called from the other side; empty where nobody asks
     * @param  ?string  $to  the id of the dimension of the second, where these are members of another roster
     * @param  bool  $lists  whether those that the table names are all that there are; its first line then names its columns
     *
     * @throws NotUnderstood|TableRefused
     */
    public static function read(
        Model $model,
        string $of,
        string $text,
        string $name,
        string $id,
        string $back = '',
        bool $lists = false,
        ?string $to = null,
    ): self {
        $grid = CsvReader::grid($text, 'pairs');
        $to ??= $of;
        if ($lists && $to !== $of) {
            throw NotUnderstood::because('A table of pairs between two rosters does not say who there is. Give each its own list.');
        }
        [$dimensions, $listed] = $lists ? self::listed($model, $of, $grid) : [$model->dimensions(), null];
        [$pairs, $remarks] = self::pairs($grid, $dimensions, $of, $to);
        if (Name::key(Name::tidy($name)) === Name::key(Name::tidy($back))) {
            throw NotUnderstood::because('From the other side the relation needs another name.');
        }
        $besides = self::besides($grid, $dimensions, $of, $to);
        if ($besides !== []) {
            $called = array_map(static fn (string $what): string => '`'.Name::tidy("$name $what").'`', array_keys($besides));
            $remarks[] = 'Further numbers of a pair: '.implode(', ', $called).'.';
        }
        $relations = [];
        foreach (['' => $pairs, ...$besides] as $what => $own) {
            $end = $what === '' ? '' : '-'.count($relations);
            $relations[] = self::called($model, $of, $to, trim("$name $what"), "$id$end", $own);
            if (trim($back) !== '') {
                $turned = array_map(static fn (array $p): array => [$p[1], $p[0], $p[2]], $own);
                $relations[] = self::called($model, $to, $of, trim("$back $what"), "$id$end-back", $turned);
            }
        }

        return new self(
            $relations,
            $listed === null
                ? []
                : array_map(static fn (string $m): string => $dimensions->elementName($of, $m), $dimensions->elements($of)),
            $listed,
            $remarks,
        );
    }

    /** @param  list<array{string, string, float}>  $pairs */
    private static function called(Model $model, string $of, string $to, string $name, string $id, array $pairs): Mapping
    {
        $name = Name::tidy($name);
        $known = $model->mappings()[Name::key($name)] ?? null;
        $isOther = $model->idOf(Name::key($name)) !== null || $model->dimensions()->find($name) !== null;
        if ($isOther || ($known !== null && ($known->from !== $of || $known->to !== $to))) {
            throw NotUnderstood::because("`$name` is called something else already. Give the relation another name.");
        }

        return new Mapping($known->id ?? $id, $known->name ?? $name, $of, $to, $pairs);
    }

    /**
     * All that the table names, as the members that there are; who was there before is the same.
     *
     * @return array{Dimensions, list<array<string, mixed>>}
     */
    private static function listed(Model $model, string $of, Grid $grid): array
    {
        $names = [];
        foreach (array_slice(array_keys($grid->rows), 1) as $row) {
            foreach ([0, 1] as $c) {
                $name = trim(Grid::text($grid->cell($row, $c)));
                $names +=
                    $name === '' ? [] : [Name::key($name) => ['name' => $name, 'id' => $model->dimensions()->elementOf($of, $name)]];
            }
        }
        if ($names === []) {
            throw NotUnderstood::because('The table needs a line with the names of columns, and below it a line for each pair.');
        }
        $known = $model->dimensions()->find($of);
        $own = Dimension::read(['id' => $of, 'name' => $known->name ?? $of, 'elements' => array_values($names)]);
        $all = array_map(static fn (Dimension $d): Dimension => $d->id === $of ? $own : $d, $model->dimensions);

        return [new Dimensions($all), array_map(static fn (Dimension $d): array => $d->toRecord(), $all)];
    }

    /** @return array<string, list<array{string, string, float}>> what else pairs have, by the name of its column; where it says nothing, none */
    private static function besides(Grid $grid, Dimensions $dimensions, string $of, string $second): array
    {
        $first = array_keys($grid->rows)[0] ?? 0;
        $all = [];
        for ($c = 3; $c < $grid->width; $c++) {
            $name = trim(Grid::text($grid->cell($first, $c)));
            if ($name !== '' && $dimensions->elementOf($of, trim(Grid::text($grid->cell($first, 0)))) === null) {
                $all[$name] = self::pairs($grid, $dimensions, $of, $second, $c)[0];
            }
        }

        return $all;
    }

    /**
     * @param  int  $column  of the weight; what has none there weighs 1 in the third column, and is left out of others
     * @return array{list<array{string, string, float}>, list<string>} ids of members and the weight; what is left out, and why
     */
    private static function pairs(Grid $grid, Dimensions $dimensions, string $of, string $second, int $column = 2): array
    {
        $figures = new Figures('.');
        $pairs = $odd = [];
        foreach (array_keys($grid->rows) as $i => $row) {
            [$one, $other] = array_map(static fn (int $c): string => trim(Grid::text($grid->cell($row, $c))), [0, 1]);
            [$from, $to] = [$dimensions->elementOf($of, $one), $dimensions->elementOf($second, $other)];
            $isBlank = $grid->width <= $column || Grid::isBlank($grid->cell($row, $column));
            $weight = $isBlank ? ($column === 2 ? 1.0 : null) : $figures->read($grid->cell($row, $column))['value'] ?? null;
            if ($from === null || $to === null || $weight === null) {
                // The first line may be one of names of columns.
                if ($i > 0 && $one.$other !== '') {
                    $odd[] = $weight === null ? "$one, $other" : ($from === null ? $one : $other);
                }

                continue;
            }
            $pairs["$from\n$to"] = [$from, $to, $weight];
        }
        if ($pairs === []) {
            throw NotUnderstood::because(
                $of === $second
                    ? 'No line names two of '.$dimensions->nameOf($of).'. Each is of two names, and perhaps a number.'
                    : 'No line names one of '.
                        $dimensions->nameOf($of).
                        ' and one of '.
                        $dimensions->nameOf($second).
                        '. Each is of two names, and perhaps a number.',
            );
        }
        $remarks =
            $odd === []
                ? []
                : [
                    count($odd).
                    (count($odd) === 1 ? ' line is' : ' lines are').
                    ' left out, which name nobody or no number: '.
                    implode('; ', array_slice(array_unique($odd), 0, self::TOLD)).
                    (count($odd) > self::TOLD ? ' …' : '.'),
                ];

        return [array_values($pairs), $remarks];
    }

    /** How many pairs there are. */
    public function count(): int
    {
        return count($this->relations[0]->pairs);
    }

    /** @return list<array<string, mixed>> as docs/edits.md says */
    public function edits(): array
    {
        return [
            ...$this->dimensions === null ? [] : [['kind' => 'dimensions', 'dimensions' => $this->dimensions]],
            ...array_map(
                static fn (Mapping $m): array => [
                    'kind' => 'put',
                    'part' => 'mappings',
                    'id' => $m->id,
                    'fields' => array_diff_key($m->toRecord(), ['id' => 1]),
                ],
                $this->relations,
            ),
        ];
    }
}
