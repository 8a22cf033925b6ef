<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Part;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\Plot;
use MerryOrbit\Core\Model\Readable;
use MerryOrbit\Core\Model\Recorded;
use MerryOrbit\Core\Model\Settled;
use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * The parts of a document that are filed one by one (see Model\Parts), and the tracks, as lines of the native file. They hold names
 * where the model holds ids.
 */
final class NativeParts
{
    private const MAKERS = ['parties' => true, 'claims' => true, 'transactions' => true];

    /** @return array<string, list<array<string, mixed>>> by part of the file; parts without lines are left out */
    public static function lines(Model $model): array
    {
        $name = static fn (string $id): string => $model->nameOf($id) ?? (self::columnName($model, $id) ?? $id);
        $parts = [];
        foreach (Parts::filed() as $part) {
            $lines = [];
            foreach ($model->part($part->name) as $one) {
                $lines[] = self::keyed(self::withMaps($part, $part->translated($one instanceof Recorded ? $one->toRecord() : [], $name)));
            }
            usort($lines, static fn (array $a, array $b): int => ($a['id'] ?? '') <=> ($b['id'] ?? ''));
            $parts[$part->name] = $lines;
        }

        return array_filter($parts);
    }

    /**
     * What holds maps is an object also when there is nothing in it.
     *
     * @param  array<string, mixed>  $record
     * @return array<string, mixed>
     */
    private static function withMaps(Part $part, array $record): array
    {
        foreach ($part->names as $path) {
            $holder = strstr($path, '.', true);
            if ($holder !== false && ($record[$holder] ?? null) === []) {
                $record[$holder] = (object) [];
            }
        }

        return $record;
    }

    /** @return list<string|array<string, mixed>> a track of one variable without options is just its name */
    public static function tracks(Model $model): array
    {
        $name = static fn (string $id): string => $model->nameOf($id) ?? $id;

        return array_map(
            static fn (Plot $p): array|string => $p->toRecord() === Plot::track($p->of[0] ?? '')->toRecord()
                ? $name($p->of[0])
                : self::keyed(self::plots()->translated($p->toRecord(), $name)),
            $model->tracks,
        );
    }

    /** `name[north, old]` of the key of one element of a thing. */
    private static function columnName(Model $model, string $key): ?string
    {
        [$owner, $at] = [...explode('[', rtrim($key, ']'), 2), null];
        $over = $model->shapes[$owner] ?? [];
        $elements = explode(',', (string) $at);
        $name = $model->nameOf((string) $owner);
        if ($at === null || $name === null || count($elements) !== count($over)) {
            return null;
        }

        return $name.'['.implode(', ', array_map($model->dimensions()->elementName(...), $over, $elements)).']';
    }

    private static function columnKey(Model $model, string $name): ?string
    {
        if (preg_match('/^(.*\S)\s*\[([^\[\]]*)\]$/Dsu', $name, $m) !== 1) {
            return null;
        }
        $owner = $model->idOf(Name::key($m[1]));
        $over = $model->shapes[$owner ?? ''] ?? [];
        $elements = array_map(trim(...), explode(',', $m[2]));
        if ($owner === null || count($elements) !== count($over)) {
            return null;
        }
        $ids = array_map($model->dimensions()->elementOf(...), $over, $elements);

        return in_array(null, $ids, true) ? null : $owner.'['.implode(',', $ids).']';
    }

    private static function plots(): Part
    {
        return Parts::all()['plots'];
    }

    /**
     * What makes things that all else can name, as ledgers do.
     *
     * @param  array<string, mixed>  $file
     * @param  list<LogLine>  $log  what could not be read is added
     */
    public static function makers(array $file, Model $model, array &$log): Model
    {
        foreach (array_intersect_key(Parts::filed(), self::MAKERS) as $part) {
            $model = self::withPart($file, $model, $part, $log);
        }

        return $model;
    }

    /**
     * All others.
     *
     * @param  array<string, mixed>  $file
     * @param  list<LogLine>  $log
     */
    public static function read(array $file, Model $model, array &$log): Model
    {
        $id = self::ids($model);
        $tracks = [];
        foreach (NativeList::of($file, 'tracks') as $i => $line) {
            self::attempt('track '.($i + 1), $log, static function () use ($line, $id, $model, &$tracks): void {
                $plot = self::known(
                    $model,
                    is_string($line)
                        ? Plot::track($id($line))
                        : Plot::read(is_array($line) ? self::plots()->translated(self::keyed($line), $id) : $line),
                );
                $tracks += $plot->of === [] ? [] : [$plot->id => $plot];
            });
        }
        $model = $model->with(['tracks' => array_values($tracks)]);
        foreach (array_diff_key(Parts::filed(), self::MAKERS) as $part) {
            $model = self::withPart($file, $model, $part, $log);
        }

        return $model;
    }

    /**
     * @param  array<string, mixed>  $file
     * @param  list<LogLine>  $log
     */
    private static function withPart(array $file, Model $model, Part $part, array &$log): Model
    {
        $id = self::ids($model);
        foreach (NativeList::of($file, $part->name) as $i => $line) {
            self::attempt("$part->word ".($i + 1), $log, static function () use ($line, $id, $part, &$model): void {
                $value = ($part->read)(is_array($line) ? $part->translated(self::keyed($line), $id) : $line);
                $value = $value instanceof Plot ? self::known($model, $value) : $value;
                $value = $value instanceof Settled ? $value->settled($model) : $value;
                $unfit = $value instanceof Readable ? $value->unfit($model) : null;
                if ($unfit !== null) {
                    throw NotUnderstood::because($unfit);
                }
                $own = $value instanceof Recorded ? $value->toRecord()['id'] ?? '' : '';
                if (is_string($own) && ! ($value instanceof Plot && $value->of === [])) {
                    $model = $model->with([$part->name => [...$model->part($part->name), $own => $value]]);
                }
            });
        }

        return $model;
    }

    /** @return \Closure(string): string ids for names, of things and of single elements of them; what is unknown stays */
    private static function ids(Model $model): \Closure
    {
        return static fn (string $name): string => $model->idOf(Name::key($name)) ?? (self::columnKey($model, $name) ?? $name);
    }

    private static function known(Model $model, Plot $plot): Plot
    {
        return $plot->showing(array_values(array_filter($plot->of, static fn (string $one): bool => $model->nameOf($one) !== null)));
    }

    /** @param  list<LogLine>  $log */
    private static function attempt(string $where, array &$log, \Closure $reading): void
    {
        try {
            $reading();
        } catch (NotUnderstood $e) {
            $log[] = new LogLine($where, "It was left out: {$e->getMessage()}");
        }
    }

    /**
     * @param  array<mixed>  $record
     * @return array<string, mixed>
     */
    private static function keyed(array $record): array
    {
        ksort($record);

        return array_filter($record, is_string(...), ARRAY_FILTER_USE_KEY);
    }
}
