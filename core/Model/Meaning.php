<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Reference;

/** What of a model its numbers depend on: not names, units, notes, places, plots, scenarios or the ranges of dials. */
final class Meaning
{
    /** The same text for two models that compute the same, by all that can be told without computing. */
    public static function of(Model $model): string
    {
        $parts = [
            json_encode([...$model->time->toRecord(), 'unit' => '', 'startDate' => null], JSON_THROW_ON_ERROR),
            self::text($model->endWhen, $model),
        ];
        if ($model->dimensions !== []) {
            // By what they are called is no number changed.
            $orders = array_map(static fn (Dimension $d): array => [$d->id, $model->dimensions()->elements($d->id)], $model->dimensions);
            $mappings = array_map(static fn (Mapping $m): array => [$m->id, $m->from, $m->to, $m->pairs], array_values($model->mappings()));
            $parts[] = json_encode([$orders, $mappings], JSON_THROW_ON_ERROR);
        }
        foreach ($model->elements as $id => $element) {
            $own = match (true) {
                $element instanceof Stock => [$element->neverNegative, self::text($element->travel, $model)],
                $element instanceof Flow => [$element->from, $element->to, $element->oneWay, $element->priority],
                $element instanceof Relation => [$element->points, $element->between->value, $element->beyond->value],
                default => isset($model->shapes[$id]) ? $model->table($id) : [],
            };
            $exceptions = $element instanceof Computed
                ? array_map(static fn (SpecialCase $c): array => [$c->for, self::text($c->formula, $model)], $element->exceptions)
                : [];
            $parts[$id] = json_encode(
                [$id, $element->kind()->value, self::text($element->formula, $model), $own, $model->shapes[$id] ?? [], ...$exceptions],
                JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION,
            );
        }

        return hash('xxh128', implode("\n", $parts));
    }

    /** A formula with ids in place of names; the spaces between do not count, nor does a name that waits for its thing. */
    private static function text(FormulaText $formula, Model $model): string
    {
        $text = '';
        foreach ($formula->pieces as $piece) {
            $text .=
                $piece instanceof Reference
                    ? ($piece->id !== null && isset($model->elements[$piece->id])
                        ? "\0$piece->id\0"
                        : "\1".$piece->key()."\1")
                    : $piece;
        }

        return trim((string) preg_replace('/\s+/', ' ', $text));
    }
}
