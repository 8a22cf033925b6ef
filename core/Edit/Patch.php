<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Model\Appearance;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Finding;
use MerryOrbit\Core\Model\Group;
use MerryOrbit\Core\Model\Link;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use MerryOrbit\Core\Model\Placement;
use MerryOrbit\Core\Model\Plot;
use MerryOrbit\Core\Model\Point;
use MerryOrbit\Core\Model\Recorded;
use MerryOrbit\Core\Model\Scenario;
use MerryOrbit\Core\Model\TimeSettings;

/**
 * The exact difference between two models, field by field. It is what undo applies, what tells whether two
 * edits touch the same thing, and what a browser needs to follow a change.
 *
 * The record is plain data, ready for JSON:
 *   set:     fields of the model itself (name, note, time, sheets, tracks, endWhen, sameUnits, dimensions, shapes, groups)
 *   removed: list of element ids
 *   added:   list of {element, after}, `after` being the id it follows, null for the first
 *   changed: by element id, the fields that differ
 *   placements, links, echoes, bends, scenarios, plots, findings: by key, the new value, or null where it is taken away
 */
final readonly class Patch extends Edit
{
    /** What of a model is compared and carried piece by piece. */
    private const APART = ['elements' => [], 'links' => [], 'placements' => [], 'echoes' => [], 'bends' => [], 'scenarios' => [], 'plots' => [], 'findings' => []];

    /** What is kept by key and read back as it was recorded. */
    private const KEPT = ['scenarios' => Scenario::class, 'plots' => Plot::class, 'findings' => Finding::class];

    /** @param  array{set: array<string, mixed>, removed: list<string>, added: list<array{element: array<string, mixed>, after: ?string}>, changed: array<string, array<string, mixed>>, placements: array<string, ?array<string, mixed>>, links: array<string, ?array{from: string, to: string}>, echoes?: array<string, ?array<string, mixed>>, bends?: array<string, ?array<string, mixed>>, scenarios?: array<string, ?array<string, mixed>>, plots?: array<string, ?array<string, mixed>>, findings?: array<string, ?array<string, mixed>>}  $record */
    private function __construct(public array $record, private string $said = '')
    {
    }

    public static function between(Model $from, Model $to): self
    {
        $record = ['set' => [], 'removed' => [], 'added' => [], 'changed' => [], 'placements' => [], 'links' => []];
        $was = ModelRecord::of($from->with(self::APART));
        $now = ModelRecord::of($to->with(self::APART));
        foreach (['name', 'note', 'time', 'sheets', 'tracks', 'endWhen', 'sameUnits', 'dimensions', 'shapes', 'groups'] as $field) {
            if ($was[$field] !== $now[$field]) {
                $record['set'][$field] = $now[$field];
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
        $record['placements'] = self::moved($from->placements, $to->placements);
        $record = [...$record, ...array_filter(['echoes' => self::moved($from->echoes, $to->echoes), 'bends' => self::moved($from->bends, $to->bends), 'scenarios' => self::moved($from->scenarios, $to->scenarios), 'plots' => self::moved($from->plots, $to->plots), 'findings' => self::moved($from->findings, $to->findings)])];
        foreach ([...$from->links, ...$to->links] as $key => $link) {
            if (isset($from->links[$key]) !== isset($to->links[$key])) {
                $record['links'][$key] = isset($to->links[$key]) ? ModelRecord::ofLink($link) : null;
            }
        }

        return new self($record);
    }

    /**
     * @param  array<string, Recorded>  $was
     * @param  array<string, Recorded>  $now
     * @return array<string, ?array<string, mixed>>
     */
    private static function moved(array $was, array $now): array
    {
        $changes = [];
        foreach ($now as $key => $one) {
            if (($was[$key] ?? null) != $one) {
                $changes[$key] = $one->toRecord();
            }
        }

        return $changes + array_map(static fn (): null => null, array_diff_key($was, $now));
    }

    /** @return array<string, mixed> */
    private static function difference(Element $from, Element $to): array
    {
        $was = ModelRecord::ofElement($from);

        return array_filter(ModelRecord::ofElement($to), static fn (mixed $value, string $field): bool => $value !== $was[$field], ARRAY_FILTER_USE_BOTH);
    }

    /** @param  array<string, mixed>  $record as $this->record was, perhaps through JSON */
    public static function fromRecord(array $record, string $words = ''): self
    {
        /** @var array{set: array<string, mixed>, removed: list<string>, added: list<array{element: array<string, mixed>, after: ?string}>, changed: array<string, array<string, mixed>>, placements: array<string, ?array<string, mixed>>, links: array<string, ?array{from: string, to: string}>, echoes?: array<string, ?array<string, mixed>>, bends?: array<string, ?array<string, mixed>>, scenarios?: array<string, ?array<string, mixed>>, plots?: array<string, ?array<string, mixed>>, findings?: array<string, ?array<string, mixed>>} $record */
        return new self($record, $words);
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
        $touches = array_map(static fn (string $field): string => 'model/'.$field, array_keys(array_diff_key($this->record['set'], ['tracks' => true])));
        foreach ($this->record['removed'] as $id) {
            $touches[] = "element/$id";
        }
        foreach ($this->record['changed'] as $id => $fields) {
            foreach ($fields as $field => $_) {
                $touches[] = "element/$id/$field";
            }
        }
        foreach ($this->record['placements'] as $id => $place) {
            if ($place !== null) {
                $touches[] = "placement/$id";
            }
        }
        foreach (array_keys(self::KEPT) as $part) {
            foreach ($this->record[$part] ?? [] as $id => $_) {
                $touches[] = "$part/$id";
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
        $placements = $model->placements;
        foreach ($this->record['placements'] as $id => $place) {
            $placements[$id] = $place === null ? null : Placement::fromRecord($place);
        }
        $links = $model->links;
        foreach ($this->record['links'] as $key => $link) {
            $links[$key] = $link === null ? null : ModelRecord::toLink($link);
        }
        $links = array_filter($links, static fn (?Link $l): bool => $l !== null && isset($elements[$l->from], $elements[$l->to]));
        $fields = $this->record['set'];
        if (isset($fields['time'])) {
            /** @var array<string, mixed> $time */
            $time = $fields['time'];
            $fields['time'] = TimeSettings::fromRecord($time);
        }
        if (isset($fields['sheets'])) {
            /** @var list<array{id: string, name: string}> $sheets */
            $sheets = $fields['sheets'];
            $fields['sheets'] = array_map(ModelRecord::toSheet(...), $sheets);
        }
        if (isset($fields['endWhen'])) {
            /** @var list<string|array{name: string, id?: string}> $endWhen */
            $endWhen = $fields['endWhen'];
            $fields['endWhen'] = FormulaText::fromRecord($endWhen);
        }
        if (isset($fields['groups'])) {
            /** @var list<array{name: string, tint: string, members: list<string>}> $groups */
            $groups = $fields['groups'];
            $fields['groups'] = array_map(Group::fromRecord(...), $groups);
        }
        $echoes = $model->echoes;
        foreach ($this->record['echoes'] ?? [] as $id => $echo) {
            /** @var array{element: string, at: array{x: float, y: float}, sheet: string}|null $echo */
            $echoes[$id] = $echo === null ? null : Appearance::fromRecord($echo);
        }
        $echoes = array_filter($echoes, static fn (?Appearance $e): bool => $e !== null && isset($elements[$e->element]));
        $bends = $model->bends;
        foreach ($this->record['bends'] ?? [] as $key => $bend) {
            /** @var array{x: float, y: float}|null $bend */
            $bends[$key] = $bend === null ? null : Point::fromRecord($bend);
        }
        if (isset($fields['tracks'])) {
            /** @var list<string|array<string, mixed>> $tracks */
            $tracks = $fields['tracks'];
            $fields['tracks'] = array_map(ModelRecord::toTrack(...), $tracks);
        }
        foreach (self::KEPT as $part => $class) {
            $kept = $model->$part;
            foreach ($this->record[$part] ?? [] as $id => $one) {
                $kept[$id] = $one === null ? null : $class::read($one);
            }
            $fields[$part] = array_filter($kept);
        }
        $model = $model->with([...$fields, 'elements' => $elements, 'links' => $links, 'placements' => array_filter($placements), 'echoes' => $echoes, 'bends' => array_filter($bends)]);
        foreach ($this->record['added'] as $added) {
            // A formula written meanwhile may wait for a name that is back now.
            $element = $model->element(is_string($added['element']['id']) ? $added['element']['id'] : '');
            $model = $element === null ? $model : Mentions::bind($model, $element);
        }

        return $model;
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
