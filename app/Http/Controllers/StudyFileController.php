<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Data\StudyArchive;
use App\Http\Resources\StudyResource;
use App\Models\Study;
use App\Models\User;
use App\Studies\StudyMaker;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Str;
use MerryOrbit\Core\Exchange\Grade;
use MerryOrbit\Core\Exchange\LogLine;
use MerryOrbit\Core\Exchange\ModelFile;
use MerryOrbit\Core\Experiment\Levels;
use MerryOrbit\Core\Model\Roster;

/** Studies in and out as files: native ones, with the files of their data or without, and those of the open standard XMILE. */
final class StudyFileController
{
    /** By the ending of the file. */
    private const TYPES = [
        'json' => 'application/json',
        'xmile' => 'application/xml',
        'graphml' => 'application/xml',
        'csv' => 'text/csv; charset=UTF-8',
        'md' => 'text/markdown; charset=UTF-8',
    ];

    /** Besides the formats of models: the native file with the files of its data. */
    private const ARCHIVE = 'archive';

    public function import(Request $request, #[CurrentUser] User $user): JsonResponse
    {
        $bytes = $request->getContent();
        $imported = ModelFile::import(StudyArchive::looksLike($bytes) ? StudyArchive::unpack($bytes, $user) : $bytes);
        $model = $imported->model;
        $named = $model->with(['name' => StudyMaker::freeName($user, $model->name === '' ? 'Untitled' : $model->name)]);
        $study = StudyMaker::make($user, $named, log: $imported->log);

        return StudyResource::make($study->load('model'))
            ->additional(['log' => $imported->log])
            ->response()
            ->setStatusCode(201);
    }

    /** What was said when the study's file was read. */
    public function log(Study $study): JsonResponse
    {
        return new JsonResponse(['log' => $study->import_log ?? []]);
    }

    /** Ticks off lines of the import log, or takes the ticks away. */
    public function tick(Request $request, Study $study): JsonResponse
    {
        $request->validate(
            ['lines' => ['required', 'list'], 'lines.*' => ['integer'], 'done' => ['required', 'boolean']],
            [
                'lines*' => '`lines` is a list of the positions of lines, from 0.',
                'done.*' => '`done` is true or false.',
            ],
        );
        $log = $study->import_log ?? [];
        foreach ($request->array('lines') as $line) {
            if (is_int($line) && isset($log[$line])) {
                $log[$line]['done'] = $request->boolean('done');
            }
        }
        $study->timestamps = false;
        $study->update(['import_log' => $log]);

        return new JsonResponse(['log' => $log]);
    }

    public function export(Request $request, Study $study): Response
    {
        if ($request->query('format') === self::ARCHIVE) {
            return new Response(StudyArchive::pack($study->load('model')->model->core()), 200, [
                'Content-Type' => 'application/zip',
                'Content-Disposition' => 'attachment; filename="'.(Str::slug($study->name) ?: 'study').'.zip"',
            ]);
        }
        [$text] = $this->exported($request, $study);
        $name = (Str::slug($study->name) ?: 'study').'.'.ModelFile::FORMATS[$this->format($request)];

        return new Response($text, 200, [
            'Content-Type' => self::TYPES[ModelFile::FORMATS[$this->format($request)]],
            'Content-Disposition' => "attachment; filename=\"$name\"",
        ]);
    }

    /** What the file of the same format cannot hold. */
    public function losses(Request $request, Study $study): JsonResponse
    {
        if ($request->query('format') === self::ARCHIVE) {
            return new JsonResponse(['log' => []]);
        }

        return new JsonResponse(['log' => $this->exported($request, $study)[1]]);
    }

    /** @return array{string, list<LogLine>} */
    private function exported(Request $request, Study $study): array
    {
        $request->validate(
            ['level' => ['sometimes', 'in:'.implode(',', Roster::LEVELS)]],
            ['level.in' => '`level` is one of '.implode(', ', Roster::LEVELS).'.'],
        );
        $model = $study->load('model')->model->core();
        $level = $request->query('level');
        if (! is_string($level) || $level === 'members') {
            return ModelFile::export($model, $this->format($request));
        }
        [$model, $lost] = Levels::throughout($model, $level);
        [$text, $log] = ModelFile::export($model, $this->format($request));
        $said = array_map(static fn (string $what): LogLine => new LogLine('rosters', $what, grade: Grade::Numbers), $lost);

        return [$text, [...$said, ...$log]];
    }

    /** @return key-of<ModelFile::FORMATS> */
    private function format(Request $request): string
    {
        $known = array_keys(ModelFile::FORMATS);
        $request->validate(
            ['format' => ['sometimes', 'in:'.implode(',', $known)]],
            ['format.in' => '`format` is one of '.implode(', ', [...$known, self::ARCHIVE]).'.'],
        );
        $at = array_search($request->query('format'), $known, true);

        return $at === false ? 'native' : $known[$at];
    }
}
