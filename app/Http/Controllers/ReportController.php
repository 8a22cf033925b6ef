<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Tell\StudyReport;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use MerryOrbit\Core\Report\PaperHtml;
use MerryOrbit\Core\Simulate\Simulator;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;

/** Reports of a study, made when they are asked for. */
final class ReportController
{
    public function __invoke(Request $request, ModelDocument $model, Simulator $simulator): JsonResponse|Response
    {
        $request->validate(
            ['report' => ['sometimes', 'nullable', 'string', 'max:40'], 'as' => ['sometimes', 'in:page,markdown']],
            ['report.*' => '`report` is the id of a report of the study.', 'as.*' => '`as` is `page` or `markdown`.'],
        );
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $id = $request->input('report');
        $paper = (new StudyReport($model))->paper($simulator, is_string($id) ? $id : null) ?? throw new NotFoundHttpException();

        return $request->input('as') === 'markdown'
            ? new Response(StudyReport::packed($paper), 200, ['Content-Type' => 'application/zip'])
            : new JsonResponse(['revision' => $model->revision, 'of' => $paper->of, 'html' => (new PaperHtml())->of($paper)]);
    }
}
