<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Model\Computed;
use MerryOrbit\Core\Model\Dimension;
use MerryOrbit\Core\Model\Dimensions;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Group;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Placement;
use MerryOrbit\Core\Model\Point;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Sheet;
use MerryOrbit\Core\Model\SpecialCase;
use MerryOrbit\Core\Model\Stock;

/**
 * Merry Orbit's own file: JSON with sorted keys and one element per line, so that text tools can compare and merge
 * two versions. Formulas hold names, not ids. The schema is docs/model.schema.json.
 */
final class NativeFile
{
    public const FORMAT = 'merry-orbit model';

    public const VERSION = 2;

    public static function export(Model $model): string
    {
        $name = $model->nameOf(...);
        $elements = array_map(static fn (Element $e): array => self::elementLine($model, $e), array_values($model->elements));
        $layout = [];
        foreach ($model->placements as $id => $place) {
            if ($name($id) !== null) {
                $layout[] = self::placeLine((string) $name($id), $place);
            }
        }
        usort($layout, static fn (array $a, array $b): int => $a['element'] <=> $b['element']);
        $parts = [
            ...$model->bends === [] ? [] : ['bends' => self::lines(self::bendLines($model))],
            ...$model->part('mapSpots') === [] ? [] : ['mapSpots' => self::lines(self::spotLines($model))],
            ...$model->dimensions === []
                ? []
                : ['dimensions' => self::lines(array_map(static fn (Dimension $d): array => $d->toRecord(), $model->dimensions))],
            ...$model->echoes === [] ? [] : ['echoes' => self::lines(self::echoLines($model))],
            'elements' => self::lines($elements),
            ...$model->endWhen->isEmpty() ? [] : ['endWhen' => self::json($model->endWhen->text($name))],
            'format' => self::json(self::FORMAT),
            ...$model->groups === []
                ? []
                : [
                    'groups' => self::lines(
                        array_map(
                            static fn (Group $g): array => [
                                'elements' => array_map($name, $g->members),
                                'name' => $g->name,
                                'tint' => $g->tint,
                            ],
                            $model->groups,
                        ),
                    ),
                ],
            'layout' => self::lines($layout),
            'links' => self::lines(
                array_map(static fn ($l): array => ['from' => $name($l->from), 'to' => $name($l->to)], array_values($model->links)),
            ),
            'name' => self::json($model->name),
            'note' => self::json($model->note),
            ...$model->sameUnits === [] ? [] : ['sameUnits' => self::lines($model->sameUnits)],
            'sheets' => self::lines(array_map(static fn (Sheet $s): array => ['id' => $s->id, 'name' => $s->name], $model->sheets)),
            'time' => self::json(self::sorted($model->time->toRecord())),
            'tracks' => self::lines(NativeParts::tracks($model)),
            'version' => self::json(self::VERSION),
        ];
        $parts = [...$parts, ...array_map(self::lines(...), NativeParts::lines($model))];
        ksort($parts);
        $text = [];
        foreach ($parts as $key => $json) {
            $text[] = self::json($key).': '.$json;
        }

        return "{\n".implode(",\n", $text)."\n}\n";
    }

    /** @throws FileRefused */
    public static function import(string $json, bool $lenient = false): Imported
    {
        return NativeReader::read($json, $lenient);
    }

    /** @return array<string, mixed> */
    private static function elementLine(Model $model, Element $element): array
    {
        $line = [
            'id' => $element->id,
            'kind' => $element->kind()->value,
            'name' => $element->name,
            'formula' => $model->formulaOf($element),
        ];
        $rest = [
            'dimensions' => array_map($model->dimensions()->nameOf(...), $model->shapes[$element->id] ?? []) ?: null,
            'note' => $element->note,
            'symbol' => $element->symbol,
            'unit' => $element->unit,
        ];
        if ($element instanceof Flow) {
            $rest += [
                'from' => $element->from === null ? null : $model->nameOf($element->from),
                'to' => $element->to === null ? null : $model->nameOf($element->to),
            ];
        }
        if ($element instanceof Flow) {
            $rest += ['oneWay' => $element->oneWay ?: null, 'priority' => $element->priority];
        }
        if ($element instanceof Stock) {
            $rest += ['neverNegative' => $element->neverNegative ?: null, 'travel' => $element->travel->text($model->nameOf(...))];
        }
        if ($element instanceof Computed) {
            $rest['exceptions'] =
                array_map(
                    static fn (SpecialCase $c): array => [
                        'for' => self::forNames($c, $model->dimensions()),
                        'formula' => $c->formula->text($model->nameOf(...)),
                    ],
                    $element->exceptions,
                ) ?:
                null;
        }
        if ($element instanceof Relation) {
            unset($line['formula']);
            $rest += [
                'points' => $element->points,
                'between' => $element->between->value,
                'beyond' => $element->beyond->value,
                'inputUnit' => $element->inputUnit,
            ];
        }
        if ($element instanceof Parameter) {
            $rest += ['low' => $element->low, 'high' => $element->high, 'step' => $element->step, 'choices' => $element->choices ?: null];
        }

        return self::sorted([...$line, ...array_filter($rest, static fn (mixed $v): bool => $v !== null && $v !== '')]);
    }

    /** @return array<string, list<string>|string> names of elements by names of dimensions */
    private static function forNames(SpecialCase $case, Dimensions $dimensions): array
    {
        $names = [];
        foreach ($case->for as $dimension => $elements) {
            $name = static fn (string $e): string => $dimensions->elementName($dimension, $e);
            $names[$dimensions->nameOf($dimension)] = is_string($elements) ? $elements : array_map($name, $elements);
        }

        return $names;
    }

    /** @return array{element: string, at: array{float, float}} */
    private static function placeLine(string $name, Placement $place): array
    {
        $point = static fn (?Point $p): ?array => $p === null ? null : [$p->x, $p->y];
        $line = ['at' => [$place->at->x, $place->at->y], 'element' => $name];
        $rest = [
            'sheet' => $place->sheet,
            'source' => $point($place->source),
            'target' => $point($place->target),
            'bendIn' => $point($place->bendIn),
            'bendOut' => $point($place->bendOut),
            'plot' => $place->plot ?: null,
        ];

        return [...$line, ...array_filter($rest, static fn (mixed $v): bool => $v !== null)];
    }

    /** @return list<array<string, mixed>> */
    private static function echoLines(Model $model): array
    {
        $echoes = $model->echoes;
        ksort($echoes);
        $lines = [];
        foreach ($echoes as $id => $echo) {
            $lines[] = [
                'at' => [$echo->at->x, $echo->at->y],
                'element' => $model->nameOf($echo->element),
                'id' => $id,
                'sheet' => $echo->sheet,
            ];
        }

        return $lines;
    }

    /** @return list<array<string, mixed>> */
    private static function spotLines(Model $model): array
    {
        $lines = [];
        foreach ($model->part('mapSpots') as $id => $at) {
            $name = $model->nameOf((string) $id);
            if ($at instanceof Point && $name !== null) {
                $lines[] = ['at' => [$at->x, $at->y], 'element' => $name];
            }
        }
        usort($lines, static fn (array $a, array $b): int => $a['element'] <=> $b['element']);

        return $lines;
    }

    /** @return list<array<string, mixed>> */
    private static function bendLines(Model $model): array
    {
        $bends = $model->bends;
        ksort($bends);
        $lines = [];
        foreach ($bends as $key => $by) {
            [$from, $to] = explode('>', $key) + ['', ''];
            $lines[] = ['by' => [$by->x, $by->y], 'from' => $model->nameOf($from), 'to' => $model->nameOf($to)];
        }

        return $lines;
    }

    /**
     * @param  array<string, mixed>  $record
     * @return array<string, mixed>
     */
    private static function sorted(array $record): array
    {
        ksort($record);

        return $record;
    }

    /** @param  list<mixed>  $items */
    private static function lines(array $items): string
    {
        return $items === [] ? '[]' : "[\n".implode(",\n", array_map(self::json(...), $items))."\n]";
    }

    private static function json(mixed $value): string
    {
        return json_encode($value, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES);
    }
}
