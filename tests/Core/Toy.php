<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Part;
use MerryOrbit\Core\Model\Readable;
use MerryOrbit\Core\Model\Recorded;
use MerryOrbit\Core\Problem\NotUnderstood;

/** A part that exists only in tests: what has to be written for a new one is this class and the line in part(). */
final readonly class Toy implements Readable, Recorded
{
    public function __construct(public string $id, public string $name, public ?string $owner = null, public float $size = 1.0)
    {
    }

    public static function part(): Part
    {
        return Part::of(
            'toys',
            'toy',
            self::class,
            3,
            ['owner'],
            ['owner'],
            [
                'type' => 'object',
                'required' => ['id'],
                'properties' => [
                    'id' => ['type' => 'string'],
                    'name' => ['type' => 'string'],
                    'owner' => ['type' => 'string'],
                    'size' => ['type' => 'number'],
                ],
            ],
        );
    }

    public static function read(mixed $record): self
    {
        $given = is_array($record) ? $record : [];
        [$id, $name, $owner, $size] = [$given['id'] ?? null, $given['name'] ?? '', $given['owner'] ?? null, $given['size'] ?? 1];
        if (
            ! is_string($id) ||
            ! Element::isId($id) ||
            ! is_string($name) ||
            ! ($owner === null || is_string($owner)) ||
            ! (is_int($size) || is_float($size))
        ) {
            throw NotUnderstood::because('A toy has an id, a name, perhaps an owner, and a size that is a number.');
        }

        return new self($id, $name, $owner, (float) $size);
    }

    public function unfit(Model $model): ?string
    {
        return $this->owner === null || $model->element($this->owner) !== null ? null : 'The owner of a toy is a thing of the model.';
    }

    public function toRecord(): array
    {
        return [
            'id' => $this->id,
            'name' => $this->name,
            ...$this->owner === null ? [] : ['owner' => $this->owner],
            'size' => $this->size,
        ];
    }
}
