<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * A complete model as a value. An edit makes a new one that shares all that did not change.
 *
 * What is computed: `elements` and `time`. What is only shown: `placements`, `echoes`, `bends`, `groups`, `sheets`, `tracks`,
 * `plots`, `findings`. What is tried with it: `scenarios`.
 */
final class Model
{
    public const MOST_ELEMENTS = 20_000;

    /** @var array<string, string>|null from a name's key to the element's id */
    private ?array $ids = null;

    /** @var array<string, string>|null names of what parts make, by id */
    private ?array $made = null;

    private ?Dimensions $along = null;

    /**
     * @param  array<string, Element>  $elements  by id, in the order of definition
     * @param  array<string, Link>  $links  drawn and not used yet, by key
     * @param  array<string, Placement>  $placements  by element id
     * @param  list<Sheet>  $sheets  at least one
     * @param  list<Plot>  $tracks  what is plotted at the foot, top down
     * @param  list<string>  $sameUnits  each a line of units joined by `=`
     * @param  list<Dimension>  $dimensions
     * @param  array<string, list<string>>  $shapes  by element id, ids of the dimensions that it says it extends over
     * @param  array<string, Appearance>  $echoes  by id
     * @param  array<string, Point>  $bends  by key of a link, how far its middle is pulled from the straight way
     * @param  list<Group>  $groups
     * @param  array<string, Scenario>  $scenarios  by id
     * @param  array<string, Plot>  $plots  by id
     * @param  array<string, Finding>  $findings  by id
     * @param  array<string, array<string, Recorded>>  $more  all other parts, by name and id; see Parts
     */
    public function __construct(
        public readonly string $name,
        public readonly string $note = '',
        public readonly TimeSettings $time = new TimeSettings(),
        public readonly array $elements = [],
        public readonly array $links = [],
        public readonly array $placements = [],
        public readonly array $sheets = [new Sheet(Sheet::FIRST, 'Main')],
        public readonly array $tracks = [],
        /** A condition that ends the run when it holds; empty for none. */
        public readonly FormulaText $endWhen = new FormulaText(),
        /** Units of the study that mean the same, such as `person = people = islander`. */
        public readonly array $sameUnits = [],
        public readonly array $dimensions = [],
        public readonly array $shapes = [],
        public readonly array $echoes = [],
        public readonly array $bends = [],
        public readonly array $groups = [],
        public readonly array $scenarios = [],
        public readonly array $plots = [],
        public readonly array $findings = [],
        public readonly array $more = [],
    ) {
    }

    /**
     * A part of the document, by its name.
     *
     * @return array<array-key, mixed> of a keyed part, Recorded values by key
     */
    public function part(string $name): array
    {
        $value = property_exists($this, $name) ? $this->{$name} : $this->more[$name] ?? [];

        return is_array($value) ? $value : [];
    }

    /** What of it can be computed: all but what only a causal map tells of. */
    public function withoutFactors(): self
    {
        $elements = array_filter($this->elements, static fn (Element $e): bool => ! ($e instanceof Factor));

        return count($elements) === count($this->elements)
            ? $this
            : $this->with([
                'elements' => $elements,
                'links' => array_filter(
                    $this->links,
                    fn (Link $l): bool => isset($elements[$l->to]) && (isset($elements[$l->from]) || isset($this->made()[$l->from])),
                ),
            ]);
    }

    public function dimensions(): Dimensions
    {
        return $this->along ??= new Dimensions($this->dimensions);
    }

    /** @return array<string, Mapping> by key of the name */
    public function mappings(): array
    {
        $mappings = [];
        foreach ($this->part('mappings') as $one) {
            if ($one instanceof Mapping) {
                $mappings[Name::key($one->name)] = $one;
            }
        }

        return $mappings;
    }

    /** @return array<string, float> the values of a parameter over its dimensions, by ids of elements joined by commas */
    public function table(string $parameter): array
    {
        $values = [];
        foreach ($this->tableOf($parameter)->values ?? [] as [$at, $value]) {
            $values[implode(',', $at)] = $value;
        }

        return $values;
    }

    /** @return array<string, list<array{float, float}>> the points of a series over its dimensions, by ids of elements joined by commas */
    public function coursesOf(string $series): array
    {
        $courses = [];
        foreach ($this->part('courses') as $one) {
            foreach ($one instanceof Courses && $one->of === $series ? $one->values : [] as [$at, $points]) {
                $courses[implode(',', $at)] = $points;
            }
        }

        return $courses;
    }

    public function tableOf(string $parameter): ?Table
    {
        foreach ($this->part('tables') as $table) {
            if ($table instanceof Table && $table->of === $parameter) {
                return $table;
            }
        }

        return null;
    }

    /**
     * With some dimensions limited to some of their elements; see Dimension::$limit.
     *
     * @param  array<string, list<string>>  $limits  ids of elements by id of the dimension; what is gone is passed over
     *
     * @throws NotUnderstood where nothing would be left
     */
    public function limitedTo(array $limits): self
    {
        $new = array_map(static function (Dimension $d) use ($limits): Dimension {
            $wanted = isset($limits[$d->id]) && $d->partOf === null && $d->sameAs === null ? $limits[$d->id] : null;
            $left = array_values(array_intersect($d->ids, $wanted ?? []));
            if ($wanted !== null && $left === []) {
                throw NotUnderstood::because("`$d->name` is to be limited to elements that are all gone. Choose others.");
            }

            return $wanted === null ? $d : $d->limitedTo($left);
        }, $this->dimensions);

        return $new == $this->dimensions ? $this : $this->with(['dimensions' => $new]);
    }

    public function element(string $id): ?Element
    {
        return $this->elements[$id] ?? null;
    }

    /** Whether it can be followed over time: an element that is computed, or what a part makes. */
    public function hasCourse(string $id): bool
    {
        $element = $this->elements[$id] ?? null;

        return $element === null ? isset($this->made()[$id]) : ! ($element instanceof Relation || $element instanceof Factor);
    }

    /** @param  string  $key as Name::key() gives it */
    public function idOf(string $key): ?string
    {
        if ($this->ids === null) {
            $this->ids = [];
            foreach ($this->elements as $element) {
                $this->ids[Name::key($element->name)] = $element->id;
            }
            foreach ($this->made() as $id => $name) {
                $this->ids[Name::key($name)] ??= (string) $id;
            }
        }

        return $this->ids[$key] ?? null;
    }

    /**
     * @param  list<string>  $at  ids or names of elements, in the order of the dimensions of a thing
     * @return list<string> their ids; what is none stays as it is
     */
    public function elementsAt(string $id, array $at): array
    {
        $over = $this->shapes[$id] ?? [];

        return array_map(
            fn (string $one, int $i): string => (isset($over[$i]) ? $this->dimensions()->elementOf($over[$i], $one) : null) ?? $one,
            $at,
            array_keys($at),
        );
    }

    /**
     * A thing, or the key of one of its elements.
     *
     * @param  list<string>  $at  ids of elements, in the order of its dimensions; none: the thing itself
     */
    public static function keyAt(string $id, array $at): string
    {
        return $at === [] ? $id : "{$id}[".implode(',', $at).']';
    }

    public function nameOf(string $id): ?string
    {
        return isset($this->elements[$id]) ? $this->elements[$id]->name : $this->made()[$id] ?? null;
    }

    /**
     * What parts of the document make that formulas can mention, before it is made.
     *
     * @return array<string, string> names by id
     */
    public function made(): array
    {
        if ($this->made !== null) {
            return $this->made;
        }
        $made = [];
        foreach ($this->more as $part) {
            foreach (current($part) instanceof Making ? $part : [] as $one) {
                $made += $one instanceof Making ? $one->makes() : [];
            }
        }

        return $made === [] ? [] : ($this->made = $made);
    }

    /**
     * Why something cannot make things of these names; null if it can.
     *
     * @param  array<string, string>  $names  by id
     */
    public function refusedNames(array $names): ?string
    {
        foreach ($names as $id => $name) {
            $other = $this->idOf(Name::key($name));
            if ($other !== null && $other !== (string) $id) {
                return "Something is called `$name` already. Names are unique in a study: choose another one.";
            }
            $refusal = Name::refusal($name);
            if ($refusal !== null) {
                return $refusal;
            }
        }

        return null;
    }

    /** The element's formula with today's names. */
    public function formulaOf(Element $element): string
    {
        return $element->formula->text($this->nameOf(...));
    }

    /** @return list<Flow> */
    public function inflows(string $stock): array
    {
        return array_values(array_filter($this->elements, static fn (Element $e): bool => $e instanceof Flow && $e->to === $stock));
    }

    /** @return list<Flow> by priority */
    public function outflows(string $stock): array
    {
        $flows = array_values(array_filter($this->elements, static fn (Element $e): bool => $e instanceof Flow && $e->from === $stock));
        usort($flows, static fn (Flow $a, Flow $b): int => ($a->priority ?? 0.0) <=> ($b->priority ?? 0.0));

        return $flows;
    }

    /** The flow by which the content of a transit stock arrives: its first outflow. */
    public function arrival(Stock $stock): ?Flow
    {
        return $stock->isTransit() ? $this->outflows($stock->id)[0] ?? null : null;
    }

    /** Whether this is the flow by which the content of a transit stock arrives, which follows from that stock. */
    public function isArrival(Element $element): bool
    {
        $stock = $element instanceof Flow && $element->from !== null ? $this->element($element->from) : null;

        return $stock instanceof Stock && $this->arrival($stock)?->id === $element->id;
    }

    public function sheet(string $id): ?Sheet
    {
        return array_values(array_filter($this->sheets, static fn (Sheet $s): bool => $s->id === $id))[0] ?? null;
    }

    /** The sheet on which an element is defined. */
    public function sheetOf(string $element): string
    {
        $sheet = $this->placements[$element]->sheet ?? $this->sheets[0]->id;

        return $this->sheet($sheet) === null ? $this->sheets[0]->id : $sheet;
    }

    /** Whether an element or an echo of it stands on a sheet. */
    public function isOn(string $element, string $sheet): bool
    {
        if (isset($this->elements[$element]) && $this->sheetOf($element) === $sheet) {
            return true;
        }
        foreach ($this->echoes as $echo) {
            if ($echo->element === $element && $echo->sheet === $sheet) {
                return true;
            }
        }

        return false;
    }

    /** @return list<string> */
    public function names(): array
    {
        return array_values(array_map(static fn (Element $e): string => $e->name, $this->elements));
    }

    /**
     * The same model with some fields changed.
     *
     * @param  array<string, mixed>  $fields  by the names of the constructor's arguments, or of other parts
     */
    public function with(array $fields): self
    {
        $now = get_object_vars($this);
        unset($now['ids'], $now['along'], $now['made']);
        $more = array_diff_key($fields, $now);
        if ($more !== []) {
            $fields = [...array_intersect_key($fields, $now), 'more' => array_filter([...$this->more, ...$more])];
        }

        return (new \ReflectionClass($this))->newInstanceArgs([...$now, ...$fields]);
    }

    /** With the element put in the place of the one with its id, or added at the end. */
    public function withElement(Element $element): self
    {
        return $this->with(['elements' => [...$this->elements, $element->id => $element]]);
    }
}
