<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Dimension;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Finding;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Part;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\Placement;
use MerryOrbit\Core\Model\Plot;
use MerryOrbit\Core\Model\Point;
use MerryOrbit\Core\Model\Scenario;
use MerryOrbit\Core\Model\Sheet;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * Reads edits that come from outside, as records such as `{"kind": "rename", "id": "e1", "name": "rain"}`.
 * The kinds and their fields are listed in docs/edits.md.
 */
final readonly class EditReader
{
    private const MOST_TOGETHER = 5_000;

    /** @param  array<mixed>  $record */
    private function __construct(private array $record)
    {
    }

    /**
     * @param  ?\Closure(string): Model  $modelOf  reads a model file, for pasting; throws EditRefused
     *
     * @throws EditRefused when it is no edit
     */
    public static function read(mixed $record, ?\Closure $modelOf = null): Edit
    {
        if (! is_array($record)) {
            throw self::refusal('An edit is an object with a `kind`.');
        }
        $reader = new self($record);
        $kind = $reader->text('kind');

        return match ($kind) {
            'add' => new AddElement(
                $reader->id('id'),
                $reader->kind(),
                $reader->text('name', ''),
                $reader->text('formula', ''),
                $reader->text('unit', ''),
                $reader->text('note', ''),
                $reader->idOrNull('from'),
                $reader->idOrNull('to'),
                $reader->placementOrNull('placement'),
            ),
            'rename' => new RenameElement($reader->id('id'), $reader->text('name')),
            'formula' => new SetFormula($reader->id('id'), $reader->text('text')),
            'exceptions' => new SetExceptions($reader->id('id'), $reader->exceptions()),
            'values' => new SetValues($reader->id('id'), $reader->values()),
            'unit' => new SetUnit($reader->id('id'), $reader->text('text')),
            'note' => new SetNote($reader->id('id'), $reader->text('text')),
            'symbol' => new SetSymbol($reader->id('id'), $reader->text('text')),
            'range' => new SetRange(
                $reader->id('id'),
                $reader->numberOrNull('low'),
                $reader->numberOrNull('high'),
                $reader->numberOrNull('step'),
            ),
            'attach' => new AttachFlow($reader->id('id'), $reader->idOrNull('from'), $reader->idOrNull('to')),
            'move' => new Move($reader->placements()),
            'connect' => new Connect($reader->id('from'), $reader->id('to')),
            'disconnect' => new Disconnect($reader->id('from'), $reader->id('to')),
            'delete' => new DeleteElements($reader->ids()),
            'stock' => new SetStock(
                $reader->id('id'),
                $reader->flagOrNull('neverNegative'),
                $reader->has('travel') ? $reader->text('travel') : null,
            ),
            'flow' => new SetFlow(
                $reader->id('id'),
                $reader->flagOrNull('oneWay'),
                $reader->has('priority') ? $reader->numberOrNull('priority') : false,
            ),
            'curve' => new SetCurve(
                $reader->id('id'),
                $reader->has('points') ? $reader->points() : null,
                $reader->has('between')
                    ? Between::tryFrom($reader->text('between')) ?? throw self::refusal('`between` must be straight, smooth or stepped.')
                    : null,
                $reader->has('beyond')
                    ? Beyond::tryFrom($reader->text('beyond')) ?? throw self::refusal('`beyond` must be held or extended.')
                    : null,
                $reader->has('inputUnit') ? $reader->text('inputUnit') : null,
            ),
            'end' => new SetEnd($reader->text('text')),
            'dimensions' => new SetDimensions($reader->dimensions()),
            'extent' => new SetExtent($reader->id('id'), $reader->texts('dimensions')),
            'same-units' => new SetSameUnits($reader->lines()),
            'become' => new ChangeKind($reader->id('id'), $reader->kind()),
            'time' => new SetTime($reader->time()),
            'scenario' => new PutScenario(self::understood(fn (): Scenario => Scenario::read($record))),
            'plot-put' => new PutPlot(
                self::understood(fn (): Plot => Plot::read($record['plot'] ?? null)),
                ($record['track'] ?? null) === true,
                $reader->idOrNull('before'),
            ),
            'finding' => new PutFinding(self::understood(fn (): Finding => Finding::read($record))),
            'discard' => new Discard($reader->discarded(), $reader->id('id')),
            'put' => new PutPart(
                $reader->part(),
                $reader->id('id'),
                is_array($record['fields'] ?? null)
                    ? $record['fields']
                    : throw self::refusal('`fields` is an object with what is to change.'),
            ),
            'drop' => new DropPart($reader->part(), $reader->id('id')),
            'say' => new SayLink(
                $reader->id('id'),
                $reader->text('from'),
                $reader->id('fromId'),
                $reader->text('to', ''),
                $reader->id('toId'),
                array_intersect_key($record, array_flip(['sign', 'strength', 'late', 'mechanism', 'grounds', 'standing'])),
            ),
            'between' => new PutBetween($reader->id('link'), $reader->id('id'), $reader->text('name'), $reader->id('second')),
            'merge' => new MergeFactors($reader->id('id'), $reader->id('other')),
            'split' => new SplitFactor($reader->id('id'), $reader->id('other'), $reader->text('name'), $reader->texts('links')),
            'form' => new TakeForm($reader->id('id'), $reader->kind()),
            'map-move' => new MoveOnMap($reader->spots()),
            'choices' => new SetChoices($reader->id('id'), $reader->choices()),
            'track' => new SetTrack($reader->id('id'), ($record['shown'] ?? null) === true),
            'echo' => new AddEcho($reader->id('id'), $reader->id('element'), self::point($record['at'] ?? null), $reader->id('sheet')),
            'bend' => new BendLink($reader->id('from'), $reader->id('to'), isset($record['by']) ? self::point($record['by']) : null),
            'group' => new SetGroup($reader->ids(), $reader->text('name', ''), $reader->text('tint', '')),
            'plot' => new SetPlot($reader->ids(), ($record['shown'] ?? null) === true),
            'sheet-add' => new AddSheet($reader->id('id'), $reader->text('name')),
            'sheet-rename' => new RenameSheet($reader->id('id'), $reader->text('name')),
            'sheet-order' => new OrderSheets($reader->ids()),
            'sheet-remove' => new RemoveSheet($reader->id('id')),
            'to-sheet' => new MoveToSheet($reader->ids(), $reader->id('sheet')),
            'paste' => new Paste(
                $reader->id('id'),
                ($modelOf ?? throw self::refusal('Nothing can be pasted here.'))($reader->text('text')),
                self::point($record['at'] ?? null),
                $reader->id('sheet'),
            ),
            'together' => $reader->together($modelOf),
            'title' => new SetTitle($reader->text('name'), isset($record['note']) ? $reader->text('note') : null),
            default => throw self::refusal("There is no edit called `$kind`."),
        };
    }

    private function part(): Part
    {
        $name = $this->text('part');

        return Parts::filed()[$name] ??
            throw self::refusal("There is no part called `$name`; there are ".implode(', ', array_keys(Parts::filed())).'.');
    }

    /** @param  ?\Closure(string): Model  $modelOf */
    /** @return list<array{for: mixed, text: string}> */
    private function exceptions(): array
    {
        $all = [];
        foreach (is_array($this->record['exceptions'] ?? null) ? array_values($this->record['exceptions']) : [null] as $one) {
            if (! is_array($one) || ! is_string($one['text'] ?? null)) {
                throw self::refusal('`exceptions` is a list of objects with `for` and `text`.');
            }
            $all[] = ['for' => $one['for'] ?? null, 'text' => $one['text']];
        }

        return $all;
    }

    /** @return list<array{list<string>, ?float}> */
    private function values(): array
    {
        $all = [];
        foreach (is_array($this->record['values'] ?? null) ? array_values($this->record['values']) : [null] as $line) {
            [$at, $value] = array_pad(is_array($line) ? array_values($line) : [], 2, false);
            $isNumber = $value === null || ((is_int($value) || is_float($value)) && is_finite((float) $value));
            if (! is_array($at) || array_filter($at, is_string(...)) !== $at || ! $isNumber) {
                throw self::refusal('`values` is a list of elements, in the order of the dimensions, each with a number or null.');
            }
            $all[] = [array_values($at), is_int($value) ? (float) $value : $value];
        }

        return $all;
    }

    private function together(?\Closure $modelOf): Together
    {
        $records = $this->record['edits'] ?? null;
        if (! is_array($records) || $records === [] || count($records) > self::MOST_TOGETHER) {
            throw self::refusal('The edit needs `edits`: a list of one to '.number_format(self::MOST_TOGETHER).' edits.');
        }
        $edits = [];
        foreach ($records as $record) {
            if (is_array($record) && ($record['kind'] ?? null) === 'together') {
                throw self::refusal('Edits that are made together cannot hold others that are.');
            }
            $edits[] = self::read($record, $modelOf);
        }

        return new Together($edits, mb_substr($this->text('words', ''), 0, 200));
    }

    /**
     * @template T
     *
     * @param  \Closure(): T  $reading
     * @return T
     */
    private static function understood(\Closure $reading): mixed
    {
        try {
            return $reading();
        } catch (NotUnderstood $e) {
            throw self::refusal($e->getMessage());
        }
    }

    /** @return key-of<Discard::WHAT> */
    private function discarded(): string
    {
        $what = $this->text('what');

        return array_key_exists($what, Discard::WHAT)
            ? $what
            : throw self::refusal('`what` must be one of '.implode(', ', array_keys(Discard::WHAT)).'.');
    }

    /** @return list<array{name: string, value: float}> */
    private function choices(): array
    {
        $choices = $this->record['choices'] ?? null;
        if (! is_array($choices)) {
            throw self::refusal('The edit needs `choices`: a list of names with values.');
        }

        return array_map(static function (mixed $one): array {
            [$name, $value] = is_array($one) ? [$one['name'] ?? null, $one['value'] ?? null] : [null, null];
            if (! is_string($name) || (! is_int($value) && ! is_float($value))) {
                throw EditRefused::because('choices.pair', 'Each choice has a name and, as a number, a value.', 'choices');
            }

            return ['name' => $name, 'value' => (float) $value];
        }, array_values($choices));
    }

    private static function refusal(string $sentence): EditRefused
    {
        return EditRefused::because('edit.unreadable', $sentence);
    }

    private function text(string $key, ?string $default = null): string
    {
        $value = $this->record[$key] ?? $default;
        if (! is_string($value) || ! mb_check_encoding($value, 'UTF-8')) {
            throw self::refusal("The edit needs `$key` as text.");
        }

        return $value;
    }

    private function id(string $key): string
    {
        return $this->idOrNull($key) ??
            throw self::refusal("The edit needs `$key`: an id of up to 40 small letters, digits and hyphens.");
    }

    private function idOrNull(string $key): ?string
    {
        $value = $this->record[$key] ?? null;
        if ($value !== null && ! Element::isId($value)) {
            throw self::refusal("`$key` must be an id: up to 40 small letters, digits and hyphens, a letter first.");
        }

        return is_string($value) ? $value : null;
    }

    /** @return list<string> */
    private function ids(): array
    {
        $ids = $this->record['ids'] ?? null;
        if (! is_array($ids) || array_filter($ids, Element::isId(...)) !== $ids) {
            throw self::refusal('The edit needs `ids` as a list of ids.');
        }

        return array_values(array_filter($ids, is_string(...)));
    }

    private function kind(): Kind
    {
        return Kind::tryFrom($this->text('element')) ??
            throw self::refusal('`element` must be one of '.implode(', ', array_column(Kind::cases(), 'value')).'.');
    }

    private function has(string $key): bool
    {
        return array_key_exists($key, $this->record);
    }

    /** @return ?bool null if it is not said */
    private function flagOrNull(string $key): ?bool
    {
        $value = $this->record[$key] ?? null;
        if ($value !== null && ! is_bool($value)) {
            throw self::refusal("`$key` must be true or false.");
        }

        return $value;
    }

    private function numberOrNull(string $key): ?float
    {
        $value = $this->record[$key] ?? null;
        if ($value !== null && ! is_int($value) && ! is_float($value)) {
            throw self::refusal("`$key` must be a number.");
        }

        return $value === null ? null : (float) $value;
    }

    private function time(): TimeSettings
    {
        $default = new TimeSettings();
        $method =
            Method::tryFrom($this->text('method', $default->method->value)) ??
            throw self::refusal('The method must be one of '.implode(', ', array_column(Method::cases(), 'value')).'.');

        return new TimeSettings(
            $this->numberOrNull('start') ??
                throw EditRefused::because('time.start', 'Give the time at which the run starts as a number.', 'start'),
            $this->numberOrNull('end') ??
                throw EditRefused::because('time.end', 'Give the time at which the run ends as a number.', 'end'),
            $this->numberOrNull('step') ?? throw EditRefused::because('time.step', 'Give the time step as a number.', 'step'),
            trim($this->text('unit', $default->unit)),
            $method,
            $this->numberOrNull('saveEvery'),
            isset($this->record['startDate']) ? $this->text('startDate') : null,
            $this->numberOrNull('tolerance') ?? $default->tolerance,
            $this->numberOrNull('absoluteTolerance') ?? $default->absoluteTolerance,
        );
    }

    /** @return list<array{float, float}> */
    private function points(): array
    {
        $points = $this->record['points'] ?? null;
        if (! is_array($points)) {
            throw self::refusal('The edit needs `points`: a list of pairs of numbers.');
        }

        return array_map(static function (mixed $pair): array {
            [$x, $y] = is_array($pair) ? [$pair[0] ?? null, $pair[1] ?? null] : [null, null];
            if ((! is_int($x) && ! is_float($x)) || (! is_int($y) && ! is_float($y))) {
                throw EditRefused::because('curve.points', 'Each point of a curve is a pair of numbers, x and y.', 'points');
            }

            return [(float) $x, (float) $y];
        }, array_values($points));
    }

    /** @return list<Dimension> */
    private function dimensions(): array
    {
        $list = $this->record['dimensions'] ?? null;
        if (! is_array($list) || count($list) > Dimension::MOST) {
            throw self::refusal('The edit needs `dimensions` as a list of at most '.Dimension::MOST.' dimensions.');
        }

        return self::understood(static fn (): array => Dimension::readAll($list));
    }

    /** @return list<string> */
    private function texts(string $key): array
    {
        $list = $this->record[$key] ?? null;
        if (! is_array($list) || array_filter($list, is_string(...)) !== $list) {
            throw self::refusal("The edit needs `$key` as a list of texts.");
        }

        return array_values($list);
    }

    /** @return list<string> */
    private function lines(): array
    {
        $lines = $this->record['lines'] ?? null;
        if (! is_array($lines) || array_filter($lines, is_string(...)) !== $lines) {
            throw self::refusal('The edit needs `lines` as a list of texts.');
        }

        return array_values(array_filter($lines, is_string(...)));
    }

    private function placementOrNull(string $key): ?Placement
    {
        $value = $this->record[$key] ?? null;

        return $value === null ? null : self::placement($value);
    }

    /** @return array<string, Placement> */
    private function placements(): array
    {
        $given = $this->record['placements'] ?? null;
        if (! is_array($given)) {
            throw self::refusal('The edit needs `placements` by element id.');
        }
        $placements = [];
        foreach ($given as $id => $value) {
            if (Element::isId($id)) {
                $placements[(string) $id] = self::placement($value);
            }
        }

        return $placements;
    }

    /** @return array<string, Point> */
    private function spots(): array
    {
        $given = $this->record['spots'] ?? null;
        if (! is_array($given) || count($given) > Model::MOST_ELEMENTS) {
            throw self::refusal('The edit needs `spots` by element id.');
        }

        $spots = [];
        foreach ($given as $id => $at) {
            if (Element::isId($id)) {
                $spots[(string) $id] = self::point($at);
            }
        }

        return $spots;
    }

    private static function placement(mixed $value): Placement
    {
        if (! is_array($value)) {
            throw self::refusal('A placement is an object with `at`.');
        }
        $sheet = $value['sheet'] ?? null;

        return new Placement(
            self::point($value['at'] ?? null),
            isset($value['source']) ? self::point($value['source']) : null,
            isset($value['target']) ? self::point($value['target']) : null,
            is_string($sheet) && Element::isId($sheet) ? $sheet : Sheet::FIRST,
            isset($value['bendIn']) ? self::point($value['bendIn']) : null,
            isset($value['bendOut']) ? self::point($value['bendOut']) : null,
            ($value['plot'] ?? false) === true,
        );
    }

    private static function point(mixed $value): Point
    {
        $number = static function (string $key) use ($value): float {
            $n = is_array($value) ? $value[$key] ?? null : null;
            if ((! is_int($n) && ! is_float($n)) || abs($n) > Point::FARTHEST) {
                throw self::refusal("A place needs `$key` as a number of at most a million.");
            }

            return (float) $n;
        };

        return new Point($number('x'), $number('y'));
    }
}
