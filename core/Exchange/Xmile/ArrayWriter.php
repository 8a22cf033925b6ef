<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Formula\Nature;
use MerryOrbit\Core\Formula\Node\Along;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Cases;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Pick;
use MerryOrbit\Core\Model\Dimensions;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Series;
use MerryOrbit\Core\Shape\Bound;
use MerryOrbit\Core\Shape\ExtentError;
use MerryOrbit\Core\Shape\Extents;
use MerryOrbit\Core\Shape\Resolver;

/**
 * Writes what extends over dimensions in the words of the standard: one equation for all elements where it has only names and sums
 * along whole dimensions, else one for each element, written out.
 */
final class ArrayWriter
{
    private readonly Analysis $analysis;

    private readonly Dimensions $dimensions;

    private readonly Extents $extents;

    /** @var array<string, string> names of curves and series by id */
    private readonly array $curves;

    public function __construct(private readonly Model $model)
    {
        $this->analysis = Analyser::analyse($model);
        $this->dimensions = $model->dimensions();
        $this->extents = new Extents($model, $this->analysis->extents);
        $drawn = array_filter($model->elements, static fn (Element $e): bool => $e instanceof Relation);
        $this->curves = array_map(static fn (Element $e): string => $e->name, $drawn);
    }

    /** @return list<string> ids of dimensions */
    public function over(string $id): array
    {
        return $this->analysis->extents[$id] ?? [];
    }

    /** @return list<string> names of dimensions, as they are written */
    public function names(string $id): array
    {
        return array_map(fn (string $d): string => XmileName::clean($this->dimensions->nameOf($d)), $this->over($id));
    }

    /**
     * The equations of an element.
     *
     * @return array{all: ?string, each: array<string, string>, words: ?string} one for all, or by subscripts; and what was done, to be said
     */
    public function equations(Element $element, EquationWriter $writer): array
    {
        $over = $this->over($element->id);
        if ($element instanceof Parameter) {
            return $this->values($element, $over);
        }
        $node = $this->analysis->nodes[$element->id] ?? null;
        if ($node === null) {
            return ['all' => '0', 'each' => [], 'words' => 'Its formula could not be read, and was written as 0'];
        }
        $node = Rewriting::curves($node, $this->curves);
        $short = $this->gathered($node, $over);
        if ($this->isPlain($short, $over)) {
            $trial = new EquationWriter($this->model, $element->name);
            $text = $trial->write($this->named($short));
            if ($trial->helpers === [] && $trial->totals === []) {
                return ['all' => $text, 'each' => [], 'words' => null];
            }
        }
        if ($over === []) {
            return ['all' => $this->at($node, [], $writer), 'each' => [], 'words' => null];
        }
        $each = [];
        foreach ($this->places($over) as $place) {
            $each[$this->subscripts($place)] = $this->at($node, $place, $writer);
        }
        $isSame = count(array_unique($each)) === 1;

        return [
            'all' => $isSame ? array_values($each)[0] : null,
            'each' => $isSame ? [] : $each,
            'words' => $isSame ? null : 'The standard has no words for a part of its formula: it was written out for each element',
        ];
    }

    /**
     * @param  list<string>  $over
     * @return array{all: ?string, each: array<string, string>, words: ?string}
     */
    private function values(Parameter $parameter, array $over): array
    {
        $usual = EquationWriter::number($this->analysis->parameters[$parameter->id] ?? 0.0);
        $table = $this->model->table($parameter->id);
        if ($table === [] || $over === []) {
            return ['all' => $usual, 'each' => [], 'words' => null];
        }
        $each = [];
        foreach ($this->places($over) as $place) {
            $value = $table[implode(',', $place)] ?? null;
            $each[$this->subscripts($place)] = $value === null ? $usual : EquationWriter::number($value);
        }

        return ['all' => null, 'each' => $each, 'words' => null];
    }

    /**
     * Whether one equation with the names of dimensions as subscripts says it: names over no more than the element itself extends over.
     *
     * @param  list<string>  $over
     */
    private function isPlain(Node $node, array $over): bool
    {
        foreach ($node->all() as $part) {
            if ($part instanceof Pick || $part instanceof Along || $part instanceof Cases) {
                return false;
            }
            if ($part instanceof NameUse && array_diff($this->over($part->key), $over) !== []) {
                return false;
            }
            if ($part instanceof Call && $part->function->nature === Nature::Along) {
                return false;
            }
        }

        return true;
    }

    /**
     * With sums, means and extremes of a name along whole dimensions as functions of the standard: `SUM(harvest[terrace, *])`.
     *
     * @param  list<string>  $over
     */
    private function gathered(Node $node, array $over): Node
    {
        $functions = array_flip(Arrays::GATHERINGS);

        return $node->map(function (Node $part) use ($functions, $over): ?Node {
            $of = $part instanceof Call ? $part->arguments[0] ?? null : null;
            if (! ($part instanceof Call) || ! isset($functions[$part->function->name]) || ! ($of instanceof NameUse)) {
                return null;
            }
            $own = $this->over($of->key);
            try {
                $bound = $this->extents->bound($part, $own);
            } catch (ExtentError) {
                return null;
            }
            $stars = array_map(static fn (Bound $b): string => $b->mapping === null ? $b->dimension : '', $bound);
            if (array_diff($stars, $own) !== [] || array_diff($own, $stars, $over) !== [] || $own === []) {
                return null;
            }
            $subscripts = array_map(fn (string $d): string => in_array($d, $stars, true) ? '*' : $this->dimensions->nameOf($d), $own);
            $text = strtoupper($functions[$part->function->name]).'('.$this->written($of->key, $subscripts).')';

            return new NameUse(EquationWriter::VERBATIM.$text, '', 0, 0);
        });
    }

    /** With the names of dimensions behind every name. */
    private function named(Node $node): Node
    {
        return $node->map(
            fn (Node $part): ?Node => $part instanceof NameUse && ! str_starts_with($part->key, EquationWriter::VERBATIM)
                ? new NameUse(EquationWriter::VERBATIM.$this->written($part->key, $this->names($part->key)), $part->written, 0, 0)
                : null,
        );
    }

    /**
     * The formula at one place, written out.
     *
     * @param  array<string, string>  $place
     */
    private function at(Node $node, array $place, EquationWriter $writer): string
    {
        $named = function (Node $part) use ($writer): NameUse {
            if ($part instanceof NameUse) {
                return $part;
            }

            return new NameUse(EquationWriter::VERBATIM.$writer->helper('aside', $part), '', 0, 0);
        };
        $resolver = new Resolver($this->extents, $this->keyAt(...), $named);
        try {
            return $writer->write($resolver->at($node, $place));
        } catch (ExtentError) {
            return '0';
        }
    }

    /**
     * The name of one element of a value, as it is written; null where it has none there.
     *
     * @param  array<string, string>  $place
     */
    private function keyAt(string $key, array $place): ?string
    {
        $at = [];
        foreach ($this->over($key) as $dimension) {
            $element = $place[$dimension] ?? null;
            foreach ($element === null ? $place : [] as $other => $one) {
                $element = $this->dimensions->pair((string) $other, $dimension) ? $one : $element;
            }
            if ($element === null || $this->dimensions->place($dimension, $element) === null) {
                return null;
            }
            $at[] = $this->elementName($dimension, $element);
        }

        return EquationWriter::VERBATIM.$this->written($key, $at);
    }

    /** @param  list<string>  $subscripts */
    private function written(string $id, array $subscripts): string
    {
        $element = $this->model->element($id);
        $name = XmileName::written($element->name ?? $id).($element instanceof Series ? '(TIME)' : '');

        return $name.($subscripts === [] ? '' : '['.implode(', ', array_map(self::subscript(...), $subscripts)).']');
    }

    private static function subscript(string $name): string
    {
        return $name === '*' || preg_match('/^\d+$/D', $name) === 1 ? $name : XmileName::written($name);
    }

    private function elementName(string $dimension, string $element): string
    {
        return XmileName::clean($this->dimensions->elementName($dimension, $element));
    }

    /** @param  array<string, string>  $place */
    private function subscripts(array $place): string
    {
        $names = [];
        foreach ($place as $dimension => $element) {
            $names[] = self::subscript($this->elementName($dimension, $element));
        }

        return implode(', ', $names);
    }

    /**
     * @param  list<string>  $over
     * @return list<array<string, string>>
     */
    private function places(array $over): array
    {
        $places = [[]];
        foreach ($over as $dimension) {
            $next = [];
            foreach ($places as $place) {
                foreach ($this->dimensions->elements($dimension) as $element) {
                    $next[] = [...$place, $dimension => $element];
                }
            }
            $places = $next;
        }

        return $places;
    }

    /**
     * What enters or leaves each element of a stock by a flow that extends over other dimensions, as equations by subscripts; null where
     * both extend over the same.
     *
     * @return ?array<string, string>
     */
    public function between(Flow $flow, string $stock): ?array
    {
        [$own, $there] = [$this->over($flow->id), $this->over($stock)];
        if ($own === $there) {
            return null;
        }
        $each = [];
        foreach ($this->places($there) as $place) {
            $wider = array_values(array_filter(
                $own,
                fn (string $d): bool => array_filter(array_keys($place), fn (string $p): bool => $this->dimensions->pair($p, $d)) === [],
            ));
            $terms = [];
            foreach ($this->places($wider) as $more) {
                $term = $this->keyAt($flow->id, [...$place, ...$more]);
                if ($term !== null) {
                    $terms[] = substr($term, strlen(EquationWriter::VERBATIM));
                }
            }
            $each[$this->subscripts($place)] = $terms === [] ? '0' : implode(' + ', $terms);
        }

        return $each;
    }
}
