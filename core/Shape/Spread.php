<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Shape;

use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Plan\Cell;
use MerryOrbit\Core\Plan\Equation;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Plan\Keys;
use MerryOrbit\Core\Plan\Pace;
use MerryOrbit\Core\Plan\Positions;
use MerryOrbit\Core\Plan\State;

/**
 * Writes a plan that extends over dimensions out into single variables, one for each element. Terms are added in the order of the
 * elements, so that it computes what somebody would get who writes all of it by hand.
 */
final class Spread
{
    /** @var array<string, Equation> */
    public array $equations = [];

    /** @var array<string, State> */
    public array $states = [];

    /** @var array<string, Cell> */
    public array $cells = [];

    /** @var array<string, Node> */
    public array $initials = [];

    /** @var array<string, Node> */
    public array $travels = [];

    /** @var list<array{string, Node, int}> */
    public array $delays = [];

    /** @var array<string, ExtentError> by element id, what cannot be written out */
    public array $errors = [];

    public readonly Positions $positions;

    public readonly ?Node $endWhen;

    /** How many values there may be in all, hidden ones too. */
    public const LARGEST = 40_000;

    private readonly Resolver $resolver;

    private readonly ElementKeys $elements;

    /** How many there are. */
    private int $size = 0;

    /** @var array<string, array<string, string>> the keys of stocks that a flow joins, by its key and `from` or `to` */
    private array $ends = [];

    private string $owner = '';

    /** @var list<string> the place that is written out, for names of parts */
    private array $at = [];

    private int $named = 0;

    /**
     * @param  Extents  $extents  of hidden parts as well; see HiddenExtents
     * @param  array<string, Equation>  $equations
     * @param  array<string, State>  $states
     * @param  array<string, Cell>  $cells
     * @param  array<string, Node>  $initials
     * @param  array<string, Node>  $travels
     * @param  list<array{string, Node, int}>  $delays
     * @param  ?Node  $endWhen  a single condition
     * @param  ?string  $hindrance  what keeps the model from being run in loops, in which it could be larger
     */
    public function __construct(
        private readonly Model $model,
        private readonly Extents $extents,
        private readonly Keys $keys,
        array $equations,
        array $states,
        array $cells,
        array $initials,
        array $travels,
        array $delays,
        private readonly ?string $hindrance = null,
        ?Node $endWhen = null,
    ) {
        $this->elements = new ElementKeys($extents, $keys);
        $this->resolver = new Resolver($extents, $this->elements->at(...), $this->name(...));
        foreach ($equations as $equation) {
            $this->each($equation->key, $equation->owner, function (string $key, array $place) use ($equation): void {
                $draw = $equation->draw === null || $this->at === [] ? $equation->draw : $equation->draw.'['.implode(',', $this->at).']';
                $node = $this->resolver->at($equation->node, $place);
                $this->equations[$key] = new Equation($key, $equation->owner, $node, $equation->pace, $draw);
            });
        }
        foreach ($states as $state) {
            $this->each($state->key, $state->owner, function (string $key, array $place) use ($state): void {
                $this->states[$key] = new State(
                    $key,
                    $state->owner,
                    $this->resolver->at($state->initial, $place),
                    $this->rates($state, $key, $place),
                    $state->forced === null ? null : $this->resolver->at($state->forced, $place),
                );
            });
        }
        foreach ($cells as $cell) {
            $this->each($cell->key, $cell->owner, function (string $key, array $place) use ($cell): void {
                $this->cells[$key] = new Cell(
                    $key,
                    $cell->owner,
                    $cell->kind,
                    $cell->watched === null ? null : $this->resolver->at($cell->watched, $place),
                    $cell->first === null ? null : $this->resolver->at($cell->first, $place),
                );
            });
        }
        foreach ($initials as $hidden => $node) {
            $this->each($hidden, $this->keys->owner($hidden), function (string $key, array $place) use ($node): void {
                $this->initials[$key] = $this->resolver->at($node, $place);
            });
        }
        foreach ($travels as $stock => $node) {
            $this->each($stock, $stock, function (string $key, array $place) use ($node): void {
                $this->travels[$key] = $this->resolver->at($node, $place);
            });
        }
        foreach ($delays as [$owner, $node, $order]) {
            $this->each($owner, $owner, function (string $key, array $place) use ($owner, $node, $order): void {
                $this->delays[] = [$owner, $this->resolver->at($node, $place), $order];
            });
        }
        $this->owner = '';
        $this->at = [];
        $this->endWhen = $endWhen === null ? null : $this->resolver->at($endWhen, []);
        $this->positions = $this->positionsOf();
    }

    /** @param  \Closure(string, array<string, string>): void  $write  for the key and the place of each element */
    private function each(string $key, string $owner, \Closure $write): void
    {
        $this->owner = $owner;
        $sizes = array_map($this->extents->dimensions->size(...), $this->extents->known[$key] ?? []);
        $values = (int) min(1e9, array_product($sizes));
        if ($values > self::LARGEST - $this->size) {
            $this->errors[$owner] ??= ExtentError::at(
                new NameUse($key, '', 0, 0),
                'extent.large',
                'With all its elements this model has more than '.
                    number_format(self::LARGEST).
                    ' values, more than can be computed'.
                    ($this->hindrance === null ? '' : " where there is $this->hindrance").
                    '. Use smaller dimensions.',
            );

            return;
        }
        $this->size += $values;
        foreach ($this->places($this->extents->known[$key] ?? []) as $place) {
            $this->at = array_values($place);
            $this->named = 0;
            try {
                $write((string) $this->elements->at($key, $place), $place);
            } catch (ExtentError $e) {
                $this->errors[$owner] ??= $e;
            }
        }
    }

    /**
     * @param  list<string>  $extent
     * @return list<array<string, string>>
     */
    private function places(array $extent): array
    {
        $places = [[]];
        foreach ($extent as $dimension) {
            $next = [];
            foreach ($places as $place) {
                foreach ($this->extents->dimensions->elements($dimension) as $element) {
                    $next[] = [...$place, $dimension => $element];
                }
            }
            $places = $next;
        }

        return $places;
    }

    /** A name for a value that is needed more than once. */
    private function name(Node $node): NameUse
    {
        if ($node instanceof NameUse) {
            return $node;
        }
        $key = $this->keys->enter(new Key($this->owner, 'm'.++$this->named, $this->at));
        $this->equations[$key] = new Equation($key, $this->owner, $node, Pace::Stage);

        return new NameUse($key, $key, 0, 0);
    }

    /**
     * The flows of one element of a stock: over more dimensions all of them, over fewer the one, over a part none elsewhere.
     *
     * @param  array<string, string>  $place
     * @return list<array{string, int}>
     */
    private function rates(State $state, string $key, array $place): array
    {
        $rates = [];
        foreach ($state->rates as [$flow, $sign]) {
            $wider = array_values(
                array_filter(
                    $this->extents->known[$flow] ?? [],
                    fn (string $d): bool => ! isset($place[$d]) && $this->elements->paired($d, $place) === null,
                ),
            );
            foreach ($this->places($wider) as $more) {
                $one = $this->elements->at($flow, [...$place, ...$more]);
                if ($one !== null) {
                    $rates[] = [$one, $sign];
                    if (! $this->keys->isHidden($key)) {
                        $this->ends[$one][$sign > 0 ? 'to' : 'from'] = $key;
                    }
                }
            }
        }

        return $rates;
    }

    private function positionsOf(): Positions
    {
        $extents = $ends = [];
        foreach ($this->model->elements as $id => $element) {
            $extent = $this->extents->known[$id] ?? [];
            if ($extent !== [] && ! isset($this->errors[$id])) {
                $extents[$id] = $extent;
            }
        }
        $positions = new Positions($extents, $this->extents->dimensions, $this->keys);
        foreach ($this->model->elements as $id => $element) {
            if ($element instanceof Flow) {
                foreach ($positions->of($id) as $key) {
                    $ends[$key] = ['from' => $this->ends[$key]['from'] ?? null, 'to' => $this->ends[$key]['to'] ?? null];
                }
            }
        }

        return new Positions($extents, $this->extents->dimensions, $this->keys, $ends);
    }
}
