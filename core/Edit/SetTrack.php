<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Plot;

/** Shows or hides the plot of one thing at the foot of the window. */
final readonly class SetTrack extends Edit
{
    public function __construct(public string $id, public bool $shown)
    {
    }

    public function apply(Model $model): Model
    {
        if (! isset($model->made()[$this->id])) {
            Computing::element($model, $this->id);
        }
        $own = Plot::track($this->id);
        $tracks = $this->shown
            ? [...array_values(array_filter($model->tracks, static fn (Plot $p): bool => $p->id !== $own->id)), $own]
            : self::without($model->tracks, [$this->id => true]);

        return $model->with(['tracks' => $tracks]);
    }

    /**
     * @param  array<array-key, Plot>  $plots
     * @param  array<string, mixed>  $gone  by element id
     * @return list<Plot> those that still show something
     */
    public static function without(array $plots, array $gone): array
    {
        $left = array_map(
            static fn (Plot $p): Plot => $p->showing(
                array_values(array_filter($p->of, static fn (string $id): bool => ! isset($gone[$id]))),
            ),
            $plots,
        );

        return array_values(array_filter($left, static fn (Plot $p): bool => $p->of !== []));
    }

    public function words(Model $before): string
    {
        return ($this->shown ? 'Showed a track of `' : 'Took away the track of `').$before->nameOf($this->id).'`';
    }
}
