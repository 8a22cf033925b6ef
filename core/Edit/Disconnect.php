<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Link;
use MerryOrbit\Core\Model\Model;

/** Takes away a link that waits to be used. A link that a formula uses goes with the formula. */
final readonly class Disconnect extends Edit
{
    public function __construct(public string $from, public string $to)
    {
    }

    public function apply(Model $model): Model
    {
        $key = (new Link($this->from, $this->to))->key();
        if (! isset($model->links[$key])) {
            $to = $model->element($this->to);
            $from = $model->nameOf($this->from);
            throw $to !== null && $to->mentions($this->from)
                ? EditRefused::because(
                    'link.used',
                    "`$to->name` uses `$from` in its {$to->formulaWord()}. Take it out there, and the link goes too.",
                )
                : EditRefused::gone();
        }

        return $model->with(['links' => array_diff_key($model->links, [$key => true])]);
    }

    public function words(Model $before): string
    {
        return 'Removed the link from `'.$before->nameOf($this->from).'` to `'.$before->nameOf($this->to).'`';
    }
}
