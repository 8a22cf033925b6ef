<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Relation;

/** Over which dimensions an element says it extends; none leaves it to its formula. What a parameter's table holds goes along. */
final readonly class SetExtent extends Edit
{
    /** @param  list<string>  $dimensions  ids */
    public function __construct(public string $id, public array $dimensions)
    {
    }

    public function apply(Model $model): Model
    {
        $element = $model->element($this->id) ?? throw EditRefused::gone();
        if ($element instanceof Relation && $this->dimensions !== []) {
            throw EditRefused::because('extent.kind', "`$element->name` is a {$element->kind()->value} and is the same for all.", 'dimensions');
        }
        $all = $model->dimensions();
        foreach ($this->dimensions as $i => $dimension) {
            if (! isset($all->all()[$dimension])) {
                throw EditRefused::because('extent.unknown', 'A dimension that was chosen is gone meanwhile. Choose again.', 'dimensions');
            }
            foreach (array_slice($this->dimensions, 0, $i) as $other) {
                if ($all->pair($dimension, $other)) {
                    throw EditRefused::because(
                        'extent.twice',
                        "`$element->name` cannot extend over `{$all->nameOf($other)}` and `{$all->nameOf($dimension)}` at once: ".
                            'they are one dimension. Make one with the same elements for that.',
                        'dimensions',
                    );
                }
            }
        }
        $before = $model->shapes[$this->id] ?? [];
        $shapes = $model->shapes;
        unset($shapes[$this->id]);
        if ($this->dimensions !== []) {
            $shapes[$this->id] = $this->dimensions;
        }

        return TableChange::follow($model->with(['shapes' => $shapes]), $this->id, $before);
    }

    public function words(Model $before): string
    {
        $names = array_map($before->dimensions()->nameOf(...), $this->dimensions);

        return '`'.$before->nameOf($this->id).'` extends over '.($names === [] ? 'what its formula leaves' : implode(' and ', $names));
    }
}
