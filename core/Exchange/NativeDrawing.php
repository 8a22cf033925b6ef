<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Appearance;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Group;
use MerryOrbit\Core\Model\Link;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Placement;
use MerryOrbit\Core\Model\Point;
use MerryOrbit\Core\Model\Sheet;

/** What of a native file is only shown: sheets, places, echoes, links that wait, bends, groups. */
final class NativeDrawing
{
    /** @var list<LogLine> */
    private array $log = [];

    /** @param  array<string, mixed>  $file */
    private function __construct(private readonly array $file)
    {
    }

    /**
     * @param  array<string, mixed>  $file
     * @param  list<LogLine>  $log  gets what was left out
     */
    public static function read(array $file, Model $model, array &$log): Model
    {
        $drawing = new self($file);
        $drawn = $drawing->drawn($model);
        $log = [...$log, ...$drawing->log];

        return $drawn;
    }

    /** What is only shown: nothing of it can make a file unreadable. */
    private function drawn(Model $model): Model
    {
        $seenAs = fn (mixed $name): ?string => is_string($name) ? $model->idOf(Name::key($name)) : null;
        $idOf = fn (mixed $name): ?string => isset($model->elements[$seenAs($name) ?? '']) ? $seenAs($name) : null;
        $sheets = [];
        foreach (NativeList::of($this->file, 'sheets') as $sheet) {
            if (is_array($sheet) && is_string($sheet['id'] ?? null) && is_string($sheet['name'] ?? null) && Element::isId($sheet['id'])) {
                $sheets[$sheet['id']] = new Sheet($sheet['id'], mb_substr($sheet['name'], 0, Name::LONGEST));
            }
        }
        $sheets = $sheets === [] ? [Sheet::FIRST => new Sheet(Sheet::FIRST, 'Main')] : $sheets;
        $placements = [];
        foreach (NativeList::of($this->file, 'layout') as $i => $line) {
            $id = is_array($line) ? $idOf($line['element'] ?? null) : null;
            $at = is_array($line) ? self::point($line['at'] ?? null) : null;
            if (! is_array($line) || $id === null || $at === null) {
                $this->log[] = new LogLine(
                    'layout line '.($i + 1),
                    'It names no element of the model, or no place for it, and was left out.',
                );

                continue;
            }
            $sheet = is_string($line['sheet'] ?? null) && isset($sheets[$line['sheet']]) ? $line['sheet'] : array_key_first($sheets);
            $placements[$id] = new Placement(
                $at,
                self::point($line['source'] ?? null),
                self::point($line['target'] ?? null),
                $sheet,
                self::point($line['bendIn'] ?? null),
                self::point($line['bendOut'] ?? null),
                ($line['plot'] ?? false) === true,
            );
        }
        $echoes = [];
        foreach (NativeList::of($this->file, 'echoes') as $i => $line) {
            $id = is_array($line) ? $seenAs($line['element'] ?? null) : null;
            $at = is_array($line) ? self::point($line['at'] ?? null) : null;
            if (! is_array($line) || $id === null || $at === null) {
                $this->log[] = new LogLine('echo '.($i + 1), 'It names no element of the model, or no place for it, and was left out.');

                continue;
            }
            $own = $line['id'] ?? null;
            $own =
                is_string($own) && Element::isId($own) && ! isset($echoes[$own]) && $model->element($own) === null
                    ? $own
                    : 'echo-'.($i + 1).'-'.substr(hash('sha256', $id), 0, 8);
            $sheet = is_string($line['sheet'] ?? null) && isset($sheets[$line['sheet']]) ? $line['sheet'] : array_key_first($sheets);
            $echoes[$own] = new Appearance($id, $at, $sheet);
        }
        $links = [];
        foreach (NativeList::of($this->file, 'links') as $line) {
            $from = is_array($line) ? $idOf($line['from'] ?? null) : null;
            $to = is_array($line) ? $idOf($line['to'] ?? null) : null;
            if ($from === null || $to === null || $from === $to) {
                $this->log[] = new LogLine('links', 'A link does not lead from one element to another and was left out.');

                continue;
            }
            if (! $model->elements[$to]->mentions($from)) {
                $link = new Link($from, $to);
                $links[$link->key()] = $link;
            }
        }

        return $model->with([
            'sheets' => array_values($sheets),
            'placements' => $placements,
            'links' => $links,
            'echoes' => $echoes,
            'bends' => $this->bends($idOf),
            'mapSpots' => $this->mapSpots($idOf),
            'groups' => $this->groups($idOf),
        ]);
    }

    /**
     * @param  \Closure(mixed): ?string  $idOf
     * @return array<string, Point>
     */
    private function bends(\Closure $idOf): array
    {
        $bends = [];
        foreach (NativeList::of($this->file, 'bends') as $line) {
            $from = is_array($line) ? $idOf($line['from'] ?? null) : null;
            $to = is_array($line) ? $idOf($line['to'] ?? null) : null;
            $by = is_array($line) ? self::point($line['by'] ?? null) : null;
            if ($from === null || $to === null || $by === null) {
                $this->log[] = new LogLine('bends', 'A bend belongs to no link of the model and was left out.');

                continue;
            }
            $bends[(new Link($from, $to))->key()] = $by;
        }

        return $bends;
    }

    /**
     * @param  \Closure(mixed): ?string  $idOf
     * @return array<string, Point>
     */
    private function mapSpots(\Closure $idOf): array
    {
        $spots = [];
        foreach (NativeList::of($this->file, 'mapSpots') as $line) {
            $id = is_array($line) ? $idOf($line['element'] ?? null) : null;
            $at = is_array($line) ? self::point($line['at'] ?? null) : null;
            if ($id === null || $at === null) {
                $this->log[] = new LogLine('mapSpots', 'A spot on the map belongs to nothing of the model and was left out.');

                continue;
            }
            $spots[$id] = $at;
        }

        return $spots;
    }

    /**
     * @param  \Closure(mixed): ?string  $idOf
     * @return list<Group>
     */
    private function groups(\Closure $idOf): array
    {
        $groups = [];
        $taken = [];
        foreach (NativeList::of($this->file, 'groups') as $i => $line) {
            $record = NativeFields::record($line, 'group '.($i + 1));
            $tint = $record['tint'] ?? '';
            $members = array_values(
                array_diff(
                    array_unique(array_filter(array_map($idOf, is_array($record['elements'] ?? null) ? $record['elements'] : []))),
                    $taken,
                ),
            );
            if ($members === []) {
                continue;
            }
            $taken = [...$taken, ...$members];
            $groups[] = new Group(
                mb_substr(NativeFields::text($record, 'name', 'group '.($i + 1), 'Group '.($i + 1)), 0, Name::LONGEST),
                in_array($tint, Group::TINTS, true) ? $tint : Group::TINTS[$i % count(Group::TINTS)],
                $members,
            );
        }

        return $groups;
    }

    private static function point(mixed $pair): ?Point
    {
        if (! is_array($pair) || ! isset($pair[0], $pair[1]) || ! is_numeric($pair[0]) || ! is_numeric($pair[1])) {
            return null;
        }
        $within = static fn (float $v): float => max(-Point::FARTHEST, min(Point::FARTHEST, $v));

        return new Point($within((float) $pair[0]), $within((float) $pair[1]));
    }
}
