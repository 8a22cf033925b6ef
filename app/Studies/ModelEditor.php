<?php

declare(strict_types=1);

namespace App\Studies;

use App\Models\EditRow;
use App\Models\ModelDocument;
use App\Models\User;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use MerryOrbit\Core\Edit\Edit;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\Patch;
use MerryOrbit\Core\Edit\Restore;
use MerryOrbit\Core\Edit\SetTitle;
use MerryOrbit\Core\Exchange\FileRefused;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Model;

/**
 * The one way in which a stored model changes: an edit is applied to the newest revision, or refused as a whole;
 * its row, the new document and the new revision are written in one transaction.
 */
final class ModelEditor
{
    private const ATTEMPTS = 5;

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
        $this->transaction(function (ModelDocument $row) use ($edits, $base): void {
            foreach ($edits as ['id' => $clientId, 'edit' => $record]) {
                if ($row->edits()->where('client_id', $clientId)->exists()) {
                    continue;
                }
                $model = $row->core();
                $edit = EditReader::read($record, self::pasted(...));
                $next = $edit->apply($model);
                $patch = Patch::between($model, $next);
                $this->refuseClash($row, $model, $patch, $row->edits()->where('revision', '>', $base)->where('window', '<>', $this->window)->get(), $record);
                $this->write($row, $model, $next, $patch, $edit, 'edit', $clientId, (array) $record);
            }
        });

        return $quick ? $this->receipt($base) : $this->news($base);
    }

    /**
     * Takes back this person's last edit, or the last one taken back.
     *
     * @return array<string, mixed> see news()
     *
     * @throws EditRefused|EditClash
     */
    public function step(string $kind, string $clientId, int $base, bool $quick = false): array
    {
        $this->transaction(function (ModelDocument $row) use ($kind, $clientId): void {
            if ($row->edits()->where('client_id', $clientId)->exists()) {
                return;
            }
            $target = $kind === 'undo' ? $this->undoable($row) : $this->redoable($row);
            if ($target === null) {
                throw EditRefused::because("$kind.none", $kind === 'undo' ? 'There is nothing of yours to undo.' : 'There is nothing to redo.');
            }
            $this->stepOne($row, $kind, $target, $clientId);
            // Undone backward, made again forward: the joined edit comes first on the one way and last on the other.
            $partner = $kind === 'undo' ? ($target->joined ? $this->undoable($row) : null) : $this->redoable($row);
            if ($partner !== null && ($kind === 'undo' || $partner->joined)) {
                $this->stepOne($row, $kind, $partner, (string) Str::uuid());
            }
        });

        return $quick ? $this->receipt($base) : $this->news($base);
    }

    /** @throws EditClash */
    private function stepOne(ModelDocument $row, string $kind, EditRow $target, string $clientId): void
    {
        // What takes back an undo is the inverse of the row that the undo wrote.
        $source = $kind === 'undo' ? $target : $row->edits()->where('revision', $target->undone_at_revision)->firstOrFail();
        $patch = $source->inversePatch(($kind === 'undo' ? 'Undid: ' : 'Redid: ').$target->words);
        $model = $row->core();
        $others = $row->edits()->where('revision', '>', $source->revision)->where('user_id', '<>', $this->user->id)->get();
        $this->refuseClash($row, $model, $patch, $others, null);
        $next = $patch->apply($model);
        $written = $this->write($row, $model, $next, Patch::between($model, $next), $patch, $kind, $clientId, ['of' => $target->revision]);
        $target->undone_at_revision = $kind === 'undo' ? $written->revision : null;
        if ($kind === 'redo') {
            $target->inverse = $written->inverse;
        }
        $target->save();
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
            throw EditRefused::because('paste.unreadable', 'What is on the clipboard was not copied from a model. Select things on a sheet and copy them first.');
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
        $this->transaction(function (ModelDocument $row) use ($revision, $ids, $clientId): void {
            if ($row->edits()->where('client_id', $clientId)->doesntExist()) {
                $history = new History($row);
                $model = $row->core();
                $restore = new Restore($history->at($revision), $ids, $history->named($revision));
                $next = $restore->apply($model);
                $this->write($row, $model, $next, Patch::between($model, $next), $restore, 'edit', $clientId, ['kind' => 'restore', 'revision' => $revision, 'ids' => $ids]);
            }
        });

        return $this->news($base);
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
        $rows = $row->edits()->where('revision', '>', $since)->oldest('revision')->get();
        $shelf = new ViewShelf($row->id);
        $now = $shelf->view($row->revision, $row->core(...));
        $before = $rows->isEmpty() ? $now : $shelf->view($since, static function () use ($row, $rows): Model {
            $model = $row->core();
            foreach ($rows->reverse() as $edit) {
                $model = $edit->inversePatch()->apply($model);
            }

            return $model;
        });

        return [
            'revision' => $row->revision,
            'since' => $since,
            ...$rows->isEmpty() ? [] : ['changed' => $now->since($before)],
            'done' => $rows->map(static fn (EditRow $e): array => ['revision' => $e->revision, 'window' => $e->window, 'kind' => $e->kind, 'words' => $e->words])->values()->all(),
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
     */
    private function namesWhatWasAdded(ModelDocument $row, array $body): bool
    {
        $last = ($body['kind'] ?? null) === 'rename' ? $row->edits()->where('revision', $row->revision)->first() : null;

        return $last !== null && $last->kind === 'edit' && $last->user_id === $this->user->id && $last->window === $this->window && $last->undone_at_revision === null
            && ($last->body['kind'] ?? null) === 'add' && ($last->body['id'] ?? null) === ($body['id'] ?? null) && $last->created_at->isAfter(now()->subSeconds(self::AT_ONCE));
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
            default => $edits->where('revision', $one->revision + 1)->where('joined', true)->first(),
        };
        if ($one === null || $partner === null || ($partner->undone_at_revision === null) !== ($one->undone_at_revision === null)) {
            return $one?->words;
        }
        [$first, $then] = $one->joined ? [$partner, $one] : [$one, $partner];

        return "$first->words, ".mb_strtolower(mb_substr($then->words, 0, 1)).mb_substr($then->words, 1);
    }

    private function undoable(ModelDocument $row): ?EditRow
    {
        return $row->edits()->where('user_id', $this->user->id)->where('kind', 'edit')->where('undone_at_revision', null)->latest('revision')->first();
    }

    private function redoable(ModelDocument $row): ?EditRow
    {
        $last = $row->edits()->where('user_id', $this->user->id)->where('kind', 'edit')->where('undone_at_revision', '<>', null)->latest('undone_at_revision')->first();
        // A new edit after an undo ends what could be redone.
        $newer = $last !== null && $row->edits()->where('user_id', $this->user->id)->where('kind', 'edit')->where('revision', '>', $last->undone_at_revision)->exists();

        return $newer ? null : $last;
    }

    /** @param  callable(ModelDocument): void  $work */
    private function transaction(callable $work): void
    {
        DB::transaction(function () use ($work): void {
            // Writing first takes the lock before anything is read: whoever comes second waits and reads the newest.
            ModelDocument::query()->whereKey($this->document->id)->toBase()->update(['revision' => DB::raw('revision')]);
            $row = ModelDocument::query()->whereKey($this->document->id)->firstOrFail();
            $work($row);
            $this->document = $row;
        }, self::ATTEMPTS);
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
                ($name === null ? 'What this changes' : "`$name`")." was changed in another window meanwhile ($other->words). Both versions are kept: choose one.",
                $row->revision, $record, ModelView::elementOf($model, $id),
            );
        }
    }

    /** @param  array<mixed>  $body */
    private function write(ModelDocument $row, Model $model, Model $next, Patch $patch, Edit $edit, string $kind, string $clientId, array $body): EditRow
    {
        $written = $row->edits()->create([
            'user_id' => $this->user->id,
            'revision' => $row->revision + 1,
            'client_id' => $clientId,
            'window' => $this->window,
            'kind' => $kind,
            'words' => Str::limit($edit->words($model), 300),
            'body' => $body,
            'forward' => $patch->record,
            'inverse' => Patch::between($next, $model)->record,
            'joined' => $kind === 'edit' && $this->namesWhatWasAdded($row, $body),
        ]);
        $row->put($next, $written->revision);
        $row->save();
        if ($next->name !== $model->name || $edit instanceof SetTitle) {
            $row->study()->update(['name' => $next->name]);
        } else {
            $row->study()->touch();
        }

        return $written;
    }
}
