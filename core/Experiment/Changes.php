<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Experiment;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Model\Grip;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Structure\Comparison;

/** What two runs were made with, and in what that differs, in words. */
final class Changes
{
    /**
     * Between a run of one model and a run of the same or a later one. What changes no number is left out.
     *
     * @return list<array{what: string, element: ?string, name: string, kind: string, fields: list<array{field: string, was: string, now: string}>}>
     */
    public static function between(Model $old, Setting $was, Model $new, Setting $now): array
    {
        [$before, $after] = [self::effective($old, $was), self::effective($new, $now)];
        $list = [];
        foreach (Comparison::between($before, $after) as $one) {
            $one['fields'] = array_values(
                array_filter(
                    $one['fields'],
                    static fn (array $f): bool => ! in_array(
                        $f['field'],
                        ['name', 'note', 'symbol', 'unit', 'sheets', 'dial from', 'dial to', 'dial in steps of', 'unit of the input'],
                        true,
                    ),
                ),
            );
            if ($one['kind'] === Kind::Parameter->value) {
                // What a formula is elsewhere is a number here.
                $one['fields'] = array_map(
                    static fn (array $f): array => [...$f, 'field' => $f['field'] === 'formula' ? 'value' : $f['field']],
                    $one['fields'],
                );
            }
            if ($one['fields'] !== [] || in_array($one['what'], ['added', 'removed'], true)) {
                $list[] = $one;
            }
        }
        foreach ([...$was->grips, ...$now->grips] as $id => $_) {
            $words = static fn (?Grip $grip, Model $model): string => $grip === null || ! $grip->on ? '' : self::grip($grip, $model);
            [$a, $b] = [$words($was->grips[$id] ?? null, $before), $words($now->grips[$id] ?? null, $after)];
            if ($a !== $b) {
                $owner = Key::ownerOf($id);
                $element = $after->element($owner) ?? $before->element($owner);
                $list[] = [
                    'what' => 'changed',
                    'element' => $owner,
                    'name' => ($element->name ?? $owner).self::elements($after, $owner, $id),
                    'kind' => $element?->kind()->value ?? '',
                    'fields' => [['field' => 'taken by hand', 'was' => $a, 'now' => $b]],
                ];
            }
        }
        if (($was->seed ?? 1) !== ($now->seed ?? 1)) {
            $list[] = [
                'what' => 'changed',
                'element' => null,
                'name' => 'Chance',
                'kind' => 'study',
                'fields' => [['field' => 'seed', 'was' => (string) ($was->seed ?? 1), 'now' => (string) ($now->seed ?? 1)]],
            ];
        }

        return $list;
    }

    /**
     * What a setting changes of its model, each in a few words.
     *
     * @return list<string>
     */
    public static function words(Model $model, Setting $setting): array
    {
        $words = [];
        foreach (self::between($model, new Setting(), $model, $setting) as $change) {
            foreach ($change['fields'] as $field) {
                $what =
                    $change['element'] === null
                        ? $field['field']
                        : $change['name'].
                            (in_array($field['field'], ['formula', 'initial value', 'value'], true) ? '' : ", {$field['field']}");
                $words[] =
                    "$what: ".
                    ($field['was'] === '' ? $field['now'] : ($field['now'] === '' ? 'released' : "{$field['was']} → {$field['now']}"));
            }
        }

        return $words;
    }

    /** A grip in words: "step from 1 to 2 at 10, from 5 until 20". */
    public static function grip(Grip $grip, Model $model): string
    {
        $v = array_map(Shown::number(...), $grip->values);
        $course = match ($grip->signal->value) {
            'constant' => "constant $v[value]",
            'step' => "step from $v[before] to $v[value] at $v[at]",
            'ramp' => "ramp from $v[before] to $v[value] between $v[at] and $v[to]",
            'wave' => "wave around $v[value] by $v[amplitude], every $v[period]",
            'pulses' => "pulses of $v[value] from $v[before], $v[width] wide, every $v[every] from $v[at]",
            'window' => "$v[value] between $v[at] and $v[to], else $v[before]",
            'series' => 'the series '.($model->nameOf((string) $grip->series) ?? 'that is gone'),
            default => 'drawn by hand in '.
                count($grip->points).
                ' points ('.
                substr(hash('xxh32', json_encode($grip->points, JSON_THROW_ON_ERROR)), 0, 4).
                ')',
        };

        return $course.
            ($grip->from === null ? '' : ', from '.Shown::number($grip->from)).
            ($grip->until === null ? '' : ', until '.Shown::number($grip->until));
    }

    /** Which of its elements alone, as people say it: `[north, old]`. */
    private static function elements(Model $model, string $owner, string $key): string
    {
        $at = $key === $owner ? [] : explode(',', substr($key, strlen($owner) + 1, -1));
        $over = array_slice($model->shapes[$owner] ?? [], 0, count($at));
        $names = array_map($model->dimensions()->elementName(...), $over, array_slice($at, 0, count($over)));

        return $at === [] ? '' : '['.implode(', ', $names === [] ? $at : $names).']';
    }

    /** The model as if the setting had been typed into it. */
    private static function effective(Model $model, Setting $setting): Model
    {
        $elements = Trial::of(
            $model,
            new Setting(time: $setting->time, curves: array_intersect_key($setting->curves, $model->elements)),
        )->model();
        $own = $setting->parameters === [] ? null : Trial::of($model)->analysis;
        $changed = [];
        foreach ($setting->parameters as $id => $value) {
            $element = $elements->element($id);
            if ($element instanceof Parameter && $own?->parameter($id) !== $value) {
                $changed[$id] = $element->with(['formula' => FormulaText::typed(Shown::number($value), static fn (): ?string => null)]);
            }
        }

        return $elements->with(['elements' => [...$elements->elements, ...$changed]]);
    }
}
