<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;

/** Shows or hides the plot of one thing at the foot of the window. */
final readonly class SetTrack extends Edit
{
    public function __construct(public string $id, public bool $shown)
    {
    }

    public function apply(Model $model): Model
    {
        if ($model->element($this->id) === null) {
            throw EditRefused::gone();
        }
        $tracks = array_values(array_filter($model->tracks, fn (string $id): bool => $id !== $this->id));
        if ($this->shown) {
            $tracks[] = $this->id;
        }

        return $model->with(['tracks' => $tracks]);
    }

    public function words(Model $before): string
    {
        return ($this->shown ? 'Showed a track of `' : 'Took away the track of `').$before->nameOf($this->id).'`';
    }
}
