<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Data\ReadTable;
use App\Data\ReadTableJob;
use App\Data\StillReading;
use App\Data\StudySources;
use App\Data\TablePreview;
use App\Data\TableSheets;
use App\Data\TableStore;
use App\Models\ModelDocument;
use App\Models\User;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Data\Steps\Steps;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Data\TableText;
use MerryOrbit\Core\Data\Wishes;
use MerryOrbit\Core\Model\CleaningStep;

/** Tables of data that are dropped on a study: what they hold, and what of the model that is. */
final class DataController
{
    /** Rows that are shown at once, at the most. */
    private const MOST_ROWS = 500;

    /** Takes a file in as it is, sent as the body; nothing of it is in the study yet. */
    public function store(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        $name = mb_substr(trim($request->string('name')->toString()) ?: 'table', 0, 200);
        $bytes = (string) $request->getContent();
        if ($bytes === '') {
            throw TableRefused::because('There is nothing in this file.');
        }
        if (strlen($bytes) > ReadTable::LARGE && config()->boolean('merry-orbit.run.workers')) {
            return $this->awaited($user, $name, $bytes);
        }
        // What cannot be read is not kept.
        $read = ReadTable::ofFile(TableStore::opened($bytes, $name), new Wishes());
        $preview = new TablePreview($read, Analyser::analyse($model->core()));
        $content = TableStore::keep($user, $name, $bytes);

        return new JsonResponse(['content' => $content, 'name' => $name, ...$preview->toRecord()], 201);
    }

    /** A worker reads it; whoever sent it asks for it in a moment. */
    private function awaited(User $user, string $name, string $bytes): JsonResponse
    {
        $content = TableStore::keep($user, $name, $bytes);
        ReadTableJob::dispatch($content, $name, new Wishes(), false);

        return (new StillReading($content, $name))->render();
    }

    /** The table of a file as it is understood under what somebody says of it, and after the steps that are taken. */
    public function show(Request $request, ModelDocument $model, #[CurrentUser] User $user, string $content): JsonResponse
    {
        $preview = $this->preview($request, $model, $user, $content);

        return new JsonResponse(['content' => $content, 'name' => $request->string('name')->toString(), ...$preview->toRecord()]);
    }

    /** Some rows of the file as they stand, or of the table after a step. */
    public function rows(Request $request, ModelDocument $model, #[CurrentUser] User $user, string $content): JsonResponse
    {
        $count = min(self::MOST_ROWS, max(0, $request->integer('count', self::MOST_ROWS)));
        if ($request->boolean('asItCame')) {
            $name = $request->string('name')->toString();
            $from = max(0, $request->integer('from'));
            [$all, $rows] = (new StudySources($model, $user, $model->core()))->rows(
                $content,
                $name,
                self::wishes($request),
                $from,
                $count,
            );

            return new JsonResponse(['names' => [], 'units' => [], 'count' => $all, 'rows' => $rows]);
        }
        $preview = $this->preview($request, $model, $user, $content);

        return new JsonResponse($preview->rows($request->integer('after', -1), $request->integer('from'), $count));
    }

    /** The table after a step as a file. */
    public function file(Request $request, ModelDocument $model, #[CurrentUser] User $user, string $content): Response|JsonResponse
    {
        $request->validate(['format' => ['required', 'in:csv,long,sheets']], ['format*' => '`format` is one of csv, long, sheets.']);
        $format = $request->string('format')->toString();
        $preview = $this->preview($request, $model, $user, $content, true);
        $after = $request->integer('after', -1);
        $table = $preview->table($after);
        $name = $request->string('name')->toString();
        $steps = array_slice(CleaningStep::list($request->input('steps')), 0, max(0, $after + 1));
        if ($format === 'sheets') {
            return new JsonResponse([
                'sheets' => TableSheets::of($name, $content, $table, $steps, array_slice($preview->states, 0, count($steps))),
            ]);
        }
        $lines = $format === 'csv' ? TableText::wide($table) : TableText::long($table);

        return new Response(implode('', iterator_to_array($lines, false)), 200, ['Content-Type' => 'text/csv; charset=UTF-8']);
    }

    /** Series of it as evidence of variables, to be put into the study by an edit. */
    public function evidence(Request $request, ModelDocument $model, #[CurrentUser] User $user, string $content): JsonResponse
    {
        /** @var array{ties: list<array{series: int, key: string, error?: ?int}>} $given */
        $given = $request->validate(
            [
                'ties' => ['required', 'list', 'max:200'],
                'ties.*.series' => ['required', 'integer', 'min:0'],
                'ties.*.key' => ['required', 'string', 'max:400'],
                'ties.*.error' => ['nullable', 'integer', 'min:0'],
            ],
            ['ties*' => '`ties` says for each series, by its number from 0, the key of the variable that it is of.'],
        );
        $preview = $this->preview($request, $model, $user, $content, $request->boolean('cells'));

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

    private function preview(Request $request, ModelDocument $model, User $user, string $content, bool $isTraced = false): TablePreview
    {
        $core = $model->core();
        $sources = new StudySources($model, $user, $core);
        $read = $sources->read($content, $request->string('name')->toString(), self::wishes($request), $isTraced);
        $steps = CleaningStep::list($request->input('steps'));
        $states = Steps::states($read->table, $steps, $sources->taking($request->string('source')->toString()));

        return new TablePreview($read, Analyser::analyse($core), $states);
    }
}
