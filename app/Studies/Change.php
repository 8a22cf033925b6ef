<?php

declare(strict_types=1);

namespace App\Studies;

use App\Models\EditRow;
use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\Edit;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\Patch;
use MerryOrbit\Core\Edit\SetTitle;
use MerryOrbit\Core\Model\Model;

/** One change of a stored model, worked out and not written yet. */
final readonly class Change
{
    public Patch $patch;

    public Patch $inverse;

    public string $words;

    public bool $entitles;

    /**
     * @param  'edit'|'undo'|'redo'  $kind
     * @param  array<mixed>  $body  as it was sent
     * @param  ?EditRow  $target  of a step: the edit that it takes back or makes again
     */
    public function __construct(
        Model $before,
        public Model $after,
        Edit $edit,
        public string $kind,
        public string $clientId,
        public array $body,
        public bool $joined = false,
        public ?EditRow $target = null,
    ) {
        $this->patch = Patch::between($before, $after);
        $this->inverse = Patch::between($after, $before);
        $this->words = $edit->words($before);
        $this->entitles = $after->name !== $before->name || $edit instanceof SetTitle;
    }

    /**
     * Nothing is stored that could not be read back, taken back and shown: what each change writes is read as from the store, its
     * inverse gives the model before, and the model in the end is analysed and made into what the page gets.
     *
     * @param  list<self>  $changes  of one request
     * @param  bool  $whole  shows the whole model; else only what is analysed and what changed
     * @return ?ModelView the whole view
     *
     * @throws EditRefused
     */
    public static function prove(Model $model, array $changes, bool $whole): ?ModelView
    {
        foreach ($changes as $change) {
            if (! Patch::between(self::stored($change->patch)->apply($model), $change->after)->isEmpty()) {
                throw self::refused('it would not be the same when it is read back');
            }
            if (! Patch::between(self::stored($change->inverse)->apply($change->after), $model)->isEmpty()) {
                throw self::refused('it could not be undone');
            }
            $model = $change->after;
        }
        if ($whole) {
            $view = ModelView::of($model);
            json_encode($view->toJson(), JSON_THROW_ON_ERROR);

            return $view;
        }
        $analysis = Analyser::analyse($model);
        foreach ($changes as $change) {
            json_encode(ModelView::elements($analysis, $change->patch->elements()), JSON_THROW_ON_ERROR);
        }

        return null;
    }

    public static function refused(string $why): EditRefused
    {
        return EditRefused::because(
            'edit.unfit',
            "This change was not made, because $why. Nothing of the study has changed; try smaller numbers, or a smaller part of it.",
        );
    }

    private static function stored(Patch $patch): Patch
    {
        /** @var array<string, mixed> $record */
        $record = json_decode(
            json_encode($patch->record, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION),
            true,
            flags: JSON_THROW_ON_ERROR,
        );

        return Patch::fromRecord($record);
    }
}
