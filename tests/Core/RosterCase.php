<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\Trajectory;
use PHPUnit\Framework\TestCase;

/** Models of members, written as files are. */
abstract class RosterCase extends TestCase
{
    /**
     * @param  list<string>  $members
     * @param  list<array{name: string}&array<string, mixed>>  $elements
     * @param  array<string, mixed>  $roster
     * @param  array<string, mixed>  $time
     * @param  array<string, mixed>  $more  of the file
     */
    protected static function model(array $members, array $elements, array $roster, array $time = [], array $more = []): Model
    {
        $file = [
            'format' => 'merry-orbit model',
            'version' => 1,
            'name' => 'Boats',
            'time' => ['start' => 0, 'end' => 10, 'step' => 0.25, 'unit' => 'year', 'method' => 'euler', ...$time],
            'dimensions' => [
                [
                    'id' => 'boat',
                    'name' => 'boat',
                    'elements' => array_map(static fn (string $m): array => ['id' => $m, 'name' => $m], $members),
                ],
                ...(array) ($more['dimensions'] ?? []),
            ],
            'elements' => array_map(
                static fn (array $e): array => ['id' => strtr($e['name'], ' ', '-'), 'kind' => 'auxiliary', ...$e],
                $elements,
            ),
            ...$roster === [] ? [] : ['rosters' => [['id' => 'boats', 'of' => 'boat', ...$roster]]],
            ...array_diff_key($more, ['dimensions' => 1]),
        ];

        return NativeFile::import(json_encode($file, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION))->model;
    }

    protected static function ran(Model $model, int $seed = 1): Trajectory
    {
        $analysis = Analyser::analyse($model);
        self::assertSame([], array_map(static fn ($p): string => $p->sentence, $analysis->blockers()));

        return Build::simulator()->run($analysis, new RunOptions(seed: $seed));
    }

    /** @return list<string> */
    protected static function sentences(Model $model): array
    {
        return array_map(static fn ($p): string => $p->sentence, Analyser::analyse($model)->blockers());
    }

    /** @return array<string, mixed> */
    protected static function sinks(string $of = 'chance to sink'): array
    {
        return ['id' => 'sunk', 'words' => 'sunk', 'kind' => 'chance', 'of' => $of];
    }
}
