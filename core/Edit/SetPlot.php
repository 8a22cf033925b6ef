<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;

/** Shows or hides the small plots beneath things. */
final readonly class SetPlot extends Edit
{
    /** @param  list<string>  $ids */
    public function __construct(public array $ids, public bool $shown)
    {
    }

    public function apply(Model $model): Model
    {
        $known = array_intersect_key($model->placements, array_flip($this->ids));
        if ($known === []) {
            throw EditRefused::gone();
        }

        return $model->with(['placements' => [...$model->placements, ...array_map(fn ($p) => $p->with(['plot' => $this->shown]), $known)]]);
    }

    public function words(Model $before): string
    {
        $names = array_values(array_filter(array_map($before->nameOf(...), $this->ids)));

        return ($this->shown ? 'Showed' : 'Hid').
            ' the small plot'.
            (count($names) === 1 ? " of `$names[0]`" : 's of '.count($names).' things');
    }
}
