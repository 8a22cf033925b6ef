<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Area;

use MerryOrbit\Core\Data\TableRefused;

/**
 * Areas of a geographic file: GeoJSON (RFC 7946), a collection of features with polygons in degrees of longitude and latitude.
 */
final readonly class AreaFile
{
    public const MOST_BYTES = 20_000_000;

    private const MOST_AREAS = 3_000;

    private const MOST_POINTS = 300_000;

    /** Properties of one area that are kept, and characters of each. */
    private const MOST_PROPERTIES = 40;

    private const LONGEST = 200;

    private const DEEPEST = 16;

    /**
     * @param  non-empty-list<Area>  $areas
     * @param  list<string>  $remarks
     */
    private function __construct(public array $areas, public array $remarks)
    {
    }

    /** Whether a text is such a file, though it may be a broken one. */
    public static function looksLike(string $start): bool
    {
        return preg_match('/^[\s\x{FEFF}]*\{.{0,4000}?"type"\s*:\s*"(?:FeatureCollection|Feature)"/su', mb_strcut($start, 0, 5_000)) ===
            1;
    }

    /** @throws TableRefused */
    public static function read(string $text): self
    {
        if (strlen($text) > self::MOST_BYTES) {
            throw TableRefused::because('This area map is larger than 20 MB. Save it with simpler outlines.');
        }
        try {
            $read = json_decode((string) preg_replace('/^\x{FEFF}/u', '', $text), true, self::DEEPEST, JSON_THROW_ON_ERROR);
        } catch (\JsonException $e) {
            throw TableRefused::because('This is no sound GeoJSON: '.lcfirst($e->getMessage()).'.');
        }
        $features =
            is_array($read) && ($read['type'] ?? null) === 'Feature' ? [$read] : (is_array($read) ? $read['features'] ?? null : null);
        if (! is_array($features)) {
            throw TableRefused::because('This JSON is no GeoJSON with areas: it has no list `features`.');
        }
        if (count($features) > self::MOST_AREAS) {
            throw TableRefused::because(
                'This map has '.number_format(count($features)).' areas; '.number_format(self::MOST_AREAS).' can be shown.',
            );
        }

        return self::areas(array_values($features));
    }

    /**
     * @param  list<mixed>  $features
     *
     * @throws TableRefused
     */
    private static function areas(array $features): self
    {
        $areas = [];
        $others = $points = 0;
        foreach ($features as $i => $feature) {
            $geometry = is_array($feature) ? $feature['geometry'] ?? null : null;
            $polygons = is_array($geometry) ? self::polygons($geometry) : null;
            if (! is_array($feature) || $polygons === null) {
                $others++;

                continue;
            }
            $points += array_sum(array_map(static fn (array $p): int => array_sum(array_map(count(...), $p)), $polygons));
            if ($points > self::MOST_POINTS) {
                throw TableRefused::because(
                    'The outlines of this map have more than '.number_format(self::MOST_POINTS).' points. Save it simpler.',
                );
            }
            $areas[] = new Area($i, self::properties($feature), $polygons);
        }
        if ($areas === []) {
            throw TableRefused::because('This GeoJSON holds no areas: none of its features is a polygon.');
        }
        $remarks =
            $others === 0
                ? []
                : [
                    $others === 1
                        ? 'One feature is no area, and left out.'
                        : "$others features are no areas (points, lines, nothing), and left out.",
                ];

        return new self($areas, $remarks);
    }

    /**
     * @param  array<mixed>  $geometry
     * @return ?list<list<list<array{float, float}>>> polygons of rings; null where it is none
     *
     * @throws TableRefused
     */
    private static function polygons(array $geometry): ?array
    {
        $list = match ($geometry['type'] ?? null) {
            'Polygon' => [$geometry['coordinates'] ?? null],
            'MultiPolygon' => $geometry['coordinates'] ?? null,
            default => null,
        };
        $polygons = [];
        foreach (is_array($list) ? $list : [] as $rings) {
            $made = [];
            foreach (is_array($rings) ? $rings : [] as $ring) {
                $line = self::ring($ring);
                if (count($line) >= 4) {
                    $made[] = $line;
                }
            }
            if ($made !== []) {
                $polygons[] = $made;
            }
        }

        return $polygons === [] ? null : $polygons;
    }

    /**
     * @return list<array{float, float}>
     *
     * @throws TableRefused
     */
    private static function ring(mixed $ring): array
    {
        $line = [];
        foreach (is_array($ring) ? $ring : [] as $point) {
            [$east, $north] = is_array($point) ? [$point[0] ?? null, $point[1] ?? null] : [null, null];
            if ((! is_int($east) && ! is_float($east)) || (! is_int($north) && ! is_float($north))) {
                throw TableRefused::because('An outline of this map has a point that is no pair of numbers.');
            }
            if (abs($east) > 180.0001 || abs($north) > 90.0001) {
                throw TableRefused::because(
                    'The outlines are not in degrees (one is at '.
                        round((float) $east).
                        ', '.
                        round((float) $north).
                        '). Save the map in longitude and latitude (WGS 84), as GeoJSON has them.',
                );
            }
            $line[] = [(float) $east, (float) $north];
        }

        return $line;
    }

    /**
     * @param  array<mixed>  $feature
     * @return array<string, string>
     */
    private static function properties(array $feature): array
    {
        $kept = [];
        $given = is_array($feature['properties'] ?? null) ? $feature['properties'] : [];
        if (isset($feature['id']) && ! isset($given['id'])) {
            $given['id'] = $feature['id'];
        }
        foreach (array_slice($given, 0, self::MOST_PROPERTIES, true) as $name => $value) {
            if (is_string($value) || is_int($value) || is_float($value)) {
                $kept[(string) $name] = mb_substr(trim((string) $value), 0, self::LONGEST);
            }
        }

        return $kept;
    }

    /** @return list<string> names of properties, in the order in which they come up */
    public function named(): array
    {
        return array_map(strval(...), array_keys(array_merge(...array_map(static fn (Area $a): array => $a->properties, $this->areas))));
    }

    /** The property that tells areas apart as people call them: one called like a name, else the first that is another for each. */
    public function title(): string
    {
        $names = $this->named();
        foreach (['name', 'title', 'label', 'area'] as $usual) {
            foreach ($names as $name) {
                if (mb_strtolower($name) === $usual) {
                    return $name;
                }
            }
        }
        foreach ($names as $name) {
            $values = array_map(static fn (Area $a): string => $a->properties[$name] ?? '', $this->areas);
            if (count(array_unique($values)) === count($values)) {
                return $name;
            }
        }

        return $names[0] ?? '';
    }
}
