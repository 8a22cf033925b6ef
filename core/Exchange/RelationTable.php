<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Data\CsvReader;
use MerryOrbit\Core\Data\Figures;
use MerryOrbit\Core\Data\Grid;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Mapping;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * Who is related to whom, as a list of pairs: each line names two members, and perhaps a weight. A gathering through the relation at the
 * second looks at the first: with lines `stone, wall` the wall waits for the stone by `all(done, waits for)`.
 */
final class RelationTable
{
    /** So many lines that cannot be used are told. */
    private const TOLD = 5;

    /**
     * @param  list<array{string, string, float}>  $pairs  ids of members, and the weight
     * @param  list<string>  $remarks  what is left out, and why
     */
    private function __construct(
        private readonly string $id,
        private readonly string $name,
        private readonly string $of,
        public readonly array $pairs,
        public readonly array $remarks,
    ) {
    }

    /**
     * @param  string  $of  the id of the dimension of the members
     * @param  string  $name  of the relation; one that there is gets other pairs
     * @param  string  $id  of a new one
     *
     * @throws NotUnderstood|TableRefused
     */
    public static function read(Model $model, string $of, string $text, string $name, string $id): self
    {
        $name = Name::tidy($name);
        $known = $model->mappings()[Name::key($name)] ?? null;
        if ($known !== null && ($known->from !== $of || $known->to !== $of)) {
            throw NotUnderstood::because("`$name` is called something else already. Give the relation another name.");
        }
        $grid = CsvReader::grid($text, 'pairs');
        $dimensions = $model->dimensions();
        $figures = new Figures('.');
        $pairs = $odd = [];
        foreach (array_keys($grid->rows) as $i => $row) {
            [$one, $other] = array_map(static fn (int $c): string => trim(Grid::text($grid->cell($row, $c))), [0, 1]);
            [$from, $to] = [$dimensions->elementOf($of, $one), $dimensions->elementOf($of, $other)];
            $weight =
                $grid->width > 2 && ! Grid::isBlank($grid->cell($row, 2)) ? $figures->read($grid->cell($row, 2))['value'] ?? null : 1.0;
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
                'No line names two of '.$dimensions->nameOf($of).'. Each is of two names, and perhaps a number.',
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

        return new self($known->id ?? $id, $known->name ?? $name, $of, array_values($pairs), $remarks);
    }

    /** @return list<array<string, mixed>> as docs/edits.md says */
    public function edits(): array
    {
        $fields = (new Mapping($this->id, $this->name, $this->of, $this->of, $this->pairs))->toRecord();

        return [['kind' => 'put', 'part' => 'mappings', 'id' => $this->id, 'fields' => array_diff_key($fields, ['id' => 1])]];
    }
}
