<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Dimension;
use MerryOrbit\Core\Model\Dimensions;
use MerryOrbit\Core\Model\Mapping;
use MerryOrbit\Core\Model\Model;

/**
 * All dimensions of the model, with their elements in order. What is called otherwise now is called so in formulas too; what no longer
 * is there leaves tables and mappings, and formulas that mention it say so.
 */
final readonly class SetDimensions extends Edit
{
    /** @param  list<Dimension>  $dimensions */
    public function __construct(public array $dimensions)
    {
    }

    public function apply(Model $model): Model
    {
        $this->check($model);
        $before = $model->dimensions();
        $after = $model->with(['dimensions' => $this->dimensions]);
        $known = $after->dimensions()->all();
        $mappings = [];
        foreach ($model->part('mappings') as $key => $mapping) {
            if ($mapping instanceof Mapping && isset($known[$mapping->from], $known[$mapping->to])) {
                $has = static fn (string $d, string $e): bool => $after->dimensions()->has($d, $e);
                $pairs = [];
                foreach ($mapping->pairs as $pair) {
                    if ($has($mapping->from, $pair[0]) && $has($mapping->to, $pair[1])) {
                        $pairs[] = $pair;
                    }
                }
                $mappings[$key] = new Mapping($mapping->id, $mapping->name, $mapping->from, $mapping->to, $pairs);
            }
        }
        $shapes = array_filter(
            array_map(
                static fn (array $over): array => array_values(array_filter($over, static fn (string $d): bool => isset($known[$d]))),
                $model->shapes,
            ),
        );
        $after = $after->with(['shapes' => $shapes, 'mappings' => $mappings]);
        foreach ($model->shapes as $id => $over) {
            $after = TableChange::follow($after, (string) $id, $over);
        }

        return DimensionMentions::renamed($after, $before);
    }

    public function words(Model $before): string
    {
        $old = $before->dimensions()->all();
        $new = (new Dimensions($this->dimensions))->all();
        $added = array_column(array_diff_key($new, $old), 'name');
        $gone = array_column(array_diff_key($old, $new), 'name');

        return match (true) {
            $added !== [] => 'Added the dimension '.implode(', ', $added),
            $gone !== [] => 'Took the dimension '.implode(', ', $gone).' away',
            default => 'Changed dimensions',
        };
    }

    /** @throws EditRefused */
    private function check(Model $model): void
    {
        if (count($this->dimensions) > Dimension::MOST) {
            throw EditRefused::because('dimensions.many', 'A model has at most '.Dimension::MOST.' dimensions.', 'dimensions');
        }
        $all = new Dimensions($this->dimensions);
        $taken = array_map(static fn (Mapping $m): string => "the mapping `$m->name`", $model->mappings());
        foreach ($model->elements as $element) {
            $taken[Name::key($element->name)] = "a {$element->kind()->value}";
        }
        $ids = [];
        foreach ($this->dimensions as $dimension) {
            $key = Name::key($dimension->name);
            $other = $taken[$key] ?? (isset($ids[$dimension->id]) ? 'another dimension' : null);
            if ($other !== null) {
                throw EditRefused::because(
                    'name.taken',
                    "A dimension cannot be called `$dimension->name`: $other is called so already.",
                    'dimensions',
                );
            }
            $taken[$key] = 'another dimension';
            $ids[$dimension->id] = true;
            $this->checkRelation($dimension, $all);
        }
    }

    private function checkRelation(Dimension $dimension, Dimensions $all): void
    {
        $whole = $dimension->partOf;
        $other = $whole ?? $dimension->sameAs;
        $roots = $other === null ? [] : [$all->root($dimension->id), $all->root($other)];
        if ($other !== null && (! isset($all->all()[$other]) || in_array($dimension->id, $roots, true))) {
            throw EditRefused::because(
                'dimension.relation',
                "`$dimension->name` is to be a part of another dimension, or to have its elements, but there is none such.",
                'dimensions',
            );
        }
        foreach ($dimension->ids as $id) {
            if ($whole !== null && ! $all->has($whole, $id)) {
                throw EditRefused::because(
                    'dimension.part',
                    "`$dimension->name` is a part of `{$all->nameOf($whole)}` and can have only its elements.",
                    'dimensions',
                );
            }
        }
    }
}
