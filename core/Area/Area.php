<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Area;

/** One area of a map. */
final readonly class Area
{
    /**
     * @param  int  $place  in the list of features of its file, from 0
     * @param  array<string, string>  $properties
     * @param  list<list<list<array{float, float}>>>  $polygons  each an outline and its holes, of longitudes and latitudes in degrees
     */
    public function __construct(public int $place, public array $properties, public array $polygons)
    {
    }

    /**
     * The same as a geometry whose outlines run as drawing on a sphere wants them: what is inside lies to the right.
     *
     * @return array{type: 'MultiPolygon', coordinates: list<list<list<array{float, float}>>>}
     */
    public function geometry(): array
    {
        $polygons = array_map(
            static fn (array $rings): array => array_map(
                static fn (array $ring, int $i): array => self::turned($ring, $i > 0),
                $rings,
                array_keys($rings),
            ),
            $this->polygons,
        );

        return ['type' => 'MultiPolygon', 'coordinates' => $polygons];
    }

    /**
     * @param  list<array{float, float}>  $ring
     * @return list<array{float, float}> with the clock, a hole against it
     */
    private static function turned(array $ring, bool $isHole): array
    {
        return self::size($ring) > 0.0 === $isHole ? $ring : array_reverse($ring);
    }

    /**
     * @param  list<array{float, float}>  $ring
     * @return float twice what is inside, in square degrees; positive where it runs against the clock
     */
    private static function size(array $ring): float
    {
        $sum = 0.0;
        foreach ($ring as $i => [$x, $y]) {
            [$nextX, $nextY] = $ring[($i + 1) % count($ring)];
            $sum += $x * $nextY - $nextX * $y;
        }

        return $sum;
    }
}
