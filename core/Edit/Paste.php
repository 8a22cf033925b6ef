<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\FreeNames;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Courses;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Group;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Placement;
use MerryOrbit\Core\Model\Point;
use MerryOrbit\Core\Model\Sheet;
use MerryOrbit\Core\Model\Table;

/** Copies of the elements of another model, with free names; formulas follow, and mentions of what was not copied mean what has that name here. */
final readonly class Paste extends Edit
{
    public function __construct(
        /** From it the ids of the copies are made. */
        public string $id,
        public Model $fragment,
        public Point $at,
        public string $sheet = Sheet::FIRST,
    ) {
    }

    public function apply(Model $model): Model
    {
        RenameSheet::known($model, $this->sheet);
        if ($this->fragment->elements === []) {
            throw EditRefused::because('paste.empty', 'There is nothing to paste: what was copied holds no things of a model.');
        }
        if (count($model->elements) + count($this->fragment->elements) > Model::MOST_ELEMENTS) {
            throw EditRefused::because('model.full', 'A model holds at most '.number_format(Model::MOST_ELEMENTS).' things.');
        }
        [$ids, $names, $byKey] = $this->freeIdsAndNames($model);
        $copies = [];
        $nameOf = static fn (string $id): ?string => $names[$id] ?? null;
        $idOf = static fn (string $key): ?string => $byKey[$key] ?? $model->idOf($key);
        $again = static fn (FormulaText $f): FormulaText => FormulaText::typed($f->text($nameOf), $idOf);
        foreach ($this->fragment->elements as $old => $element) {
            $fields = ['id' => $ids[$old], 'name' => $names[$old]];
            if ($element instanceof Flow) {
                $fields += ['from' => $ids[$element->from ?? ''] ?? null, 'to' => $ids[$element->to ?? ''] ?? null];
            }
            $copies[$ids[$old]] = $element->with($fields)->withFormulas($again);
        }
        $model = $model->with([
            'elements' => [...$model->elements, ...$copies],
            'placements' => [...$model->placements, ...$this->placements($ids)],
        ]);
        foreach ($copies as $copy) {
            $model = Mentions::bind($model, $copy);
        }
        $model = $this->withDimensions($model, $ids);
        foreach ($this->fragment->groups as $group) {
            $members = array_values(array_intersect_key($ids, array_flip($group->members)));
            $model =
                $members === []
                    ? $model
                    : (new SetGroup($members, $group->name, in_array($group->tint, Group::TINTS, true) ? $group->tint : ''))->apply(
                        $model,
                    );
        }

        return Echoes::complete($model, array_keys($copies));
    }

    /**
     * Copies extend over what they were copied with, and keep their values by element. Dimensions that are not there come along.
     *
     * @param  array<string, string>  $ids
     */
    private function withDimensions(Model $model, array $ids): Model
    {
        $used = array_intersect_key($this->fragment->shapes, $ids);
        $wanted = array_unique(array_merge([], ...array_values($used)));
        if ($wanted === []) {
            return $model;
        }
        $all = $this->fragment->dimensions()->all();
        foreach ($wanted as $id) {
            // What another dimension has its elements from comes along, too.
            for ($at = $all[$id] ?? null; $at !== null; $at = $all[$at->partOf ?? ($at->sameAs ?? '')] ?? null) {
                $isTaken = $model->idOf(Name::key($at->name)) !== null || $model->dimensions()->find($at->name) !== null;
                if (! isset($model->dimensions()->all()[$at->id]) && ! $isTaken) {
                    $model = $model->with(['dimensions' => [...$model->dimensions, $at]]);
                }
            }
        }
        $known = $model->dimensions()->all();
        $shapes = $tables = $courses = [];
        foreach ($used as $old => $over) {
            $there = array_values(array_filter($over, static fn (string $d): bool => isset($known[$d])));
            $table = $this->fragment->tableOf((string) $old);
            if ($there === [] || ! isset($ids[$old])) {
                continue;
            }
            $shapes[$ids[$old]] = $there;
            $own = $there === $over ? $this->fragment->coursesOf((string) $old) : [];
            if ($own !== []) {
                $values = [];
                foreach ($own as $places => $points) {
                    $values[] = [explode(',', (string) $places), $points];
                }
                $id = substr('c-'.$ids[$old], 0, 40);
                $courses[$id] = new Courses($id, $ids[$old], $values);
            }
            $copy = $table === null || $there !== $over ? null : new Table(substr('t-'.$ids[$old], 0, 40), $ids[$old], $table->values);
            if ($copy !== null && $copy->unfit($model->with(['shapes' => [...$model->shapes, ...$shapes]])) === null) {
                $tables[$copy->id] = $copy;
            }
        }

        return $model->with([
            'shapes' => [...$model->shapes, ...$shapes],
            'tables' => [...$model->part('tables'), ...$tables],
            'courses' => [...$model->part('courses'), ...$courses],
        ]);
    }

    /** @return array{array<string, string>, array<string, string>, array<string, string>} ids and names by the ids in the fragment, ids by key */
    private function freeIdsAndNames(Model $model): array
    {
        $ids = [];
        $names = [];
        $byKey = [];
        $free = new FreeNames(static fn (string $key): bool => $model->idOf($key) !== null);
        $number = 0;
        foreach ($this->fragment->elements as $old => $element) {
            $id = substr("$this->id-".++$number, 0, 40);
            if ($model->element($id) !== null || isset($model->echoes[$id])) {
                throw EditRefused::because('element.known', 'This was already pasted.');
            }
            $ids[$old] = $id;
            $name = $free->isFree($element->name)
                ? $free->of($element->name)
                : $free->numbered((string) preg_replace('/ \d+$/', '', $element->name));
            $byKey[Name::key($name)] = $ids[$old];
            $names[$old] = $name;
        }

        return [$ids, $names, $byKey];
    }

    /**
     * @param  array<string, string>  $ids
     * @return array<string, Placement>
     */
    private function placements(array $ids): array
    {
        $known = array_intersect_key($this->fragment->placements, $ids);
        $left = $known === [] ? 0.0 : min(array_map(static fn (Placement $p): float => $p->at->x, $known));
        $top = $known === [] ? 0.0 : min(array_map(static fn (Placement $p): float => $p->at->y, $known));
        $placements = [];
        $row = 0;
        foreach ($ids as $old => $id) {
            $placements[$id] = (isset($known[$old])
                ? $known[$old]->moved($this->at->x - $left, $this->at->y - $top)
                : new Placement(new Point($this->at->x, $this->at->y + 60.0 * $row++))
            )->with(['sheet' => $this->sheet]);
        }

        return $placements;
    }

    public function words(Model $before): string
    {
        $names = $this->fragment->names();

        return 'Pasted '.(count($names) === 1 ? "`$names[0]`" : count($names).' things');
    }
}
