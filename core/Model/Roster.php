<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * A dimension whose elements are members: things that come and go while a run goes on. Those that are there from the beginning are the
 * elements of the dimension; what each has (attributes, stocks, formulas) extends over it like anything else. Here it says how members
 * enter and leave. Without either it is a dimension as any other.
 *
 * A start is a parameter of each member, and what gives its value to one that enters; a hand a stock of each, and the stock that takes what
 * is left in it.
 *
 * Of what each has during a run it can be chosen how much is kept: variables at every saved moment, all else at some moments.
 *
 * @phpstan-type Start array{of: string, from: string}
 * @phpstan-type Entry array{id: string, words: string, of: string, starts: list<Start>, joins: array<string, string>}
 * @phpstan-type Leave array{id: string, words: string, kind: 'chance'|'when', of: string}
 * @phpstan-type Hand array{of: string, to: string}
 * @phpstan-type Classes array{since: string, width: float, count: int}
 * @phpstan-type Tie array{of: string, made: string, ended: string, within: string, both: bool}
 * @phpstan-type Beneath array{of: string, across: string, up: string}
 * @phpstan-type Kept array{of?: list<string>, moments?: int}
 * @phpstan-type Seen array{across?: string, up?: string, colour?: string, size?: string, map?: string, plan?: string, beneath?: Beneath}
 */
final readonly class Roster implements Readable, Recorded, Settled
{
    public const MOST = 20;

    /** Members at a time. */
    public const MOST_MEMBERS = 100_000;

    public const USUAL_MOST = 20_000;

    private const MOST_RULES = 20;

    /** One by one, in classes by how long they are there, or one class of all. */
    public const LEVELS = ['members', 'classes', 'one'];

    public const MOST_CLASSES = 200;

    public const SCHEMA = RosterSchema::SCHEMA;

    /**
     * @param  string  $of  the id of the dimension
     * @param  list<Entry>  $entries
     * @param  list<Leave>  $exits  the first that holds counts
     * @param  list<Hand>  $hands
     * @param  ?Classes  $classes  the classes in which members can be taken together
     * @param  list<Tie>  $ties  how relations between members change; at most one for each
     * @param  Seen  $seen  how members are drawn where they are
     * @param  Kept  $kept  what is kept at every saved moment, and at how many of them all else is
     * @param  string  $since  the parameter with the time at which each listed member enters; empty where all are there at the start
     */
    public function __construct(
        public string $id,
        public string $of,
        public array $entries = [],
        public array $exits = [],
        public array $hands = [],
        public string $since = '',
        public float $most = self::USUAL_MOST,
        public string $note = '',
        public ?array $classes = null,
        public array $seen = [],
        public array $ties = [],
        public array $kept = [],
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = Given::of($record, 'a roster');

        return new self(
            $given->id(),
            $given->words('of', Name::LONGEST),
            self::each($given, 'entries', 'an entry of a roster', self::entry(...)),
            self::each($given, 'exits', 'an exit of a roster', self::leave(...)),
            self::each($given, 'hands', 'what a roster hands on', self::hand(...)),
            $given->text('since', Name::LONGEST),
            $given->number('most', 1.0, self::MOST_MEMBERS, self::USUAL_MOST),
            $given->text('note', 4_000),
            $given->any('classes') === null ? null : self::classes(Given::of($given->any('classes'), 'the classes of a roster')),
            $given->any('seen') === null ? [] : self::seen(Given::of($given->any('seen'), 'where members of a roster are seen')),
            self::each($given, 'ties', 'how a relation changes', self::tie(...)),
            $given->any('kept') === null ? [] : self::keeping(Given::of($given->any('kept'), 'what is kept of members')),
        );
    }

    /**
     * @template T of array<string, mixed>
     *
     * @param  \Closure(Given): T  $read
     * @return list<T>
     */
    private static function each(Given $given, string $field, string $what, \Closure $read): array
    {
        $list = $given->any($field) ?? [];
        if (! is_array($list) || count($list) > self::MOST_RULES) {
            throw NotUnderstood::because("`$field` of a roster is a list of at most ".self::MOST_RULES.'.');
        }
        $all = array_map(static fn (mixed $one): array => $read(Given::of($one, $what)), array_values($list));
        $ids = array_filter(array_column($all, 'id'), is_string(...));
        if (count(array_unique($ids)) < count($ids)) {
            throw NotUnderstood::because("Two `$field` of a roster have the same id.");
        }

        return $all;
    }

    /** @return Entry */
    private static function entry(Given $given): array
    {
        $joins = $given->any('joins') ?? [];
        $known = is_array($joins) ? array_filter($joins, is_string(...)) : [];
        if ($known !== $joins) {
            throw NotUnderstood::because('`joins` of an entry names an element by mapping.');
        }

        return [
            'id' => $given->id(),
            'words' => $given->words('words', 60),
            'of' => $given->words('of', Name::LONGEST),
            'starts' => self::each($given, 'starts', 'what a member starts with', self::start(...)),
            'joins' => array_combine(array_map(strval(...), array_keys($known)), array_values($known)),
        ];
    }

    /** @return Leave */
    private static function leave(Given $given): array
    {
        return [
            'id' => $given->id(),
            'words' => $given->words('words', 60),
            'kind' => $given->oneOf('kind', ['chance', 'when'], 'when'),
            'of' => $given->words('of', Name::LONGEST),
        ];
    }

    /** @return Classes */
    private static function classes(Given $given): array
    {
        return [
            'since' => $given->words('since', Name::LONGEST),
            'width' => $given->number('width', 1e-9, 1e12, 1.0),
            'count' => (int) $given->number('count', 1.0, self::MOST_CLASSES, 10.0),
        ];
    }

    /** @return Tie */
    private static function tie(Given $given): array
    {
        return [
            'of' => $given->words('of', Name::LONGEST),
            'made' => $given->text('made', Name::LONGEST),
            'ended' => $given->text('ended', Name::LONGEST),
            'within' => $given->text('within', Name::LONGEST),
            'both' => $given->any('both') === true,
        ];
    }

    /** @return Seen */
    private static function seen(Given $given): array
    {
        $under = $given->any('beneath') === null ? null : Given::of($given->any('beneath'), 'what lies beneath members');
        $beneath = static fn (Given $of): array => [
            'of' => $of->words('of', Name::LONGEST),
            'across' => $of->text('across', Name::LONGEST),
            'up' => $of->text('up', Name::LONGEST),
        ];
        $said = [];
        foreach (['across', 'up', 'colour', 'size', 'map', 'plan'] as $field) {
            $said[$field] = $given->text($field, Name::LONGEST);
        }

        return [
            ...array_filter($said, static fn (string $v): bool => $v !== ''),
            ...$under === null ? [] : ['beneath' => $beneath($under)],
        ];
    }

    /** @return Kept */
    private static function keeping(Given $given): array
    {
        $of = $given->any('of') ?? [];
        $known = is_array($of) ? array_values(array_filter($of, is_string(...))) : [];
        if ($known !== $of) {
            throw NotUnderstood::because('`of` of what is kept of members is a list of variables.');
        }
        $moments = (int) $given->number('moments', 0.0, 1e6, 0.0);

        return [...$known === [] ? [] : ['of' => array_values(array_unique($known))], ...$moments === 0 ? [] : ['moments' => $moments]];
    }

    /** @return Start */
    private static function start(Given $given): array
    {
        return ['of' => $given->words('of', Name::LONGEST), 'from' => $given->words('from', Name::LONGEST)];
    }

    /** @return Hand */
    private static function hand(Given $given): array
    {
        return ['of' => $given->words('of', Name::LONGEST), 'to' => $given->words('to', Name::LONGEST)];
    }

    /** @return list<string> what it names of the study, by name or id */
    public function names(): array
    {
        $beneath = $this->seen['beneath'] ?? [];
        $all = [
            ...array_column($this->entries, 'of'),
            ...array_column($this->exits, 'of'),
            ...array_merge(
                ...array_map(
                    static fn (array $e): array => [...array_column($e['starts'], 'of'), ...array_column($e['starts'], 'from')],
                    $this->entries,
                ),
            ),
            ...array_column($this->ties, 'made'),
            ...array_column($this->ties, 'ended'),
            ...array_column($this->hands, 'of'),
            ...array_column($this->hands, 'to'),
            $this->since,
            $this->classes['since'] ?? '',
            ...array_values(array_diff_key($this->seen, ['map' => 1, 'beneath' => 1])),
            ...array_values($beneath),
            ...$this->kept['of'] ?? [],
        ];

        return array_values(array_filter($all, static fn (mixed $n): bool => is_string($n) && $n !== ''));
    }

    /** Whether members come or go, or who is related to whom changes, while a run goes on. */
    public function isOpen(): bool
    {
        return $this->entries !== [] || $this->exits !== [] || $this->ties !== [] || $this->since !== '';
    }

    public function settled(Model $model): static
    {
        $dimensions = $model->dimensions();
        $entries = [];
        foreach ($this->entries as $entry) {
            $joins = [];
            foreach ($entry['joins'] as $called => $element) {
                $mapping = self::mapping($model, (string) $called);
                $joins[$mapping->id ?? $called] =
                    $mapping === null ? $element : $dimensions->elementOf($mapping->to, $element) ?? $element;
            }
            $entries[] = [...$entry, 'joins' => $joins];
        }

        $ties = array_map(
            static fn (array $tie): array => [
                ...$tie,
                'of' => self::mapping($model, $tie['of'])->id ?? $tie['of'],
                'within' => self::mapping($model, $tie['within'])->id ?? $tie['within'],
            ],
            $this->ties,
        );

        return $this->changed(['of' => $dimensions->find($this->of)->id ?? $this->of, 'entries' => $entries, 'ties' => $ties]);
    }

    public static function mapping(Model $model, string $called): ?Mapping
    {
        $own = $model->part('mappings')[$called] ?? null;

        return $own instanceof Mapping ? $own : $model->mappings()[Name::key($called)] ?? null;
    }

    /** @param  array<string, mixed>  $fields */
    public function changed(array $fields): static
    {
        return (new \ReflectionClass($this))->newInstanceArgs([...get_object_vars($this), ...$fields]);
    }

    public function unfit(Model $model): ?string
    {
        $dimension = $model->dimensions()->find($this->of);
        if ($dimension === null) {
            return "A roster is a dimension whose elements come and go; there is none called `$this->of`.";
        }
        if ($dimension->isCounted || $dimension->partOf !== null || $dimension->sameAs !== null) {
            return "The elements of `$dimension->name` are counted or those of another dimension: members are listed one by one.";
        }
        foreach ($model->part('rosters') as $other) {
            if ($other instanceof self && $other->id !== $this->id && $other->of === $dimension->id) {
                return "`$dimension->name` is a roster already.";
            }
        }
        foreach ($this->ties as $tie) {
            $relation = self::mapping($model, $tie['of']);
            if ($relation === null || $relation->from !== $dimension->id || $relation->to !== $dimension->id) {
                return "`{$tie['of']}` is no relation between members of `$dimension->name`: it is a mapping from it to itself.";
            }
            $within = $tie['within'] === '' ? null : self::mapping($model, $tie['within']);
            if ($tie['within'] !== '' && ($within === null || $within->from !== $dimension->id || $within->to === $dimension->id)) {
                return "By `{$tie['within']}` members of `$dimension->name` do not belong to anything.";
            }
            if ($tie['made'] === '' && $tie['ended'] === '') {
                return "Say how ties of `$relation->name` are made, or how they end.";
            }
        }
        foreach ($this->entries as $entry) {
            foreach ($entry['joins'] as $called => $element) {
                $mapping = self::mapping($model, (string) $called);
                if ($mapping === null || $mapping->from !== $dimension->id) {
                    return "Who enters as “{$entry['words']}” is to belong by `$called`, which is no mapping of `$dimension->name`.";
                }
                if ($model->dimensions()->elementOf($mapping->to, $element) === null) {
                    return "Who enters as “{$entry['words']}” is to belong to `$element`, which `$mapping->name` does not lead to.";
                }
            }
        }

        return null;
    }

    public function toRecord(): array
    {
        $lean = static fn (array $entry): array => array_filter($entry, static fn (mixed $v): bool => $v !== []);

        return [
            'id' => $this->id,
            'of' => $this->of,
            ...array_filter(
                [
                    'entries' => array_map($lean, $this->entries),
                    'exits' => $this->exits,
                    'hands' => $this->hands,
                    'ties' => array_map(
                        static fn (array $tie): array => array_filter($tie, static fn (string|bool $v): bool => $v !== '' && $v !== false),
                        $this->ties,
                    ),
                    'since' => $this->since,
                    'note' => $this->note,
                ],
                static fn (mixed $v): bool => $v !== [] && $v !== '',
            ),
            ...$this->classes === null ? [] : ['classes' => $this->classes],
            ...$this->seen === [] ? [] : ['seen' => $this->seen],
            ...$this->kept === [] ? [] : ['kept' => $this->kept],
            ...$this->most === (float) self::USUAL_MOST ? [] : ['most' => $this->most],
        ];
    }
}
