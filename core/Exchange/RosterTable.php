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
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * A table of members: the first column names them, columns of numbers are their attributes, columns of words say where they belong. As the
 * edits that make a roster of it.
 */
final class RosterTable
{
    /** So many different words say where members belong; a column with more of them is a text of its own, and left out. */
    private const MOST_PLACES = 200;

    /** @var list<array<string, mixed>> */
    private array $edits = [];

    /** @var list<array<string, mixed>> dimensions as records */
    private array $dimensions;

    /** @var list<string> what is left out, and why */
    public array $remarks = [];

    /** @var list<string> */
    public array $attributes = [];

    /** @var list<string> */
    public array $places = [];

    /** @var list<string> */
    public readonly array $members;

    private readonly Dimension $roster;

    /**
     * @param  string  $ids  what new ids begin with
     * @param  ?Dimension  $known  the roster that gets these members instead of its own; null for a new one
     */
    private function __construct(
        private readonly Model $model,
        private readonly Grid $grid,
        string $name,
        private readonly string $ids,
        private readonly ?Dimension $known = null,
    ) {
        $this->dimensions = array_map(static fn (Dimension $d): array => $d->toRecord(), $model->dimensions);
        $this->members = $this->column(0);
        $elements = array_map(
            // Who was there before is the same.
            static fn (string $m): array => [
                'name' => $m,
                'id' => $known === null ? null : $model->dimensions()->elementOf($known->id, $m),
            ],
            $this->members,
        );
        $this->roster = Dimension::read(['id' => $known->id ?? $ids, 'name' => $known->name ?? $name, 'elements' => $elements]);
        $at = array_search($this->roster->id, array_column($this->dimensions, 'id'), true);
        $this->dimensions[$at === false ? count($this->dimensions) : $at] = $this->roster->toRecord();
        for ($c = 1; $c < $grid->width; $c++) {
            $this->take($c);
        }
    }

    /**
     * @param  string  $name  of one member: `boat`
     *
     * @throws NotUnderstood|TableRefused
     */
    public static function read(Model $model, string $text, string $name, string $ids): self
    {
        $grid = CsvReader::grid($text, 'members');
        $name = Name::tidy($name);
        if (count($grid->rows) < 2) {
            throw NotUnderstood::because(
                'A table of members needs a line with the names of columns, and below it a line for each member, with its name first.',
            );
        }
        if ($model->dimensions()->find($name) !== null || $model->idOf(Name::key($name)) !== null) {
            throw NotUnderstood::because("Something in the study is called `$name` already. Call a member something else.");
        }

        return new self($model, $grid, $name, $ids);
    }

    /**
     * Other members for a roster that there is: columns that are called as its attributes and places are theirs, others are new.
     *
     * @throws NotUnderstood|TableRefused
     */
    public static function another(Model $model, Dimension $roster, string $text, string $ids): self
    {
        $grid = CsvReader::grid($text, 'members');
        if (count($grid->rows) < 2) {
            throw NotUnderstood::because(
                'The table needs a line with the names of columns, and below it a line for each member, with its name first.',
            );
        }

        return new self($model, $grid, $roster->name, $ids, $roster);
    }

    /** @return list<array<string, mixed>> as docs/edits.md says */
    public function edits(): array
    {
        $dimensions = ['kind' => 'dimensions', 'dimensions' => $this->dimensions];
        if ($this->known !== null) {
            return [$dimensions, ...$this->edits];
        }

        return [
            $dimensions,
            ...$this->edits,
            ['kind' => 'put', 'part' => 'rosters', 'id' => "$this->ids-roster", 'fields' => ['of' => $this->roster->id]],
        ];
    }

    /** @return list<string> */
    private function column(int $c): array
    {
        return array_map(
            fn (int $r): string => trim(Grid::text($this->grid->cell($r, $c))),
            array_slice(array_keys($this->grid->rows), 1),
        );
    }

    private function take(int $c): void
    {
        [$name, $unit] = self::head(Grid::text($this->grid->cell((int) array_key_first($this->grid->rows), $c)));
        $cells = $this->column($c);
        $filled = array_filter($cells, static fn (string $v): bool => $v !== '' && ! Figures::isGap($v));
        if ($name === '' || $filled === []) {
            if ($name !== '') {
                $this->remarks[] = "`$name` is empty and left out.";
            }

            return;
        }
        $figures = new Figures(
            preg_match('/\d,\d{1,2}$/', implode("\n", $filled)) === 1 && ! str_contains(implode('', $filled), '.') ? ',' : '.',
        );
        $numbers = array_map(static fn (string $v): ?float => $figures->read($v)['value'] ?? null, $filled);
        if ($this->known !== null && $this->takeKnown($name, $filled, $numbers)) {
            return;
        }
        $name = $this->free($name);
        if (! in_array(null, $numbers, true)) {
            $this->attribute($c, $name, $unit, array_map(floatval(...), $numbers));
        } elseif (self::repeats($filled)) {
            $this->place($c, $name, $filled);
        } else {
            $this->remarks[] = "`$name` is neither a number nor one of a few words, and is left out.";
        }
    }

    /**
     * @param  array<int, string>  $words  by line
     * @param  array<int, ?float>  $numbers
     */
    private function takeKnown(string $name, array $words, array $numbers): bool
    {
        $id = $this->model->idOf(Name::key($name)) ?? '';
        $mapping = $this->model->mappings()[Name::key($name)] ?? null;
        if ($mapping?->from === $this->roster->id) {
            $this->pairs($mapping->id, $mapping->name, $words, $this->model->dimensions()->find($mapping->to));

            return true;
        }
        $isOwn = $this->model->element($id) instanceof Parameter && ($this->model->shapes[$id] ?? []) === [$this->roster->id];
        if (! $isOwn) {
            return false;
        }
        if (in_array(null, $numbers, true)) {
            $this->remarks[] = "`$name` is a number of each, and here not all of its cells are numbers: it is left out.";

            return true;
        }
        $this->attributes[] = $name;
        $values = [];
        foreach ($this->roster->ids as $r => $member) {
            $values[] = [[$member], $numbers[$r] ?? null];
        }
        $this->edits[] = ['kind' => 'values', 'id' => $id, 'values' => $values];

        return true;
    }

    /**
     * Whether few words come again and again.
     *
     * @param  array<int, string>  $words
     */
    private static function repeats(array $words): bool
    {
        $different = count(array_unique($words));

        return $different < count($words) && $different <= min(self::MOST_PLACES, max(2, intdiv(count($words), 2)));
    }

    /** @return array{string, string} a name, and the unit in brackets behind it */
    private static function head(string $text): array
    {
        preg_match('/^(.*?)\s*(?:[\[(]([^\])]*)[\])])?\s*$/u', $text, $m);

        return [Name::tidy($m[1] ?? ''), trim($m[2] ?? '')];
    }

    /** A name that nothing else has. */
    private function free(string $name): string
    {
        $taken = fn (string $n): bool => $this->model->idOf(Name::key($n)) !== null ||
            $this->model->dimensions()->find($n) !== null ||
            isset($this->model->mappings()[Name::key($n)]) ||
            Name::key($n) === Name::key($this->roster->name) ||
            in_array(Name::key($n), array_map(Name::key(...), [...$this->attributes, ...$this->places]), true) ||
            Name::refusal($n) !== null;
        foreach ([$name, "$name of {$this->roster->name}", "{$this->roster->name} $name"] as $one) {
            if (! $taken($one)) {
                return $one;
            }
        }

        return "$name of {$this->roster->name} ".(count($this->attributes) + count($this->places) + 2);
    }

    /** @param  array<int, float>  $numbers  by line */
    private function attribute(int $c, string $name, string $unit, array $numbers): void
    {
        $this->attributes[] = $name;
        $id = "$this->ids-a$c";
        $sorted = array_values($numbers);
        sort($sorted);
        // Who comes later and is told nothing else has what is usual.
        $usual = $sorted[intdiv(count($sorted), 2)];
        $values = [];
        foreach ($numbers as $r => $value) {
            $values[] = [[$this->roster->ids[$r]], $value];
        }
        array_push(
            $this->edits,
            [
                'kind' => 'add',
                'id' => $id,
                'element' => 'parameter',
                'name' => $name,
                'formula' => (string) json_encode($usual),
                'unit' => $unit,
            ],
            ['kind' => 'extent', 'id' => $id, 'dimensions' => [$this->roster->id]],
            ['kind' => 'values', 'id' => $id, 'values' => $values],
        );
    }

    /** @param  array<int, string>  $words  by line */
    private function place(int $c, string $name, array $words): void
    {
        $to = null;
        $all = array_values(array_unique($words));
        foreach ($this->model->dimensions as $dimension) {
            $own = array_filter($all, fn (string $w): bool => $this->model->dimensions()->elementOf($dimension->id, $w) !== null);
            $to = $to === null && $dimension->id !== $this->roster->id && count($own) === count($all) ? $dimension : $to;
        }
        if ($to === null) {
            // `home harbour` says to which harbour.
            $last = preg_replace('/^.*\s/u', '', $name) ?? $name;
            $called = $this->free($last === $name ? "place by $name" : $last);
            $to = Dimension::read(['id' => "$this->ids-d$c", 'name' => $called, 'elements' => $all]);
            $this->dimensions[] = $to->toRecord();
        }
        $this->pairs("$this->ids-m$c", $name, $words, $to);
    }

    /** @param  array<int, string>  $words  by line, what each belongs to */
    private function pairs(string $id, string $name, array $words, ?Dimension $to): void
    {
        if ($to === null) {
            return;
        }
        $this->places[] = $name;
        $target = new Dimensions([...$this->model->dimensions, $to]);
        $new = array_values(array_unique(array_filter($words, static fn (string $w): bool => $target->elementOf($to->id, $w) === null)));
        if ($new !== []) {
            $names = array_map(static fn (string $n): array => ['name' => $n], $new);
            $record = $to->toRecord();
            $to = Dimension::read([
                ...$record,
                'elements' => [...is_array($record['elements'] ?? null) ? $record['elements'] : [], ...$names],
            ]);
            $at = array_search($to->id, array_column($this->dimensions, 'id'), true);
            $this->dimensions[(int) $at] = $to->toRecord();
            $others = array_values(array_filter($this->model->dimensions, static fn (Dimension $d): bool => $d->id !== $to->id));
            $target = new Dimensions([...$others, $to]);
        }
        $pairs = [];
        foreach ($words as $r => $word) {
            $pairs[] = [$this->roster->ids[$r], (string) $target->elementOf($to->id, $word)];
        }
        $this->edits[] = [
            'kind' => 'put',
            'part' => 'mappings',
            'id' => $id,
            'fields' => ['name' => $name, 'from' => $this->roster->id, 'to' => $to->id, 'pairs' => $pairs],
        ];
    }
}
