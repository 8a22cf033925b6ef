<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Shape;

use MerryOrbit\Core\Formula\Nature;
use MerryOrbit\Core\Formula\Node\Along;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Cases;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Pick;
use MerryOrbit\Core\Formula\Node\PickStep;
use MerryOrbit\Core\Formula\Node\QuantityUse;
use MerryOrbit\Core\Model\Dimension;
use MerryOrbit\Core\Model\Dimensions;
use MerryOrbit\Core\Model\Mapping;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Problem\Nearest;
use MerryOrbit\Core\Roster\OpenRosters;

/**
 * Over which dimensions formulas extend: equal dimensions pair by name and others cross, picks and gatherings take some away. Lists
 * of dimensions hold ids, in the order in which they were met.
 */
final class Extents
{
    public readonly Dimensions $dimensions;

    /** Whether what does not fit yet is taken as if it did: while extents are still found out. */
    public bool $isLenient = false;

    /** @var array<string, Mapping> by key of the name */
    public readonly array $mappings;

    /** Those of its dimensions whose members come and go. */
    public readonly OpenRosters $rosters;

    /** @param  array<string, list<string>>  $known  by key, over what a value extends; what is not in it is a single number */
    public function __construct(Model $model, public array $known = [])
    {
        $this->dimensions = $model->dimensions();
        $this->mappings = $model->mappings();
        $this->rosters = OpenRosters::of($model);
        $this->known = $this->rosters->isAny() ? array_map($this->rosters->sorted(...), $known) : $known;
    }

    /** Whether a formula picks, or calls a function along dimensions. */
    public static function isAlong(Node $node): bool
    {
        foreach ($node->all() as $part) {
            if ($part instanceof Pick || $part instanceof Along) {
                return true;
            }
        }

        return false;
    }

    /**
     * @return list<string>
     *
     * @throws ExtentError
     */
    public function of(Node $node): array
    {
        return match (true) {
            $node instanceof NameUse => $this->known[$node->key] ?? [],
            $node instanceof Pick => $this->ofPick($node),
            $node instanceof Call && $node->function->nature === Nature::Along => $this->ofAlong($node),
            $node instanceof QuantityUse => [],
            $node instanceof Cases => $this->ofCases($node),
            // A series may extend over dimensions.
            $node instanceof CurveCall => $this->union($this->ofParts($node), $this->known[$node->key] ?? [], $node),
            default => $this->ofParts($node),
        };
    }

    /**
     * What a formula and its exceptions leave, and what they are exceptions for.
     *
     * @return list<string>
     */
    private function ofCases(Cases $node): array
    {
        $all = $this->of($node->main);
        foreach ($node->exceptions as $i => $exception) {
            try {
                $all = $this->union($all, $this->of($exception), $exception);
            } catch (ExtentError $e) {
                throw $e->in("exceptions.$i");
            }
        }
        foreach ($node->regions as $region) {
            foreach (array_keys($region) as $dimension) {
                if ($this->found($dimension, $all) === null) {
                    // An exception for a part does not make the whole a part.
                    $all[] = $this->dimensions->whole($dimension);
                }
            }
        }

        return $all;
    }

    /** @return list<string> */
    private function ofParts(Node $node): array
    {
        $all = [];
        foreach ($node->parts() as $part) {
            $all = $this->union($all, $this->of($part), $node);
        }

        return $all;
    }

    /**
     * @param  list<string>  $a
     * @param  list<string>  $b
     * @return list<string>
     */
    public function union(array $a, array $b, Node $where): array
    {
        foreach ($b as $dimension) {
            $paired = false;
            foreach ($a as $i => $other) {
                if ($this->dimensions->pair($dimension, $other)) {
                    $a[$i] =
                        $this->dimensions->meet($other, $dimension) ??
                        throw ExtentError::at(
                            $where,
                            'dimension.apart',
                            "Here `{$this->name($other)}` meets `{$this->name($dimension)}`, and the two parts share no element.",
                        );
                    $paired = true;
                }
            }
            if (! $paired) {
                $a[] = $dimension;
            }
        }

        return $this->rosters->isAny() ? $this->rosters->sorted($a) : $a;
    }

    /** @return list<string> */
    private function ofPick(Pick $node): array
    {
        $base = $this->of($node->of);
        $left = [];
        $moved = $this->moves($node);
        foreach ($this->isLenient ? array_unique([...$base, ...array_map(strval(...), array_keys($moved))]) : $base as $dimension) {
            $to = $moved[$dimension] ?? null;
            if ($to === null) {
                $left = $this->union($left, [$dimension], $node);
            } elseif ($to->over !== null) {
                $left = $this->union($left, [$to->over], $node);
            }
        }

        return $node->otherwise === null ? $left : $this->union($left, $this->of($node->otherwise), $node);
    }

    /**
     * What each step of a pick means, by the dimension of the picked value that it moves along.
     *
     * @return array<string, Move>
     *
     * @throws ExtentError
     */
    public function moves(Pick $node): array
    {
        $base = $this->of($node->of);
        $moves = [];
        foreach ($node->steps as $step) {
            try {
                [$dimension, $move] = $this->move($node, $step, $base);
            } catch (ExtentError $e) {
                if ($this->isLenient) {
                    continue;
                }
                throw $e;
            }
            if (isset($moves[$dimension])) {
                throw ExtentError::within(
                    $step,
                    'pick.twice',
                    "Along `{$this->name($dimension)}` is picked twice in one bracket. Leave one of them out.",
                );
            }
            $moves[$dimension] = $move;
        }

        return $moves;
    }

    /**
     * @param  list<string>  $base  over what the picked value extends
     * @return array{string, Move}
     */
    private function move(Pick $node, PickStep $step, array $base): array
    {
        $name = $node->of->written;
        $mapping = $step->isMove ? null : $this->mappings[$step->what] ?? null;
        if ($step->dimension !== null) {
            $dimension = $this->within($step->dimension, $base, $step, $name);

            return [$dimension, $this->along($dimension, $step)];
        }
        if ($mapping !== null) {
            $to = $this->found($mapping->to, $base);
            if ($to === null) {
                throw ExtentError::within(
                    $step,
                    'dimension.not',
                    "`$name` does not extend over `{$this->name($mapping->to)}`, to which `$mapping->name` leads.",
                );
            }

            return [$to, Move::through($mapping, $this->id($mapping->from))];
        }
        if ($step->isMove) {
            if (count($base) === 1) {
                return [$base[0], $this->along($base[0], $step)];
            }
            throw ExtentError::within($step, 'pick.which', "Say along which dimension: `[age: $step->written]`.");
        }
        $holders = array_values(array_filter($base, fn (string $d): bool => $this->dimensions->elementOf($d, $step->what) !== null));
        if (count($holders) === 1) {
            return [$holders[0], Move::to((string) $this->dimensions->elementOf($holders[0], $step->what))];
        }
        $names = array_map(fn (string $d): string => "`{$this->name($d)}`", $base);
        $over = $base === [] ? 'is a single number' : 'extends over '.implode(' and ', $names);
        throw ExtentError::within(
            $step,
            $holders === [] ? 'element.unknown' : 'element.shared',
            $holders === []
                ? "`$step->written` is no element of `$name`, which $over."
                : "`$step->written` is an element of both ".
                    implode(' and ', array_map(fn (string $d): string => "`{$this->name($d)}`", $holders)).
                    ". Say of which: `[{$this->name($holders[0])}: $step->written]`.",
        );
    }

    private function along(string $dimension, PickStep $step): Move
    {
        if ($step->isMove) {
            return match ($step->what) {
                'first', 'last' => Move::to($this->edge($dimension, $step)),
                default => Move::by($dimension, $step->what === 'next' ? (int) $step->by : -(int) $step->by),
            };
        }
        $element = $this->dimensions->elementOf($dimension, $step->what);
        if ($element !== null) {
            return Move::to($element);
        }
        $other = $this->dimensions->find($step->what);
        if ($other === null) {
            throw ExtentError::within(
                $step,
                'element.unknown',
                "`$step->written` is no element of the dimension `{$this->name($dimension)}`.",
            );
        }
        if ($this->dimensions->root($other->id) !== $this->dimensions->root($dimension)) {
            throw ExtentError::within(
                $step,
                'dimension.others',
                "`{$this->name($dimension)}` and `$other->name` do not have the same elements, so one cannot stand for the other.",
            );
        }

        return Move::like($other->id);
    }

    private function edge(string $dimension, PickStep $step): string
    {
        $elements = $this->dimensions->elements($dimension);

        return ($step->what === 'first' ? $elements[0] ?? null : $elements[count($elements) - 1] ?? null) ??
            throw ExtentError::within($step, 'dimension.empty', "The dimension `{$this->name($dimension)}` has no elements.");
    }

    /**
     * @param  list<string>  $base
     */
    private function within(string $called, array $base, PickStep $step, string $name): string
    {
        $dimension = $this->dimensions->find($called);
        if ($dimension === null) {
            throw ExtentError::within($step, 'dimension.unknown', "There is no dimension called `$called`.".$this->question($called));
        }

        return $this->found($dimension->id, $base) ??
            (($this->isLenient ? $dimension->id : null) ??
                throw ExtentError::within($step, 'dimension.not', "`$name` does not extend over `$dimension->name`."));
    }

    /**
     * The dimension of a value that another one names: itself, or what pairs with it.
     *
     * @param  list<string>  $base
     */
    private function found(string $dimension, array $base): ?string
    {
        $dimension = $this->id($dimension);
        foreach ($base as $one) {
            if ($one === $dimension) {
                return $one;
            }
        }
        foreach ($base as $one) {
            if ($this->dimensions->pair($one, $dimension)) {
                return $one;
            }
        }

        return null;
    }

    private function id(string $dimension): string
    {
        return $this->dimensions->find($dimension)->id ?? $dimension;
    }

    /** @return list<string> */
    private function ofAlong(Call $node): array
    {
        $name = $node->function->name;
        $mapping = $name === 'count' ? $this->counted($node) : null;
        if ($mapping !== null) {
            return [$this->id($mapping->to)];
        }
        if (in_array($name, ['count', 'position', 'number', 'is'], true)) {
            $dimension = $this->dimension($node->arguments[0]);
            if ($name === 'number' && ! $this->isCounted($dimension)) {
                throw ExtentError::at(
                    $node->arguments[0],
                    'dimension.listed',
                    "The elements of `$dimension->name` are no numbers. Only those of a counted dimension are.",
                );
            }
            if ($name === 'is' && $this->elementOf($dimension, $node->arguments[1]) === null) {
                $written = $node->arguments[1] instanceof Along ? $node->arguments[1]->written : '';
                throw ExtentError::at(
                    $node->arguments[1],
                    'element.unknown',
                    "`$written` is no element of the dimension `$dimension->name`.",
                );
            }

            return $name === 'count' ? [] : [$dimension->id];
        }
        $values = array_values(array_filter($node->arguments, static fn (Node $a): bool => ! ($a instanceof Along)));
        $base = $this->of($values[0]);
        foreach (array_slice($values, 1) as $value) {
            $base = $this->union($base, $this->of($value), $node);
        }
        if (in_array($name, ['rank', 'share', 'cumulate', 'allocate'], true)) {
            $this->bound($node, $base);

            return $base;
        }
        foreach ($this->bound($node, $base) as $bound) {
            $base = array_values(array_diff($base, [$bound->dimension]));
            $base = $bound->mapping === null ? $base : $this->union($base, [$this->id($bound->mapping->to)], $node);
        }

        return $base;
    }

    /** The mapping by which is counted how many belong to each; null where it is a dimension. */
    public function counted(Call $node): ?Mapping
    {
        $named = $node->arguments[0];

        return $named instanceof Along ? $this->mappings[$named->key] ?? null : null;
    }

    /** How many terms a gathering has for all elements that it is computed for, about. */
    public function termsOf(Call $node): int
    {
        $all = $this->of($node);
        foreach ($node->arguments as $value) {
            $all = $value instanceof Along ? $all : [...$all, ...$this->of($value)];
        }

        return (int) min(1e9, array_product(array_map($this->dimensions->size(...), array_unique($all))));
    }

    private function isCounted(Dimension $dimension): bool
    {
        return $this->dimensions->find($this->dimensions->root($dimension->id))?->isCounted === true;
    }

    public function elementOf(Dimension $dimension, Node $named): ?string
    {
        return $named instanceof Along ? $this->dimensions->elementOf($dimension->id, $named->key) : null;
    }

    /** @throws ExtentError */
    public function dimension(Node $named): Dimension
    {
        $key = $named instanceof Along ? $named->key : '';

        return $this->dimensions->find($key) ??
            throw ExtentError::at(
                $named,
                'dimension.unknown',
                'There is no dimension called `'.($named instanceof Along ? $named->written : '').'`.'.$this->question($key),
            );
    }

    private function question(string $called): string
    {
        return Nearest::question($called, array_values(array_map(static fn (Dimension $d): string => $d->name, $this->dimensions->all())));
    }

    /**
     * Over which dimensions of a value a function gathers or looks along: those named, else all.
     *
     * @param  list<string>  $base  over what the value extends
     * @return list<Bound>
     *
     * @throws ExtentError
     */
    public function bound(Call $node, array $base): array
    {
        $named = array_values(array_filter($node->arguments, static fn (Node $a): bool => $a instanceof Along));
        if ($named === []) {
            return array_map(static fn (string $d): Bound => new Bound($d, null), $base);
        }
        $all = [];
        foreach ($named as $one) {
            $mapping = $this->mappings[$one->key] ?? null;
            $wanted = $mapping === null ? $this->dimension($one)->id : $this->id($mapping->from);
            $found = $this->found($wanted, $base);
            if ($found === null && $this->isLenient) {
                continue;
            }
            if ($found === null || isset($all[$found])) {
                throw ExtentError::at(
                    $one,
                    $found === null ? 'dimension.not' : 'gather.twice',
                    $found === null
                        ? "What `{$node->function->name}` looks at does not extend over `{$this->name($wanted)}`."
                        : "`{$node->function->name}` goes over `{$this->name($wanted)}` twice. Leave one out.",
                );
            }
            $all[$found] = new Bound($found, $mapping);
        }

        return array_values($all);
    }

    private function name(string $dimension): string
    {
        return $this->dimensions->nameOf($dimension);
    }
}
