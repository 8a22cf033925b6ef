<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Problem\NotUnderstood;

/** A named setting, which may build on others. */
final readonly class Scenario implements Readable, Recorded, Settled
{
    public const MOST = 500;

    public const SCHEMA = [
        'type' => 'object',
        'required' => ['id', 'name'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'name' => ['type' => 'string'],
            'note' => ['type' => 'string'],
            'on' => [
                'type' => 'array',
                'description' => 'Ids of the scenarios it builds on; the later one decides.',
                'items' => ['type' => 'string'],
            ],
            'setting' => ['$ref' => '#/$defs/setting'],
            'place' => ['type' => 'number'],
        ],
    ];

    /** @param  list<string>  $on  ids of the scenarios it builds on, the later one deciding */
    public function __construct(
        public string $id,
        public string $name,
        public string $note = '',
        public array $on = [],
        public Setting $setting = new Setting(),
        /** Where it stands among the others. */ public float $place = 0.0,
    ) {
    }

    /**
     * The scenarios that one stands on, itself last: each after those it builds on, in the order in which they are named, and
     * each once, where it is first needed. A later one decides over an earlier one.
     *
     * @param  array<string, Scenario>  $all  by id
     * @return list<Scenario>
     */
    public static function stack(array $all, string $id): array
    {
        $stack = [];
        $seen = [];
        $visit = static function (string $id) use (&$visit, &$stack, &$seen, $all): void {
            $scenario = $all[$id] ?? null;
            if ($scenario === null || isset($seen[$id])) {
                return;
            }
            $seen[$id] = true;
            foreach ($scenario->on as $below) {
                $visit($below);
            }
            $stack[] = $scenario;
        };
        $visit($id);

        return $stack;
    }

    /**
     * What a scenario comes to, with all that it builds on.
     *
     * @param  array<string, Scenario>  $all  by id
     */
    public static function settingOf(array $all, string $id): Setting
    {
        return array_reduce(
            self::stack($all, $id),
            static fn (Setting $below, Scenario $s): Setting => $s->setting->over($below),
            new Setting(),
        );
    }

    public function settled(Model $model): static
    {
        return new self($this->id, $this->name, $this->note, $this->on, $this->setting->settled($model->dimensions()), $this->place);
    }

    public function unfit(Model $model): ?string
    {
        return null;
    }

    public function toRecord(): array
    {
        return [
            'id' => $this->id,
            'name' => $this->name,
            'note' => $this->note,
            'on' => $this->on,
            'setting' => $this->setting->toRecord(),
            'place' => $this->place,
        ];
    }

    /** @throws NotUnderstood */
    public static function read(mixed $record): self
    {
        $id = is_array($record) ? $record['id'] ?? null : null;
        if (! is_array($record) || ! is_string($id) || ! Element::isId($id)) {
            throw NotUnderstood::because('A scenario needs an id of up to 40 small letters, digits and hyphens.');
        }
        [$name, $note, $on, $place] = [$record['name'] ?? '', $record['note'] ?? '', $record['on'] ?? [], $record['place'] ?? 0.0];
        if (
            ! is_string($name) ||
            ! is_string($note) ||
            ! is_array($on) ||
            array_filter($on, Element::isId(...)) !== $on ||
            (! is_int($place) && ! is_float($place))
        ) {
            throw NotUnderstood::because('A scenario has a name, a note, and in `on` the ids of the scenarios it builds on.');
        }

        return new self(
            $id,
            $name,
            $note,
            array_values(array_filter($on, is_string(...))),
            Setting::read($record['setting'] ?? []),
            (float) $place,
        );
    }
}
