<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\FormulaText;

/**
 * A model as arrays for storage, without loss: formulas keep their references by id.
 * For files that people exchange see Exchange\NativeFile.
 */
final class ModelRecord
{
    /** @return array<string, mixed> */
    public static function of(Model $model): array
    {
        $record = [
            'name' => $model->name,
            'note' => $model->note,
            'time' => $model->time->toRecord(),
            'elements' => array_values(array_map(self::ofElement(...), $model->elements)),
            'endWhen' => $model->endWhen->toRecord(),
        ];
        foreach (Parts::all() as $part) {
            $value = $model->part($part->name);
            if (! $part->isKeyed) {
                $record[$part->name] = ($part->record)($value);
            } elseif ($value !== [] || property_exists($model, $part->name)) {
                // Elements have an order; these are sets, so equal models give equal records.
                ksort($value);
                $record[$part->name] = array_map($part->record, $value);
            }
        }

        return $record;
    }

    /** @param  array<string, mixed>  $record as of() gave it */
    public static function toModel(array $record): Model
    {
        $fields = [];
        foreach (array_intersect_key(Parts::all(), $record) as $name => $part) {
            $fields[$name] = $part->isKeyed
                ? array_map($part->read, $name === 'links' ? self::keyed($record[$name]) : (array) $record[$name])
                : ($part->read)($record[$name]);
        }
        /** @var array{name: string, note: string, time: array<string, mixed>, elements: list<array<string, mixed>>, endWhen?: list<string|array{name: string, id?: string}>} $record */
        $elements = [];
        foreach ($record['elements'] as $one) {
            $element = self::toElement($one);
            $elements[$element->id] = $element;
        }

        return (new Model(
            $record['name'],
            $record['note'],
            TimeSettings::fromRecord($record['time']),
            $elements,
            endWhen: FormulaText::fromRecord($record['endWhen'] ?? []),
        ))->with($fields);
    }

    /**
     * Links by key, which older records list.
     *
     * @return array<array-key, mixed>
     */
    private static function keyed(mixed $links): array
    {
        $keyed = [];
        foreach ((array) $links as $key => $one) {
            /** @var array{from: string, to: string} $one */
            $keyed[is_int($key) ? Link::fromRecord($one)->key() : $key] = $one;
        }

        return $keyed;
    }

    /** Older records name the one element of a track. */
    public static function toTrack(mixed $record): Plot
    {
        return is_string($record) ? Plot::track($record) : Plot::read($record);
    }

    /** @return array<string, mixed> */
    public static function ofElement(Element $element): array
    {
        /** @var array<string, mixed> $fields */
        $fields = get_object_vars($element);

        $plain = array_map(
            static fn (mixed $v): mixed => match (true) {
                $v instanceof FormulaText => $v->toRecord(),
                $v instanceof \BackedEnum => $v->value,
                is_array($v) => array_map(static fn (mixed $c): mixed => $c instanceof SpecialCase ? $c->toRecord() : $c, $v),
                default => $v,
            },
            $fields,
        );

        if (($plain['exceptions'] ?? null) === []) {
            // Hardly anything has some.
            unset($plain['exceptions']);
        }

        return ['kind' => $element->kind()->value, ...$plain];
    }

    /** @param  array<string, mixed>  $record */
    public static function toElement(array $record): Element
    {
        // JSON may write 10.0 as 10: numbers of an element are floats.
        $fields = array_map(static fn (mixed $v): mixed => is_int($v) ? (float) $v : $v, $record);
        unset($fields['kind']);
        /** @var array{kind: string, formula: list<string|array{name: string, id?: string}>, travel?: list<string|array{name: string, id?: string}>, between?: string, beyond?: string, exceptions?: list<array{for: array<string, list<string>|string>, formula: list<string|array{name: string, id?: string}>}>, points?: list<array{float, float}>, choices?: list<array{name: string, value: int|float}>} $record */
        $fields['formula'] = FormulaText::fromRecord($record['formula']);
        if (isset($record['travel'])) {
            $fields['travel'] = FormulaText::fromRecord($record['travel']);
        }
        if (isset($record['exceptions'])) {
            $fields['exceptions'] = array_map(SpecialCase::fromRecord(...), $record['exceptions']);
        }
        if (isset($record['choices'])) {
            $fields['choices'] = array_map(
                static fn (array $c): array => ['name' => $c['name'], 'value' => (float) $c['value']],
                $record['choices'],
            );
        }
        if (isset($record['points'])) {
            $fields['points'] = array_map(static fn (array $p): array => [(float) $p[0], (float) $p[1]], $record['points']);
            $fields['between'] = Between::from($record['between'] ?? '');
            $fields['beyond'] = Beyond::from($record['beyond'] ?? '');
        }
        $class = self::classOf(Kind::from($record['kind']));

        return (new \ReflectionClass($class))->newInstanceArgs($fields);
    }

    /** @return class-string<Stock|Flow|Auxiliary|Parameter|Curve|Series|Factor> */
    public static function classOf(Kind $kind): string
    {
        return match ($kind) {
            Kind::Stock => Stock::class,
            Kind::Flow => Flow::class,
            Kind::Auxiliary => Auxiliary::class,
            Kind::Parameter => Parameter::class,
            Kind::Curve => Curve::class,
            Kind::Series => Series::class,
            Kind::Factor => Factor::class,
        };
    }
}
