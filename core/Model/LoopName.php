<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Problem\NotUnderstood;

/** What people call a feedback loop, which is known by the way that it goes. */
final readonly class LoopName implements Readable, Recorded
{
    public const MOST = 500;

    private const LONGEST_PATH = 200;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'What people call a feedback loop.',
        'required' => ['id', 'name', 'path'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'name' => ['type' => 'string', 'maxLength' => 120],
            'path' => [
                'type' => 'array',
                'minItems' => 1,
                'maxItems' => self::LONGEST_PATH,
                'description' => 'names of what it passes, in order, from any of them on',
                'items' => ['type' => 'string'],
            ],
        ],
        'examples' => [['id' => 'n1', 'name' => 'Mud smothers the meadow', 'path' => ['seagrass', 'silt settling']]],
    ];

    /** @param  non-empty-list<string>  $path */
    public function __construct(public string $id, public string $name, public array $path)
    {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'the name of a loop');
        $path = $given->texts('path', self::LONGEST_PATH, 120);

        return $path === []
            ? throw NotUnderstood::because('The name of a loop needs `path`: what it passes, in order.')
            : new self($given->id(), $given->words('name', 120), $path);
    }

    public function unfit(Model $model): ?string
    {
        return null;
    }

    /** The same for the same loop, wherever its path begins. */
    public static function keyOf(string ...$path): string
    {
        $path = array_values($path);
        if ($path === []) {
            return '';
        }
        $least = (int) array_search(min($path), $path, true);

        return implode("\n", [...array_slice($path, $least), ...array_slice($path, 0, $least)]);
    }

    public function toRecord(): array
    {
        return ['id' => $this->id, 'name' => $this->name, 'path' => $this->path];
    }
}
