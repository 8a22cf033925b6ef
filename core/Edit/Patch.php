<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Model\Appearance;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Link;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use MerryOrbit\Core\Model\Part;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * The exact difference between two models, field by field. It is what undo applies, what tells whether two
 * edits touch the same thing, and what a browser needs to follow a change.
 *
 * The record is plain data, ready for JSON:
 *   set:     fields of the model itself (name, note, time, endWhen) and parts that are replaced as a whole
 *   removed: list of element ids
 *   added:   list of {element, after}, `after` being the id it follows, null for the first
 *   changed: by element id, the fields that differ
 *   and by the name of each keyed part (see Model\Parts): by key, the fields that differ (null where one is gone), all of them where it
 *   is new, or null where it is taken away
 */
final readonly class Patch extends Edit
{
    /** @param  array{set: array<string, mixed>, removed: list<string>, added: list<array{element: array<string, mixed>, after: ?string}>, changed: array<string, array<string, mixed>>}  $record  and keyed parts by name */
    private function __construct(public array $record, private string $said = '')
    {
    }

    public static function between(Model $from, Model $to): self
    {
        $record = ['set' => [], 'removed' => [], 'added' => [], 'changed' => []];
        $was = self::own($from);
        foreach (self::own($to) as $field => $value) {
            if ($was[$field] !== $value) {
                $record['set'][$field] = $value;
            }
        }
        $record['removed'] = array_keys(array_diff_key($from->elements, $to->elements));
        $after = null;
        foreach ($to->elements as $id => $element) {
            $before = $from->element($id);
            if ($before === null || $before::class !== $element::class) {
                if ($before !== null) {
                    $record['removed'][] = $id;
                }
                $record['added'][] = ['element' => ModelRecord::ofElement($element), 'after' => $after];
            } elseif ($before !== $element) {
                $fields = self::difference($before, $element);
                if ($fields !== []) {
                    $record['changed'][$id] = $fields;
                }
            }
            $after = $id;
        }
        $parts = [];
        foreach (Parts::all() as $name => $part) {
            $before = $from->part($name);
            $now = $to->part($name);
            if ($before === $now) {
                continue;
            }
            if ($part->isKeyed) {
                $parts += array_filter([$name => self::moved($part, $before, $now)]);
            } elseif (($part->record)($before) !== ($part->record)($now)) {
                $record['set'][$name] = ($part->record)($now);
            }
        }

        return self::fromRecord([...$record, ...$parts]);
    }

    /** @return array<string, mixed> */
    private static function own(Model $model): array
    {
        return [
            'name' => $model->name,
            'note' => $model->note,
            'time' => $model->time->toRecord(),
            'endWhen' => $model->endWhen->toRecord(),
        ];
    }

    /**
     * @param  array<array-key, mixed>  $was
     * @param  array<array-key, mixed>  $now
     * @return array<array-key, ?array<string, mixed>>
     */
    private static function moved(Part $part, array $was, array $now): array
    {
        $changes = [];
        foreach ($now as $key => $one) {
            $before = $was[$key] ?? null;
            if ($before == $one) {
                continue;
            }
            /** @var array<string, mixed> $record */
            $record = ($part->record)($one);
            if ($before !== null && $part->inFile) {
                /** @var array<string, mixed> $old */
                $old = ($part->record)($before);
                $record =
                    array_filter(
                        $record,
                        static fn (mixed $value, string $field): bool => ! array_key_exists($field, $old) || $old[$field] !== $value,
                        ARRAY_FILTER_USE_BOTH,
                    ) + array_map(static fn (): null => null, array_diff_key($old, $record));
            }
            if ($record !== []) {
                $changes[$key] = $record;
            }
        }

        return $changes + array_map(static fn (): null => null, array_diff_key($was, $now));
    }

    /** @return array<string, mixed> */
    private static function difference(Element $from, Element $to): array
    {
        $was = ModelRecord::ofElement($from);
        $now = ModelRecord::ofElement($to);
        // What is left out of a record is an empty list.
        $gone = array_map(static fn (): array => [], array_diff_key($was, $now));

        return array_filter(
            [...$now, ...$gone],
            static fn (mixed $value, string $field): bool => $value !== (array_key_exists($field, $was) ? $was[$field] : []),
            ARRAY_FILTER_USE_BOTH,
        );
    }

    /** @param  array<string, mixed>  $record as $this->record was, perhaps through JSON */
    public static function fromRecord(array $record, string $words = ''): self
    {
        /** @var array{set: array<string, mixed>, removed: list<string>, added: list<array{element: array<string, mixed>, after: ?string}>, changed: array<string, array<string, mixed>>} $record */
        return new self($record, $words);
    }

    /**
     * What it does to a keyed part.
     *
     * @return array<array-key, ?array<string, mixed>>
     */
    public function of(string $part): array
    {
        /** @var array<array-key, ?array<string, mixed>> $changes */
        $changes = $this->record[$part] ?? [];

        return $changes;
    }

    public function isEmpty(): bool
    {
        return array_filter($this->record) === [];
    }

    /** @return list<string> ids of the elements that are added or changed */
    public function elements(): array
    {
        $ids = array_keys($this->record['changed']);
        foreach ($this->record['added'] as $added) {
            $ids[] = is_string($added['element']['id'] ?? null) ? $added['element']['id'] : '';
        }

        return $ids;
    }

    /**
     * What it writes, each as a short text such as `element/e1/formula`; `element/e1` stands for the whole element.
     *
     * @return list<string>
     */
    public function touches(): array
    {
        $touches = [];
        foreach (array_keys($this->record['set']) as $field) {
            if (Parts::find($field)->clashes ?? true) {
                $touches[] = "model/$field";
            }
        }
        foreach ($this->record['removed'] as $id) {
            $touches[] = "element/$id";
        }
        foreach ($this->record['changed'] as $id => $fields) {
            foreach ($fields as $field => $_) {
                $touches[] = "element/$id/$field";
            }
        }
        foreach ($this->of('placements') as $id => $place) {
            if ($place !== null) {
                $touches[] = "placement/$id";
            }
        }
        foreach (Parts::all() as $name => $part) {
            foreach ($part->clashes ? $this->of($name) : [] as $id => $fields) {
                // One that is new or gone is touched as a whole.
                array_push(
                    $touches,
                    ...$fields === null || isset($fields['id'])
                        ? ["$name/$id"]
                        : array_map(static fn (string $f): string => "$name/$id/$f", array_keys($fields)),
                );
            }
        }

        return $touches;
    }

    /**
     * Whether two lists of touches name the same thing, or one the whole of which the other names a part.
     *
     * @param  list<string>  $ours
     * @param  list<string>  $theirs
     */
    public static function clash(array $ours, array $theirs): ?string
    {
        foreach ($ours as $a) {
            foreach ($theirs as $b) {
                if ($a === $b || str_starts_with($a, $b.'/') || str_starts_with($b, $a.'/')) {
                    return strlen($a) > strlen($b) ? $a : $b;
                }
            }
        }

        return null;
    }

    public function apply(Model $model): Model
    {
        $elements = array_diff_key($model->elements, array_flip($this->record['removed']));
        foreach ($this->record['added'] as $added) {
            $elements = self::insert($elements, ModelRecord::toElement($added['element']), $added['after']);
        }
        foreach ($this->record['changed'] as $id => $fields) {
            if (isset($elements[$id])) {
                $elements[$id] = ModelRecord::toElement([...ModelRecord::ofElement($elements[$id]), ...$fields]);
            }
        }
        $fields = $this->record['set'];
        if (isset($fields['time'])) {
            /** @var array<string, mixed> $time */
            $time = $fields['time'];
            $fields['time'] = TimeSettings::fromRecord($time);
        }
        if (isset($fields['endWhen'])) {
            /** @var list<string|array{name: string, id?: string}> $endWhen */
            $endWhen = $fields['endWhen'];
            $fields['endWhen'] = FormulaText::fromRecord($endWhen);
        }
        foreach (Parts::all() as $name => $part) {
            if ($part->isKeyed) {
                $fields += array_filter([$name => $this->applied($part, $model->part($name))], static fn (?array $v): bool => $v !== null);
            } elseif (array_key_exists($name, $fields)) {
                $fields[$name] = ($part->read)($fields[$name]);
            }
        }
        $model = self::withoutStrays($model->with([...$fields, 'elements' => $elements]));
        foreach ($this->record['added'] as $added) {
            // A formula written meanwhile may wait for a name that is back now.
            $element = $model->element(is_string($added['element']['id']) ? $added['element']['id'] : '');
            $model = $element === null ? $model : Mentions::bind($model, $element);
        }

        return $model;
    }

    /** Without links and echoes of what somebody else took away meanwhile. */
    private static function withoutStrays(Model $model): Model
    {
        $known = $model->nameOf(...);

        return $model->with([
            'links' => array_filter(
                $model->links,
                static fn (Link $l): bool => isset($model->elements[$l->to]) && $known($l->from) !== null,
            ),
            'echoes' => array_filter($model->echoes, static fn (Appearance $e): bool => $known($e->element) !== null),
        ]);
    }

    /**
     * @param  array<array-key, mixed>  $now
     * @return array<array-key, mixed>|null null where nothing of it changes
     */
    private function applied(Part $part, array $now): ?array
    {
        $changes = $this->of($part->name);
        foreach ($changes as $key => $fields) {
            if ($fields === null) {
                unset($now[$key]);

                continue;
            }
            if ($part->inFile) {
                /** @var array<string, mixed> $known */
                $known = isset($now[$key]) ? ($part->record)($now[$key]) : [];
                $fields = array_filter([...$known, ...$fields], static fn (mixed $v): bool => $v !== null);
            }
            try {
                $now[$key] = ($part->read)($fields);
            } catch (NotUnderstood) {
                // What somebody else took away meanwhile has no fields to change.
            }
        }

        return $changes === [] ? null : $now;
    }

    /**
     * @param  array<string, Element>  $elements
     * @return array<string, Element>
     */
    private static function insert(array $elements, Element $element, ?string $after): array
    {
        if ($after !== null && ! isset($elements[$after])) {
            return [...$elements, $element->id => $element];
        }
        $at = $after === null ? 0 : (int) array_search($after, array_keys($elements), true) + 1;

        return [...array_slice($elements, 0, $at), $element->id => $element, ...array_slice($elements, $at)];
    }

    public function words(Model $before): string
    {
        return $this->said;
    }
}
