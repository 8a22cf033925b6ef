<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Expand;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Factor;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Problem\Problem;

/**
 * A model in which everything is an ordinary element, and where those come from that were made of something else. It is what the
 * analyser reads; nothing behind it knows of what was expanded. The document itself never holds what is made here.
 */
final readonly class Expanded
{
    /**
     * @param  array<string, Origin>  $origins  by id of the element
     * @param  list<Problem>  $problems  what could not be made
     * @param  array<string, true>  $factors  keys of the names of what is only on the causal map: nothing of it is computed
     */
    private function __construct(public Model $model, public array $origins, public array $problems, public array $factors)
    {
    }

    public static function of(Model $model): self
    {
        $expanded = new self($model->withoutFactors(), [], [], self::factors($model));
        foreach (Expansions::all() as $expand) {
            $expanded = $expand($expanded);
        }

        return $expanded;
    }

    /** @return array<string, true> */
    private static function factors(Model $model): array
    {
        $factors = [];
        foreach ($model->elements as $element) {
            if ($element instanceof Factor) {
                $factors[Name::key($element->name)] = true;
            }
        }

        return $factors;
    }

    /**
     * With elements made of something. One whose name is taken already is left out, and that is said.
     *
     * @param  list<Element>  $elements  with ids of their own
     * @param  array<string, list<string>>  $shapes  by id, the dimensions of those that extend over some
     */
    public function with(Origin $origin, array $elements, array $shapes = []): self
    {
        $all = $this->model->elements;
        $origins = $this->origins;
        $problems = $this->problems;
        $names = array_flip(array_map(static fn (Element $e): string => Name::key($e->name), $all));
        foreach ($elements as $element) {
            $key = Name::key($element->name);
            if (isset($all[$element->id]) || isset($names[$key])) {
                $problems[] = (new Problem(
                    'expanded.taken',
                    ucfirst($origin->words).
                        " would make `$element->name`, but something is called so already. Give one of the two another name.",
                ))->by($origin->jsonSerialize());

                continue;
            }
            $all[$element->id] = $element;
            $names[$key] = $element->id;
            $origins[$element->id] = $origin;
        }

        $known = [...$this->model->shapes, ...array_intersect_key(array_filter($shapes), $all)];

        return new self($this->model->with(['elements' => $all, 'shapes' => $known]), $origins, $problems, $this->factors);
    }

    /**
     * Problems lead to where what they are about comes from; what nobody can edit there has no remedy.
     *
     * @param  list<Problem>  $problems
     * @return list<Problem>
     */
    public function led(array $problems): array
    {
        return array_map(
            fn (Problem $p): Problem => isset($this->origins[$p->element ?? ''])
                ? $p->withRemedy(null)->by($this->origins[$p->element ?? '']->jsonSerialize())
                : $p,
            $problems,
        );
    }
}
