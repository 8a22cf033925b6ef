<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * A page for readers: words, results that follow a few inputs, and steps that are turned like pages, each with a setting of the model. What
 * a reader may ask of the model is what stands here, and nothing else.
 *
 * @phpstan-type Input array{id: string, of: string, kind: value-of<self::INPUTS>, words: string, hint: string, low: float, high: float, step: float, lowWords: string, highWords: string, choices: list<array{words: string, value: float}>, likely: bool}
 * @phpstan-type Step array{id: string, title: string, words: string, scenario: string, parameters: array<string, float>, inputs: list<string>}
 * @phpstan-type Told array{id: string, of: string, kind: value-of<self::NUMBERS>, time: float}
 * @phpstan-type Mark array{words: string, of: string, number: float}
 * @phpstan-type Block array{id: string, kind: value-of<self::BLOCKS>, step: string, words: string, of: list<string>, numbers: list<Told>, marks: list<Mark>, width: int, finding: string}
 */
final readonly class Showcase implements Readable, Recorded
{
    public const MOST = 20;

    /** How an input is moved. */
    public const INPUTS = ['dial', 'number', 'switch', 'list'];

    /** What a block shows. */
    public const BLOCKS = ['text', 'plot', 'table', 'map', 'loops', 'finding'];

    /** What of a variable a number in a text tells. */
    public const NUMBERS = ['last', 'at', 'min', 'max', 'peak'];

    public const MOST_INPUTS = 12;

    public const MOST_STEPS = 20;

    public const MOST_BLOCKS = 60;

    public const MOST_OF = 12;

    private const MOST_LINES = 20;

    private const LONG = 4_000;

    private const SHORT = 200;

    /** Columns of the grid that blocks stand in. */
    public const COLUMNS = 12;

    private const SHORT_TEXT = ['type' => 'string', 'maxLength' => self::SHORT];

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'A page for readers: words, inputs, and results that follow them.',
        'required' => ['id', 'title'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'title' => ['type' => 'string', 'maxLength' => self::SHORT],
            'lead' => ['type' => 'string', 'maxLength' => self::LONG, 'description' => 'what stands under the title'],
            'turned' => [
                'type' => 'boolean',
                'default' => false,
                'description' => 'its steps are turned like pages; else they stand one under the other',
            ],
            'inputs' => [
                'type' => 'array',
                'maxItems' => self::MOST_INPUTS,
                'items' => [
                    'type' => 'object',
                    'required' => ['id', 'of', 'words'],
                    'additionalProperties' => false,
                    'properties' => [
                        'id' => ['$ref' => '#/$defs/id'],
                        'of' => ['type' => 'string', 'description' => 'the name of a parameter'],
                        'kind' => ['enum' => self::INPUTS, 'default' => 'dial'],
                        'words' => [...self::SHORT_TEXT, 'description' => 'what readers call it'],
                        'hint' => self::SHORT_TEXT,
                        'low' => ['type' => 'number', 'description' => 'of a dial and a number; of a switch that is off'],
                        'high' => ['type' => 'number', 'description' => 'of a dial and a number; of a switch that is on'],
                        'step' => ['type' => 'number', 'default' => 0, 'description' => '0: any number between'],
                        'lowWords' => self::SHORT_TEXT,
                        'highWords' => self::SHORT_TEXT,
                        'likely' => [
                            'type' => 'boolean',
                            'default' => false,
                            'description' => 'readers may look at how likely its values are, where the study says so',
                        ],
                        'choices' => [
                            'type' => 'array',
                            'maxItems' => self::MOST_LINES,
                            'items' => [
                                'type' => 'object',
                                'required' => ['words', 'value'],
                                'additionalProperties' => false,
                                'properties' => ['words' => self::SHORT_TEXT, 'value' => ['type' => 'number']],
                            ],
                        ],
                    ],
                ],
            ],
            'steps' => [
                'type' => 'array',
                'maxItems' => self::MOST_STEPS,
                'items' => [
                    'type' => 'object',
                    'required' => ['id', 'title'],
                    'additionalProperties' => false,
                    'properties' => [
                        'id' => ['$ref' => '#/$defs/id'],
                        'title' => self::SHORT_TEXT,
                        'words' => ['type' => 'string', 'maxLength' => self::LONG],
                        'scenario' => ['type' => 'string', 'description' => 'the id of one'],
                        'parameters' => [
                            'type' => 'object',
                            'additionalProperties' => ['type' => 'number'],
                            'description' => 'by name, on top of the scenario',
                        ],
                        'inputs' => [
                            'type' => 'array',
                            'items' => ['$ref' => '#/$defs/id'],
                            'description' => 'which ones; all where it is left out',
                        ],
                    ],
                ],
            ],
            'blocks' => [
                'type' => 'array',
                'maxItems' => self::MOST_BLOCKS,
                'description' => 'in the order of reading',
                'items' => [
                    'type' => 'object',
                    'required' => ['id', 'kind'],
                    'additionalProperties' => false,
                    'properties' => [
                        'id' => ['$ref' => '#/$defs/id'],
                        'kind' => ['enum' => self::BLOCKS],
                        'step' => ['type' => 'string', 'description' => 'the id of the step it belongs to; left out: all'],
                        'words' => [
                            'type' => 'string',
                            'maxLength' => self::LONG,
                            'description' => 'the text, in which {ID} stands for a number; of a plot or table its title',
                        ],
                        'of' => [
                            'type' => 'array',
                            'maxItems' => self::MOST_OF,
                            'items' => ['type' => 'string'],
                            'description' => 'names of variables; of loops, of factors that they pass',
                        ],
                        'numbers' => [
                            'type' => 'array',
                            'maxItems' => self::MOST_LINES,
                            'items' => [
                                'type' => 'object',
                                'required' => ['id', 'of'],
                                'additionalProperties' => false,
                                'properties' => [
                                    'id' => ['$ref' => '#/$defs/id'],
                                    'of' => ['type' => 'string', 'description' => 'the name of a variable'],
                                    'kind' => ['enum' => self::NUMBERS, 'default' => 'last'],
                                    'time' => ['type' => 'number', 'description' => 'for `at`'],
                                ],
                            ],
                        ],
                        'marks' => [
                            'type' => 'array',
                            'maxItems' => self::MOST_LINES,
                            'description' => 'lines across a plot: at a number, or at a variable',
                            'items' => [
                                'type' => 'object',
                                'required' => ['words'],
                                'additionalProperties' => false,
                                'properties' => [
                                    'words' => self::SHORT_TEXT,
                                    'of' => ['type' => 'string', 'description' => 'the name of a variable'],
                                    'number' => ['type' => 'number'],
                                ],
                            ],
                        ],
                        'finding' => ['type' => 'string', 'description' => 'the id of a finding'],
                        'width' => ['type' => 'integer', 'minimum' => 3, 'maximum' => self::COLUMNS, 'default' => self::COLUMNS],
                    ],
                ],
            ],
            'place' => ['type' => 'number', 'default' => 0],
        ],
        'examples' => [
            [
                'id' => 'guests',
                'title' => 'How many guests can the island bear?',
                'inputs' => [['id' => 'price', 'of' => 'ticket price', 'words' => 'A crossing costs', 'low' => 10, 'high' => 80]],
                'blocks' => [['id' => 'b1', 'kind' => 'plot', 'of' => ['visitors']]],
            ],
        ],
    ];

    /**
     * @param  list<Input>  $inputs
     * @param  list<Step>  $steps
     * @param  list<Block>  $blocks
     */
    public function __construct(
        public string $id,
        public string $title,
        public string $lead = '',
        public bool $turned = false,
        public array $inputs = [],
        public array $steps = [],
        public array $blocks = [],
        public float $place = 0.0,
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a showcase');

        return new self(
            $given->id(),
            $given->words('title', self::SHORT),
            $given->text('lead', self::LONG),
            $given->flag('turned'),
            self::each($given->any('inputs'), self::MOST_INPUTS, 'inputs', self::input(...)),
            self::each($given->any('steps'), self::MOST_STEPS, 'steps', self::step(...)),
            self::each($given->any('blocks'), self::MOST_BLOCKS, 'blocks', self::block(...)),
            $given->number('place', -1e12, 1e12, 0.0),
        );
    }

    /**
     * @template T of array<string, mixed>
     *
     * @param  \Closure(Given): T  $read
     * @return list<T>
     */
    private static function each(mixed $list, int $most, string $what, \Closure $read): array
    {
        $list ??= [];
        if (! is_array($list) || count($list) > $most) {
            throw NotUnderstood::because("A showcase has at most $most $what.");
        }
        $all = array_map(static fn (mixed $one): array => $read(Given::of($one, "one of the $what of a showcase")), array_values($list));
        $ids = array_filter(array_column($all, 'id'), is_string(...));
        if (count($ids) !== count(array_unique($ids))) {
            throw NotUnderstood::because("Two of the $what of a showcase have one `id`.");
        }

        return $all;
    }

    /** @return Input */
    private static function input(Given $given): array
    {
        $kind = $given->oneOf('kind', self::INPUTS, 'dial');
        [$low, $high] = [$given->number('low', -1e300, 1e300, 0.0), $given->number('high', -1e300, 1e300, 1.0)];
        $choices = self::each(
            $given->any('choices'),
            self::MOST_LINES,
            'choices',
            static fn (Given $one): array => [
                'words' => $one->words('words', self::SHORT),
                'value' => $one->number('value', -1e300, 1e300, 0.0),
            ],
        );
        if ($kind === 'list' ? $choices === [] : $low === $high || ($kind !== 'switch' && $low > $high)) {
            throw NotUnderstood::because(
                $kind === 'list'
                    ? 'A list to choose from needs at least one choice.'
                    : 'An input goes from a lower number to a higher one.',
            );
        }

        return [
            'id' => $given->id(),
            'of' => $given->words('of', 120),
            'kind' => $kind,
            'words' => $given->words('words', self::SHORT),
            'hint' => $given->text('hint', self::SHORT),
            'low' => $low,
            'high' => $high,
            'step' => $given->number('step', 0.0, 1e300, 0.0),
            'lowWords' => $given->text('lowWords', self::SHORT),
            'highWords' => $given->text('highWords', self::SHORT),
            'choices' => $choices,
            'likely' => $given->flag('likely'),
        ];
    }

    /** @return Step */
    private static function step(Given $given): array
    {
        $parameters = [];
        foreach (is_array($given->any('parameters')) ? $given->any('parameters') : [] as $of => $value) {
            if (! is_int($value) && ! is_float($value)) {
                throw NotUnderstood::because("A step of a showcase sets `$of` to a number.");
            }
            $parameters[(string) $of] = (float) $value;
        }

        return [
            'id' => $given->id(),
            'title' => $given->words('title', self::SHORT),
            'words' => $given->text('words', self::LONG),
            'scenario' => $given->text('scenario', 40),
            'parameters' => $parameters,
            'inputs' => $given->texts('inputs', self::MOST_INPUTS, 40),
        ];
    }

    /** @return Block */
    private static function block(Given $given): array
    {
        return [
            'id' => $given->id(),
            'kind' => $given->oneOf('kind', self::BLOCKS, 'text'),
            'step' => $given->text('step', 40),
            'words' => $given->text('words', self::LONG),
            'of' => $given->texts('of', self::MOST_OF, 120),
            'numbers' => self::each(
                $given->any('numbers'),
                self::MOST_LINES,
                'numbers',
                static fn (Given $one): array => [
                    'id' => $one->id(),
                    'of' => $one->words('of', 120),
                    'kind' => $one->oneOf('kind', self::NUMBERS, 'last'),
                    'time' => $one->number('time', -1e15, 1e15, 0.0),
                ],
            ),
            'marks' => self::each(
                $given->any('marks'),
                self::MOST_LINES,
                'marks',
                static fn (Given $one): array => [
                    'words' => $one->words('words', self::SHORT),
                    'of' => $one->text('of', 120),
                    'number' => $one->number('number', -1e300, 1e300, 0.0),
                ],
            ),
            'width' => (int) $given->number('width', 3, self::COLUMNS, self::COLUMNS),
            'finding' => $given->text('finding', 40),
        ];
    }

    public function unfit(Model $model): ?string
    {
        foreach ($this->inputs as $input) {
            $element = $model->element($input['of']);
            if ($element !== null && ! ($element instanceof Parameter)) {
                return "The model computes `$element->name`; readers can move parameters only.";
            }
        }

        return null;
    }

    /** @return Step what stands where there are no steps is one of its own */
    public function stepOf(string $id): array
    {
        foreach ($this->steps as $i => $step) {
            if ($step['id'] === $id || ($id === '' && $i === 0)) {
                return $step;
            }
        }

        return ['id' => '', 'title' => '', 'words' => '', 'scenario' => '', 'parameters' => [], 'inputs' => []];
    }

    /** @return list<Input> those that a step shows */
    public function inputsOf(string $step): array
    {
        $wanted = $this->stepOf($step)['inputs'];

        return $wanted === []
            ? $this->inputs
            : array_values(array_filter($this->inputs, static fn (array $i): bool => in_array($i['id'], $wanted, true)));
    }

    /** @return list<Block> those that a step shows */
    public function blocksOf(string $step): array
    {
        $id = $this->stepOf($step)['id'];

        return array_values(array_filter($this->blocks, static fn (array $b): bool => $b['step'] === '' || $b['step'] === $id));
    }

    public function toRecord(): array
    {
        return [
            'id' => $this->id,
            'title' => $this->title,
            'lead' => $this->lead,
            'turned' => $this->turned,
            'inputs' => array_map(self::lean(...), $this->inputs),
            'steps' => array_map(self::lean(...), $this->steps),
            'blocks' => array_map(self::lean(...), $this->blocks),
            'place' => $this->place,
        ];
    }

    /**
     * Without what is empty: files stay readable.
     *
     * @param  array<string, mixed>  $one
     * @return array<string, mixed>
     */
    private static function lean(array $one): array
    {
        foreach (['marks', 'numbers'] as $field) {
            if (is_array($one[$field] ?? null)) {
                $one[$field] = array_map(
                    static fn (mixed $line): array => array_filter((array) $line, static fn (mixed $v): bool => $v !== ''),
                    $one[$field],
                );
            }
        }

        return array_filter($one, static fn (mixed $v): bool => $v !== '' && $v !== [] && $v !== false);
    }
}
