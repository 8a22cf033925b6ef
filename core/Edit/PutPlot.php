<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Plot;

/** Keeps an arrangement, as a track at the foot or as a plot with a name, new or in place of the one with its id. */
final readonly class PutPlot extends Edit
{
    /** @param  ?string  $before  of a new track, the one it stands above */
    public function __construct(public Plot $plot, public bool $isTrack, public ?string $before = null)
    {
    }

    public function apply(Model $model): Model
    {
        $of = array_values(
            array_filter($this->plot->of, static fn (string $id): bool => isset($model->made()[$id]) || Computing::known($model, $id)),
        );
        if ($of === []) {
            throw EditRefused::because('plot.empty', 'A plot shows at least one thing of the model.');
        }
        $plot = $this->plot->showing($of);
        if ($this->isTrack) {
            return $model->with(['tracks' => $this->placed($model, $plot)]);
        }
        if ($plot->name === '') {
            throw EditRefused::because('plot.name', 'Give the plot a name.', 'name');
        }
        if (! isset($model->plots[$plot->id]) && count($model->plots) >= Plot::MOST) {
            throw EditRefused::because('plot.many', 'A study has at most '.Plot::MOST.' plots. Remove some first.');
        }

        return $model->with(['plots' => [...$model->plots, $plot->id => $plot]]);
    }

    /** @return list<Plot> */
    private function placed(Model $model, Plot $plot): array
    {
        $tracks = [];
        $done = false;
        foreach ($model->tracks as $track) {
            if ($track->id === $plot->id && $this->before === null) {
                $tracks[] = $plot;
                $done = true;
            } elseif ($track->id !== $plot->id) {
                if ($track->id === $this->before) {
                    $tracks[] = $plot;
                    $done = true;
                }
                $tracks[] = $track;
            }
        }

        return $done ? $tracks : [...$tracks, $plot];
    }

    public function words(Model $before): string
    {
        $names = array_values(array_filter(array_map($before->nameOf(...), $this->plot->of)));
        $what =
            $this->plot->name !== ''
                ? "the plot “{$this->plot->name}”"
                : 'the track of '.(count($names) === 1 ? "`$names[0]`" : count($names).' things');
        $known = $this->isTrack
            ? array_filter($before->tracks, fn (Plot $p): bool => $p->id === $this->plot->id) !== []
            : isset($before->plots[$this->plot->id]);

        return ($known ? 'Changed ' : ($this->isTrack ? 'Showed ' : 'Kept ')).$what;
    }
}
