<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Appearance;
use MerryOrbit\Core\Model\Model;

/** Moves things to another sheet; where links need them, echoes stay behind and come along. */
final readonly class MoveToSheet extends Edit
{
    /** @param  list<string>  $ids */
    public function __construct(public array $ids, public string $sheet)
    {
    }

    public function apply(Model $model): Model
    {
        RenameSheet::known($model, $this->sheet);
        $moved = array_filter(
            array_intersect_key($model->elements, array_flip($this->ids)),
            fn ($e): bool => $model->sheetOf($e->id) !== $this->sheet,
        );
        if ($moved === []) {
            throw array_intersect_key($model->elements, array_flip($this->ids)) === []
                ? EditRefused::gone()
                : EditRefused::because('sheet.same', 'These things are on this sheet already.');
        }
        $before = $model;
        $placements = $model->placements;
        foreach ($moved as $id => $_) {
            if (isset($placements[$id])) {
                $placements[$id] = $placements[$id]->with(['sheet' => $this->sheet]);
            }
        }
        // Where the thing itself is now, its echo is not needed.
        $echoes = array_filter($model->echoes, fn (Appearance $e): bool => $e->sheet !== $this->sheet || ! isset($moved[$e->element]));
        $model = $model->with(['placements' => $placements, 'echoes' => $echoes]);
        // Who stays behind sees an echo at the old place; what comes along finds one of each of its causes.
        $users = [...array_keys($moved)];
        foreach ($model->elements as $id => $element) {
            if (! isset($moved[$id]) && array_intersect_key(array_flip(Echoes::causes($model, $element)), $moved) !== []) {
                $users[] = $id;
            }
        }
        $model = Echoes::complete($model, $users, $before);

        return Echoes::withoutNeedless($model, $before, array_keys($moved));
    }

    public function words(Model $before): string
    {
        $known = array_values(array_filter(array_map($before->nameOf(...), $this->ids)));

        return 'Moved '.
            (count($known) === 1 ? "`$known[0]`" : count($known).' things').
            ' to the sheet “'.
            ($before->sheet($this->sheet)->name ?? '').
            '”';
    }
}
