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
        // Elements have an order; links and what is drawn are sets, so equal models give equal records.
        $links = $model->links;
        ksort($links);

        return [
            'name' => $model->name,
            'note' => $model->note,
            'time' => $model->time->toRecord(),
            'elements' => array_values(array_map(self::ofElement(...), $model->elements)),
            'links' => array_values(array_map(self::ofLink(...), $links)),
            'placements' => self::records($model->placements),
            'sheets' => array_map(self::ofSheet(...), $model->sheets),
            'tracks' => array_map(static fn (Plot $p): array => $p->toRecord(), $model->tracks),
            'endWhen' => $model->endWhen->toRecord(),
            'sameUnits' => $model->sameUnits,
            'dimensions' => $model->dimensions,
            'shapes' => $model->shapes,
            'echoes' => self::records($model->echoes),
            'bends' => self::records($model->bends),
            'groups' => array_map(static fn (Group $g): array => $g->toRecord(), $model->groups),
            'scenarios' => self::records($model->scenarios),
            'plots' => self::records($model->plots),
            'findings' => self::records($model->findings),
        ];
    }

    /**
     * @param  array<string, Recorded>  $map
     * @return array<string, array<string, mixed>>
     */
    private static function records(array $map): array
    {
        ksort($map);

        return array_map(static fn (Recorded $one): array => $one->toRecord(), $map);
    }

    /** @param  array<string, mixed>  $record as of() gave it */
    public static function toModel(array $record): Model
    {
        /** @var array{name: string, note: string, time: array<string, mixed>, elements: list<array<string, mixed>>, links: list<array{from: string, to: string}>, placements: array<string, array{at: array{x: float, y: float}}>, sheets: list<array{id: string, name: string}>, tracks: list<string|array<string, mixed>>, endWhen?: list<string|array{name: string, id?: string}>, sameUnits?: list<string>, dimensions?: list<array{name: string, elements: list<string>}>, shapes?: array<string, list<string>>, echoes?: array<string, array{element: string, at: array{x: float, y: float}, sheet: string}>, bends?: array<string, array{x: float, y: float}>, groups?: list<array{name: string, tint: string, members: list<string>}>, scenarios?: array<string, array<string, mixed>>, plots?: array<string, array<string, mixed>>, findings?: array<string, array<string, mixed>>} $record */
        $elements = [];
        foreach ($record['elements'] as $one) {
            $element = self::toElement($one);
            $elements[$element->id] = $element;
        }
        $links = [];
        foreach ($record['links'] as $one) {
            $link = self::toLink($one);
            $links[$link->key()] = $link;
        }

        return new Model(
            $record['name'],
            $record['note'],
            TimeSettings::fromRecord($record['time']),
            $elements,
            $links,
            array_map(Placement::fromRecord(...), $record['placements']),
            array_map(self::toSheet(...), $record['sheets']),
            array_map(self::toTrack(...), $record['tracks']),
            FormulaText::fromRecord($record['endWhen'] ?? []),
            $record['sameUnits'] ?? [],
            $record['dimensions'] ?? [],
            $record['shapes'] ?? [],
            array_map(Appearance::fromRecord(...), $record['echoes'] ?? []),
            array_map(Point::fromRecord(...), $record['bends'] ?? []),
            array_map(Group::fromRecord(...), $record['groups'] ?? []),
            array_map(Scenario::read(...), $record['scenarios'] ?? []),
            array_map(Plot::read(...), $record['plots'] ?? []),
            array_map(Finding::read(...), $record['findings'] ?? []),
        );
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

        $plain = array_map(static fn (mixed $v): mixed => match (true) {
            $v instanceof FormulaText => $v->toRecord(),
            $v instanceof \BackedEnum => $v->value,
            default => $v,
        }, $fields);

        return ['kind' => $element->kind()->value, ...$plain];
    }

    /** @param  array<string, mixed>  $record */
    public static function toElement(array $record): Element
    {
        // JSON may write 10.0 as 10: numbers of an element are floats.
        $fields = array_map(static fn (mixed $v): mixed => is_int($v) ? (float) $v : $v, $record);
        unset($fields['kind']);
        /** @var array{kind: string, formula: list<string|array{name: string, id?: string}>, travel?: list<string|array{name: string, id?: string}>, between?: string, beyond?: string, points?: list<array{float, float}>, choices?: list<array{name: string, value: int|float}>} $record */
        $fields['formula'] = FormulaText::fromRecord($record['formula']);
        if (isset($record['travel'])) {
            $fields['travel'] = FormulaText::fromRecord($record['travel']);
        }
        if (isset($record['choices'])) {
            $fields['choices'] = array_map(static fn (array $c): array => ['name' => $c['name'], 'value' => (float) $c['value']], $record['choices']);
        }
        if (isset($record['points'])) {
            $fields['points'] = array_map(static fn (array $p): array => [(float) $p[0], (float) $p[1]], $record['points']);
            $fields['between'] = Between::from($record['between'] ?? '');
            $fields['beyond'] = Beyond::from($record['beyond'] ?? '');
        }
        $class = self::classOf(Kind::from($record['kind']));

        return (new \ReflectionClass($class))->newInstanceArgs($fields);
    }

    /** @return class-string<Stock|Flow|Auxiliary|Parameter|Curve|Series> */
    public static function classOf(Kind $kind): string
    {
        return match ($kind) {
            Kind::Stock => Stock::class,
            Kind::Flow => Flow::class,
            Kind::Auxiliary => Auxiliary::class,
            Kind::Parameter => Parameter::class,
            Kind::Curve => Curve::class,
            Kind::Series => Series::class,
        };
    }

    /** @return array{from: string, to: string} */
    public static function ofLink(Link $link): array
    {
        return ['from' => $link->from, 'to' => $link->to];
    }

    /** @param  array{from: string, to: string}  $record */
    public static function toLink(array $record): Link
    {
        return new Link($record['from'], $record['to']);
    }

    /** @return array{id: string, name: string} */
    public static function ofSheet(Sheet $sheet): array
    {
        return ['id' => $sheet->id, 'name' => $sheet->name];
    }

    /** @param  array{id: string, name: string}  $record */
    public static function toSheet(array $record): Sheet
    {
        return new Sheet($record['id'], $record['name']);
    }
}
