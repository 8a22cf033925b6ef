<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\FormulaError;
use MerryOrbit\Core\Formula\FormulaReader;
use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Node\Along;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Node\Pick;
use MerryOrbit\Core\Formula\Node\PickStep;
use MerryOrbit\Core\Formula\Node\QuantityUse;
use MerryOrbit\Core\Formula\Reference;
use MerryOrbit\Core\Problem\Shown;

/** What of a model its numbers depend on: not names, units, notes, places, plots, scenarios or the ranges of dials. */
final class Meaning
{
    /**
     * The same text for two models that compute the same, by all that can be told without computing.
     *
     * @param  list<string>  $besides  parameters, elements of them, stocks, and points of curves by their x, whose own numbers do not count
     */
    public static function of(Model $model, array $besides = []): string
    {
        $model = $model->withoutFactors();
        $parts = [
            json_encode([...$model->time->toRecord(), 'unit' => '', 'startDate' => null], JSON_THROW_ON_ERROR),
            self::text($model->endWhen, $model),
        ];
        if ($model->dimensions !== []) {
            // By what they are called is no number changed.
            $orders = array_map(static fn (Dimension $d): array => [$d->id, $model->dimensions()->elements($d->id)], $model->dimensions);
            $mappings = array_map(
                static fn (Mapping $m): array => [$m->id, $m->from, $m->to, $m->pairs],
                array_values($model->mappings()),
            );
            $parts[] = json_encode([$orders, $mappings], JSON_THROW_ON_ERROR);
        }
        $books = [];
        foreach ($model->part('claims') as $id => $claim) {
            $books[] =
                $claim instanceof Claim
                    ? [$id, $claim->holder, $claim->debtor, $claim->limited, self::text($claim->initial, $model)]
                    : [];
        }
        foreach ($model->part('transactions') as $id => $row) {
            $books[] = $row instanceof Transaction ? [$id, $row->entries, $row->oneWay, self::text($row->formula, $model)] : [];
        }
        if ($books !== []) {
            $parts[] = json_encode($books, JSON_THROW_ON_ERROR);
        }
        foreach ($model->part('rosters') as $roster) {
            $parts[] = $roster instanceof Roster ? json_encode([...$roster->toRecord(), 'note' => ''], JSON_THROW_ON_ERROR) : '';
        }
        foreach ($model->elements as $id => $element) {
            $own = match (true) {
                $element instanceof Stock => [$element->neverNegative, self::text($element->travel, $model)],
                $element instanceof Flow => [$element->from, $element->to, $element->oneWay, $element->priority],
                $element instanceof Relation => [
                    self::points($element, $besides),
                    $element->between->value,
                    $element->beyond->value,
                    ...array_filter([$model->coursesOf((string) $id)]),
                ],
                default => isset($model->shapes[$id]) ? self::table($model, (string) $id, $besides) : [],
            };
            $exceptions =
                $element instanceof Computed
                    ? array_map(static fn (SpecialCase $c): array => [$c->for, self::text($c->formula, $model)], $element->exceptions)
                    : [];
            $parts[$id] = json_encode(
                [
                    $id,
                    $element->kind()->value,
                    in_array((string) $id, $besides, true) ? '' : self::text($element->formula, $model),
                    $own,
                    $model->shapes[$id] ?? [],
                    ...$exceptions,
                ],
                JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION,
            );
        }

        return hash('xxh128', implode("\n", $parts));
    }

    /**
     * @param  list<string>  $besides
     * @return list<array{float, ?float}>
     */
    private static function points(Relation $curve, array $besides): array
    {
        $isMeant = static fn (float $x): bool => in_array(Model::keyAt($curve->id, [Shown::number($x)]), $besides, true);

        return array_map(static fn (array $p): array => [$p[0], $besides !== [] && $isMeant($p[0]) ? null : $p[1]], $curve->points);
    }

    /**
     * @param  list<string>  $besides
     * @return array<string, float>
     */
    private static function table(Model $model, string $id, array $besides): array
    {
        return array_filter(
            $model->table($id),
            static fn (string $at): bool => ! in_array("{$id}[$at]", $besides, true),
            ARRAY_FILTER_USE_KEY,
        );
    }

    /** A formula with ids in place of names; the spaces between do not count, nor does a name that waits for its thing. */
    private static function text(FormulaText $formula, Model $model): string
    {
        if ($formula->hasBrackets() && $model->dimensions !== []) {
            try {
                return self::node(FormulaReader::node($formula, $model->nameOf(...), $model->idOf(...)), $model);
            } catch (FormulaError) {
                // A draft is told by its letters.
            }
        }
        $text = '';
        foreach ($formula->pieces as $piece) {
            $text .=
                $piece instanceof Reference
                    ? ($piece->id !== null && $model->nameOf($piece->id) !== null
                        ? "\0$piece->id\0"
                        : "\1".$piece->key()."\1")
                    : $piece;
        }

        return trim((string) preg_replace('/\s+/', ' ', $text));
    }

    /** What a formula is made of: what it names along dimensions counts by its id, whatever it is called. */
    private static function node(Node $node, Model $model): string
    {
        $own = match (true) {
            $node instanceof NameUse => $node->key === '' ? "\1$node->written" : "\0$node->key",
            $node instanceof NumberLiteral => var_export($node->value, true),
            $node instanceof QuantityUse => $node->quantity->name,
            $node instanceof Binary => $node->operator->name,
            $node instanceof Call => $node->function->name,
            $node instanceof CurveCall => "\0$node->key",
            $node instanceof Along => self::named($node->key, null, $model),
            $node instanceof Pick => implode(',', array_map(static fn (PickStep $s): string => self::step($s, $model), $node->steps)),
            default => $node::class,
        };

        return "$own(".implode(',', array_map(static fn (Node $part): string => self::node($part, $model), $node->parts())).')';
    }

    private static function step(PickStep $step, Model $model): string
    {
        $dimension = $step->dimension === null ? null : $model->dimensions()->find($step->dimension)->id ?? $step->dimension;

        return "$dimension:".($step->isMove ? "$step->what $step->by" : self::named($step->what, $dimension, $model));
    }

    /** The id of the mapping, the dimension or the element that is called so. */
    private static function named(string $called, ?string $dimension, Model $model): string
    {
        $dimensions = $model->dimensions();
        $element = $dimension === null ? null : $dimensions->elementOf($dimension, $called);
        $id = $element ?? ($model->mappings()[$called]->id ?? ($dimensions->find($called)->id ?? null));
        foreach ($id === null ? array_keys($dimensions->all()) : [] as $one) {
            $id ??= $dimensions->elementOf((string) $one, $called);
        }

        return $id ?? $called;
    }
}
