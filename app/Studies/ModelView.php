<?php

declare(strict_types=1);

namespace App\Studies;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Symbol;
use MerryOrbit\Core\Library\CurveShape;
use MerryOrbit\Core\Model\Appearance;
use MerryOrbit\Core\Model\Calendar;
use MerryOrbit\Core\Model\Computed;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Finding;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Group;
use MerryOrbit\Core\Model\Meaning;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Part;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\Placement;
use MerryOrbit\Core\Model\Plot;
use MerryOrbit\Core\Model\Point;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Scenario;
use MerryOrbit\Core\Model\Sheet;
use MerryOrbit\Core\Model\SpecialCase;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Model\Transaction;
use MerryOrbit\Core\Plan\Positions;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Structure\Checkup;
use MerryOrbit\Core\Structure\Polarity;
use MerryOrbit\Core\Unit\UnitChecker;
use MerryOrbit\Core\Unit\UnitReport;

/**
 * A model as the page shows it: formulas as text with today's names, and what follows from them.
 * The parts are compared one by one, so that a change travels as what changed.
 */
final readonly class ModelView
{
    /** @param  array<string, mixed>  $parts */
    public function __construct(public array $parts)
    {
    }

    public static function of(Model $model): self
    {
        $analysis = Analyser::analyse($model);
        $units = UnitChecker::check($analysis->model, $analysis->nodes);

        return new self([
            'name' => $model->name,
            'note' => $model->note,
            'time' => $model->time->toRecord() + [
                'saveEvery' => null,
                'steps' => $model->time->steps(),
                'startDate' => null,
                'tolerance' => $model->time->tolerance,
                'absoluteTolerance' => $model->time->absoluteTolerance,
            ],
            'sheets' => array_map(static fn (Sheet $s): array => ['id' => $s->id, 'name' => $s->name], $model->sheets),
            'tracks' => array_map(static fn (Plot $p): array => $p->toRecord(), $model->tracks),
            'plots' => array_map(static fn (Plot $p): array => $p->toRecord(), $model->plots),
            'scenarios' => array_map(
                static fn (Scenario $s): array => [
                    ...$s->toRecord(),
                    'resolved' => Scenario::settingOf($model->scenarios, $s->id)->toRecord(),
                ],
                $model->scenarios,
            ),
            'findings' => array_map(static fn (Finding $f): array => $f->toRecord(), $model->findings),
            'order' => array_keys($model->elements),
            'elements' => [
                ...array_map(static fn (Element $e): array => self::element($model, $analysis, $units, $e), $model->elements),
                ...self::made($model, $analysis, $units),
            ],
            'placements' => array_map(static fn (Placement $p): array => $p->toRecord(), $model->placements),
            'echoes' => array_map(static fn (Appearance $e): array => $e->toRecord(), $model->echoes),
            'bends' => array_map(static fn (Point $p): array => $p->toRecord(), $model->bends),
            'mapSpots' => array_map(static fn (mixed $p): array => $p instanceof Point ? $p->toRecord() : [], $model->part('mapSpots')),
            'groups' => array_map(static fn (Group $g): array => $g->toRecord(), $model->groups),
            'dimensions' => self::dimensions($analysis),
            'links' => self::links($analysis),
            'problems' => array_map(
                static fn (Problem $p): array => $p->jsonSerialize(),
                $analysis->led(Checkup::withRemedies($analysis, [...$analysis->problems, ...$units->remarks])),
            ),
            'health' => array_map(static fn (Problem $p): array => $p->jsonSerialize(), $analysis->led(Checkup::of($analysis))),
            'endWhen' => $model->endWhen->text($model->nameOf(...)),
            'sameUnits' => $model->sameUnits,
            'waiting' => $analysis->waiting,
            'meaning' => Meaning::of($model),
            'calendar' => Calendar::of($model->time)?->anchors(),
            'generated' => self::generated($analysis, $units),
            ...self::otherParts($model),
        ]);
    }

    /**
     * What parts of the document make that can be mentioned and looked at as any element, though it is none: claims, say.
     *
     * @return array<string, array<string, mixed>>
     */
    private static function made(Model $model, Analysis $analysis, UnitReport $units): array
    {
        $made = [];
        foreach (array_intersect_key($analysis->origins(), $model->made()) as $id => $origin) {
            $row = $model->part($origin->part)[$origin->id] ?? null;
            $own = $row instanceof Transaction ? ['formula' => $row->formula->text($model->nameOf(...))] : [];
            $made[$id] = [
                ...self::element($model, $analysis, $units, $analysis->model->elements[$id]),
                ...$own,
                'made' => $origin->jsonSerialize(),
            ];
        }

        return $made;
    }

    /**
     * Of each element that was made of something else what a plot needs to tell of it, and where it comes from.
     *
     * @return array<string, array{name: string, kind: string, unit: string, origin: array{part: string, id: string, words: string}}>
     */
    private static function generated(Analysis $analysis, UnitReport $units): array
    {
        $generated = [];
        foreach ($analysis->origins() as $id => $origin) {
            $element = $analysis->model->elements[$id];
            $unit = $element->unit !== '' || ! isset($units->inferred[$id]) ? $element->unit : $units->units[$id]->text();
            $generated[$id] = [
                'name' => $element->name,
                'kind' => $element->kind()->value,
                'unit' => $unit,
                'origin' => $origin->jsonSerialize(),
            ];
        }

        return $generated;
    }

    /**
     * The dimensions of the model with all of their elements, and those that parts share.
     *
     * @return list<array<string, mixed>>
     */
    private static function dimensions(Analysis $analysis): array
    {
        $all = $analysis->model->dimensions();
        $shared = array_diff(array_merge([], ...array_values($analysis->extents)), array_keys($all->all()));
        $views = [];
        foreach ([...array_keys($all->all()), ...array_unique($shared)] as $id) {
            $dimension = $all->find((string) $id);
            if ($dimension !== null) {
                $named = static fn (string $e): array => ['id' => $e, 'name' => $all->elementName($dimension->id, $e)];
                $limit = $all->isLimited($dimension->id) ? $all->elements($dimension->id) : null;
                $views[] = [
                    'id' => $dimension->id,
                    'name' => $dimension->name,
                    'counted' => $dimension->isCounted,
                    'partOf' => $dimension->partOf,
                    'sameAs' => $dimension->sameAs,
                    'whole' => $all->whole($dimension->id),
                    'root' => $all->root($dimension->id),
                    'limitedTo' => $limit,
                    'words' => (object) $dimension->words,
                    'shared' => ! isset($all->all()[$id]),
                    'elements' => array_map($named, $all->allElements($dimension->id)),
                ];
            }
        }

        return $views;
    }

    /** @return array<string, array<array-key, mixed>> what is filed one by one and has no view of its own here, as it is recorded */
    private static function otherParts(Model $model): array
    {
        return array_map(
            static fn (Part $p): array => array_map($p->record, $model->part($p->name)),
            array_diff_key(Parts::filed(), get_object_vars($model)),
        );
    }

    /** @return list<array<string, mixed>> the sign is null where only a run can tell it */
    private static function links(Analysis $analysis): array
    {
        $polarity = new Polarity($analysis);

        return array_map(
            static fn (array $link): array => $link['kind'] === 'unused'
                ? $link
                : [...$link, ...array_filter($polarity->ofLink($link['from'], $link['to']), static fn (mixed $v): bool => $v !== false)],
            $analysis->links(),
        );
    }

    /** @return array<string, mixed> */
    private static function element(Model $model, Analysis $analysis, UnitReport $units, Element $element): array
    {
        $view = [
            'id' => $element->id,
            'kind' => $element->kind()->value,
            'name' => $element->name,
            'written' => Name::written($element->name),
            'formula' => $model->formulaOf($element),
            'unit' => $element->unit,
            'inferred' => isset($units->inferred[$element->id]) ? $units->units[$element->id]->text() : null,
            'note' => $element->note,
            'symbol' => $element->symbol,
            'sign' => Symbol::text($element->symbol),
        ];
        $parts = $analysis->partsOf($element->id, Positions::MOST_TOLD);
        if ($parts !== []) {
            $view['along'] = [
                'over' => $analysis->extents[$element->id] ?? [],
                'dimensions' => array_map($model->dimensions()->nameOf(...), $analysis->extents[$element->id] ?? []),
                'size' => $analysis->positions->count($element->id),
                'parts' => $parts,
            ];
        }
        $roster = $analysis->extents === [] ? null : $analysis->shaped?->roster($element->id);
        if ($roster !== null) {
            $view['members'] = $roster->dimension;
        }
        if (isset($model->shapes[$element->id])) {
            $view['says'] = $model->shapes[$element->id];
        }
        if ($element instanceof Computed && $element->exceptions !== []) {
            $view['exceptions'] = array_map(
                static fn (SpecialCase $c): array => [
                    'for' => $c->for,
                    'words' => $c->words($model->dimensions()),
                    'text' => $c->formula->text($model->nameOf(...)),
                ],
                $element->exceptions,
            );
        }
        if ($element instanceof Flow) {
            $stock = $element->from === null ? null : $model->element($element->from);
            $view += [
                'from' => $element->from,
                'to' => $element->to,
                'oneWay' => $element->oneWay,
                'priority' => $element->priority,
                'arrives' => $stock instanceof Stock && $model->arrival($stock) === $element,
            ];
        }
        if ($element instanceof Stock) {
            $view += ['neverNegative' => $element->neverNegative, 'travel' => $element->travel->text($model->nameOf(...))];
        }
        if ($element instanceof Relation) {
            $view += [
                'points' => $element->points,
                'between' => $element->between->value,
                'beyond' => $element->beyond->value,
                'inputUnit' => $element->inputUnit,
                'path' => count($element->points) > 1 ? CurveShape::of($element)->path() : [],
            ];
        }
        if ($element instanceof Parameter) {
            $view += [
                'value' => $analysis->parameters[$element->id] ?? null,
                'low' => $element->low,
                'high' => $element->high,
                'step' => $element->step,
                'choices' => $element->choices,
            ];
        }

        return $view;
    }

    /**
     * Some elements as the page shows them, without the units that follow from others.
     *
     * @param  list<string>  $ids
     * @return array<string, array<string, mixed>>
     */
    public static function elements(Analysis $analysis, array $ids): array
    {
        $none = new UnitReport([], [], []);

        return array_map(
            static fn (Element $e): array => self::element($analysis->model, $analysis, $none, $e),
            array_intersect_key($analysis->model->elements, array_flip($ids)),
        );
    }

    /** @return ?array<string, mixed> one element as the page shows it */
    public static function elementOf(Model $model, string $id): ?array
    {
        $element = $model->element($id);

        $analysis = Analyser::analyse($model);

        return $element === null
            ? null
            : self::element($model, $analysis, UnitChecker::check($analysis->model, $analysis->nodes), $element);
    }

    /** @return array<string, mixed> the parts, maps being objects even when empty */
    public function toJson(): array
    {
        return self::withObjects($this->parts);
    }

    /** @return array<string, mixed> parts that differ; of elements and placements only those that do, null for gone */
    public function since(self $before): array
    {
        $delta = [];
        foreach ($this->parts as $part => $now) {
            $was = $before->parts[$part];
            if ($now === $was) {
                continue;
            }
            $delta[$part] = in_array($part, ['elements', 'placements', 'echoes'], true)
                ? self::difference((array) $was, (array) $now)
                : $now;
        }

        return self::withObjects($delta);
    }

    /**
     * @param  array<mixed>  $was
     * @param  array<mixed>  $now
     * @return array<mixed>
     */
    private static function difference(array $was, array $now): array
    {
        $changed = array_filter($now, static fn (mixed $one, int|string $id): bool => $one !== ($was[$id] ?? null), ARRAY_FILTER_USE_BOTH);

        return $changed + array_fill_keys(array_keys(array_diff_key($was, $now)), null);
    }

    /**
     * @param  array<string, mixed>  $parts
     * @return array<string, mixed>
     */
    private static function withObjects(array $parts): array
    {
        if (is_array($parts['scenarios'] ?? null)) {
            $parts['scenarios'] = array_map(
                static fn (mixed $s): array => ['setting' => (object) $s['setting'], 'resolved' => (object) $s['resolved']] + (array) $s,
                $parts['scenarios'],
            );
        }
        foreach (
            ['elements', 'placements', 'echoes', 'bends', 'mapSpots', 'waiting', 'generated', ...array_keys(Parts::filed())] as $map
        ) {
            if (isset($parts[$map])) {
                $parts[$map] = (object) $parts[$map];
            }
        }

        return $parts;
    }
}
