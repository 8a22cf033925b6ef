<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\SetNote;
use MerryOrbit\Core\Edit\SetSameUnits;
use MerryOrbit\Core\Edit\SetUnit;
use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Lexer;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Parser;
use MerryOrbit\Core\Formula\Symbol;
use MerryOrbit\Core\Formula\TokenKind;
use MerryOrbit\Core\Model\Appearance;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Curve;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Group;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Link;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\Placement;
use MerryOrbit\Core\Model\Point;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Series;
use MerryOrbit\Core\Model\Sheet;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Model\TimeSettings;

/** Reads a native file that may have been written by hand, by another version, or by someone with bad intentions. */
final class NativeReader
{
    public const LARGEST = 20_000_000;

    private const DEEPEST = 12;

    private const KEYS = [
        'bends',
        'dimensions',
        'echoes',
        'elements',
        'endWhen',
        'findings',
        'format',
        'groups',
        'layout',
        'links',
        'name',
        'note',
        'plots',
        'sameUnits',
        'scenarios',
        'sheets',
        'time',
        'tracks',
        'version',
    ];

    private const ELEMENT_KEYS = [
        'id',
        'kind',
        'name',
        'formula',
        'unit',
        'note',
        'from',
        'to',
        'low',
        'high',
        'step',
        'choices',
        'oneWay',
        'priority',
        'neverNegative',
        'travel',
        'points',
        'between',
        'beyond',
        'inputUnit',
        'dimensions',
        'symbol',
    ];

    /** @var list<LogLine> */
    private array $log = [];

    /** @param  array<string, mixed>  $file */
    private function __construct(private readonly array $file, private readonly bool $lenient)
    {
    }

    /**
     * @param  bool  $lenient  whether to guess what is meant where the file contradicts itself, with a line of the log
     *
     * @throws FileRefused
     */
    public static function read(string $json, bool $lenient = false): Imported
    {
        if (strlen($json) > self::LARGEST) {
            throw FileRefused::because('This file is larger than '.number_format(self::LARGEST / 1e6).' MB, more than a model needs.');
        }
        try {
            $file = json_decode($json, true, self::DEEPEST, JSON_THROW_ON_ERROR);
        } catch (\JsonException $e) {
            throw FileRefused::because(
                'This is not a Merry Orbit model: the file is not readable JSON ('.lcfirst($e->getMessage()).').',
            );
        }
        if (! is_array($file) || ($file['format'] ?? null) !== NativeFile::FORMAT) {
            throw FileRefused::because('This is not a Merry Orbit model: it lacks the line "format": "'.NativeFile::FORMAT.'".');
        }
        $version = $file['version'] ?? null;
        if (! is_int($version) || $version < 1) {
            throw FileRefused::because(
                'The file does not say in which version of the format it is written: "version": '.NativeFile::VERSION.'.',
            );
        }
        if ($version > NativeFile::VERSION) {
            throw FileRefused::because(
                "This file is written in version $version of the format; this Merry Orbit reads up to version ".
                    NativeFile::VERSION.
                    '. Open it with a newer one.',
            );
        }

        return self::readRecord(array_filter($file, is_string(...), ARRAY_FILTER_USE_KEY), $lenient);
    }

    /**
     * Reads what a native file holds, from wherever it comes.
     *
     * @param  array<string, mixed>  $file
     *
     * @throws FileRefused
     */
    public static function readRecord(array $file, bool $lenient = false): Imported
    {
        $reader = new self($file, $lenient);

        return new Imported($reader->model(), $reader->log);
    }

    /**
     * Takes a guess, if that is wished.
     *
     * @throws FileRefused else
     */
    private function guess(string $where, string $sentence, string $guess): void
    {
        if (! $this->lenient) {
            throw FileRefused::asModel($sentence);
        }
        $this->log[] = new LogLine($where, "$sentence $guess", grade: Grade::Numbers);
    }

    /** @return list<array{name: string, elements: list<string>}> */
    private function dimensions(): array
    {
        $dimensions = [];
        foreach ($this->listOf('dimensions') as $i => $line) {
            $record = $this->record($line, 'dimension '.($i + 1));
            $elements = is_array($record['elements'] ?? null) ? array_values(array_filter($record['elements'], is_string(...))) : [];
            $dimensions[] = ['name' => Name::tidy($this->text($record, 'name', 'dimension '.($i + 1))), 'elements' => $elements];
        }

        return $dimensions;
    }

    private function model(): Model
    {
        foreach (array_diff(array_keys($this->file), self::KEYS, array_keys(Parts::filed())) as $key) {
            $this->log[] = new LogLine((string) $key, "\"$key\" means nothing in this format and was left out.");
        }
        $time = $this->time($this->record($this->file['time'] ?? [], 'time'));
        $lines = $this->listOf('elements');
        $model = new Model($this->text($this->file, 'name', 'the file', 'Untitled'), $this->text($this->file, 'note', 'the file'), $time);
        $model = $this->withElements($model, $lines);
        $endWhen = $this->text($this->file, 'endWhen', 'the file');
        try {
            $sameUnits = SetSameUnits::fit(array_values(array_filter($this->listOf('sameUnits'), is_string(...))));
        } catch (EditRefused $e) {
            throw FileRefused::asModel($e->getMessage());
        }
        $model = $model->with([
            'endWhen' => FormulaText::typed($endWhen, $model->idOf(...)),
            'sameUnits' => $sameUnits,
            'dimensions' => $this->dimensions(),
        ]);

        return NativeParts::read($this->file, $this->withDrawing($model), $this->log);
    }

    /** @param  array<string, mixed>  $record */
    private function time(array $record): TimeSettings
    {
        $fields = [];
        foreach (['start', 'end', 'step', 'saveEvery', 'tolerance', 'absoluteTolerance'] as $field) {
            $value = $record[$field] ?? null;
            if ($value === null) {
                continue;
            }
            if ((is_int($value) || is_float($value)) && ($field !== 'step' || $value > 0)) {
                $fields[$field] = (float) $value;
            } else {
                $this->guess(
                    'time',
                    "\"$field\" of time must be a number".($field === 'step' ? ' larger than zero.' : '.'),
                    'The usual one was taken.',
                );
            }
        }
        if (isset($record['startDate'])) {
            $fields['startDate'] = $this->text($record, 'startDate', 'time');
        }
        if (isset($record['unit'])) {
            $fields['unit'] = $this->text($record, 'unit', 'time');
        }
        if (isset($record['method'])) {
            $method = Method::tryFrom($this->text($record, 'method', 'time'));
            if ($method === null) {
                throw FileRefused::asModel(
                    'The method in "time" must be one of '.implode(', ', array_column(Method::cases(), 'value')).'.',
                );
            }
            $fields['method'] = $method;
        }

        return new TimeSettings(...$fields);
    }

    /** @param  list<mixed>  $lines */
    private function withElements(Model $model, array $lines): Model
    {
        $elements = [];
        $texts = [];
        $travels = [];
        $shapes = [];
        $ends = [];
        $keys = [];
        foreach ($lines as $i => $line) {
            $where = 'element '.($i + 1);
            $record = $this->record($line, $where);
            foreach (array_diff(array_keys($record), self::ELEMENT_KEYS) as $unknown) {
                $this->log[] = new LogLine($where, "\"$unknown\" means nothing for an element and was left out.");
            }
            $name = Name::tidy($this->text($record, 'name', $where));
            $where .= $name === '' ? '' : " (`$name`)";
            $refusal = Name::refusal($name);
            if ($refusal !== null) {
                throw FileRefused::asModel("The name of $where does not fit: $refusal");
            }
            $key = Name::key($name);
            if (isset($keys[$key])) {
                $free = self::freeName($name, $keys);
                $this->guess(
                    $where,
                    "Two elements are called `$name`. Names are unique in a model: rename one of them.",
                    "This one was called `$free`; formulas mention the first.",
                );
                [$name, $key] = [$free, Name::key($free)];
            }
            $id = $this->idFor($this->text($record, 'id', $where), $key, $elements);
            $keys[$key] = $id;
            $symbol = $this->text($record, 'symbol', $where);
            $refusal = Symbol::refusal($symbol);
            if ($refusal !== null) {
                $this->log[] = new LogLine("`$name`", "Its symbol was left out: $refusal");
                $symbol = '';
            }
            $elements[$id] = $this->element($id, $name, $record, $where)->with(['symbol' => $symbol]);
            $texts[$id] = $this->text($record, 'formula', $where);
            $travels[$id] = $this->text($record, 'travel', $where);
            if (max(strlen($texts[$id]), strlen($travels[$id])) > Parser::LONGEST) {
                throw FileRefused::asModel("The formula of $where is longer than ".number_format(Parser::LONGEST).' characters.');
            }
            $shape = is_array($record['dimensions'] ?? null) ? array_values(array_filter($record['dimensions'], is_string(...))) : [];
            $shapes += $shape === [] ? [] : [$id => $shape];
            $ends[$id] = ['from' => $this->text($record, 'from', $where), 'to' => $this->text($record, 'to', $where)];
        }
        $idOf = static fn (string $key): ?string => $keys[$key] ?? null;
        $isOld = ($this->file['version'] ?? NativeFile::VERSION) === 1;
        foreach ($elements as $id => $element) {
            $fields = ['formula' => FormulaText::typed($isOld ? self::quoted($texts[$id], $keys) : $texts[$id], $idOf)];
            if ($element instanceof Stock) {
                $fields['travel'] = FormulaText::typed($travels[$id], $idOf);
            }
            if ($element instanceof Flow) {
                foreach ($ends[$id] as $end => $name) {
                    $fields[$end] = $this->end($element, $end, $name, $elements, $idOf);
                }
                if ($fields['from'] !== null && $fields['from'] === $fields['to']) {
                    throw FileRefused::asModel(
                        "The flow `$element->name` leaves and enters the same stock. Let one end be another stock, or leave it out for the outside.",
                    );
                }
            }
            $elements[$id] = $element->with($fields);
        }

        return $model->with(['elements' => $elements, 'shapes' => $shapes]);
    }

    /** @param  array<string, mixed>  $record */
    private function element(string $id, string $name, array $record, string $where): Element
    {
        $kind = Kind::tryFrom($this->text($record, 'kind', $where));
        try {
            $fields = [
                $id,
                $name,
                FormulaText::none(),
                SetUnit::fit($this->text($record, 'unit', $where)),
                SetNote::fit($this->text($record, 'note', $where)),
            ];
        } catch (EditRefused $e) {
            throw FileRefused::asModel("In $where: {$e->getMessage()}");
        }

        return match ($kind) {
            Kind::Stock => new Stock(...[...$fields, ($record['neverNegative'] ?? false) === true]),
            Kind::Flow => (new Flow(...$fields))->with([
                'oneWay' => ($record['oneWay'] ?? false) === true,
                'priority' => $this->number($record, 'priority', $where),
            ]),
            Kind::Curve => new Curve(...$this->points($fields, $record, $where)),
            Kind::Series => new Series(...$this->points($fields, $record, $where)),
            Kind::Auxiliary => new Auxiliary(...$fields),
            Kind::Parameter => new Parameter(
                ...[
                    ...$fields,
                    $this->number($record, 'low', $where),
                    $this->number($record, 'high', $where),
                    $this->number($record, 'step', $where),
                    $this->choices($record, $where),
                ],
            ),
            null => throw FileRefused::asModel(
                "The kind of $where must be one of ".implode(', ', array_column(Kind::cases(), 'value')).'.',
            ),
        };
    }

    /**
     * @param  array<string, mixed>  $record
     * @return list<array{name: string, value: float}>
     */
    private function choices(array $record, string $where): array
    {
        $choices = [];
        foreach (is_array($record['choices'] ?? null) ? $record['choices'] : [] as $one) {
            [$name, $value] = is_array($one) ? [$one['name'] ?? null, $one['value'] ?? null] : [null, null];
            if (! is_string($name) || trim($name) === '' || (! is_int($value) && ! is_float($value))) {
                throw FileRefused::asModel("Each of the choices of $where has a \"name\" and, as a number, a \"value\".");
            }
            $choices[] = ['name' => mb_substr(trim($name), 0, Name::LONGEST), 'value' => (float) $value];
        }

        return $choices;
    }

    /**
     * Version 1 knew fewer functions: names that have become one since are put in quotes.
     *
     * @param  array<string, string>  $keys  of the elements
     */
    private static function quoted(string $text, array $keys): string
    {
        $quoted = '';
        $done = 0;
        foreach (Lexer::tokens($text) as $token) {
            $key = Name::key($token->text);
            if ($token->kind === TokenKind::Name && ! $token->called && isset($keys[$key]) && Catalogue::find($key) !== null) {
                $quoted .= substr($text, $done, $token->from - $done).Name::quoted($token->text);
                $done = $token->from + $token->length;
            }
        }

        return $quoted.substr($text, $done);
    }

    /**
     * @param  array{string, string, FormulaText, string, string}  $fields
     * @param  array<string, mixed>  $record
     * @return array{string, string, FormulaText, string, string, list<array{float, float}>, Between, Beyond, string}
     */
    private function points(array $fields, array $record, string $where): array
    {
        $points = [];
        foreach (is_array($record['points'] ?? null) ? $record['points'] : [] as $pair) {
            if (! is_array($pair) || ! is_numeric($pair[0] ?? null) || ! is_numeric($pair[1] ?? null)) {
                throw FileRefused::asModel("Each point of $where must be a pair of numbers, such as [0, 1.5].");
            }
            $points[] = [(float) $pair[0], (float) $pair[1]];
        }
        $refusal = Relation::refusal($points);
        if ($refusal !== null) {
            throw FileRefused::asModel("The points of $where cannot be joined: $refusal");
        }
        $between =
            Between::tryFrom($this->text($record, 'between', $where, 'straight')) ??
            throw FileRefused::asModel("\"between\" of $where must be straight, smooth or stepped.");
        $beyond =
            Beyond::tryFrom($this->text($record, 'beyond', $where, 'held')) ??
            throw FileRefused::asModel("\"beyond\" of $where must be held or extended.");

        return [...$fields, $points, $between, $beyond, $this->text($record, 'inputUnit', $where)];
    }

    /**
     * @param  array<string, Element>  $elements
     * @param  \Closure(string): ?string  $idOf
     */
    private function end(Flow $flow, string $end, string $name, array $elements, \Closure $idOf): ?string
    {
        if ($name === '') {
            return null;
        }
        $id = $idOf(Name::key($name));
        if ($id === null || ! ($elements[$id] instanceof Stock)) {
            $this->guess(
                "`$flow->name`",
                "The flow `$flow->name` runs $end `$name`, but there is no stock of that name. Leave \"$end\" out for the outside.",
                'The outside was taken.',
            );

            return null;
        }

        return $id;
    }

    /** @param  array<string, string>  $taken  by key */
    private static function freeName(string $name, array $taken): string
    {
        $base = mb_substr($name, 0, Name::LONGEST - 6);
        for ($i = 2; isset($taken[Name::key("$base $i")]); $i++) {
        }

        return "$base $i";
    }

    /** @param  array<string, Element>  $taken */
    private function idFor(string $given, string $key, array $taken): string
    {
        if (Element::isId($given) && ! isset($taken[$given])) {
            return $given;
        }
        if ($given !== '') {
            $this->log[] = new LogLine(
                "`$key`",
                'Its id was not a free one of up to 40 small letters, digits and hyphens; it has a new one.',
            );
        }
        for ($salt = 0; ; $salt++) {
            $id = 'e'.substr(hash('sha256', $key.($salt === 0 ? '' : "#$salt")), 0, 11);
            if (! isset($taken[$id])) {
                return $id;
            }
        }
    }

    /** What is only shown: nothing of it can make a file unreadable. */
    private function withDrawing(Model $model): Model
    {
        $idOf = fn (mixed $name): ?string => is_string($name) ? $model->idOf(Name::key($name)) : null;
        $sheets = [];
        foreach ($this->listOf('sheets') as $sheet) {
            if (is_array($sheet) && is_string($sheet['id'] ?? null) && is_string($sheet['name'] ?? null) && Element::isId($sheet['id'])) {
                $sheets[$sheet['id']] = new Sheet($sheet['id'], mb_substr($sheet['name'], 0, Name::LONGEST));
            }
        }
        $sheets = $sheets === [] ? [Sheet::FIRST => new Sheet(Sheet::FIRST, 'Main')] : $sheets;
        $placements = [];
        foreach ($this->listOf('layout') as $i => $line) {
            $id = is_array($line) ? $idOf($line['element'] ?? null) : null;
            $at = is_array($line) ? self::point($line['at'] ?? null) : null;
            if (! is_array($line) || $id === null || $at === null) {
                $this->log[] = new LogLine(
                    'layout line '.($i + 1),
                    'It names no element of the model, or no place for it, and was left out.',
                );

                continue;
            }
            $sheet = is_string($line['sheet'] ?? null) && isset($sheets[$line['sheet']]) ? $line['sheet'] : array_key_first($sheets);
            $placements[$id] = new Placement(
                $at,
                self::point($line['source'] ?? null),
                self::point($line['target'] ?? null),
                $sheet,
                self::point($line['bendIn'] ?? null),
                self::point($line['bendOut'] ?? null),
                ($line['plot'] ?? false) === true,
            );
        }
        $echoes = [];
        foreach ($this->listOf('echoes') as $i => $line) {
            $id = is_array($line) ? $idOf($line['element'] ?? null) : null;
            $at = is_array($line) ? self::point($line['at'] ?? null) : null;
            if (! is_array($line) || $id === null || $at === null) {
                $this->log[] = new LogLine('echo '.($i + 1), 'It names no element of the model, or no place for it, and was left out.');

                continue;
            }
            $own = $line['id'] ?? null;
            $own =
                is_string($own) && Element::isId($own) && ! isset($echoes[$own]) && $model->element($own) === null
                    ? $own
                    : 'echo-'.($i + 1).'-'.substr(hash('sha256', $id), 0, 8);
            $sheet = is_string($line['sheet'] ?? null) && isset($sheets[$line['sheet']]) ? $line['sheet'] : array_key_first($sheets);
            $echoes[$own] = new Appearance($id, $at, $sheet);
        }
        $links = [];
        foreach ($this->listOf('links') as $line) {
            $from = is_array($line) ? $idOf($line['from'] ?? null) : null;
            $to = is_array($line) ? $idOf($line['to'] ?? null) : null;
            if ($from === null || $to === null || $from === $to) {
                $this->log[] = new LogLine('links', 'A link does not lead from one element to another and was left out.');

                continue;
            }
            if (! $model->elements[$to]->formula->mentions($from)) {
                $link = new Link($from, $to);
                $links[$link->key()] = $link;
            }
        }

        return $model->with([
            'sheets' => array_values($sheets),
            'placements' => $placements,
            'links' => $links,
            'echoes' => $echoes,
            'bends' => $this->bends($idOf),
            'groups' => $this->groups($idOf),
        ]);
    }

    /**
     * @param  \Closure(mixed): ?string  $idOf
     * @return array<string, Point>
     */
    private function bends(\Closure $idOf): array
    {
        $bends = [];
        foreach ($this->listOf('bends') as $line) {
            $from = is_array($line) ? $idOf($line['from'] ?? null) : null;
            $to = is_array($line) ? $idOf($line['to'] ?? null) : null;
            $by = is_array($line) ? self::point($line['by'] ?? null) : null;
            if ($from === null || $to === null || $by === null) {
                $this->log[] = new LogLine('bends', 'A bend belongs to no link of the model and was left out.');

                continue;
            }
            $bends[(new Link($from, $to))->key()] = $by;
        }

        return $bends;
    }

    /**
     * @param  \Closure(mixed): ?string  $idOf
     * @return list<Group>
     */
    private function groups(\Closure $idOf): array
    {
        $groups = [];
        $taken = [];
        foreach ($this->listOf('groups') as $i => $line) {
            $record = $this->record($line, 'group '.($i + 1));
            $tint = $record['tint'] ?? '';
            $members = array_values(
                array_diff(
                    array_unique(array_filter(array_map($idOf, is_array($record['elements'] ?? null) ? $record['elements'] : []))),
                    $taken,
                ),
            );
            if ($members === []) {
                continue;
            }
            $taken = [...$taken, ...$members];
            $groups[] = new Group(
                mb_substr($this->text($record, 'name', 'group '.($i + 1), 'Group '.($i + 1)), 0, Name::LONGEST),
                in_array($tint, Group::TINTS, true) ? $tint : Group::TINTS[$i % count(Group::TINTS)],
                $members,
            );
        }

        return $groups;
    }

    private static function point(mixed $pair): ?Point
    {
        if (! is_array($pair) || ! isset($pair[0], $pair[1]) || ! is_numeric($pair[0]) || ! is_numeric($pair[1])) {
            return null;
        }
        $within = static fn (float $v): float => max(-Point::FARTHEST, min(Point::FARTHEST, $v));

        return new Point($within((float) $pair[0]), $within((float) $pair[1]));
    }

    /** @return list<mixed> */
    private function listOf(string $key): array
    {
        return NativeList::of($this->file, $key);
    }

    /** @return array<string, mixed> */
    private function record(mixed $value, string $where): array
    {
        if (! is_array($value) || ($value !== [] && array_is_list($value))) {
            throw FileRefused::asModel("What stands at $where must be an object in curly brackets.");
        }

        return array_filter($value, is_string(...), ARRAY_FILTER_USE_KEY);
    }

    /** @param  array<string, mixed>  $record */
    private function text(array $record, string $key, string $where, string $default = ''): string
    {
        $value = $record[$key] ?? $default;
        if (! is_string($value)) {
            throw FileRefused::asModel("\"$key\" of $where must be text, in double quotes.");
        }

        return $value;
    }

    /** @param  array<string, mixed>  $record */
    private function number(array $record, string $key, string $where): ?float
    {
        $value = $record[$key] ?? null;
        if ($value !== null && ! is_int($value) && ! is_float($value)) {
            throw FileRefused::asModel("\"$key\" of $where must be a number.");
        }

        return $value === null ? null : (float) $value;
    }
}
