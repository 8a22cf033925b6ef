<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Data\TablePreview;
use App\Data\TableStore;
use App\Models\ModelDocument;
use App\Models\User;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Data\Reading;
use MerryOrbit\Core\Data\TableFile;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Data\Wishes;

/** Tables of data that are dropped on a study: what they hold, and what of the model that is. */
final class DataController
{
    /** Takes a file in as it is, sent as the body; nothing of it is in the study yet. */
    public function store(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        $name = mb_substr(trim($request->string('name')->toString()) ?: 'table', 0, 200);
        $bytes = (string) $request->getContent();
        if ($bytes === '') {
            throw TableRefused::because('There is nothing in this file.');
        }
        // What cannot be read is not kept.
        $read = $this->read($model, TableStore::opened($bytes, $name), new Wishes());

        return new JsonResponse(['content' => TableStore::keep($user, $name, $bytes), 'name' => $name, ...$read], 201);
    }

    /** The table of a file as it is understood under what somebody says of it. */
    public function show(Request $request, ModelDocument $model, string $content): JsonResponse
    {
        $name = $request->string('name')->toString();
        $read = $this->read($model, TableStore::file($content, $name), self::wishes($request));

        return new JsonResponse(['content' => $content, 'name' => $name, ...$read]);
    }

    /** Series of it as evidence of variables, to be put into the study by an edit. */
    public function evidence(Request $request, ModelDocument $model, string $content): JsonResponse
    {
        /** @var array{ties: list<array{series: int, key: string}>} $given */
        $given = $request->validate(
            [
                'ties' => ['required', 'list', 'max:200'],
                'ties.*.series' => ['required', 'integer', 'min:0'],
                'ties.*.key' => ['required', 'string', 'max:400'],
            ],
            ['ties*' => '`ties` says for each series, by its number from 0, the key of the variable that it is of.'],
        );
        $wishes = self::wishes($request);
        $file = TableStore::file($content, $request->string('name')->toString());
        $grid = $file->grid($wishes->sheet);
        $preview = new TablePreview($grid, Reading::of($grid, $wishes), Analyser::analyse($model->core()));

        return new JsonResponse(['evidence' => $preview->evidence($given['ties'], $request->string('source')->toString())]);
    }

    private static function wishes(Request $request): Wishes
    {
        /** @var array<string, mixed> $said */
        $said = array_filter(
            $request->only(['sheet', 'layout', 'decimal', 'dates', 'names', 'time']),
            static fn (mixed $v): bool => $v !== 0,
        );

        return Wishes::read($said);
    }

    /** @return array<string, mixed> */
    private function read(ModelDocument $model, TableFile $file, Wishes $wishes): array
    {
        $grid = $file->grid($wishes->sheet);
        $preview = new TablePreview($grid, Reading::of($grid, $wishes), Analyser::analyse($model->core()));

        return ['sheets' => $file->sheets, 'sheet' => $grid->name, ...$preview->toRecord()];
    }
}
