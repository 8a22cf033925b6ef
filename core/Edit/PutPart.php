<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Part;
use MerryOrbit\Core\Model\Readable;
use MerryOrbit\Core\Model\Recorded;
use MerryOrbit\Core\Model\Settled;
use MerryOrbit\Core\Problem\NotUnderstood;

/** Adds one of a part of the document, or changes some fields of one: the others stay as they are, or as somebody else makes them. */
final readonly class PutPart extends Edit
{
    /** @param  array<mixed>  $fields  null takes a field away */
    public function __construct(public Part $part, public string $id, public array $fields)
    {
    }

    public function apply(Model $model): Model
    {
        $all = $model->part($this->part->name);
        $known = $all[$this->id] ?? null;
        if ($known === null && count($all) >= $this->part->most) {
            throw EditRefused::because(
                "{$this->part->word}.many",
                'A study has at most '.number_format($this->part->most)." {$this->part->word}s. Remove some first.",
            );
        }
        $record = array_filter(
            [...$known instanceof Recorded ? $known->toRecord() : [], ...$this->fields, 'id' => $this->id],
            static fn (mixed $v): bool => $v !== null,
        );
        try {
            $value = ($this->part->read)($record);
        } catch (NotUnderstood $e) {
            throw EditRefused::because("{$this->part->word}.unfit", $e->getMessage());
        }
        $value = $value instanceof Settled ? $value->settled($model) : $value;
        $unfit = $value instanceof Readable ? $value->unfit($model) : null;
        if ($unfit !== null) {
            throw EditRefused::because("{$this->part->word}.unfit", $unfit);
        }

        return Mentions::follow($model, $model->with([$this->part->name => [...$all, $this->id => $value]]));
    }

    public function words(Model $before): string
    {
        $known = $before->part($this->part->name)[$this->id] ?? null;
        $record = [
            ...$known instanceof Recorded ? $known->toRecord() : [],
            ...array_filter($this->fields, is_string(...), ARRAY_FILTER_USE_KEY),
        ];

        return trim(
            ($known === null ? 'Added' : 'Changed')." the {$this->part->word} ".$this->part->title($record, $before->nameOf(...)),
        );
    }
}
