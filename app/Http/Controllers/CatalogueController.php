<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Illuminate\Http\JsonResponse;
use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\FunctionSpec;
use MerryOrbit\Core\Formula\Quantity;
use MerryOrbit\Core\Formula\Synonyms;
use MerryOrbit\Core\Model\Method;

/** What formulas can call and mention, for completion and hover help, and how runs can step. */
final class CatalogueController
{
    public function __invoke(): JsonResponse
    {
        return new JsonResponse([
            'functions' => array_values(
                array_map(
                    static fn (FunctionSpec $f): array => [
                        'name' => $f->name,
                        'group' => $f->group,
                        'signature' => $f->signature(),
                        'sentence' => $f->sentence,
                        'example' => $f->example,
                        'synonyms' => Synonyms::of($f->name),
                    ],
                    Catalogue::all(),
                ),
            ),
            'quantities' => array_map(
                static fn (Quantity $q): array => ['name' => $q->value, 'sentence' => $q->sentence()],
                Quantity::cases(),
            ),
            'methods' => array_map(
                static fn (Method $m): array => [
                    'name' => $m->value,
                    'title' => $m->title(),
                    'abbreviation' => $m->abbreviation(),
                    'sentence' => $m->sentence(),
                    'adaptive' => $m->isAdaptive(),
                ],
                Method::cases(),
            ),
        ]);
    }
}
