<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Appearance;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Group;
use MerryOrbit\Core\Model\Link;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\Placement;
use MerryOrbit\Core\Model\Recorded;

/**
 * Takes things out of the model. Formulas that mention them keep the names and say that they miss them;
 * flows that ran to or from a deleted stock run to or from the outside.
 */
final readonly class DeleteElements extends Edit
{
    /** @param  list<string>  $ids */
    public function __construct(public array $ids)
    {
    }

    public function apply(Model $model): Model
    {
        $gone = array_intersect_key($model->elements, array_flip($this->ids));
        $echoes = array_filter(
            array_diff_key($model->echoes, array_flip($this->ids)),
            static fn (Appearance $e): bool => ! isset($gone[$e->element]),
        );
        if ($gone === [] && count($echoes) === count($model->echoes)) {
            foreach ($this->ids as $id) {
                $name = $model->made()[$id] ?? throw EditRefused::gone();
                throw EditRefused::because('element.made', "`$name` stands in the ledgers: take it out there.");
            }
            throw EditRefused::gone();
        }
        $placements = array_diff_key($model->placements, $gone);
        foreach ($model->elements as $flow) {
            if ($flow instanceof Flow && ! isset($gone[$flow->id]) && isset($placements[$flow->id])) {
                $placements[$flow->id] = $this->withLooseEnds($model, $flow, $gone);
            }
        }
        $links = array_filter($model->links, static fn (Link $l): bool => ! isset($gone[$l->from]) && ! isset($gone[$l->to]));
        $elements = array_map(
            static fn ($e) => $e instanceof Flow && (isset($gone[$e->from ?? '']) || isset($gone[$e->to ?? '']))
                ? $e->with(['from' => isset($gone[$e->from ?? '']) ? null : $e->from, 'to' => isset($gone[$e->to ?? '']) ? null : $e->to])
                : $e,
            array_diff_key($model->elements, $gone),
        );
        $model = $model->with([
            'elements' => $elements,
            'links' => $links,
            'placements' => $placements,
            'echoes' => $echoes,
            'bends' => array_filter(
                $model->bends,
                static fn (string $key): bool => array_intersect_key(array_flip(explode('>', $key)), $gone) === [],
                ARRAY_FILTER_USE_KEY,
            ),
            'mapSpots' => array_diff_key($model->part('mapSpots'), $gone),
            'groups' => self::withoutGone($model, $gone),
            'tracks' => SetTrack::without($model->tracks, $gone),
            'plots' => array_column(SetTrack::without($model->plots, $gone), null, 'id'),
        ]);
        $model = self::withoutWhatBelongs($model, $gone);
        foreach ($gone as $element) {
            $model = Mentions::unbind($model, $element);
        }

        return $model;
    }

    /** @param  array<string, Element>  $gone */
    private static function withoutWhatBelongs(Model $model, array $gone): Model
    {
        foreach (Parts::all() as $name => $part) {
            if ($part->belongs === []) {
                continue;
            }
            $stays = static fn (mixed $one): bool => $one instanceof Recorded &&
                array_intersect_key(
                    array_flip(array_filter(array_intersect_key($one->toRecord(), array_flip($part->belongs)), is_string(...))),
                    $gone,
                ) === [];
            $all = $model->part($name);
            $kept = array_filter($all, $stays);
            $model = count($kept) === count($all) ? $model : $model->with([$name => $kept]);
        }

        return $model;
    }

    /**
     * @param  array<string, Element>  $gone
     * @return list<Group>
     */
    private static function withoutGone(Model $model, array $gone): array
    {
        $groups = array_map(
            static fn (Group $g): Group => new Group($g->name, $g->tint, array_values(array_diff($g->members, array_keys($gone)))),
            $model->groups,
        );

        return array_values(array_filter($groups, static fn (Group $g): bool => $g->members !== []));
    }

    /**
     * The flow's place with its ends staying where the deleted stocks stood.
     *
     * @param  array<string, Element>  $gone
     */
    private function withLooseEnds(Model $model, Flow $flow, array $gone): Placement
    {
        $place = $model->placements[$flow->id];
        $source = isset($gone[$flow->from ?? '']) ? $model->placements[$flow->from ?? '']->at ?? null : $place->source;
        $target = isset($gone[$flow->to ?? '']) ? $model->placements[$flow->to ?? '']->at ?? null : $place->target;

        return $source === $place->source && $target === $place->target
            ? $place
            : $place->with(['source' => $source, 'target' => $target]);
    }

    public function words(Model $before): string
    {
        $names = array_values(array_filter(array_map($before->nameOf(...), $this->ids)));

        if ($names === []) {
            return count($this->ids) === 1 ? 'Deleted an echo' : 'Deleted '.count($this->ids).' echoes';
        }

        return count($names) === 1 ? "Deleted `{$names[0]}`" : 'Deleted '.count($names).' things';
    }
}
