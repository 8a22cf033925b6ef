<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * One thing that is done to the table of a source, on the way from the file to the series that are kept. It is a value: what it does
 * is in Data\Steps, and the same steps on the same files give the same series.
 */
final readonly class CleaningStep implements Recorded
{
    public const MOST = 60;

    public const DOES = [
        'rename',
        'leave out',
        'scale',
        'set aside',
        'mend',
        'gaps',
        'fill',
        'over time',
        'over mapping',
        'gather',
        'spread',
        'join',
        'rate',
        'amount',
        'index',
    ];

    /** What many values become, or how gaps are filled. */
    public const TAKES = ['', 'sum', 'mean', 'weighted', 'least', 'greatest', 'first', 'last', 'straight', 'overlap', 'plain'];

    private const SERIES = 400;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'One thing that is done to the table on the way to what is kept of it.',
        'required' => ['do'],
        'additionalProperties' => false,
        'properties' => [
            'do' => ['enum' => self::DOES],
            'off' => ['type' => 'boolean', 'default' => false, 'description' => 'it is passed over'],
            'series' => [
                'type' => 'array',
                'maxItems' => self::SERIES,
                'items' => ['type' => 'string', 'maxLength' => 300],
                'description' => 'names of series, or of one element of one as `catch[North]`; left out: all',
            ],
            'to' => [
                'type' => 'string',
                'maxLength' => 300,
                'description' => 'the new name; the new unit; year, quarter, month, week, day or a number of the table\'s own unit of time; '.
                    'the column of the mapping that it goes to; the unit of time of a rate',
            ],
            'along' => ['type' => 'string', 'maxLength' => 300, 'description' => 'what tells the rows of one time apart, as `cove`'],
            'take' => ['enum' => self::TAKES, 'default' => '', 'description' => 'what many values become, or how gaps are filled'],
            'factor' => ['type' => 'number', 'default' => 1],
            'plus' => ['type' => 'number', 'default' => 0],
            'value' => ['type' => 'number', 'description' => 'what stands there instead'],
            'at' => ['type' => 'string', 'maxLength' => 60, 'description' => 'a time of the table, as it is told'],
            'source' => ['type' => 'string', 'maxLength' => 40, 'description' => 'the id of another source'],
            'from' => [
                'type' => 'string',
                'maxLength' => 300,
                'description' => 'the series that fills gaps; the column of the mapping that it goes from, where it is called otherwise there',
            ],
            'share' => ['type' => 'string', 'maxLength' => 300, 'description' => 'the column of the mapping that holds shares'],
            'note' => ['type' => 'string', 'maxLength' => 2_000],
        ],
        'examples' => [['do' => 'over time', 'to' => 'year', 'take' => 'sum', 'series' => ['catch']]],
    ];

    /**
     * @param  value-of<self::DOES>  $do
     * @param  list<string>  $series
     * @param  value-of<self::TAKES>  $take
     */
    public function __construct(
        public string $do,
        public array $series = [],
        public string $to = '',
        public string $along = '',
        public string $take = '',
        public float $factor = 1.0,
        public float $plus = 0.0,
        public string $at = '',
        public string $source = '',
        public string $from = '',
        public string $share = '',
        public string $note = '',
        public bool $isOff = false,
        public ?float $value = null,
    ) {
    }

    /** @throws NotUnderstood */
    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a step');
        if (! in_array($given->any('do'), self::DOES, true)) {
            throw NotUnderstood::because('`do` of a step is one of '.implode(', ', self::DOES).'.');
        }

        return new self(
            $given->oneOf('do', self::DOES, 'rename'),
            $given->texts('series', self::SERIES, 300),
            $given->text('to', 300),
            $given->text('along', 300),
            $given->oneOf('take', self::TAKES, ''),
            $given->number('factor', -1e30, 1e30, 1.0),
            $given->number('plus', -1e30, 1e30, 0.0),
            $given->text('at', 60),
            $given->text('source', 40),
            $given->text('from', 300),
            $given->text('share', 300),
            $given->text('note', 2_000),
            $given->flag('off'),
            $given->any('value') === null ? null : $given->number('value', -1e300, 1e300, 0.0),
        );
    }

    /**
     * @return list<self>
     *
     * @throws NotUnderstood
     */
    public static function list(mixed $records): array
    {
        if ($records === null) {
            return [];
        }

        return is_array($records) && array_is_list($records) && count($records) <= self::MOST
            ? array_map(self::read(...), $records)
            : throw NotUnderstood::because('`steps` of a source is a list of at most '.self::MOST.' steps.');
    }

    public function toRecord(): array
    {
        $words = [
            'to' => $this->to,
            'along' => $this->along,
            'take' => $this->take,
            'at' => $this->at,
            'source' => $this->source,
            'from' => $this->from,
            'share' => $this->share,
            'note' => $this->note,
        ];

        return [
            'do' => $this->do,
            ...$this->isOff ? ['off' => true] : [],
            ...$this->series === [] ? [] : ['series' => $this->series],
            ...array_filter($words, static fn (string $w): bool => $w !== ''),
            ...$this->factor === 1.0 ? [] : ['factor' => $this->factor],
            ...$this->plus === 0.0 ? [] : ['plus' => $this->plus],
            ...$this->value === null ? [] : ['value' => $this->value],
        ];
    }
}
