<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/**
 * How people speak of more and of less of something: as one thing ("more silt"), as many ("fewer ships"), or in words of their own
 * ("the quay is deeper").
 */
final readonly class Wording implements Readable, Recorded
{
    public const MOST = Model::MOST_ELEMENTS;

    public const NUMBERS = ['one', 'many'];

    private const LONGEST = 120;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'How people speak of more and of less of something.',
        'required' => ['id', 'of'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'of' => ['type' => 'string', 'description' => 'its name'],
            'number' => ['enum' => self::NUMBERS, 'description' => 'more silt, less silt; or more ships, fewer ships'],
            'more' => ['type' => 'string', 'maxLength' => self::LONGEST, 'description' => 'a clause for more of it'],
            'less' => ['type' => 'string', 'maxLength' => self::LONGEST, 'description' => 'a clause for less of it'],
        ],
        'examples' => [['id' => 'w1', 'of' => 'depth at the quay', 'more' => 'the quay is deeper', 'less' => 'the quay is less deep']],
    ];

    /**
     * @param  'one'|'many'|''  $number  empty: nobody has said
     * @param  string  $more  a whole clause; empty where it is made from the name
     */
    public function __construct(
        public string $id,
        public string $of,
        public string $number = '',
        public string $more = '',
        public string $less = '',
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a wording');

        return new self(
            $given->id(),
            $given->words('of', 120),
            $given->oneOf('number', [...self::NUMBERS, ''], ''),
            (string) preg_replace('/\s+/u', ' ', $given->text('more', self::LONGEST)),
            (string) preg_replace('/\s+/u', ' ', $given->text('less', self::LONGEST)),
        );
    }

    public function unfit(Model $model): ?string
    {
        if ($model->element($this->of) === null) {
            return 'What the wording is of is not there.';
        }
        foreach ($model->part('wordings') as $other) {
            if ($other instanceof self && $other->id !== $this->id && $other->of === $this->of) {
                return "There is a wording of `{$model->nameOf($this->of)}` already. Change that one.";
            }
        }

        return null;
    }

    public function toRecord(): array
    {
        return [
            'id' => $this->id,
            'of' => $this->of,
            ...array_filter(
                ['number' => $this->number, 'more' => $this->more, 'less' => $this->less],
                static fn (string $v): bool => $v !== '',
            ),
        ];
    }
}
