<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Runs\Later;
use App\Uncertain\ExpectationAnswer;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Model\Expectation;
use MerryOrbit\Core\Uncertain\ExpectationWords;
use MerryOrbit\Core\Uncertain\Extremes;

/** What a model is expected to satisfy, and whether it does. */
final class ExpectationController
{
    /** So many are tried at once that are not part of the study. */
    private const MOST = 200;

    /** All of the study. */
    public function index(ModelDocument $model): JsonResponse
    {
        return Later::answer(ExpectationAnswer::class, $model, ['expectations' => null]);
    }

    /** Some that are still being written, or are proposed. */
    public function tried(Request $request, ModelDocument $model): JsonResponse
    {
        $request->validate(
            ['expectations' => ['required', 'list', 'max:'.self::MOST]],
            ['expectations*' => 'Say which to try: `expectations`, a list of at most '.self::MOST.'.'],
        );

        return Later::answer(ExpectationAnswer::class, $model, ['expectations' => $request->array('expectations')]);
    }

    /** Extreme conditions under which every model should make sense. */
    public function proposed(ModelDocument $model): JsonResponse
    {
        $analysis = Analyser::analyse($model->core());

        return new JsonResponse([
            'proposed' => array_map(
                static fn (array $record): array => [
                    'fields' => $record,
                    'sentence' => ExpectationWords::of($analysis, Expectation::read([...$record, 'id' => 'x'])),
                ],
                Extremes::of($analysis),
            ),
        ]);
    }
}
