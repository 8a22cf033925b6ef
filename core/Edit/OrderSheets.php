<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Sheet;

/** Sheets in a new order. */
final readonly class OrderSheets extends Edit
{
    /** @param  list<string>  $ids  all sheets, in the new order */
    public function __construct(public array $ids)
    {
    }

    public function apply(Model $model): Model
    {
        $sheets = array_map(static fn (string $id): Sheet => RenameSheet::known($model, $id), array_values(array_unique($this->ids)));
        if (count($sheets) !== count($model->sheets)) {
            throw EditRefused::because(
                'sheet.order',
                'The new order must name every sheet once; another was added in the meantime. Try again.',
            );
        }

        return $model->with(['sheets' => $sheets]);
    }

    public function words(Model $before): string
    {
        return 'Put the sheets in a new order';
    }
}
