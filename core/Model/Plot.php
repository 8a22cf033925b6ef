<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Problem\NotUnderstood;

/** How variables are looked at: an arrangement that is saved, as a track at the foot or under a name. What it shows are the runs of the day. */
final readonly class Plot implements Readable, Recorded
{
    /** Of a phase plot the first variable runs across. */
    public const KINDS = ['lines', 'phase', 'bars', 'histogram', 'multiples', 'table', 'heat'];

    /**
     * What is shown of a variable: its value; a share of its own range; per cent of what it is at the start; how fast it grows, as a
     * share of itself for each unit of time; its difference from the baseline.
     */
    public const MEASURES = ['value', 'normalised', 'percent', 'growth', 'difference', 'difference-percent'];

    public const MOST_VARIABLES = 60;

    public const MOST = 300;

    private const MOST_TIMES = 400;

    private const NUMBERS = ['low', 'high', 'across-low', 'across-high', 'from', 'to'];

    private const SWITCHES = ['log', 'own', 'stacked', 'totals', 'fit', 'zero', 'each'];

    private const PICKS = ['greatest', 'least'];

    private const MOST_MARKS = 20;

    private const END = ['type' => ['number', 'string']];

    private const LABEL = ['type' => 'string', 'maxLength' => Name::LONGEST];

    public const SCHEMA = [
        'type' => 'object',
        'required' => ['id', 'of'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'name' => self::LABEL,
            'of' => [
                'type' => 'array',
                'maxItems' => self::MOST_VARIABLES,
                'description' => 'Names of elements; of a phase plot the first runs across.',
                'items' => ['type' => 'string'],
            ],
            'kind' => ['enum' => self::KINDS],
            'options' => [
                'type' => 'object',
                'additionalProperties' => false,
                'properties' => [
                    'low' => ['type' => 'number'],
                    'high' => ['type' => 'number'],
                    'across-low' => ['type' => 'number'],
                    'across-high' => ['type' => 'number'],
                    'from' => ['type' => 'number'],
                    'to' => ['type' => 'number'],
                    'log' => ['type' => 'boolean'],
                    'own' => ['type' => 'boolean'],
                    'stacked' => ['type' => 'boolean'],
                    'totals' => ['type' => 'boolean'],
                    'fit' => ['type' => 'boolean', 'description' => 'The scale fits what is shown, with or without zero.'],
                    'zero' => ['type' => 'boolean', 'description' => 'Zero is in sight where it usually is not: in phase plots.'],
                    'digits' => ['type' => 'integer', 'minimum' => 3, 'maximum' => 15, 'description' => 'Of a table.'],
                    'measure' => ['enum' => self::MEASURES],
                    'times' => ['type' => 'array', 'items' => ['type' => 'number']],
                    'turned' => [
                        'type' => 'object',
                        'additionalProperties' => false,
                        'description' => 'How a table is turned: what goes down and across, of variable, run, time and ids of dimensions; '.
                            'all else is one of each, which `picks` names.',
                        'properties' => [
                            'rows' => ['type' => 'array', 'items' => ['type' => 'string']],
                            'columns' => ['type' => 'array', 'items' => ['type' => 'string']],
                            'picks' => ['type' => 'object', 'additionalProperties' => ['type' => 'string']],
                        ],
                    ],
                    'each' => [
                        'type' => 'boolean',
                        'description' => 'Of small plots: one for each variable or element, in place of one for each run.',
                    ],
                    'pick' => [
                        'enum' => self::PICKS,
                        'description' => 'Of a variable with many elements the ten with the greatest or least value at the end, in place of the first.',
                    ],
                    'bins' => ['type' => 'integer'],
                    'marks' => [
                        'type' => 'array',
                        'maxItems' => self::MOST_MARKS,
                        'description' => 'Lines across the plot, or bands: at a number, or at the values of the element of that name.',
                        'items' => [
                            'type' => 'object',
                            'required' => ['at'],
                            'additionalProperties' => false,
                            'properties' => ['at' => self::END, 'to' => self::END, 'name' => self::LABEL],
                        ],
                    ],
                    'periods' => [
                        'type' => 'array',
                        'maxItems' => self::MOST_MARKS,
                        'description' => 'Parts of time that are shaded.',
                        'items' => [
                            'type' => 'object',
                            'required' => ['from', 'until'],
                            'additionalProperties' => false,
                            'properties' => ['from' => ['type' => 'number'], 'until' => ['type' => 'number'], 'name' => self::LABEL],
                        ],
                    ],
                ],
            ],
            'pin' => [
                'type' => 'object',
                'description' => 'Where it stands on a sheet.',
                'required' => ['sheet', 'x', 'y'],
                'additionalProperties' => false,
                'properties' => ['sheet' => ['type' => 'string'], 'x' => ['type' => 'number'], 'y' => ['type' => 'number']],
            ],
        ],
    ];

    /**
     * @param  list<string>  $of  element ids
     * @param  array<string, mixed>  $options  low, high (of the scale), across-low, across-high (of the axis across of a phase plot), from, to (of time), log, own (a scale of its own for each variable),
     *                                         fit (the scale to what is shown), zero (in sight where that is not usual), stacked, totals, digits (of a table), measure, times, bins, marks, periods
     * @param  ?array{sheet: string, x: float, y: float}  $pin  where it stands on a sheet
     */
    public function __construct(
        public string $id,
        public array $of,
        public string $kind = 'lines',
        public string $name = '',
        public array $options = [],
        public ?array $pin = null,
    ) {
    }

    /** The track of one variable alone. */
    public static function track(string $element): self
    {
        return new self('t-'.substr($element, 0, 38), [$element]);
    }

    /** @throws NotUnderstood */
    public static function read(mixed $record): self
    {
        $id = is_array($record) ? $record['id'] ?? null : null;
        if (! is_array($record) || ! is_string($id) || ! Element::isId($id)) {
            throw NotUnderstood::because('A plot needs an id of up to 40 small letters, digits and hyphens.');
        }
        [$of, $kind, $name] = [$record['of'] ?? null, $record['kind'] ?? 'lines', $record['name'] ?? ''];
        if (! is_array($of) || array_filter($of, Element::isId(...)) !== $of || count($of) > self::MOST_VARIABLES) {
            throw NotUnderstood::because('A plot names in `of` the ids of what it shows, at most '.self::MOST_VARIABLES.'.');
        }
        if (! in_array($kind, self::KINDS, true)) {
            throw NotUnderstood::because('The kind of a plot is one of '.implode(', ', self::KINDS).'.');
        }
        if (! is_string($name) || mb_strlen($name) > Name::LONGEST) {
            throw NotUnderstood::because('The name of a plot is text of at most '.Name::LONGEST.' characters.');
        }
        $options = $record['options'] ?? [];

        return new self(
            $id,
            array_values(array_unique(array_filter($of, is_string(...)))),
            $kind,
            trim($name),
            self::options(is_array($options) ? $options : []),
            self::pin($record['pin'] ?? null),
        );
    }

    /**
     * @param  array<mixed>  $given
     * @return array<string, mixed>
     */
    private static function options(array $given): array
    {
        $options = [];
        foreach ($given as $key => $value) {
            if ($value === null) {
                continue;
            }
            $options[(string) $key] = match (true) {
                in_array($key, self::NUMBERS, true) => self::number($value) ??
                    throw NotUnderstood::because("`$key` of a plot is a number."),
                in_array($key, self::SWITCHES, true) => is_bool($value)
                    ? $value
                    : throw NotUnderstood::because("`$key` of a plot is true or false."),
                $key === 'measure' => in_array($value, self::MEASURES, true)
                    ? $value
                    : throw NotUnderstood::because('A plot shows '.implode(', ', self::MEASURES).'.'),
                $key === 'pick' => in_array($value, self::PICKS, true)
                    ? $value
                    : throw NotUnderstood::because('Of many elements a plot picks '.implode(' or ', self::PICKS).'.'),
                $key === 'bins' => is_int($value) && $value >= 2 && $value <= 200
                    ? $value
                    : throw NotUnderstood::because('A histogram has 2 to 200 bins.'),
                $key === 'digits' => is_int($value) && $value >= 3 && $value <= 15
                    ? $value
                    : throw NotUnderstood::because('A table shows 3 to 15 digits.'),
                $key === 'times' => self::times($value),
                $key === 'turned' => self::turned($value),
                $key === 'marks' => self::marks($value),
                $key === 'periods' => self::periods($value),
                default => throw NotUnderstood::because("A plot has no option `$key`."),
            };
        }
        foreach ([['low', 'high'], ['across-low', 'across-high'], ['from', 'to']] as [$a, $b]) {
            if (isset($options[$a], $options[$b]) && $options[$a] >= $options[$b]) {
                throw NotUnderstood::because("`$b` of a plot has to be larger than `$a`.");
            }
        }
        ksort($options);

        return array_filter($options, static fn (mixed $v): bool => $v !== false && $v !== 'value' && $v !== []);
    }

    private static function number(mixed $value): ?float
    {
        return (is_int($value) || is_float($value)) && is_finite((float) $value) ? (float) $value : null;
    }

    /** @return list<float> */
    private static function times(mixed $value): array
    {
        $times = is_array($value) ? array_map(self::number(...), array_values($value)) : [null];
        if (in_array(null, $times, true) || count($times) > self::MOST_TIMES) {
            throw NotUnderstood::because('`times` of a plot is a list of at most '.self::MOST_TIMES.' numbers.');
        }
        $times = array_values(array_unique(array_filter($times, is_float(...))));
        sort($times);

        return $times;
    }

    /** @return array{rows: list<string>, columns: list<string>, picks: array<string, string>} */
    private static function turned(mixed $value): array
    {
        $given = is_array($value) ? $value : [];
        $texts = static fn (mixed $list): array => array_filter(
            is_array($list) ? $list : [null],
            static fn (mixed $one): bool => is_string($one) && $one !== '' && strlen($one) <= 80,
        );
        [$rows, $columns, $picks] = [$given['rows'] ?? [], $given['columns'] ?? [], $given['picks'] ?? []];
        if (
            $texts($rows) !== $rows ||
            $texts($columns) !== $columns ||
            $texts($picks) !== $picks ||
            count($rows) + count($columns) > 20
        ) {
            throw NotUnderstood::because(
                'A turned table names in `rows` and `columns` what goes down and across, and in `picks` one of all else.',
            );
        }

        return [
            'rows' => array_values($rows),
            'columns' => array_values($columns),
            'picks' => array_filter($picks, is_string(...), ARRAY_FILTER_USE_KEY),
        ];
    }

    /**
     * Lines across the plot, or bands where there are two of them: each at a number or at a variable's values.
     *
     * @return list<array{at: float|string, to?: float|string, name?: string}>
     */
    private static function marks(mixed $value): array
    {
        $marks = [];
        foreach (is_array($value) ? array_values($value) : [null] as $mark) {
            $fields = [];
            foreach (['at', 'to'] as $key) {
                $end = is_array($mark) ? $mark[$key] ?? null : null;
                if ($end !== null) {
                    $fields[$key] =
                        is_string($end) && Element::isId($end)
                            ? $end
                            : self::number($end) ??
                                throw NotUnderstood::because(
                                    'A line across a plot lies at a number, or at the values of a variable that is named by its id.',
                                );
                }
            }
            if (! isset($fields['at']) || count($marks) >= self::MOST_MARKS) {
                throw NotUnderstood::because(
                    'A plot has at most '.self::MOST_MARKS.' lines or bands, each with the number or variable it lies at.',
                );
            }
            $marks[] = [...$fields, ...self::called($mark)];
        }

        return $marks;
    }

    /** @return list<array{from: float, until: float, name?: string}> */
    private static function periods(mixed $value): array
    {
        $periods = [];
        foreach (is_array($value) ? array_values($value) : [null] as $period) {
            [$from, $until] = is_array($period)
                ? [self::number($period['from'] ?? null), self::number($period['until'] ?? null)]
                : [null, null];
            if (! is_array($period) || $from === null || $until === null || $from >= $until || count($periods) >= self::MOST_MARKS) {
                throw NotUnderstood::because(
                    'A plot has at most '.self::MOST_MARKS.' shaded periods, each from a time until a later one.',
                );
            }
            $periods[] = ['from' => $from, 'until' => $until, ...self::called($period)];
        }

        return $periods;
    }

    /**
     * @return array{name?: string}
     */
    private static function called(mixed $given): array
    {
        $name = is_array($given) ? $given['name'] ?? '' : '';

        return is_string($name) && trim($name) !== '' ? ['name' => mb_substr(trim($name), 0, Name::LONGEST)] : [];
    }

    /** @return ?array{sheet: string, x: float, y: float} */
    private static function pin(mixed $pin): ?array
    {
        if (! is_array($pin)) {
            return null;
        }
        [$sheet, $x, $y] = [$pin['sheet'] ?? null, self::number($pin['x'] ?? null), self::number($pin['y'] ?? null)];
        if (! is_string($sheet) || $x === null || $y === null || max(abs($x), abs($y)) > Point::FARTHEST) {
            throw NotUnderstood::because('A pinned plot has a sheet and a place on it.');
        }

        return ['sheet' => $sheet, 'x' => $x, 'y' => $y];
    }

    /** @param  list<string>  $of */
    public function showing(array $of): self
    {
        return new self($this->id, $of, $this->kind, $this->name, $this->options, $this->pin);
    }

    public function unfit(Model $model): ?string
    {
        return null;
    }

    public function toRecord(): array
    {
        return [
            'id' => $this->id,
            'of' => $this->of,
            ...$this->kind === 'lines' ? [] : ['kind' => $this->kind],
            ...array_filter(
                ['name' => $this->name, 'options' => $this->options, 'pin' => $this->pin],
                static fn (mixed $v): bool => $v !== '' && $v !== [] && $v !== null,
            ),
        ];
    }
}
