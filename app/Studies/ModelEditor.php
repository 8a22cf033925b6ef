<?php

declare(strict_types=1);

namespace App\Studies;

use App\Models\EditRow;
use App\Models\ModelDocument;
use App\Models\User;
use Illuminate\Support\Collection;
use Illuminate\Support\Str;
use MerryOrbit\Core\Edit\Edit;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\Patch;
use MerryOrbit\Core\Edit\Restore;
use MerryOrbit\Core\Edit\TakeOver;
use MerryOrbit\Core\Exchange\FileRefused;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Model;

/**
 * The one way in which a stored model changes: an edit is applied to the newest revision, or refused as a whole.
 * See ChangeWriter for how it is written.
 */
final class ModelEditor
{
    /** So many seconds after it was added a thing may get its name in the same step. */
    private const AT_ONCE = 120;

    public function __construct(private ModelDocument $document, private readonly User $user, private readonly string $window)
    {
    }

    /**
     * @param  list<array{id: string, edit: mixed}>  $edits  ids made by the client
     * @param  int  $base  the revision they were made on
     * @param  bool  $quick  answers without what changed: of a large model that is asked for after the run
     * @return array<string, mixed> see news()
     *
     * @throws EditRefused|EditClash
     */
    public function apply(array $edits, int $base, bool $quick = false): array
    {
        $this->write(function (ModelDocument $row) use ($edits, $base): array {
            $changes = [];
            $model = $row->core();
            foreach ($edits as ['id' => $clientId, 'edit' => $record]) {
                if ($row->edits()->where('client_id', $clientId)->exists()) {
                    continue;
                }
                $edit = EditReader::read($record, self::pasted(...));
                $change = new Change(
                    $model,
                    $edit->apply($model),
                    $edit,
                    'edit',
                    $clientId,
                    (array) $record,
                    $this->namesWhatWasAdded($row, (array) $record, $changes),
                );
                $this->refuseClash(
                    $row,
                    $model,
                    $change->patch,
                    $row->edits()->where('revision', '>', $base)->where('window', '<>', $this->window)->get(),
                    $record,
                );
                $changes[] = $change;
                $model = $change->after;
            }

            return $changes;
        }, $quick);

        return $quick ? $this->receipt($base) : $this->news($base);
    }

    /**
     * Takes back this person's last edit, or the last one taken back.
     *
     * @param  'undo'|'redo'  $kind
     * @return array<string, mixed> see news()
     *
     * @throws EditRefused|EditClash
     */
    public function step(string $kind, string $clientId, int $base, bool $quick = false): array
    {
        $this->write(function (ModelDocument $row) use ($kind, $clientId): array {
            if ($row->edits()->where('client_id', $clientId)->exists()) {
                return [];
            }
            $target = $kind === 'undo' ? $this->undoable($row) : $this->redoable($row);
            if ($target === null) {
                throw EditRefused::because(
                    "$kind.none",
                    $kind === 'undo' ? 'There is nothing of yours to undo.' : 'There is nothing to redo.',
                );
            }
            $first = $this->stepOne($row, $row->core(), $kind, $target, $clientId);
            // Undone backward, made again forward: the joined edit comes first on the one way and last on the other.
            $partner = $kind === 'undo' ? ($target->joined ? $this->undoable($row, $target) : null) : $this->redoable($row, $target);
            $isPair = $partner !== null && ($kind === 'undo' || $partner->joined);

            return $isPair ? [$first, $this->stepOne($row, $first->after, $kind, $partner, (string) Str::uuid())] : [$first];
        }, $quick);

        return $quick ? $this->receipt($base) : $this->news($base);
    }

    /**
     * @param  'undo'|'redo'  $kind
     *
     * @throws EditClash
     */
    private function stepOne(ModelDocument $row, Model $model, string $kind, EditRow $target, string $clientId): Change
    {
        // What takes back an undo is the inverse of the row that the undo wrote.
        $source = $kind === 'undo' ? $target : $row->edits()->where('revision', $target->undone_at_revision)->firstOrFail();
        $patch = $source->inversePatch(($kind === 'undo' ? 'Undid: ' : 'Redid: ').$target->words);
        $others = $row->edits()->where('revision', '>', $source->revision)->where('user_id', '<>', $this->user->id)->get();
        $this->refuseClash($row, $model, $patch, $others, null);

        return new Change($model, $patch->apply($model), $patch, $kind, $clientId, ['of' => $target->revision], target: $target);
    }

    /** @return array<string, mixed> the revision alone, and what undo and redo would do next */
    private function receipt(int $since): array
    {
        return ['revision' => $this->document->revision, 'since' => $since, 'quick' => true, 'done' => [], ...$this->steps()];
    }

    /** @throws EditRefused */
    private static function pasted(string $text): Model
    {
        try {
            return NativeFile::import($text)->model;
        } catch (FileRefused) {
            throw EditRefused::because(
                'paste.unreadable',
                'What is on the clipboard was not copied from a model. Select things on a sheet and copy them first.',
            );
        }
    }

    /**
     * Brings back an old version, whole or in part, as an edit like any other.
     *
     * @param  ?list<string>  $ids
     * @return array<string, mixed> see news()
     *
     * @throws EditRefused
     */
    public function restore(int $revision, ?array $ids, string $clientId, int $base): array
    {
        return $this->once(
            $clientId,
            $base,
            static function (ModelDocument $row) use ($revision, $ids): Restore {
                $history = new Versions($row);

                return new Restore($history->at($revision), $ids, $history->named($revision));
            },
            ['kind' => 'restore', 'revision' => $revision, 'ids' => $ids],
        );
    }

    /**
     * One change of a copy, made here as an edit like any other.
     *
     * @return array<string, mixed> see news()
     *
     * @throws EditRefused
     */
    public function takeOver(TakeOver $edit, string $clientId, int $base): array
    {
        return $this->once($clientId, $base, static fn (): TakeOver => $edit, ['kind' => 'takeOver', 'key' => $edit->key]);
    }

    /**
     * An edit that follows from the model as it is when it is written: of two that come at once, neither is lost.
     *
     * @param  \Closure(ModelDocument): Edit  $edit
     * @param  array<string, mixed>  $body  how it is noted
     *
     * @throws EditRefused
     */
    public function make(\Closure $edit, string $clientId, array $body): void
    {
        $this->written($clientId, $edit, $body);
    }

    /**
     * @param  \Closure(ModelDocument): Edit  $edit
     * @param  array<string, mixed>  $body  how it is noted
     * @return array<string, mixed>
     */
    private function once(string $clientId, int $base, \Closure $edit, array $body): array
    {
        $this->written($clientId, $edit, $body);

        return $this->news($base);
    }

    /**
     * @param  \Closure(ModelDocument): Edit  $edit
     * @param  array<string, mixed>  $body
     */
    private function written(string $clientId, \Closure $edit, array $body): void
    {
        $this->write(static function (ModelDocument $row) use ($clientId, $edit, $body): array {
            if ($row->edits()->where('client_id', $clientId)->exists()) {
                return [];
            }
            $model = $row->core();
            $made = $edit($row);

            return [new Change($model, $made->apply($model), $made, 'edit', $clientId, $body)];
        });
    }

    /**
     * What a page at revision `since` has to change to be up to date: the new revision, the parts that differ, what
     * was done in words, and what undo and redo would do next.
     *
     * @return array<string, mixed>
     */
    public function news(int $since): array
    {
        $row = $this->document;
        $rows = $row->edits()->with('user:id,name')->where('revision', '>', $since)->oldest('revision')->get();
        $shelf = new ViewCache($row->id);
        $now = $shelf->view($row->revision, $row->core(...));
        // A version that cannot be shown is left by undo: then everything is told.
        $before = $rows->isEmpty()
            ? $now
            : rescue(
                static fn (): ModelView => $shelf->view($since, static function () use ($row, $rows): Model {
                    $model = $row->core();
                    foreach ($rows->reverse() as $edit) {
                        $model = $edit->inversePatch()->apply($model);
                    }

                    return $model;
                }),
            );

        return [
            'revision' => $row->revision,
            'since' => $since,
            ...$rows->isEmpty() ? [] : ['changed' => (object) ($before === null ? $now->toJson() : $now->since($before))],
            'done' => $rows
                ->map(
                    fn (EditRow $e): array => [
                        'revision' => $e->revision,
                        'window' => $e->window,
                        'kind' => $e->kind,
                        'words' => $e->words,
                        'by' => $e->user_id === $this->user->id ? null : $e->user->name,
                    ],
                )
                ->values()
                ->all(),
            ...$this->steps(),
        ];
    }

    /** The model with what was written. */
    public function document(): ModelDocument
    {
        return $this->document;
    }

    /**
     * Adding a thing and giving it its name at once is one step for whoever does it.
     *
     * @param  array<mixed>  $body
     * @param  list<Change>  $before  what was done just now
     */
    private function namesWhatWasAdded(ModelDocument $row, array $body, array $before): bool
    {
        if ($before !== []) {
            $last = end($before)->body;

            return ($body['kind'] ?? null) === 'rename' &&
                ($last['kind'] ?? null) === 'add' &&
                ($last['id'] ?? null) === ($body['id'] ?? null);
        }
        $last = ($body['kind'] ?? null) === 'rename' ? $row->edits()->where('revision', $row->revision)->first() : null;

        return $last !== null &&
            $last->kind === 'edit' &&
            $last->user_id === $this->user->id &&
            $last->window === $this->window &&
            $last->undone_at_revision === null &&
            ($last->body['kind'] ?? null) === 'add' &&
            ($last->body['id'] ?? null) === ($body['id'] ?? null) &&
            $last->created_at->isAfter(now()->subSeconds(self::AT_ONCE));
    }

    /** @return array{undo: ?string, redo: ?string} in words, what each would act on */
    public function steps(): array
    {
        return ['undo' => $this->told($this->undoable($this->document)), 'redo' => $this->told($this->redoable($this->document))];
    }

    /** What a step back or forward does, with the edit that goes with it. */
    private function told(?EditRow $one): ?string
    {
        $edits = $this->document->edits();
        $partner = match (true) {
            $one === null => null,
            $one->joined => $edits->where('revision', $one->revision - 1)->first(),
            default => $edits
                ->where('revision', $one->revision + 1)
                ->where('joined', true)
                ->first(),
        };
        if ($one === null || $partner === null || ($partner->undone_at_revision === null) !== ($one->undone_at_revision === null)) {
            return $one?->words;
        }
        [$first, $then] = $one->joined ? [$partner, $one] : [$one, $partner];

        return "$first->words, ".mb_strtolower(mb_substr($then->words, 0, 1)).mb_substr($then->words, 1);
    }

    /** @param  ?EditRow  $but  one that will have been undone by then */
    private function undoable(ModelDocument $row, ?EditRow $but = null): ?EditRow
    {
        return $row
            ->edits()
            ->where('user_id', $this->user->id)
            ->where('kind', 'edit')
            ->where('undone_at_revision', null)
            ->where('id', '<>', $but->id ?? 0)
            ->latest('revision')
            ->first();
    }

    /** @param  ?EditRow  $but  one that will have been made again by then */
    private function redoable(ModelDocument $row, ?EditRow $but = null): ?EditRow
    {
        $last = $row
            ->edits()
            ->where('user_id', $this->user->id)
            ->where('kind', 'edit')
            ->where('undone_at_revision', '<>', null)
            ->where('id', '<>', $but->id ?? 0)
            ->latest('undone_at_revision')
            ->first();
        // A new edit after an undo ends what could be redone.
        $newer =
            $last !== null &&
            $row
                ->edits()
                ->where('user_id', $this->user->id)
                ->where('kind', 'edit')
                ->where('revision', '>', $last->undone_at_revision)
                ->exists();

        return $newer ? null : $last;
    }

    /** @param  callable(ModelDocument): list<Change>  $plan */
    private function write(callable $plan, bool $quick = false): void
    {
        $this->document = (new ChangeWriter($this->document, $this->user, $this->window))->write($plan, $quick);
    }

    /** @param  Collection<int, EditRow>  $others */
    private function refuseClash(ModelDocument $row, Model $model, Patch $patch, Collection $others, mixed $record): void
    {
        foreach ($others as $other) {
            $clash = Patch::clash($patch->touches(), $other->forwardPatch()->touches());
            if ($clash === null || str_starts_with($clash, 'placement/')) {
                // Where a thing stands is no reason to stop anyone: the later move wins.
                continue;
            }
            $id = explode('/', $clash)[1] ?? '';
            $name = $model->nameOf($id);
            throw new EditClash(
                ($name === null ? 'What this changes' : "`$name`").
                    " was changed in another window meanwhile ($other->words). Both versions are kept: choose one.",
                $row->revision,
                $record,
                ModelView::elementOf($model, $id),
            );
        }
    }
}
