<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Appearance;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Sheet;

/** Takes away a sheet and the echoes on it; what is defined there has to leave first. */
final readonly class RemoveSheet extends Edit
{
    public function __construct(public string $id)
    {
    }

    public function apply(Model $model): Model
    {
        $sheet = RenameSheet::known($model, $this->id);
        if (count($model->sheets) === 1) {
            throw EditRefused::because('sheet.last', 'A model has at least one sheet; this is the last one.');
        }
        $here = count(array_filter(array_keys($model->elements), fn (string $id): bool => $model->sheetOf($id) === $this->id));
        if ($here > 0) {
            throw EditRefused::because(
                'sheet.full',
                ($here === 1 ? 'One thing is' : "$here things are").
                    " defined on “{$sheet->name}”. Select ".
                    ($here === 1 ? 'it' : 'them').
                    ' (Ctrl A) and move '.
                    ($here === 1 ? 'it' : 'them').
                    ' to another sheet, or delete '.
                    ($here === 1 ? 'it' : 'them').
                    ', and then remove the sheet.',
            );
        }

        return $model->with([
            'sheets' => array_values(array_filter($model->sheets, fn (Sheet $s): bool => $s->id !== $this->id)),
            'echoes' => array_filter($model->echoes, fn (Appearance $e): bool => $e->sheet !== $this->id),
        ]);
    }

    public function words(Model $before): string
    {
        return 'Removed the sheet “'.($before->sheet($this->id)->name ?? '').'”';
    }
}
