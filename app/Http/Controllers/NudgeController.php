<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Runs\Later;
use App\Uncertain\NudgeAnswer;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use MerryOrbit\Core\Law\Distribution;
use MerryOrbit\Core\Law\Portrait;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Uncertain\NudgedInput;

/** What each input does, one at a time; and how likely values are, as it is shaped. */
final class NudgeController
{
    /** Every input down and up, what that does to the outcomes, and to the course of one variable. */
    public function nudge(Request $request, ModelDocument $model): JsonResponse
    {
        /** @var array{by?: ?float, kinds?: list<value-of<NudgedInput::KINDS>>, of?: ?string} $given */
        $given = $request->validate(
            [
                'by' => ['nullable', 'numeric', 'gt:0', 'max:10'],
                'kinds' => ['list', 'min:1'],
                'kinds.*' => ['in:'.implode(',', NudgedInput::KINDS)],
                'of' => ['nullable', 'string', 'max:300'],
            ],
            [
                'by.*' => 'Nudge by a share above 0, as 0.1 for a tenth, or by nothing for the range of each dial.',
                'kinds*' => '`kinds` are some of '.implode(', ', NudgedInput::KINDS).'.',
                'of.*' => '`of` is the key of a variable.',
            ],
        );

        return Later::answer(NudgeAnswer::class, $model, [
            'run' => $request->array('run'),
            'by' => isset($given['by']) ? (float) $given['by'] : null,
            'kinds' => $given['kinds'] ?? ['parameter'],
            'of' => $given['of'] ?? '',
        ]);
    }

    /** A distribution as it is shown; the usual one of a parameter; or another family for the same. */
    public function distribution(Request $request, ModelDocument $model): JsonResponse
    {
        $request->validate(
            [
                'law' => ['nullable', 'string', 'max:20000'],
                'parameter' => ['nullable', 'string', 'max:120'],
                'as' => ['nullable', 'string', 'max:40'],
            ],
            ['*' => '`law` is a distribution as it is written, `parameter` the id of a parameter, `as` the name of a family.'],
        );
        $law = $request->string('law')->toString();
        if ($law === '') {
            $parameter = $model->core()->element($request->string('parameter')->toString());
            $value = $parameter instanceof Parameter ? trim($parameter->formula->text($model->core()->nameOf(...))) : '';
            $law = Portrait::usual(is_numeric($value) ? (float) $value : 0.0, $parameter->low ?? null, $parameter->high ?? null);
        }
        $portrait = Portrait::of(Distribution::read($law));
        $as = $request->string('as')->toString();

        return new JsonResponse(($as === '' ? $portrait : Portrait::of(Distribution::read($portrait->as($as))))->toRecord());
    }
}
