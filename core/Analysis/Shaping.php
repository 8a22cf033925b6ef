<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Analysis;

use MerryOrbit\Core\Formula\Nature;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Plan\Keys;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Plan\Planner;
use MerryOrbit\Core\Plan\Positions;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Shape\Edges;
use MerryOrbit\Core\Shape\ElementKeys;
use MerryOrbit\Core\Shape\ExtentError;
use MerryOrbit\Core\Shape\Extents;
use MerryOrbit\Core\Shape\HiddenExtents;
use MerryOrbit\Core\Shape\Packing;
use MerryOrbit\Core\Shape\ShapedPlan;
use MerryOrbit\Core\Shape\Spread;

/** How a model over dimensions is computed: a small one with all its elements one by one, a large one with one equation for all of them. */
final class Shaping
{
    /** @var list<Problem> what does not fit, each of an element, or of the end condition */
    public array $problems = [];

    /** Of a small model; null of a large one. */
    public readonly ?Spread $spread;

    public readonly Planner $planner;

    public readonly ?Node $endWhen;

    /** Why a large model's elements are needed one by one. */
    public ?string $hindrance = null;

    /**
     * @param  Extents  $extents  of elements; those of hidden parts are added
     * @param  array<string, Node>  $travels  by transit stock
     * @param  array<string, string>  $waiting  what cannot be computed
     * @param  int  $loopsFrom  how many values a model has that is run in loops over its elements
     */
    public function __construct(
        private readonly Model $model,
        private readonly Extents $extents,
        private readonly Assembly $assembly,
        private readonly array $travels,
        private readonly Keys $keys,
        private array $waiting,
        ?Node $endWhen,
        int $loopsFrom,
    ) {
        $this->keepHeld();
        $this->endWhen = $endWhen === null ? null : $this->single($endWhen);
        $planner = $this->looped($extents->rosters->isAny() ? 0 : $loopsFrom);
        $this->spread = $planner === null ? $this->spreadOf() : null;
        foreach ($this->spread->errors ?? [] as $id => $error) {
            $this->unfit($id, $error);
        }
        $this->planner = $planner ?? $assembly->planner($travels, $this->spread);
    }

    /** A parameter that is held keeps the values of its elements beside. */
    private function keepHeld(): void
    {
        $elements = new ElementKeys($this->extents, $this->keys);
        foreach ($this->assembly->bases as $base => $id) {
            $this->extents->known[$base] = $this->extents->known[$id] ?? [];
            $table = $this->model->table($id);
            $positions = new Positions([$id => $this->extents->known[$base]], $this->extents->dimensions);
            foreach ($positions->of($id) as $key) {
                $at = explode(',', substr($key, strlen($id) + 1, -1));
                $own = $elements->at($base, array_combine($this->extents->known[$base], $at));
                $this->assembly->hidden[(string) $own] = $table[implode(',', $at)] ?? $this->assembly->parameterOf($id);
            }
        }
    }

    public function positions(): Positions
    {
        return $this->spread->positions ??
            new Positions(
                array_filter(
                    array_intersect_key($this->extents->known, $this->model->elements),
                    // Members have no columns each: they come and go.
                    fn (array $over): bool => $this->extents->rosters->in($over) === null,
                ),
                $this->extents->dimensions,
                clone $this->keys,
            );
    }

    /** The end condition, which is one for all elements; null if it cannot be used. */
    private function single(Node $endWhen): ?Node
    {
        try {
            $over = $this->extents->of($endWhen);
            if ($over !== []) {
                throw ExtentError::at(
                    $endWhen,
                    'extent.end',
                    "A run ends for all elements at once, and this extends over `{$this->extents->dimensions->nameOf($over[0])}`. ".
                        'Say for how many it has to hold: `any(…)` or `all(…)`.',
                );
            }

            return $endWhen;
        } catch (ExtentError $e) {
            $this->problems[] = new Problem($e->reason, $e->getMessage(), null, 'endWhen', $e->from, $e->length);

            return null;
        }
    }

    /**
     * Puts a large model in order as it is, with one equation for all elements.
     *
     * @param  int  $from  how many values make it large
     * @return ?Planner null if it is small, or something in it needs its elements one by one
     */
    private function looped(int $from): ?Planner
    {
        foreach (
            HiddenExtents::settle(
                $this->extents,
                $this->keys,
                $this->assembly->equations,
                $this->assembly->states,
                $this->assembly->cells,
                $this->assembly->initials,
            ) as $id => $error
        ) {
            $this->unfit($id, $error);
        }
        $values = 0;
        foreach ([...array_keys($this->assembly->equations), ...array_keys($this->assembly->states)] as $key) {
            $values += (int) min(1e9, array_product(array_map($this->extents->dimensions->size(...), $this->extents->known[$key] ?? [])));
        }
        if ($values > Packing::LARGEST || $values + $this->terms() < $from) {
            return null;
        }
        $planner = $this->assembly->planner($this->travels);
        if ($planner->circlesNow !== [] || $planner->circlesAtStart !== []) {
            $this->hindrance = 'a circle that only its elements resolve';

            return null;
        }
        $shaped = new ShapedPlan($planner->plan($this->waiting, null), $this->extents);
        $this->hindrance = $this->assembly->bases !== [] ? 'a parameter that is held by hand' : Packing::hindrance($shaped);
        if ($this->hindrance !== null) {
            return null;
        }
        $edges = new Edges($shaped, new ElementKeys($this->extents, clone $this->keys));
        foreach ($shaped->formulas() as [$key, $node]) {
            try {
                $edges->check($node, $shaped->extent($key));
            } catch (ExtentError $e) {
                if ($values <= Spread::LARGEST) {
                    // Written out it is known for sure.
                    return null;
                }
                $this->unfit($this->keys->owner($key), $e);
            }
        }

        return $planner;
    }

    /** How many terms all gatherings have. */
    private function terms(): int
    {
        $terms = 0;
        foreach ($this->assembly->equations as $equation) {
            foreach ($equation->node->all() as $part) {
                if (! isset($this->waiting[$equation->owner]) && $part instanceof Call && $part->function->nature === Nature::Along) {
                    $terms += $this->extents->termsOf($part);
                }
            }
        }

        return $terms;
    }

    private function unfit(string $id, ExtentError $error): void
    {
        if (! isset($this->waiting[$id])) {
            $this->problems[] = new Problem($error->reason, $error->getMessage(), $id, $error->field, $error->from, $error->length);
            $this->waiting[$id] = $id;
        }
    }

    /**
     * What is run in loops, with all its elements one by one: for what only that can tell.
     *
     * @param  array<string, string>  $waiting  what cannot be computed
     *
     * @throws NotUnderstood where there are too many
     */
    public function writtenOut(array $waiting): Plan
    {
        $spread = $this->spreadOf();
        foreach ($spread->errors as $error) {
            throw NotUnderstood::because('This needs all elements one by one. '.$error->getMessage());
        }

        return $this->assembly->planner($this->travels, $spread)->plan($waiting, $spread->endWhen);
    }

    private function spreadOf(): Spread
    {
        return new Spread(
            $this->model,
            $this->extents,
            $this->keys,
            $this->assembly->equations,
            $this->assembly->states,
            $this->assembly->cells,
            $this->assembly->initials,
            $this->travels,
            $this->assembly->delays,
            $this->hindrance,
            $this->endWhen,
        );
    }
}
