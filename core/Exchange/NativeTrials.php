<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Finding;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\NotUnderstood;
use MerryOrbit\Core\Model\Plot;
use MerryOrbit\Core\Model\Scenario;

/**
 * What is tried with a model and how it is looked at, as lines of the native file: scenarios, plots, tracks, findings.
 * They hold names where the model holds ids, but for the views of findings, which are the page's own records.
 */
final class NativeTrials
{
    /** @return array<string, list<array<string, mixed>>> by part of the file; parts without lines are left out */
    public static function lines(Model $model): array
    {
        $name = static fn (string $id): string => $model->nameOf($id) ?? $id;
        $parts = [
            'findings' => array_map(static fn (Finding $f): array => $f->toRecord(), array_values($model->findings)),
            'plots' => array_map(static fn (Plot $p): array => self::plot($p->toRecord(), $name), array_values($model->plots)),
            'scenarios' => array_map(static fn (Scenario $s): array => self::scenario($s->toRecord(), $name), array_values($model->scenarios)),
        ];

        return array_filter(array_map(static function (array $lines): array {
            usort($lines, static fn (array $a, array $b): int => $a['id'] <=> $b['id']);

            return $lines;
        }, $parts));
    }

    /** @return list<string|array<string, mixed>> a track of one variable without options is just its name */
    public static function tracks(Model $model): array
    {
        $name = static fn (string $id): string => $model->nameOf($id) ?? $id;

        return array_map(static fn (Plot $p): array|string => $p->toRecord() === Plot::track($p->of[0] ?? '')->toRecord() ? $name($p->of[0]) : self::plot($p->toRecord(), $name), $model->tracks);
    }

    /**
     * @param  array<string, mixed>  $file
     * @param  list<LogLine>  $log  what could not be read is added
     */
    public static function read(array $file, Model $model, array &$log): Model
    {
        $id = static fn (string $name): string => $model->idOf(Name::key($name)) ?? $name;
        $known = static fn (Plot $p): Plot => $p->showing(array_values(array_filter($p->of, static fn (string $one): bool => $model->element($one) !== null)));
        $tracks = $plots = $scenarios = $findings = [];
        $attempt = static function (string $where, \Closure $reading) use (&$log): void {
            try {
                $reading();
            } catch (NotUnderstood $e) {
                $log[] = new LogLine($where, "It was left out: {$e->getMessage()}");
            }
        };
        foreach (NativeList::of($file, 'tracks') as $i => $line) {
            $attempt('track '.($i + 1), static function () use ($line, $id, $known, &$tracks): void {
                $plot = $known(is_string($line) ? Plot::track($id($line)) : Plot::read(is_array($line) ? self::plot($line, $id) : $line));
                $tracks += $plot->of === [] ? [] : [$plot->id => $plot];
            });
        }
        foreach (NativeList::of($file, 'plots') as $i => $line) {
            $attempt('plot '.($i + 1), static function () use ($line, $id, $known, &$plots): void {
                $plot = $known(Plot::read(is_array($line) ? self::plot($line, $id) : $line));
                $plots += $plot->of === [] ? [] : [$plot->id => $plot];
            });
        }
        foreach (NativeList::of($file, 'scenarios') as $i => $line) {
            $attempt('scenario '.($i + 1), static function () use ($line, $id, &$scenarios): void {
                $scenario = Scenario::read(is_array($line) ? self::scenario($line, $id) : $line);
                $scenarios[$scenario->id] = $scenario;
            });
        }
        foreach (NativeList::of($file, 'findings') as $i => $line) {
            $attempt('finding '.($i + 1), static function () use ($line, &$findings): void {
                $finding = Finding::read($line);
                $findings[$finding->id] = $finding;
            });
        }

        return $model->with(['tracks' => array_values($tracks), 'plots' => $plots, 'scenarios' => $scenarios, 'findings' => $findings]);
    }

    /**
     * @param  array<mixed>  $record
     * @param  \Closure(string): string  $other  from id to name or back
     * @return array<string, mixed>
     */
    private static function plot(array $record, \Closure $other): array
    {
        $of = is_array($record['of'] ?? null) ? array_map(static fn (mixed $one): mixed => is_string($one) ? $other($one) : $one, $record['of']) : [];
        $options = is_array($record['options'] ?? null) ? $record['options'] : [];
        if (is_array($options['marks'] ?? null)) {
            // A mark lies at a number, or at the values of a variable.
            $end = static fn (mixed $v): mixed => is_string($v) ? $other($v) : $v;
            $options['marks'] = array_map(static fn (mixed $m): mixed => is_array($m) ? [...$m, ...array_map($end, array_intersect_key($m, ['at' => 1, 'to' => 1]))] : $m, $options['marks']);
            $record['options'] = $options;
        }

        return self::keyed([...$record, 'of' => $of]);
    }

    /**
     * @param  array<mixed>  $record
     * @param  \Closure(string): string  $other
     * @return array<string, mixed>
     */
    private static function scenario(array $record, \Closure $other): array
    {
        $setting = is_array($record['setting'] ?? null) ? $record['setting'] : [];
        foreach (['parameters', 'grips', 'curves'] as $part) {
            if (is_array($setting[$part] ?? null)) {
                $setting[$part] = array_combine(array_map(static fn (int|string $k): string => $other((string) $k), array_keys($setting[$part])), array_values($setting[$part]));
            }
        }
        if (isset($setting['curves']) && is_array($setting['curves'])) {
            $setting['curves'] = array_map(static fn (mixed $v): mixed => is_string($v) ? $other($v) : $v, $setting['curves']);
        }
        if (isset($setting['grips']) && is_array($setting['grips'])) {
            $setting['grips'] = array_map(static fn (mixed $g): mixed => is_array($g) && is_string($g['series'] ?? null) ? [...$g, 'series' => $other($g['series'])] : $g, $setting['grips']);
        }

        return self::keyed([...$record, 'setting' => $setting]);
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
