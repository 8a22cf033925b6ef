<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Sheet;

/** A new name for a sheet. */
final readonly class RenameSheet extends Edit
{
    public function __construct(public string $id, public string $name)
    {
    }

    public function apply(Model $model): Model
    {
        self::known($model, $this->id);
        $name = self::fit($model, $this->name, $this->id);

        return $model->with([
            'sheets' => array_map(fn (Sheet $s): Sheet => $s->id === $this->id ? new Sheet($s->id, $name) : $s, $model->sheets),
        ]);
    }

    public function words(Model $before): string
    {
        return 'Renamed the sheet “'.($before->sheet($this->id)->name ?? '').'” to “'.trim($this->name).'”';
    }

    /** @throws EditRefused when there is no such sheet */
    public static function known(Model $model, string $id): Sheet
    {
        return $model->sheet($id) ??
            throw EditRefused::because(
                'sheet.gone',
                'This sheet is not in the model any more. It was removed in the meantime; undo brings it back.',
            );
    }

    /** @throws EditRefused when a sheet cannot have this name */
    public static function fit(Model $model, string $name, string $id): string
    {
        $name = trim((string) preg_replace('/\s+/u', ' ', $name));
        if ($name === '' || mb_strlen($name) > Name::LONGEST) {
            throw EditRefused::because('sheet.name', 'A sheet needs a name of at most '.Name::LONGEST.' characters.', 'name');
        }
        foreach ($model->sheets as $sheet) {
            if ($sheet->id !== $id && mb_strtolower($sheet->name) === mb_strtolower($name)) {
                throw EditRefused::because('sheet.taken', "There already is a sheet called “{$sheet->name}”: choose another name.", 'name');
            }
        }

        return $name;
    }
}
