<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Structure;

use MerryOrbit\Core\Model\Computed;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Part;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\Recorded;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Problem\Shown;

/** What two versions of a model differ in, in the modeller's words. */
final class Comparison
{
    private const FIELDS = [
        'oneWay' => 'one-way',
        'priority' => 'priority',
        'neverNegative' => 'never below zero',
        'low' => 'dial from',
        'high' => 'dial to',
        'step' => 'dial in steps of',
        'unit' => 'unit',
        'note' => 'note',
        'symbol' => 'symbol',
        'inputUnit' => 'unit of the input',
    ];

    /**
     * @return list<array{what: 'added'|'changed'|'removed'|'moved', key: string, element: ?string, name: string, kind: string, fields: list<array{field: string, was: string, now: string}>}> in the order of the newer model, then what was removed
     */
    public static function between(Model $old, Model $new): array
    {
        $list = [];
        $settings = self::settings($old, $new);
        if ($settings !== []) {
            $list[] = [
                'what' => 'changed',
                'key' => 'model',
                'element' => null,
                'name' => 'Study and time',
                'kind' => 'study',
                'fields' => $settings,
            ];
        }
        foreach ($new->elements as $id => $now) {
            $was = $old->element($id);
            if ($was === null) {
                $list[] = [
                    'what' => 'added',
                    'key' => "elements/$id",
                    'element' => $id,
                    'name' => $now->name,
                    'kind' => $now->kind()->value,
                    'fields' => self::fields(null, $now, $old, $new),
                ];

                continue;
            }
            $fields = self::fields($was, $now, $old, $new);
            if ($fields !== []) {
                $list[] = [
                    'what' => 'changed',
                    'key' => "elements/$id",
                    'element' => $id,
                    'name' => $now->name,
                    'kind' => $now->kind()->value,
                    'fields' => $fields,
                ];
            } elseif (($old->placements[$id] ?? null) != ($new->placements[$id] ?? null)) {
                $list[] = [
                    'what' => 'moved',
                    'key' => "elements/$id",
                    'element' => $id,
                    'name' => $now->name,
                    'kind' => $now->kind()->value,
                    'fields' => [],
                ];
            }
        }
        foreach (array_diff_key($old->elements, $new->elements) as $id => $was) {
            $list[] = [
                'what' => 'removed',
                'key' => "elements/$id",
                'element' => $id,
                'name' => $was->name,
                'kind' => $was->kind()->value,
                'fields' => self::fields(null, $was, $new, $old),
            ];
        }
        foreach (Parts::filed() as $part) {
            array_push($list, ...self::ofPart($part, $old, $new));
        }

        return $list;
    }

    /** @return list<array{what: 'added'|'changed'|'removed', key: string, element: null, name: string, kind: string, fields: list<array{field: string, was: string, now: string}>}> */
    private static function ofPart(Part $part, Model $old, Model $new): array
    {
        $list = [];
        [$before, $after] = [$old->part($part->name), $new->part($part->name)];
        foreach ($after + $before as $id => $_) {
            [$was, $now] = [$before[$id] ?? null, $after[$id] ?? null];
            if ($was == $now) {
                continue;
            }
            $records = array_map(static fn (mixed $one): array => $one instanceof Recorded ? $one->toRecord() : [], [$was, $now]);
            // Ids of elements are told as their names.
            $records = [
                $part->translated($records[0], static fn (string $i): string => $old->nameOf($i) ?? $i),
                $part->translated($records[1], static fn (string $i): string => $new->nameOf($i) ?? $i),
            ];
            $fields = [];
            foreach (array_keys(array_diff_key($records[1] + $records[0], ['id' => 0, 'place' => 0])) as $field) {
                self::add($fields, $field, self::brief($records[0][$field] ?? ''), self::brief($records[1][$field] ?? ''));
            }
            $what = match (true) {
                $was === null => 'added',
                $now === null => 'removed',
                default => 'changed',
            };
            $title = $part->title($now === null ? $records[0] : $records[1], static fn (string $name): string => $name);
            if ($what !== 'changed' || $fields !== []) {
                $list[] = [
                    'what' => $what,
                    'key' => "$part->name/$id",
                    'element' => null,
                    'name' => ucfirst(trim("$part->word $title")),
                    'kind' => $part->word,
                    'fields' => $what === 'changed' ? $fields : [],
                ];
            }
        }

        return $list;
    }

    /** What a field holds, in one line. */
    private static function brief(mixed $value): mixed
    {
        if (! is_array($value)) {
            return $value;
        }
        $inner = [];
        foreach ($value as $key => $one) {
            $text = self::brief($one);
            $inner[] =
                (is_string($key) ? "$key " : '').
                match (true) {
                    is_bool($text) => $text ? 'yes' : 'no',
                    is_float($text) => Shown::number($text),
                    is_scalar($text) => (string) $text,
                    default => '',
                };
        }

        return implode(', ', $inner);
    }

    /**
     * The formulas that read otherwise in the newer model, for whatever reason: also where only something that they mention is
     * called otherwise.
     *
     * @return list<array{element: ?string, name: string, was: string, now: string}> with the names of the newer model; null is what ends the run
     */
    public static function formulas(Model $old, Model $new): array
    {
        $list = [];
        foreach (array_intersect_key($new->elements, $old->elements) as $id => $now) {
            foreach ($now->formulas() as $key => $formula) {
                $was = ($old->elements[$id]->formulas()[$key] ?? null)?->text($old->nameOf(...)) ?? '';
                $text = $formula->text($new->nameOf(...));
                if ($was !== $text) {
                    $list[] = ['element' => $id, 'name' => $now->name, 'was' => $was, 'now' => $text];
                }
            }
        }
        [$was, $text] = [$old->endWhen->text($old->nameOf(...)), $new->endWhen->text($new->nameOf(...))];

        return $was === $text ? $list : [...$list, ['element' => null, 'name' => 'ends early when', 'was' => $was, 'now' => $text]];
    }

    /** @return list<array{field: string, was: string, now: string}> */
    private static function settings(Model $old, Model $new): array
    {
        $was = [
            'name' => $old->name,
            'note' => $old->note,
            ...$old->time->toRecord(),
            'ends early when' => $old->endWhen->text($old->nameOf(...)),
            'sheets' => implode(', ', array_map(static fn ($s): string => $s->name, $old->sheets)),
        ];
        $now = [
            'name' => $new->name,
            'note' => $new->note,
            ...$new->time->toRecord(),
            'ends early when' => $new->endWhen->text($new->nameOf(...)),
            'sheets' => implode(', ', array_map(static fn ($s): string => $s->name, $new->sheets)),
        ];
        $fields = [];
        foreach ([...$was, ...$now] as $field => $_) {
            self::add($fields, $field, $was[$field] ?? '', $now[$field] ?? '');
        }

        return $fields;
    }

    private static function formulaWord(Element $element, string $key, Model $model): string
    {
        $case = $element instanceof Computed ? $element->exceptions[(int) substr($key, strlen('exceptions.'))] ?? null : null;

        return match (true) {
            $key === 'formula' => $element->formulaWord(),
            $key === 'travel' => 'travel time',
            default => "{$element->formulaWord()} for ".($case?->words($model->dimensions()) ?? 'some'),
        };
    }

    /** @return list<array{field: string, was: string, now: string}> */
    private static function fields(?Element $was, Element $now, Model $old, Model $new): array
    {
        $fields = [];
        if ($was !== null) {
            self::add($fields, 'name', $was->name, $now->name);
            self::add($fields, 'kind', $was->kind()->value, $now->kind()->value);
        }
        foreach ($now->formulas() as $key => $formula) {
            $before = $was?->formulas()[$key] ?? null;
            // A renamed cause alone changes no formula.
            if ($before === null || $before->text($new->nameOf(...)) !== $formula->text($new->nameOf(...))) {
                self::add(
                    $fields,
                    self::formulaWord($now, $key, $new),
                    $before?->text($old->nameOf(...)) ?? '',
                    $formula->text($new->nameOf(...)),
                );
            }
        }
        if ($now instanceof Flow) {
            $end = static fn (?string $id, Model $in): string => $id === null ? 'outside' : (string) $in->nameOf($id);
            foreach (['from', 'to'] as $side) {
                $before = $was instanceof Flow ? $was->$side : null;
                if (! ($was instanceof Flow) || $before !== $now->$side) {
                    self::add($fields, $side, $was instanceof Flow ? $end($was->$side, $old) : '', $end($now->$side, $new));
                }
            }
        }
        if ($now instanceof Relation) {
            $points = static fn (?Element $e): string => $e instanceof Relation
                ? implode(
                    '  ',
                    array_map(static fn (array $p): string => Shown::number($p[0]).' → '.Shown::number($p[1]), $e->points),
                ).", {$e->between->value}, {$e->beyond->value}"
                : '';
            self::add($fields, 'points', $points($was), $points($now));
        }
        $before = $was === null ? [] : get_object_vars($was);
        foreach (array_intersect_key(get_object_vars($now), self::FIELDS) as $key => $value) {
            self::add($fields, self::FIELDS[$key], $before[$key] ?? '', $value);
        }

        return $fields;
    }

    /** @param  list<array{field: string, was: string, now: string}>  $fields */
    private static function add(array &$fields, string $field, mixed $was, mixed $now): void
    {
        $text = static fn (mixed $v): string => match (true) {
            is_bool($v) => $v ? 'yes' : '',
            is_float($v) => Shown::number($v),
            is_scalar($v) => (string) $v,
            default => '',
        };
        if ($text($was) !== $text($now)) {
            $fields[] = ['field' => $field, 'was' => $text($was), 'now' => $text($now)];
        }
    }
}
