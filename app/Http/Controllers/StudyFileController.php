<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\StudyResource;
use App\Models\Study;
use App\Models\User;
use App\Studies\StudyMaker;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Str;
use MerryOrbit\Core\Exchange\LogLine;
use MerryOrbit\Core\Exchange\ModelFile;

/** Studies in and out as files: native ones, and those of the open standard XMILE. */
final class StudyFileController
{
    public function import(Request $request, #[CurrentUser] User $user): JsonResponse
    {
        $imported = ModelFile::import($request->getContent());
        $model = $imported->model;
        $study = StudyMaker::make($user, $model->with(['name' => StudyMaker::freeName($user, $model->name === '' ? 'Untitled' : $model->name)]));

        return StudyResource::make($study->load('model'))->additional(['log' => $imported->log])->response()->setStatusCode(201);
    }

    public function export(Request $request, Study $study): Response
    {
        [$text] = $this->exported($request, $study);
        $name = (Str::slug($study->name) ?: 'study').'.'.ModelFile::FORMATS[$this->format($request)];

        return new Response($text, 200, [
            'Content-Type' => $this->format($request) === 'xmile' ? 'application/xml' : 'application/json',
            'Content-Disposition' => "attachment; filename=\"$name\"",
        ]);
    }

    /** What the file of the same format cannot hold. */
    public function losses(Request $request, Study $study): JsonResponse
    {
        return new JsonResponse(['log' => $this->exported($request, $study)[1]]);
    }

    /** @return array{string, list<LogLine>} */
    private function exported(Request $request, Study $study): array
    {
        return ModelFile::export($study->load('model')->model->core(), $this->format($request));
    }

    /** @return 'native'|'xmile' */
    private function format(Request $request): string
    {
        $request->validate(['format' => ['sometimes', 'in:native,xmile']], ['format.in' => '`format` is native or xmile.']);

        return $request->query('format') === 'xmile' ? 'xmile' : 'native';
    }
}
