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
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Model\Mapping;

/**
 * Writes a formula out for one place along its dimensions: every name becomes that of one element, gatherings become sums of
 * terms in the order of the elements. A place is the id of an element by dimension.
 */
final class Resolver
{
    /** Formulas, and terms of gatherings, that are written out for a model. */
    private const MOST_WRITTEN = 200_000;

    private int $written = 0;

    /**
     * @param  \Closure(string, array<string, string>): ?string  $keyAt  the key of one element of a value at a place; null where it has none there
     * @param  \Closure(Node): NameUse  $named  gives a value that is needed more than once a name of its own
     */
    public function __construct(private readonly Extents $extents, private readonly \Closure $keyAt, private readonly \Closure $named)
    {
    }

    /**
     * @param  array<string, string>  $place
     *
     * @throws ExtentError where a pick looks over the edge
     */
    public function at(Node $node, array $place): Node
    {
        if (++$this->written > self::MOST_WRITTEN) {
            throw ExtentError::at(
                $node,
                'extent.large',
                'Written out for every element, the formulas of this model become more than can be computed. Use smaller dimensions, or gather over fewer.',
            );
        }

        return $node->map(
            fn (Node $part): ?Node => match (true) {
                $part instanceof NameUse => $this->name($part, $place),
                $part instanceof CurveCall => $this->curve($part, $place),
                $part instanceof Pick => $this->pick($part, $place),
                $part instanceof Cases => $this->cases($part, $place),
                $part instanceof Call && $part->function->nature === Nature::Along => $this->along($part, $place),
                default => null,
            },
        );
    }

    /** @param  array<string, string>  $place */
    private function cases(Cases $node, array $place): Node
    {
        $chosen = (new CaseChoice($this->extents->dimensions))->of($node, $place);
        try {
            return $this->at($chosen, $place);
        } catch (ExtentError $e) {
            $i = array_search($chosen, $node->exceptions, true);
            throw $i === false ? $e : $e->in("exceptions.$i");
        }
    }

    /** @param  array<string, string>  $place */
    private function name(NameUse $node, array $place): Node
    {
        $key = ($this->keyAt)($node->key, $place);

        return match ($key) {
            null => Terms::number(0.0),
            $node->key => $node,
            default => new NameUse($key, $node->written, $node->from, $node->length),
        };
    }

    /**
     * A series over dimensions is a course for each element.
     *
     * @param  array<string, string>  $place
     */
    private function curve(CurveCall $node, array $place): ?Node
    {
        $key = ($this->keyAt)($node->key, $place);
        if ($key === $node->key) {
            return null;
        }

        return $key === null
            ? Terms::number(0.0)
            : new CurveCall($key, $node->written, $node->nameLength, $this->at($node->argument, $place), $node->from, $node->length);
    }

    /** @param  array<string, string>  $place */
    private function pick(Pick $node, array $place): Node
    {
        $there = $place;
        $through = [];
        foreach ($this->extents->moves($node) as $dimension => $move) {
            $dimension = (string) $dimension;
            $present = $move->over === null ? null : $this->present($move->over, $place);
            if ($move->mapping !== null) {
                $through[] = [$dimension, $move->mapping, (string) $present];

                continue;
            }
            $element = $move->element ?? $this->moved($dimension, (string) $present, $move->by);
            if ($element === null || $this->extents->dimensions->place($dimension, $element) === null) {
                return $this->overTheEdge($node, $dimension, $present, $place, $element);
            }
            $there[$dimension] = $element;
        }

        return $through === [] ? $this->name($node->of, $there) : $this->through($node, $through, $there, $place);
    }

    /** @param  array<string, string>  $place */
    private function present(string $dimension, array $place): ?string
    {
        foreach ([$dimension, ...array_keys($place)] as $one) {
            if (isset($place[$one]) && $this->extents->dimensions->pair($one, $dimension)) {
                return $place[$one];
            }
        }

        return null;
    }

    private function moved(string $dimension, string $from, int $by): ?string
    {
        $at = $this->extents->dimensions->place($dimension, $from);

        return $at === null ? null : $this->extents->dimensions->elements($dimension)[$at + $by] ?? null;
    }

    /**
     * @param  array<string, string>  $place
     * @param  ?string  $away  the element that was picked, where the dimension is limited to others
     */
    private function overTheEdge(Pick $node, string $dimension, ?string $present, array $place, ?string $away = null): Node
    {
        if ($node->otherwise !== null) {
            return $this->at($node->otherwise, $place);
        }
        $dimensions = $this->extents->dimensions;
        $of = $present === null ? '' : " of `{$dimensions->elementName($dimension, $present)}`";
        if ($away !== null && $dimensions->has($dimension, $away)) {
            throw ExtentError::at(
                $node,
                'pick.limited',
                "`{$dimensions->nameOf($dimension)}` is limited to some of its elements, and `{$dimensions->elementName(
                    $dimension,
                    $away,
                )}` ".'is not among them. Say what holds then: `; else 0` before the `]`.',
            );
        }
        throw ExtentError::at(
            $node,
            'pick.edge',
            "Along `{$dimensions->nameOf($dimension)}` nothing is there for the pick$of. Say what holds then: `; else 0` before the `]`.",
        );
    }

    /**
     * A value by way of mappings: where an element belongs to several, their mean by weight.
     *
     * @param  non-empty-list<array{string, Mapping, string}>  $through  dimension of the value, mapping, present element
     * @param  array<string, string>  $there
     * @param  array<string, string>  $place
     */
    private function through(Pick $node, array $through, array $there, array $place): Node
    {
        [$dimension, $mapping, $present] = array_shift($through);
        $terms = [];
        foreach ($mapping->pairs as [$from, $to, $weight]) {
            if ($from === $present && $weight !== 0.0) {
                $at = [...$there, $dimension => $to];
                $terms[] = [$through === [] ? $this->name($node->of, $at) : $this->through($node, $through, $at, $place), $weight];
            }
        }
        if ($terms === []) {
            return $this->overTheEdge($node, $mapping->from, $present, $place);
        }

        return count($terms) === 1 ? $terms[0][0] : Terms::mean($terms);
    }

    /** @param  array<string, string>  $place */
    private function along(Call $node, array $place): Node
    {
        $name = $node->function->name;
        $dimensions = $this->extents->dimensions;
        $mapping = $name === 'count' ? $this->extents->counted($node) : null;
        if ($mapping !== null) {
            $present = (string) $this->present($mapping->to, $place);
            $from = $dimensions->elements($mapping->from);
            $own = array_filter(
                $mapping->pairs,
                static fn (array $p): bool => $p[1] === $present && $p[2] !== 0.0 && in_array($p[0], $from, true),
            );

            return Terms::number((float) count($own));
        }
        if (in_array($name, ['count', 'position', 'number', 'is'], true)) {
            $dimension = $this->extents->dimension($node->arguments[0]);
            $present = (string) $this->present($dimension->id, $place);

            return Terms::number(
                match ($name) {
                    'count' => (float) $dimensions->size($dimension->id),
                    'position' => (float) (1 + (int) $dimensions->place($dimension->id, $present)),
                    'number' => (float) $present,
                    default => $this->extents->elementOf($dimension, $node->arguments[1]) === $present ? 1.0 : 0.0,
                },
            );
        }
        $values = array_values(array_filter($node->arguments, static fn (Node $a): bool => ! ($a instanceof Along)));
        $base = [];
        foreach ($values as $value) {
            $base = $this->extents->union($base, $this->extents->of($value), $node);
        }
        $bound = $this->extents->bound($node, $base);
        if (in_array($name, ['rank', 'share', 'cumulate', 'allocate'], true)) {
            return $this->among($node, $values, $bound[0]->dimension, $place);
        }
        $terms = [];
        foreach ($this->places($bound, $place) as [$at, $weight]) {
            $terms[] = [$this->at($values[0], $at), $weight];
        }

        return Terms::gathered($name, $terms, $this->named);
    }

    /**
     * The places that a gathering goes over, in the order of the elements, with their weights.
     *
     * @param  list<Bound>  $bound
     * @param  array<string, string>  $place
     * @return list<array{array<string, string>, float}>
     */
    private function places(array $bound, array $place): array
    {
        $all = [[$place, 1.0]];
        foreach ($bound as $one) {
            $next = [];
            $weights = null;
            if ($one->mapping !== null) {
                $weights = [];
                $present = $this->present($one->mapping->to, $place);
                foreach ($one->mapping->pairs as [$from, $to, $weight]) {
                    if ($to === $present) {
                        $weights[$from] = $weight;
                    }
                }
            }
            foreach ($all as [$at, $factor]) {
                foreach ($this->extents->dimensions->elements($one->dimension) as $element) {
                    if ($weights === null || ($weights[$element] ?? 0.0) !== 0.0) {
                        $next[] = [$this->moveTo($at, $one->dimension, $element), $factor * ($weights[$element] ?? 1.0)];
                    }
                }
            }
            $all = $next;
        }

        return $all;
    }

    /**
     * A gathering binds its dimension, and with it its parts and the whole.
     *
     * @param  array<string, string>  $place
     * @return array<string, string>
     */
    private function moveTo(array $place, string $dimension, string $element): array
    {
        foreach (array_keys($place) as $one) {
            if ($this->extents->dimensions->pair((string) $one, $dimension)) {
                unset($place[$one]);
            }
        }

        return [...$place, $dimension => $element];
    }

    /**
     * What an element is among those along a dimension.
     *
     * @param  list<Node>  $values
     * @param  array<string, string>  $place
     */
    private function among(Call $node, array $values, string $dimension, array $place): Node
    {
        $elements = $this->extents->dimensions->elements($dimension);
        $own = array_search((string) $this->present($dimension, $place), $elements, true);
        $own = $own === false ? 0 : $own;
        $each = fn (Node $value): array => array_map(
            fn (string $e): Node => ($this->named)($this->at($value, $this->moveTo($place, $dimension, $e))),
            $elements,
        );
        $x = $each($values[0]);

        return match ($node->function->name) {
            'share' => Terms::over($x[$own], Terms::chain(Operator::Add, $x)),
            'cumulate' => Terms::chain(Operator::Add, array_slice($x, 0, $own + 1)),
            'rank' => Terms::rank($x, $own),
            default => Terms::allotted($this->at($values[0], $place), $each($values[1]), $each($values[2]), $own, $this->named),
        };
    }
}
