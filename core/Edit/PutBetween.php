<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\Model;

/**
 * Puts a factor into the middle of a link: what acted directly acts through it. The first half keeps all that was said of the link,
 * its sign too; the second acts the same way, so that the whole acts as before.
 */
final readonly class PutBetween extends Edit
{
    /**
     * @param  string  $link  its id
     * @param  string  $id  of the factor, if nothing is called so yet
     * @param  string  $second  id of the second half
     */
    public function __construct(public string $link, public string $id, public string $name, public string $second)
    {
    }

    public function apply(Model $model): Model
    {
        $link = $model->part('causalLinks')[$this->link] ?? null;
        if (! ($link instanceof CausalLink)) {
            throw EditRefused::gone();
        }
        [$model, $middle] = SayLink::withFactor($model, $this->name, $this->id);
        if ($middle === $link->from || $middle === $link->to) {
            throw EditRefused::because(
                'between.end',
                "`{$model->nameOf($middle)}` is an end of this link already. Name what stands between `{$model->nameOf(
                    $link->from,
                )}` and `{$model->nameOf($link->to)}`.",
                'name',
            );
        }
        $model = MapSpots::withBetween($model, $middle, $link->from, $link->to);
        if (SayLink::between($model, $link->from, $middle) !== null) {
            $model = (new DropPart(SayLink::part(), $link->id))->apply($model);
        } else {
            $model = (new PutPart(SayLink::part(), $link->id, ['to' => $middle]))->apply($model);
        }

        return SayLink::between($model, $middle, $link->to) !== null
            ? $model
            : (new PutPart(SayLink::part(), $this->second, ['from' => $middle, 'to' => $link->to, 'sign' => '+']))->apply($model);
    }

    public function words(Model $before): string
    {
        $link = $before->part('causalLinks')[$this->link] ?? null;
        $ends = $link instanceof CausalLink ? " between `{$before->nameOf($link->from)}` and `{$before->nameOf($link->to)}`" : '';

        return 'Put `'.Name::tidy($this->name).'`'.$ends;
    }
}
