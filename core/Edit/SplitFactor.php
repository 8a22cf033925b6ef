<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;

/** Makes two of one that meant more than one thing: some of its links go over to a new factor beside it. */
final readonly class SplitFactor extends Edit
{
    /** @param  list<string>  $links  ids of those that go over */
    public function __construct(public string $id, public string $other, public string $name, public array $links)
    {
    }

    public function apply(Model $model): Model
    {
        if ($model->element($this->id) === null) {
            throw EditRefused::gone();
        }
        $moved = array_filter(MapSpots::linksAt($model, $this->id), fn ($link): bool => in_array($link->id, $this->links, true));
        $model = (new AddElement($this->other, Kind::Factor, $this->name))->apply($model);
        $model = MapSpots::withEnds($model, $this->id, $this->other);
        foreach ($moved as $link) {
            $ends = [
                'from' => $link->from === $this->id ? $this->other : $link->from,
                'to' => $link->to === $this->id ? $this->other : $link->to,
            ];
            $model = (new PutPart(SayLink::part(), $link->id, $ends))->apply($model);
        }

        return $model;
    }

    public function words(Model $before): string
    {
        return "Split `{$before->nameOf($this->id)}`: `".Name::tidy($this->name).'` stands beside it';
    }
}
