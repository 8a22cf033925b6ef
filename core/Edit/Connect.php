<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Link;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;

/** A causal link drawn by hand; it waits until the formula uses it. */
final readonly class Connect extends Edit
{
    public function __construct(public string $from, public string $to)
    {
    }

    public function apply(Model $model): Model
    {
        $to = Computing::element($model, $this->to);
        $from = $model->made()[$this->from] ?? Computing::element($model, $this->from)->name;
        if ($this->from === $this->to) {
            throw EditRefused::because('link.self', "A link leads from one thing to another; `$to->name` cannot be linked to itself.");
        }
        if ($to instanceof Parameter) {
            throw EditRefused::because(
                'link.parameter',
                "`$to->name` is a parameter: a plain number that depends on nothing. Make it an auxiliary to compute it from `$from`.",
            );
        }
        if ($to->mentions($this->from)) {
            throw EditRefused::because('link.used', "`$to->name` already uses `$from`.");
        }
        $link = new Link($this->from, $this->to);

        return Echoes::complete($model->with(['links' => [...$model->links, $link->key() => $link]]), [$this->to]);
    }

    public function words(Model $before): string
    {
        return 'Linked `'.$before->nameOf($this->from).'` to `'.$before->nameOf($this->to).'`';
    }
}
