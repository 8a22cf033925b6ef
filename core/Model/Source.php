<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/**
 * A file with a table of data, and how it is read. The file itself lies outside of the document, under the hash of its content; what is
 * kept of it stands in the evidence.
 */
final readonly class Source implements Readable, Recorded
{
    public const MOST = 200;

    public const LAYOUTS = ['auto', 'down', 'across', 'long'];

    public const DECIMALS = ['auto', '.', ','];

    /** In which order days and months are written. */
    public const DATES = ['auto', 'ymd', 'dmy', 'mdy'];

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'A file with a table of data, and how it is read.',
        'required' => ['id', 'name'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'name' => ['type' => 'string', 'maxLength' => 200, 'description' => 'what the file is called'],
            'content' => ['type' => 'string', 'pattern' => '^([0-9a-f]{64})?$', 'description' => 'the SHA-256 of the file'],
            'sheet' => ['type' => 'string', 'maxLength' => 120],
            'layout' => ['enum' => self::LAYOUTS, 'default' => 'auto'],
            'decimal' => ['enum' => self::DECIMALS, 'default' => 'auto'],
            'dates' => ['enum' => self::DATES, 'default' => 'auto'],
            'names' => ['type' => 'integer', 'minimum' => 0, 'description' => 'the row of the names, from 1; 0 where it is found'],
            'time' => ['type' => 'string', 'maxLength' => 120, 'description' => 'the column that says the time; empty where it is found'],
            'steps' => ['type' => 'array', 'maxItems' => CleaningStep::MOST, 'items' => CleaningStep::SCHEMA],
            'station' => ['type' => 'string', 'maxLength' => 120, 'description' => 'the measuring station that it was heard from'],
            'note' => ['type' => 'string', 'maxLength' => 2_000],
        ],
        'examples' => [['id' => 's1', 'name' => 'dive counts.csv', 'decimal' => ',', 'names' => 3]],
    ];

    /**
     * @param  value-of<self::LAYOUTS>  $layout
     * @param  value-of<self::DECIMALS>  $decimal
     * @param  value-of<self::DATES>  $dates
     * @param  list<CleaningStep>  $steps
     */
    public function __construct(
        public string $id,
        public string $name,
        public string $content = '',
        public string $sheet = '',
        public string $layout = 'auto',
        public string $decimal = 'auto',
        public string $dates = 'auto',
        public int $names = 0,
        public string $time = '',
        public string $note = '',
        public array $steps = [],
        public string $station = '',
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a source');

        return new self(
            $given->id(),
            $given->words('name', 200),
            $given->hash('content'),
            $given->text('sheet', 120),
            $given->oneOf('layout', self::LAYOUTS, 'auto'),
            $given->oneOf('decimal', self::DECIMALS, 'auto'),
            $given->oneOf('dates', self::DATES, 'auto'),
            (int) $given->number('names', 0, 1e6, 0),
            $given->text('time', 120),
            $given->text('note', 2_000),
            CleaningStep::list($given->any('steps')),
            $given->text('station', 120),
        );
    }

    public function unfit(Model $model): ?string
    {
        return null;
    }

    public function toRecord(): array
    {
        $fields = [
            'content' => $this->content,
            'sheet' => $this->sheet,
            'time' => $this->time,
            'note' => $this->note,
            'station' => $this->station,
        ];
        $found = ['layout' => $this->layout, 'decimal' => $this->decimal, 'dates' => $this->dates];

        return [
            'id' => $this->id,
            'name' => $this->name,
            ...array_filter($fields, static fn (string $v): bool => $v !== ''),
            ...array_filter($found, static fn (string $v): bool => $v !== 'auto'),
            ...$this->names === 0 ? [] : ['names' => $this->names],
            ...$this->steps === [] ? [] : ['steps' => array_map(static fn (CleaningStep $s): array => $s->toRecord(), $this->steps)],
        ];
    }
}
