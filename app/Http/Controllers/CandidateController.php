<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Runs\Later;
use App\Uncertain\CandidateAnswer;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** All combinations of the candidates that are ticked. */
final class CandidateController
{
    public function run(Request $request, ModelDocument $model): JsonResponse
    {
        $request->validate(
            ['of' => ['nullable', 'string', 'max:300'], 'many' => ['boolean']],
            [
                'of.*' => '`of` is the key of a variable.',
                'many.*' => '`many` says whether more than '.number_format(CandidateAnswer::MANY).' runs are meant.',
            ],
        );

        return Later::answer(CandidateAnswer::class, $model, [
            'run' => $request->array('run'),
            'of' => $request->string('of')->toString(),
            'many' => $request->boolean('many'),
        ]);
    }
}
