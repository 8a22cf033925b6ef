<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Link;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Point;

/** Pulls the middle of a link aside, or lets it find its own way again. */
final readonly class BendLink extends Edit
{
    public function __construct(
        public string $from,
        public string $to,
        /** From the middle of the straight way; null for none. */ public ?Point $by,
    ) {
    }

    public function apply(Model $model): Model
    {
        if ($model->element($this->from) === null || $model->element($this->to) === null) {
            throw EditRefused::gone();
        }
        $key = (new Link($this->from, $this->to))->key();

        return $model->with([
            'bends' => $this->by === null ? array_diff_key($model->bends, [$key => true]) : [...$model->bends, $key => $this->by],
        ]);
    }

    public function words(Model $before): string
    {
        return ($this->by === null ? 'Straightened' : 'Bent').
            ' the link from `'.
            $before->nameOf($this->from).
            '` to `'.
            $before->nameOf($this->to).
            '`';
    }
}
