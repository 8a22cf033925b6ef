<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Shape;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Model\Computed;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Problem\Severity;

/** Over which dimensions the elements of a model extend: as they say, else the union of what their formulas leave. */
final class ElementExtents
{
    /** @var array<string, Problem> by element id */
    private array $errors = [];

    /** @var list<Problem> */
    private array $remarks = [];

    private readonly Extents $extents;

    /**
     * @param  array<string, Node>  $nodes  formulas by element id
     * @param  array<string, Node>  $travels  by transit stock
     */
    private function __construct(private readonly Model $model, private readonly array $nodes, private readonly array $travels)
    {
        $this->extents = new Extents($model, array_intersect_key($model->shapes, $model->elements));
        $this->settle();
        foreach ($nodes as $id => $node) {
            $this->check((string) $id, $node);
        }
        foreach ($model->elements as $element) {
            if ($element instanceof Flow && ! isset($this->errors[$element->id])) {
                $this->join($element);
            }
        }
    }

    /**
     * @param  array<string, Node>  $nodes
     * @param  array<string, Node>  $travels
     * @return array{Extents, array<string, Problem>, list<Problem>} with what does not fit, by element id, and remarks
     */
    public static function of(Model $model, array $nodes, array $travels): array
    {
        $made = new self($model, $nodes, $travels);

        return [$made->extents, $made->errors, $made->remarks];
    }

    /** Some need each other: it is gone on until nothing grows any more. What does not fit is passed over here. */
    private function settle(): void
    {
        $this->extents->isLenient = true;
        do {
            $changed = false;
            foreach ($this->nodes as $id => $node) {
                if (isset($this->model->shapes[$id]) || $this->model->elements[$id] instanceof Parameter) {
                    continue;
                }
                $known = $this->extents->known[$id] ?? [];
                try {
                    $extent = $this->extents->union($known, $this->extents->of($node), $node);
                } catch (ExtentError) {
                    continue;
                }
                if ($extent !== $known) {
                    $this->extents->known[$id] = $extent;
                    $changed = true;
                }
            }
        } while ($changed);
        foreach ($this->model->elements as $id => $element) {
            // What arrives out of a transit stock has no formula.
            if ($element instanceof Flow && $element->from !== null && $this->model->isArrival($element)) {
                $this->extents->known[$id] = $this->extents->known[$element->from] ?? [];
            }
        }
        $this->extents->isLenient = false;
    }

    private function check(string $id, Node $node): void
    {
        try {
            $extent = $this->extents->of($node);
            if (isset($this->travels[$id])) {
                $extent = $this->extents->union($extent, $this->extents->of($this->travels[$id]), $this->travels[$id]);
            }
        } catch (ExtentError $e) {
            $this->errors[$id] = new Problem($e->reason, $e->getMessage(), $id, $e->field, $e->from, $e->length);

            return;
        }
        $own = $this->extents->known[$id] ?? [];
        foreach ($extent as $dimension) {
            $fits = array_filter($own, fn (string $d): bool => $d === $dimension || $this->extents->dimensions->isPartOf($d, $dimension));
            if ($fits === []) {
                $element = $this->model->elements[$id];
                $this->errors[$id] = new Problem(
                    'extent.wider',
                    "`$element->name` extends over {$this->words($own)}, but what it is computed from extends over {$this->words([
                        $dimension,
                    ])} too. ".
                        "Gather it, such as `sum(…, {$this->extents->dimensions->nameOf(
                            $dimension,
                        )})`, or let `$element->name` extend over it.",
                    $id,
                    'formula',
                    mend: $element instanceof Computed && $element->exceptions === []
                        ? 'sum('.
                            $this->model->formulaOf($element).
                            ', '.
                            Name::written($this->extents->dimensions->nameOf($dimension)).
                            ')'
                        : null,
                );

                return;
            }
        }
    }

    /** How a flow fits the stocks that it joins. */
    private function join(Flow $flow): void
    {
        $own = $this->extents->known[$flow->id] ?? [];
        $narrower = [];
        foreach (array_filter([$flow->from, $flow->to]) as $end) {
            $stock = $this->model->element($end);
            if (! ($stock instanceof Stock)) {
                continue;
            }
            $extent = $this->extents->known[$end] ?? [];
            $more = $this->without($own, $extent);
            if ($more !== []) {
                $this->remark(
                    $flow,
                    'flow.wider',
                    "`$flow->name` extends over {$this->words($more)} and `$stock->name` does not: its sum over that counts there.",
                    $this->gathered($flow, $more),
                );
            }
            $less = $this->without($extent, $own);
            if ($less !== []) {
                $narrower[] = [$stock, $less];
            }
        }
        if ($narrower === []) {
            return;
        }
        [$stock, $less] = $narrower[0];
        $isBetween = $flow->from !== null && $flow->to !== null;
        $isLimited = $stock->neverNegative || $stock->isTransit();
        if ($isBetween || $isLimited) {
            $why = $isBetween
                ? 'between two stocks what leaves one would be another amount than what enters the other'
                : 'how much each could give would be unclear';
            $this->errors[$flow->id] = new Problem(
                'flow.narrower',
                "`$stock->name` extends over {$this->words($less)} and `$flow->name` does not: $why. Let it extend over {$this->words(
                    $less,
                )}.",
                $flow->id,
                'formula',
            );

            return;
        }
        if ($this->divides($flow, $less)) {
            return;
        }
        $size = array_product(array_map($this->extents->dimensions->size(...), $less));
        $count = fn (string $d): string => 'count('.Name::written($this->extents->dimensions->nameOf($d)).')';
        $names = implode(' * ', array_map($count, $less));
        $this->remark(
            $flow,
            'flow.each',
            "Each of the $size elements of `$stock->name` gets the whole of `$flow->name`. Divide it by `$names` if they are to share it.",
            '('.$this->model->formulaOf($flow).") / ($names)",
        );
    }

    /**
     * Whether the formula speaks of how many elements there are: then it is meant.
     *
     * @param  list<string>  $dimensions
     */
    private function divides(Flow $flow, array $dimensions): bool
    {
        $counted = [];
        foreach (isset($this->nodes[$flow->id]) ? $this->nodes[$flow->id]->all() : [] as $part) {
            if ($part instanceof Call && $part->function->name === 'count' && $this->extents->counted($part) === null) {
                $counted[] = $this->extents->dimension($part->arguments[0])->id;
            }
        }

        return array_diff($dimensions, $counted) === [];
    }

    /** @param  ?string  $mend  a formula that says it */
    private function remark(Element $element, string $code, string $sentence, ?string $mend): void
    {
        $this->remarks[] = new Problem($code, $sentence, $element->id, 'formula', severity: Severity::Remark, mend: $mend);
    }

    /**
     * The formula with its sum written out; null where the element says itself over what it extends, or has exceptions.
     *
     * @param  list<string>  $over
     */
    private function gathered(Element $element, array $over): ?string
    {
        $isFree = ! isset($this->model->shapes[$element->id]) && ! ($element instanceof Computed && $element->exceptions !== []);
        $names = array_map(fn (string $d): string => Name::written($this->extents->dimensions->nameOf($d)), $over);

        return $isFree ? 'sum('.implode(', ', [$this->model->formulaOf($element), ...$names]).')' : null;
    }

    /**
     * @param  list<string>  $all
     * @param  list<string>  $others
     * @return list<string> those that pair with none of the others
     */
    private function without(array $all, array $others): array
    {
        return array_values(
            array_filter(
                $all,
                fn (string $d): bool => array_filter($others, fn (string $o): bool => $this->extents->dimensions->pair($d, $o)) === [],
            ),
        );
    }

    /** @param  list<string>  $dimensions */
    private function words(array $dimensions): string
    {
        return $dimensions === []
            ? 'no dimension'
            : implode(' and ', array_map(fn (string $d): string => "`{$this->extents->dimensions->nameOf($d)}`", $dimensions));
    }
}
