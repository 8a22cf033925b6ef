<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Model;

/** Small models over dimensions, made as files, and what they compute. */
trait ShapedModels
{
    /** @var array<string, mixed> */
    private static array $terraces = ['name' => 'terrace', 'elements' => ['north', 'middle', 'south']];

    /** @var array<string, mixed> */
    private static array $ages = ['name' => 'age', 'from' => 0, 'to' => 3];

    /**
     * @param  list<array<string, mixed>>  $dimensions
     * @param  list<array<string, mixed>>  $elements
     * @param  array<string, mixed>  $more
     */
    private static function model(array $dimensions, array $elements, array $more = []): Model
    {
        $time = ['start' => 0, 'end' => 4, 'step' => 0.5, 'unit' => 'year', 'method' => 'euler', ...(array) ($more['time'] ?? [])];
        unset($more['time']);
        $head = ['format' => NativeFile::FORMAT, 'version' => NativeFile::VERSION];
        $file = [...$head, 'dimensions' => $dimensions, 'elements' => $elements, 'time' => $time, ...$more];

        return NativeFile::import(json_encode($file, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION))->model;
    }

    /** @return array<string, mixed> */
    private static function line(string $kind, string $name, string $formula, string ...$over): array
    {
        return ['kind' => $kind, 'name' => $name, 'formula' => $formula, ...$over === [] ? [] : ['dimensions' => array_values($over)]];
    }

    /** @return array<string, list<float>> columns by name */
    private static function columns(Model $model): array
    {
        $analysis = Analyser::analyse($model);
        self::assertSame([], array_map(static fn ($p): string => $p->sentence, $analysis->blockers()));
        $run = Build::simulator()->run($analysis, new \MerryOrbit\Core\Simulate\RunOptions());
        self::assertNull($run->fault);
        $columns = [];
        foreach ($analysis->columns() as $key => $name) {
            if ($run->has($key)) {
                $columns[$name] = $run->column($key);
            }
        }

        return $columns;
    }

    /** @return array<string, float> the values at the start, by name */
    private static function start(Model $model): array
    {
        return array_map(static fn (array $c): float => $c[0], self::columns($model));
    }

    /** @return list<string> codes */
    private static function codes(Model $model): array
    {
        return Build::codes($model);
    }

    /** @param  array<string, mixed>  ...$edits */
    private static function after(Model $model, array ...$edits): Model
    {
        foreach ($edits as $edit) {
            $model = EditReader::read($edit)->apply($model);
        }

        return $model;
    }

    /** @return array<string, mixed> */
    private static function pools(string $last = 'hot', string $name = 'pool'): array
    {
        return ['id' => 'pool', 'name' => $name, 'elements' => [
            ['id' => 'children', 'name' => 'children'],
            ['id' => 'swimmers', 'name' => 'swimmers'],
            ['id' => 'hot', 'name' => $last],
        ]];
    }
}
