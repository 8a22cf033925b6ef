<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Area\Area;
use MerryOrbit\Core\Area\AreaFile;
use MerryOrbit\Core\Area\AreaJoin;
use MerryOrbit\Core\Experiment\Alignment;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Problem\Nearest;
use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Reduce\Gathered;
use MerryOrbit\Core\Simulate\Trajectory;

/** What the command line does with area maps: areas with the values of a variable at some times, as GeoJSON. */
final readonly class AreaCommand
{
    /**
     * @param  list<string>  $keys  columns by area; empty where it is no element
     */
    private function __construct(private AreaFile $file, private string $id, private array $keys)
    {
    }

    /**
     * @param  resource  $err  where it is said what does not match
     *
     * @throws UsageError|\MerryOrbit\Core\Data\TableRefused
     */
    public static function of(Arguments $arguments, Analysis $analysis, mixed $err): self
    {
        $map = $arguments->last('map') ?? throw new UsageError('Say which areas: --map=FILE.geojson');
        $name = $arguments->last('of') ?? throw new UsageError('Say what they are coloured by: --of=NAME');
        $text = is_readable($map) && ! is_dir($map) ? (string) file_get_contents($map) : throw new UsageError("There is no file $map.");
        $file = AreaFile::read($text);
        $id = $analysis->model->idOf(Name::key($name));
        if ($id === null || ! $analysis->canCompute($id)) {
            throw new UsageError("The model has no variable `$name`.".Nearest::question($name, $analysis->model->names()));
        }
        $over = $analysis->extents[$id] ?? [];
        $dimensions = $analysis->model->dimensions();
        $joins = array_map(
            static fn (string $d): AreaJoin => AreaJoin::of($file, $dimensions, $d, $arguments->last('property') ?? ''),
            $over,
        );
        usort($joins, static fn (AreaJoin $a, AreaJoin $b): int => self::found($b) <=> self::found($a));
        $join = $joins[0] ?? null;
        if ($join === null || self::found($join) === 0) {
            throw new UsageError(
                "No area is called like an element of what `$name` extends along. Its properties are ".
                    implode(', ', $file->named()).
                    '.',
            );
        }
        foreach ($join->missing as $one) {
            fwrite($err, "Without an area: $one.\n");
        }
        foreach ($join->strange as $one) {
            fwrite($err, "No element of {$dimensions->nameOf($join->dimension)}: $one.\n");
        }
        $keys = array_map(
            static fn (?string $e): string => $e === null
                ? ''
                : (new Key($id, '', array_map(static fn (string $d): string => $d === $join->dimension ? $e : '*sum', $over)))->text(),
            $join->elements,
        );

        return new self($file, $id, $keys);
    }

    private static function found(AreaJoin $join): int
    {
        return count(array_filter($join->elements, is_string(...)));
    }

    /** The variable that has to be run. */
    public function variable(): string
    {
        return $this->id;
    }

    /**
     * @param  list<string>  $said  times; none: the end
     * @return array<string, mixed> GeoJSON (RFC 7946)
     *
     * @throws UsageError
     */
    public function collection(Trajectory $run, Analysis $analysis, array $said): array
    {
        $times = array_map(
            static fn (string $t): float => is_numeric($t) ? (float) $t : throw new UsageError("--at takes a number, not `$t`."),
            $said,
        );
        sort($times);
        $times = $times === [] ? [$run->times()[count($run->times()) - 1]] : $times;
        $keys = array_values(array_unique(array_filter($this->keys, static fn (string $k): bool => $k !== '')));
        $whole = Gathered::added($run, $analysis, $keys)[0];
        $name = (string) $analysis->model->nameOf($this->id);
        $features = [];
        foreach ($this->file->areas as $i => $area) {
            $values = [];
            $key = $this->keys[$i];
            foreach (
                $key === '' || ! $whole->has($key) ? [] : Alignment::at($whole->times(), $whole->column($key), $times) as $k => $value
            ) {
                $values["$name@".Shown::number($times[$k])] = is_nan($value) ? null : $value;
            }
            $features[] = ['type' => 'Feature', 'properties' => [...$area->properties, ...$values], 'geometry' => self::geometry($area)];
        }

        return ['type' => 'FeatureCollection', 'features' => $features];
    }

    /** @return array{type: string, coordinates: mixed} outlines against the clock, as the standard has them */
    private static function geometry(Area $area): array
    {
        $reversed = static fn (array $ring): array => array_reverse($ring);

        return [
            'type' => 'MultiPolygon',
            'coordinates' => array_map(static fn (array $p): array => array_map($reversed, $p), $area->geometry()['coordinates']),
        ];
    }
}
