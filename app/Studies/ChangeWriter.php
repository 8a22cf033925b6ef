<?php

declare(strict_types=1);

namespace App\Studies;

use App\Models\EditRow;
use App\Models\ModelDocument;
use App\Models\User;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * Writes changes of a model: their rows, the new document and the new revision in one transaction. They are worked out before
 * the database is locked, and anew when somebody else has written meanwhile; after some tries, while it is locked.
 */
final class ChangeWriter
{
    private const TRIES = 3;

    public function __construct(private ModelDocument $document, private readonly User $user, private readonly string $window)
    {
    }

    /**
     * @param  callable(ModelDocument): list<Change>  $plan  what is to be done to the model as it is in the document
     * @param  bool  $quick  the whole view of the model is not needed at once
     * @return ModelDocument with what was written
     *
     * @throws EditRefused|EditClash
     */
    public function write(callable $plan, bool $quick): ModelDocument
    {
        for ($try = 1; $try < self::TRIES; $try++) {
            $row = $this->document;
            [$changes, $view] = self::plan($plan, $row, $quick);
            if ($this->transaction(fn (): bool => $this->isNewest($row) && $this->store($row, $changes, $view))) {
                return $row;
            }
            $this->document = ModelDocument::query()->whereKey($row->id)->firstOrFail();
        }
        $this->transaction(function () use ($plan, $quick): bool {
            $row = $this->document = ModelDocument::query()->whereKey($this->document->id)->firstOrFail();
            [$changes, $view] = self::plan($plan, $row, $quick);

            return $this->store($row, $changes, $view);
        });

        return $this->document;
    }

    /**
     * @param  callable(ModelDocument): list<Change>  $plan
     * @return array{list<Change>, ?ModelView}
     *
     * @throws EditRefused|EditClash
     */
    private static function plan(callable $plan, ModelDocument $row, bool $quick): array
    {
        try {
            $changes = $plan($row);
            // A step leads to where the model has been.
            $view = $changes !== [] && $changes[0]->kind === 'edit' ? Change::prove($row->core(), $changes, ! $quick) : null;
        } catch (EditRefused|EditClash|NotUnderstood|\PDOException $e) {
            throw $e;
        } catch (\Throwable $e) {
            report($e);
            throw Change::refused('the model could not be worked out with it ('.Str::limit($e->getMessage(), 120).')');
        }

        return [$changes, $view];
    }

    private function isNewest(ModelDocument $row): bool
    {
        return (int) ModelDocument::query()->whereKey($row->id)->value('revision') === $row->revision;
    }

    /** @param  callable(): bool  $work */
    private function transaction(callable $work): bool
    {
        return DB::transaction(function () use ($work): bool {
            // Writing first takes the lock before anything is read: whoever comes second waits and reads the newest.
            ModelDocument::query()
                ->whereKey($this->document->id)
                ->toBase()
                ->update(['revision' => DB::raw('revision')]);

            return $work();
        });
    }

    /**
     * @param  list<Change>  $changes
     * @return true
     */
    private function store(ModelDocument $row, array $changes, ?ModelView $view): bool
    {
        $entitled = false;
        foreach ($changes as $i => $change) {
            $written = $row->edits()->create([
                'user_id' => $this->user->id,
                'revision' => $row->revision + $i + 1,
                'client_id' => $change->clientId,
                'window' => $this->window,
                'kind' => $change->kind,
                'words' => Str::limit($change->words, 300),
                'body' => $change->body,
                'forward' => $change->patch->record,
                'inverse' => $change->inverse->record,
                'joined' => $change->joined,
            ]);
            $this->mark($change, $written);
            $entitled = $entitled || $change->entitles;
        }
        if ($changes !== []) {
            $row->put(end($changes)->after, $row->revision + count($changes));
            $row->save();
            $entitled ? $row->study()->update(['name' => end($changes)->after->name]) : $row->study()->touch();
        }
        if ($view !== null) {
            // Whoever asks what is new finds it there.
            DB::afterCommit(static fn () => (new ViewCache($row->id))->keep($row->revision, $view));
        }

        return true;
    }

    private function mark(Change $change, EditRow $written): void
    {
        if ($change->target !== null) {
            $change->target->undone_at_revision = $change->kind === 'undo' ? $written->revision : null;
            if ($change->kind === 'redo') {
                $change->target->inverse = $written->inverse;
            }
            $change->target->save();
        }
    }
}
