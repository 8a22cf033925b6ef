<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Structure;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\FreeSpot;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Plot;
use MerryOrbit\Core\Model\Roster;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Problem\Nearest;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Problem\Remedy;
use MerryOrbit\Core\Problem\Severity;

/** What a careful reader would ask about a model that computes, and remedies for what is wrong with one that does not. */
final readonly class Checkup
{
    private function __construct(private Analysis $analysis, private Model $model)
    {
    }

    /** @return list<Problem> remarks about the structure */
    public static function of(Analysis $analysis): array
    {
        $checkup = new self($analysis, $analysis->model);

        return [...$checkup->unused(), ...$checkup->stillStocks(), ...MapCheck::of($analysis)];
    }

    /**
     * The problems with a remedy where there is one.
     *
     * @param  list<Problem>  $problems
     * @return list<Problem>
     */
    public static function withRemedies(Analysis $analysis, array $problems): array
    {
        $checkup = new self($analysis, $analysis->model);

        return array_map(static function (Problem $p) use ($checkup): Problem {
            if ($p->remedy !== null) {
                return $p;
            }
            $remedies = array_values(
                array_filter([$checkup->remedy($p), $p->code === 'name.unknown' ? $checkup->missingThing($p) : null]),
            );

            return $p->withRemedy($remedies[0] ?? null, $remedies[1] ?? null);
        }, $problems);
    }

    /** @return list<Problem> */
    private function unused(): array
    {
        $made = $this->analysis->origins();
        $inFormulas = array_merge([], ...array_values($this->analysis->uses));
        $onTracks = array_merge([], ...array_map(static fn (Plot $p): array => $p->of, $this->model->tracks));
        $used = array_fill_keys([...$inFormulas, ...$onTracks, ...$this->model->endWhen->ids()], true);
        foreach ($this->model->links as $link) {
            $used[$link->from] = true;
        }
        foreach ($this->model->elements as $element) {
            foreach ($element->formulas() as $formula) {
                $used += array_fill_keys($formula->ids(), true);
            }
        }
        foreach ($this->model->part('rosters') as $roster) {
            foreach ($roster instanceof Roster ? $roster->names() : [] as $name) {
                $used[$this->model->element($name) === null ? $this->model->idOf(Name::key($name)) ?? '' : $name] = true;
            }
        }
        $problems = [];
        foreach ($this->model->elements as $id => $element) {
            // What was made of a ledger is looked at there.
            if (isset($used[$id]) || isset($made[$id]) || $element instanceof Stock || $element instanceof Flow) {
                continue;
            }
            $sentence =
                $element instanceof Auxiliary
                    ? "Nothing uses `$element->name` yet, and it has no track. Mention it in a formula, or show its track (T)."
                    : "Nothing uses `$element->name` yet. Mention it in a formula.";
            // It may have been made a minute ago: to delete it is not offered.
            $problems[] = $this->remark('health.unused', $sentence, $element);
        }

        return $problems;
    }

    /** @return list<Problem> */
    private function stillStocks(): array
    {
        $made = $this->analysis->origins();
        $touched = [];
        foreach ($this->model->elements as $flow) {
            if ($flow instanceof Flow) {
                $touched[$flow->from ?? ''] = $touched[$flow->to ?? ''] = true;
            }
        }
        $problems = [];
        foreach ($this->model->elements as $id => $element) {
            if ($element instanceof Stock && ! isset($touched[$id]) && ! isset($made[$id])) {
                $kind = is_numeric($this->model->formulaOf($element)) ? 'parameter' : 'auxiliary';
                $problems[] = $this->remark(
                    'health.still',
                    "No flow touches `$element->name`, so it stays at its initial value. Pull a flow, or make it ".
                        ($kind === 'auxiliary' ? 'an auxiliary.' : 'a parameter.'),
                    $element,
                    new Remedy($kind === 'auxiliary' ? 'Make it an auxiliary' : 'Make it a parameter', [
                        ['kind' => 'become', 'id' => $id, 'element' => $kind],
                    ]),
                );
            }
        }

        return $problems;
    }

    private function remark(string $code, string $sentence, Element $element, ?Remedy $remedy = null): Problem
    {
        return new Problem($code, $sentence, $element->id, 'formula', severity: Severity::Remark, remedy: $remedy);
    }

    private function remedy(Problem $problem): ?Remedy
    {
        $element = $this->model->element($problem->element ?? '');
        if ($element === null) {
            return null;
        }
        if ($problem->mend !== null) {
            return new Remedy("Take $problem->mend", [['kind' => 'formula', 'id' => $element->id, 'text' => $problem->mend]]);
        }

        return match ($problem->code) {
            'parameter.computed', 'parameter.moving' => new Remedy('Make it an auxiliary', [
                ['kind' => 'become', 'id' => $element->id, 'element' => 'auxiliary'],
            ]),
            'name.unknown' => $this->forUnknownName($element, $problem),
            default => null,
        };
    }

    /** The name that was probably meant. */
    private function forUnknownName(Element $element, Problem $problem): ?Remedy
    {
        $name = $this->unknownName($element, $problem);
        $near = $name === null ? null : Nearest::names($name, $this->model->names())[0] ?? null;
        if ($near === null) {
            return null;
        }
        $text = $this->model->formulaOf($element);
        $before = mb_substr($text, 0, (int) $problem->from);

        return new Remedy("Write $near instead", [
            [
                'kind' => 'formula',
                'id' => $element->id,
                'text' => $before.Name::written($near).mb_substr($text, $problem->from + $problem->length),
            ],
        ]);
    }

    /** A parameter of the name that nothing has yet, beside the thing that misses it. */
    private function missingThing(Problem $problem): ?Remedy
    {
        $element = $this->model->element($problem->element ?? '');
        $name = $element === null ? null : $this->unknownName($element, $problem);
        if ($element === null || $name === null) {
            return null;
        }
        $id = 'e'.substr(hash('sha256', "$element->id $name"), 0, 11);
        $place = FreeSpot::beside($this->model, $element->id);

        return $this->model->element($id) !== null
            ? null
            : new Remedy("Add $name as a parameter", [
                [
                    'kind' => 'add',
                    'id' => $id,
                    'element' => 'parameter',
                    'name' => $name,
                    'placement' => ['at' => ['x' => $place->at->x, 'y' => $place->at->y], 'sheet' => $place->sheet],
                ],
            ]);
    }

    private function unknownName(Element $element, Problem $problem): ?string
    {
        if ($problem->from === null || $problem->length === null || $problem->field !== 'formula') {
            return null;
        }

        return str_replace('""', '"', trim(mb_substr($this->model->formulaOf($element), $problem->from, $problem->length), '"'));
    }
}
