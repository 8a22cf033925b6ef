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
use MerryOrbit\Core\Exchange\NativeFile;

/** Studies in and out as files. */
final class StudyFileController
{
    public function import(Request $request, #[CurrentUser] User $user): JsonResponse
    {
        $imported = NativeFile::import($request->getContent());
        $model = $imported->model;
        $study = StudyMaker::make($user, $model->with(['name' => StudyMaker::freeName($user, $model->name === '' ? 'Untitled' : $model->name)]));

        return StudyResource::make($study->load('model'))->additional(['log' => $imported->log])->response()->setStatusCode(201);
    }

    public function export(Study $study): Response
    {
        $name = Str::slug($study->name) ?: 'study';

        return new Response(NativeFile::export($study->load('model')->model->core()), 200, [
            'Content-Type' => 'application/json',
            'Content-Disposition' => "attachment; filename=\"$name.json\"",
        ]);
    }
}
