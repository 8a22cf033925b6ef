<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Analysis;

use MerryOrbit\Core\Formula\Nature;
use MerryOrbit\Core\Formula\Node\Along;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Pick;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Plan\Keys;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Plan\State;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Roster\OpenRoster;
use MerryOrbit\Core\Shape\ExtentError;
use MerryOrbit\Core\Shape\Extents;

/** What of rosters does not fit: rules that mention something they cannot use, and formulas that need members to stay. */
final class RosterReading
{
    /** What remembers in a way that nobody can begin in the middle of a run. */
    private const LASTING = ['shift', 'drift', 'hold'];

    /** @var list<Problem> */
    public array $problems = [];

    /** @var array<string, string> by id of what cannot be computed, the id of what it waits for */
    public array $waiting = [];

    /** @param  array<string, string>  $known  what waits already */
    public function __construct(private readonly Model $model, private readonly Extents $extents, private readonly array $known)
    {
    }

    /** @param  ?string  $hindrance  why members cannot be computed side by side */
    public function read(Plan $plan, Keys $keys, bool $isLooped, ?string $hindrance): void
    {
        foreach ($this->extents->rosters->all as $roster) {
            $this->rules($roster);
            if (! $isLooped) {
                $why = $hindrance ?? 'something that needs its elements one by one';
                $this->refuse($roster, null, "Members of `$roster->name` come and go, which this model does not allow: it has $why.");
            }
        }
        foreach ($isLooped ? [...$plan->equations, ...$plan->states] : [] as $key => $one) {
            $starts = $one instanceof State;
            $this->formula($keys->owner((string) $key), (string) $key, $starts ? $one->initial : $one->node, $starts);
        }
        foreach ($isLooped ? $plan->cells : [] as $key => $cell) {
            $roster = $this->extents->rosters->in($this->extents->known[(string) $key] ?? []);
            if ($roster !== null && in_array($cell->kind, self::LASTING, true)) {
                $this->refuse(
                    $roster,
                    $keys->owner((string) $key),
                    "`$cell->kind` cannot begin in the middle of a run, as a new `$roster->name` would.",
                );
            }
        }
    }

    private function rules(OpenRoster $roster): void
    {
        $words = $roster->roster;
        foreach ($words->entries as $entry) {
            $over = $this->used($roster, $entry['of'], "how many enter as “{$entry['words']}”");
            $targets = array_map(static fn ($m): string => $m->to, array_values($roster->belongs));
            if ($over !== null && $over !== [] && (count($over) > 1 || ! in_array($over[0], $targets, true))) {
                $name = $this->model->nameOf($entry['of']);
                $this->refuse(
                    $roster,
                    $entry['of'],
                    "`$name` says how many of `$roster->name` enter: it is one number, or one for each element that they belong to.",
                );
            }
            foreach ($entry['starts'] as $start) {
                $this->over($roster, $start['of'], [$roster->dimension], 'is given to each that enters', Parameter::class);
                $this->over($roster, $start['from'], [], 'is what one starts with that enters');
            }
        }
        foreach ($words->exits as $exit) {
            $this->over($roster, $exit['of'], [$roster->dimension], "says who leaves as “{$exit['words']}”");
            if ($this->model->element($exit['of']) instanceof Stock) {
                $name = $this->model->nameOf($exit['of']);
                $this->refuse($roster, $exit['of'], "`$name` is a stock. Who leaves is said by a formula, such as `$name < 1`.");
            }
        }
        foreach ($words->ties as $tie) {
            foreach (['made' => 'says how soon a tie is made', 'ended' => 'says how soon a tie ends'] as $field => $does) {
                if ($tie[$field] !== '') {
                    $this->over($roster, $tie[$field], [$roster->dimension], $does);
                }
            }
        }
        foreach ($words->hands as $hand) {
            $this->over($roster, $hand['of'], [$roster->dimension], 'is handed on when one leaves', Stock::class);
            $this->over($roster, $hand['to'], [], 'takes what is left', Stock::class);
        }
        if ($words->since !== '') {
            $this->over($roster, $words->since, [$roster->dimension], 'says when each enters', Parameter::class);
        }
        foreach ($this->model->elements as $id => $element) {
            $over = $this->model->shapes[$id] ?? [];
            if (in_array($roster->dimension, array_slice($over, 1), true)) {
                $this->refuse(
                    $roster,
                    (string) $id,
                    "`$element->name` extends over `$roster->name`, whose members come and go: let that be its first dimension.",
                );
            }
        }
        foreach ($this->extents->dimensions->all() as $other) {
            if ($other->id !== $roster->dimension && $this->extents->dimensions->root($other->id) === $roster->dimension) {
                $this->refuse(
                    $roster,
                    null,
                    "`$other->name` has elements of `$roster->name`, whose members come and go: that is not possible.",
                );
            }
        }
        foreach ($roster->belongs as $mapping) {
            $times = array_count_values(array_map(static fn (array $p): string => $p[0], $mapping->pairs));
            if ($times !== [] && max($times) > 1) {
                $this->refuse(
                    $roster,
                    null,
                    "By `$mapping->name` a `$roster->name` belongs to several; where members come and go each belongs to one.",
                );
            }
        }
    }

    /**
     * @param  list<string>  $extent
     * @param  class-string|null  $kind
     */
    private function over(OpenRoster $roster, string $id, array $extent, string $does, ?string $kind = null): void
    {
        $over = $this->used($roster, $id, "what $does");
        $element = $this->model->element($id);
        if ($over === null || $element === null) {
            return;
        }
        if ($kind !== null && ! ($element instanceof $kind)) {
            $word = $kind === Stock::class ? 'a stock' : 'a parameter';
            $this->refuse($roster, $id, "`$element->name` $does; it has to be $word.");
        } elseif ($over !== $extent) {
            $this->refuse(
                $roster,
                $id,
                $extent === []
                    ? "`$element->name` $does; it has to be one number, not one for each of several."
                    : "`$element->name` $does; it has to extend over `$roster->name`, and over nothing else.",
            );
        }
    }

    /** @return list<string>|null over what it extends; null if it is not there or cannot be computed */
    private function used(OpenRoster $roster, string $id, string $what): ?array
    {
        $element = $this->model->element($id);
        if ($element === null) {
            $this->refuse($roster, null, "The roster `$roster->name` misses $what: there is no `$id` any more.");

            return null;
        }
        if (isset($this->known[$id])) {
            $this->hold($roster, $this->known[$id]);

            return null;
        }

        return $this->extents->known[$id] ?? [];
    }

    private function formula(string $owner, string $key, Node $node, bool $starts): void
    {
        $over = $this->extents->known[$key] ?? [];
        $rosters = array_values(array_filter($over, fn (string $d): bool => $this->extents->rosters->find($d) !== null));
        $roster = $this->extents->rosters->in($over);
        if (count($rosters) > 1 && $roster !== null) {
            $this->refuse(
                $roster,
                $owner,
                'This extends over two rosters at once. What members have to do with each other goes by a relation.',
            );

            return;
        }
        foreach ($node->all() as $part) {
            try {
                $this->part($owner, $part, $starts && $roster !== null);
            } catch (ExtentError) {
                // It is said elsewhere.
            }
        }
    }

    /** @throws ExtentError */
    private function part(string $owner, Node $part, bool $starts): void
    {
        if ($part instanceof Pick) {
            $this->pick($owner, $part);
        } elseif ($part instanceof Call && $part->function->nature === Nature::Along) {
            $this->along($owner, $part, $starts);
        }
    }

    /** @throws ExtentError */
    private function pick(string $owner, Pick $pick): void
    {
        foreach ($this->extents->moves($pick) as $dimension => $move) {
            $roster = $this->extents->rosters->find((string) $dimension);
            if ($roster !== null) {
                $this->refuse(
                    $roster,
                    $owner,
                    $move->mapping !== null
                        ? "Who is related to a `$roster->name` may be several or none: gather them, such as `mean(…, {$move->mapping->name})`."
                        : "A formula cannot pick single members of `$roster->name`, which may have left. Gather them, such as `sum(…, $roster->name)`.",
                );
            }
            $mapping = $pick->otherwise === null ? $move->mapping : null;
            $from = $mapping === null ? null : $this->extents->rosters->find($mapping->from);
            if ($mapping === null || $from === null) {
                continue;
            }
            foreach ($from->roster->entries as $entry) {
                $id = $mapping->id;
                $rate = $this->extents->known[$entry['of']] ?? [];
                if (! isset($entry['joins'][$id]) && $rate !== [$mapping->to]) {
                    $this->refuse(
                        $from,
                        $owner,
                        "Who enters as “{$entry['words']}” belongs nowhere by `{$mapping->name}`, by which this picks. ".
                            'Say where they belong, or what counts else: `[…; else 0]`.',
                    );
                }
            }
        }
    }

    /** @throws ExtentError */
    private function along(string $owner, Call $call, bool $starts): void
    {
        $name = $call->function->name;
        if (in_array($name, ['count', 'position', 'number', 'is'], true)) {
            $mapping = $name === 'count' ? $this->extents->counted($call) : null;
            if ($mapping !== null && $this->extents->rosters->find($mapping->from) !== null) {
                // Their own rows tell how many there are.
                return;
            }
            $dimension = $mapping === null ? $this->extents->dimension($call->arguments[0])->id : $mapping->to;
            $roster = $this->extents->rosters->find($dimension);
            if ($roster !== null && ($name !== 'count' || $mapping !== null)) {
                $this->refuse($roster, $owner, "`$name` needs members that stay where they are; those of `$roster->name` come and go.");
            }

            return;
        }
        $values = array_values(array_filter($call->arguments, static fn (Node $a): bool => ! ($a instanceof Along)));
        foreach ($this->extents->bound($call, $this->extents->of($values[0])) as $bound) {
            $to = $bound->mapping === null ? null : $this->extents->rosters->find($bound->mapping->to);
            if ($to !== null && $this->extents->rosters->find($bound->mapping->from) === null) {
                $this->refuse(
                    $to,
                    $owner,
                    "`{$bound->mapping->name}` leads to `$to->name`, whose members come and go: let it lead the other way.",
                );
            }
            $roster = $this->extents->rosters->find($bound->dimension);
            if ($roster !== null && $starts) {
                $this->refuse(
                    $roster,
                    $owner,
                    "What a `$roster->name` starts with cannot depend on all of them. Use something that is computed outside.",
                );
            }
        }
    }

    /** All that members have waits. */
    private function hold(OpenRoster $roster, string $for): void
    {
        foreach ($this->extents->known as $key => $over) {
            if (in_array($roster->dimension, $over, true) && $this->model->element((string) $key) !== null) {
                $this->waiting[(string) $key] ??= $for;
            }
        }
    }

    private function refuse(OpenRoster $roster, ?string $element, string $sentence): void
    {
        $problem = new Problem('roster.unfit', $sentence, $element, $element === null ? null : 'formula');
        $this->problems[] = $problem->by(['part' => 'rosters', 'id' => $roster->roster->id, 'words' => "the roster “{$roster->name}”"]);
        $this->hold($roster, $element ?? '');
        if ($element !== null) {
            $this->waiting[$element] = $element;
        }
    }
}
