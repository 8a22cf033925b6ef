<?php

declare(strict_types=1);

namespace App\Studies;

use App\Models\EditRow;
use App\Models\Milestone;
use App\Models\ModelDocument;
use Illuminate\Support\Collection;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Model\Model;

/** The versions of a model: what was done in words, and how it was at any revision. */
final readonly class Versions
{
    private const PAGE = 100;

    public function __construct(private ModelDocument $document)
    {
    }

    /**
     * What was done, newest first.
     *
     * @param  ?int  $before  only what is older than this revision
     * @return array{entries: list<array<string, mixed>>, milestones: list<array{revision: int, name: string}>, more: bool}
     */
    public function page(?int $before): array
    {
        /** @var Collection<int, EditRow> $rows */
        $rows = $this->document
            ->edits()
            ->where('revision', '<', $before ?? PHP_INT_MAX)
            ->orderByDesc('revision')
            ->limit(self::PAGE + 1)
            ->with('user:id,name')
            ->get(['revision', 'kind', 'words', 'created_at', 'undone_at_revision', 'user_id']);

        $entries = [];
        foreach ($rows->take(self::PAGE) as $row) {
            $entries[] = [
                'revision' => $row->revision,
                'kind' => $row->kind,
                'words' => $row->words,
                'by' => $row->user->name,
                'at' => $row->created_at->toIso8601String(),
                'undone' => $row->undone_at_revision !== null,
            ];
        }

        return [
            'entries' => $entries,
            'milestones' => array_values(
                $this->document
                    ->milestones()
                    ->latest('revision')
                    ->get()
                    ->map(static fn (Milestone $m): array => ['revision' => $m->revision, 'name' => $m->name])
                    ->all(),
            ),
            'more' => $rows->count() > self::PAGE,
        ];
    }

    /** @throws EditRefused when there is no such revision */
    public function at(int $revision): Model
    {
        if ($revision === $this->document->revision) {
            return $this->document->core();
        }
        if ($revision < 0 || $revision > $this->document->revision) {
            throw EditRefused::because('revision.unknown', "There is no revision $revision; the newest is {$this->document->revision}.");
        }
        $model = $this->document->core();
        foreach ($this->document->edits()->where('revision', '>', $revision)->latest('revision')->lazy(200) as $row) {
            $model = $row->inversePatch()->apply($model);
        }

        return $model;
    }

    /** How a revision is called in sentences. */
    public function named(int $revision): string
    {
        $name = $this->document->milestones()->where('revision', $revision)->first()?->name;

        return $name === null ? "revision $revision" : "“{$name}”";
    }
}
