<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** What somebody proposes to do, pinned to a thing of the map: how much it would do, and how much it would take. */
final readonly class ActionIdea implements Readable, Recorded
{
    public const MOST = 300;

    public const SIZES = ['small', 'middle', 'great'];

    private const LONGEST = 400;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'What somebody proposes to do.',
        'required' => ['id', 'text'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'text' => ['type' => 'string', 'maxLength' => self::LONGEST],
            'of' => ['type' => 'string', 'description' => 'the name of the thing that it acts on'],
            'link' => ['type' => 'string', 'description' => 'the id of the causal link that it acts on'],
            'effect' => ['enum' => self::SIZES, 'default' => 'middle'],
            'effort' => ['enum' => self::SIZES, 'default' => 'middle'],
        ],
        'examples' => [
            ['id' => 'i1', 'text' => 'Fence the steepest slopes', 'of' => 'bare slopes', 'effect' => 'great', 'effort' => 'middle'],
        ],
    ];

    /**
     * @param  value-of<self::SIZES>  $effect
     * @param  value-of<self::SIZES>  $effort
     */
    public function __construct(
        public string $id,
        public string $text,
        public string $of = '',
        public string $link = '',
        public string $effect = 'middle',
        public string $effort = 'middle',
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'an action idea');

        return new self(
            $given->id(),
            $given->words('text', self::LONGEST),
            $given->text('of', 120),
            $given->text('link', 40),
            $given->oneOf('effect', self::SIZES, 'middle'),
            $given->oneOf('effort', self::SIZES, 'middle'),
        );
    }

    public function unfit(Model $model): ?string
    {
        return null;
    }

    /** Much effect for little effort comes first. */
    private function worth(): int
    {
        return (int) array_search($this->effect, self::SIZES, true) - (int) array_search($this->effort, self::SIZES, true);
    }

    /** @return list<self> of a study, those of most worth first, then by their words */
    public static function ranked(Model $model): array
    {
        $ideas = array_values(array_filter($model->part('actions'), static fn (mixed $a): bool => $a instanceof self));
        usort($ideas, static fn (self $a, self $b): int => $b->worth() <=> $a->worth() ?: strcmp($a->text, $b->text));

        return $ideas;
    }

    public function toRecord(): array
    {
        $fields = [
            'of' => $this->of,
            'link' => $this->link,
            'effect' => $this->effect === 'middle' ? '' : $this->effect,
            'effort' => $this->effort === 'middle' ? '' : $this->effort,
        ];

        return ['id' => $this->id, 'text' => $this->text, ...array_filter($fields, static fn (string $v): bool => $v !== '')];
    }
}
