<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Appearance;
use MerryOrbit\Core\Model\Leaving;
use MerryOrbit\Core\Model\Link;
use MerryOrbit\Core\Model\Making;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Part;
use MerryOrbit\Core\Model\Recorded;

/** Takes away one of a part of the document. */
final readonly class DropPart extends Edit
{
    public function __construct(public Part $part, public string $id)
    {
    }

    public function apply(Model $model): Model
    {
        $all = $model->part($this->part->name);

        $gone = $all[$this->id] ?? throw EditRefused::gone();
        $after = $model->with([$this->part->name => array_diff_key($all, [$this->id => true])]);

        return self::unseen(Mentions::follow($model, $gone instanceof Leaving ? $gone->left($after) : $after), $gone);
    }

    /** What it made is plotted and echoed no more. */
    private static function unseen(Model $model, mixed $gone): Model
    {
        $made = $gone instanceof Making ? $gone->makes() : [];

        return $made === []
            ? $model
            : $model->with([
                'links' => array_filter($model->links, static fn (Link $l): bool => ! isset($made[$l->from])),
                'echoes' => array_filter($model->echoes, static fn (Appearance $e): bool => ! isset($made[$e->element])),
                'tracks' => SetTrack::without($model->tracks, $made),
                'plots' => array_column(SetTrack::without($model->plots, $made), null, 'id'),
            ]);
    }

    public function words(Model $before): string
    {
        $known = $before->part($this->part->name)[$this->id] ?? null;

        return trim(
            "Removed the {$this->part->word} ".
                ($known instanceof Recorded ? $this->part->title($known->toRecord(), $before->nameOf(...)) : ''),
        );
    }
}
