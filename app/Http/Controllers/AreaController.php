<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Data\StudySources;
use App\Data\TableStore;
use App\Models\ModelDocument;
use App\Models\User;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use MerryOrbit\Core\Area\Area;
use MerryOrbit\Core\Area\AreaFile;
use MerryOrbit\Core\Area\AreaJoin;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Model\Dimension;
use MerryOrbit\Core\Model\Model;

/** Area maps: geographic files, and which of their areas are which elements of the study's dimensions. */
final class AreaController
{
    /** Takes a file in as it is, sent as the body; nothing of it is in the study yet. */
    public function store(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        $name = mb_substr(trim($request->string('name')->toString()) ?: 'area map', 0, 200);
        $bytes = (string) $request->getContent();
        if ($bytes === '') {
            throw TableRefused::because('There is nothing in this file.');
        }
        $file = AreaFile::read($bytes);
        $content = TableStore::keep($user, $name, $bytes);

        return new JsonResponse(['content' => $content, 'name' => $name, ...$this->record($file, $model->core(), [])], 201);
    }

    /** The areas of a file, joined as somebody says. */
    public function show(Request $request, ModelDocument $model, #[CurrentUser] User $user, string $content): JsonResponse
    {
        /** @var array{joins?: list<array{dimension: string, property?: ?string, pairs?: array<string, ?string>}>} $given */
        $given = $request->validate(
            [
                'joins' => ['list', 'max:20'],
                'joins.*.dimension' => ['required', 'string', 'max:120'],
                'joins.*.property' => ['nullable', 'string', 'max:200'],
                'joins.*.pairs' => ['array', 'max:3000'],
                'joins.*.pairs.*' => ['nullable', 'string', 'max:120'],
            ],
            ['joins*' => '`joins` says for dimensions which property it is, and by hand which value is which element.'],
        );
        $name = $request->string('name')->toString();
        $core = $model->core();
        $file = AreaFile::read((new StudySources($model, $user, $core))->bytes($content));

        return new JsonResponse(['content' => $content, 'name' => $name, ...$this->record($file, $core, $given['joins'] ?? [])]);
    }

    /**
     * @param  list<array{dimension: string, property?: ?string, pairs?: array<string, ?string>}>  $said
     * @return array<string, mixed>
     */
    private function record(AreaFile $file, Model $model, array $said): array
    {
        $by = array_column($said, null, 'dimension');
        $dimensions = $model->dimensions();

        return [
            'properties' => $file->named(),
            'title' => $file->title(),
            'areas' => array_map(
                static fn (Area $a): array => ['properties' => (object) $a->properties, 'geometry' => $a->geometry()],
                $file->areas,
            ),
            'joins' => array_values(
                array_map(
                    static fn (Dimension $d): array => AreaJoin::of(
                        $file,
                        $dimensions,
                        $d->id,
                        $by[$d->id]['property'] ?? '',
                        array_map(strval(...), $by[$d->id]['pairs'] ?? []),
                    )->toRecord(),
                    $dimensions->all(),
                ),
            ),
            'remarks' => $file->remarks,
        ];
    }
}
