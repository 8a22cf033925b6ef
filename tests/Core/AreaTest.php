<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Area\Area;
use MerryOrbit\Core\Area\AreaFile;
use MerryOrbit\Core\Area\AreaJoin;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Model\AreaMap;
use MerryOrbit\Core\Model\Dimension;
use MerryOrbit\Core\Model\Dimensions;
use MerryOrbit\Core\Problem\NotUnderstood;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Areas of geographic files, and which element of a dimension each is. */
final class AreaTest extends TestCase
{
    use Commanded;

    private const SQUARE = [[[0, 0], [1, 0], [1, 1], [0, 1], [0, 0]]];

    /**
     * @param  list<array<string, mixed>>  $properties
     * @param  array<mixed>  $rings
     */
    private static function file(array $properties, array $rings = self::SQUARE): string
    {
        return json_encode(
            [
                'type' => 'FeatureCollection',
                'features' => array_map(
                    static fn (array $p): array => [
                        'type' => 'Feature',
                        'properties' => $p,
                        'geometry' => ['type' => 'Polygon', 'coordinates' => $rings],
                    ],
                    $properties,
                ),
            ],
            JSON_THROW_ON_ERROR,
        );
    }

    private static function bays(): Dimensions
    {
        return new Dimensions([new Dimension('bay', 'bay', ['n', 's', 'e'], ['North Bay', 'south bay', 'east bays'])]);
    }

    public function test_areas_find_their_elements_by_the_property_that_matches_most(): void
    {
        $file = AreaFile::read(
            self::file([
                ['code' => 'n', 'called' => 'Gull', 'lies in' => 'bay north'],
                ['code' => 'x', 'called' => 'Seal', 'lies in' => 'South Bay'],
                ['code' => 'y', 'called' => 'Otter', 'lies in' => 'South Bay'],
                ['code' => 'z', 'called' => 'Rock', 'lies in' => 'the sea'],
            ]),
        );
        $join = AreaJoin::of($file, self::bays(), 'bay');
        self::assertSame(
            ['lies in', ['n', 's', 's', null], ['east bays'], ['the sea']],
            [$join->property, $join->elements, $join->missing, $join->strange],
        );
        self::assertSame('code', $file->title(), 'the first that is another for each');
        $byHand = AreaJoin::of($file, self::bays(), 'bay', 'lies in', ['the sea' => 'e', 'bay north' => '']);
        self::assertSame([null, 's', 's', 'e'], $byHand->elements);
        self::assertSame(['North Bay'], $byHand->missing);
        $none = AreaJoin::of(AreaFile::read(self::file([['a' => 'x'], ['a' => 'y']])), self::bays(), 'bay');
        self::assertSame(['', [null, null]], [$none->property, $none->elements]);
    }

    /**
     * What is inside, positive where it runs with the clock.
     *
     * @param  list<array{float, float}>  $ring
     */
    private static function within(array $ring): float
    {
        $sum = 0.0;
        for ($i = 1; $i < count($ring); $i++) {
            $sum += ($ring[$i][0] - $ring[$i - 1][0]) * ($ring[$i][1] + $ring[$i - 1][1]);
        }

        return $sum / 2.0;
    }

    public function test_outlines_run_with_the_clock_and_holes_against_it_whichever_way_they_came(): void
    {
        $hole = [[0.2, 0.2], [0.4, 0.2], [0.4, 0.4], [0.2, 0.4], [0.2, 0.2]];
        foreach ([false, true] as $isTurned) {
            $rings = array_map(static fn (array $r): array => $isTurned ? array_reverse($r) : $r, [self::SQUARE[0], $hole]);
            $geometry = AreaFile::read(self::file([['name' => 'a']], $rings))->areas[0]->geometry();
            self::assertEqualsWithDelta(1.0, self::within($geometry['coordinates'][0][0]), 1e-12);
            self::assertEqualsWithDelta(-0.04, self::within($geometry['coordinates'][0][1]), 1e-12);
        }
    }

    public function test_what_is_no_area_is_left_out_and_said(): void
    {
        $read = json_decode(self::file([['name' => 'a', 'id' => 5, 'deep' => ['x']]]), true, flags: JSON_THROW_ON_ERROR);
        /** @var array{features: list<mixed>} $read */
        $read['features'][] = ['type' => 'Feature', 'properties' => null, 'geometry' => ['type' => 'Point', 'coordinates' => [1, 2]]];
        $read['features'][] = ['type' => 'Feature', 'geometry' => null];
        $file = AreaFile::read(json_encode($read, JSON_THROW_ON_ERROR));
        self::assertSame(['2 features are no areas (points, lines, nothing), and left out.'], $file->remarks);
        self::assertSame([['name' => 'a', 'id' => '5']], array_map(static fn (Area $a): array => $a->properties, $file->areas));
        self::assertSame('name', $file->title());
        self::assertTrue(AreaFile::looksLike("\u{FEFF} {\"name\": \"x\",\n \"type\": \"FeatureCollection\""));
        self::assertFalse(AreaFile::looksLike('[{"year": 2001, "type": "FeatureCollection"}]'));
    }

    /** @return iterable<string, array{string, string}> */
    public static function refused(): iterable
    {
        yield 'no JSON' => ['{"type": "FeatureCollection", "features": [', 'no sound GeoJSON'];
        yield 'rows of a table' => ['[{"year": 2001}]', 'no list `features`'];
        yield 'nothing' => ['{"type": "FeatureCollection", "features": []}', 'holds no areas'];
        yield 'metres' => [
            self::file([['name' => 'a']], [[[451000, 5321000], [1, 0], [1, 1], [451000, 5321000]]]),
            'not in degrees (one is at 451000, 5321000)',
        ];
        yield 'words for numbers' => [self::file([['name' => 'a']], [[['x', 'y'], [1, 0], [1, 1], [0, 0]]]), 'no pair of numbers'];
        yield 'a bottomless one' => [str_repeat('{"features":[', 50), 'no sound GeoJSON'];
        yield 'too many' => [
            '{"type":"FeatureCollection","features":['.implode(',', array_fill(0, 3_001, '{}')).']}',
            'has 3,001 areas',
        ];
    }

    #[DataProvider('refused')]
    public function test_a_file_that_cannot_be_shown_is_refused_with_a_sentence(string $text, string $words): void
    {
        $this->expectException(TableRefused::class);
        $this->expectExceptionMessage($words);
        AreaFile::read($text);
    }

    public function test_an_area_map_of_a_study_is_read_and_written_the_same(): void
    {
        $record = [
            'id' => 'a1',
            'name' => 'coves.geojson',
            'content' => str_repeat('0a', 32),
            'title' => 'name',
            'of' => 'landed',
            'steps' => true,
            'joins' => [['dimension' => 'bay', 'property' => 'lies in', 'pairs' => ['the sea' => '', 'x' => 'n']]],
        ];
        self::assertSame($record, AreaMap::read($record)->toRecord());
        $this->expectException(NotUnderstood::class);
        $this->expectExceptionMessage('SHA-256');
        AreaMap::read(['content' => '../secret'] + $record);
    }

    public function test_the_demo_map_joins_terraces_and_bays(): void
    {
        $file = AreaFile::read((string) file_get_contents(__DIR__.'/../../demo/files/coves.geojson'));
        self::assertCount(9, $file->areas);
        self::assertSame('name', $file->title());
        $bays = new Dimensions([new Dimension('bay', 'bay', ['harbour-bay', 'outer-bay'], ['harbour bay', 'outer bay'])]);
        $join = AreaJoin::of($file, $bays, 'bay');
        self::assertSame(['bay', [], []], [$join->property, $join->missing, $join->strange]);
    }

    public function test_the_command_line_gives_areas_the_values_of_a_variable_at_times(): void
    {
        [$demo, $map] = [__DIR__.'/../../demo/oyster-terraces.json', __DIR__.'/../../demo/files/coves.geojson'];
        [$code, $out, $err] = self::orbit(['areas', $demo, "--map=$map", '--of=landed', '--at=10', '--at=20.025', '--save-every=0.05']);
        self::assertSame([0, ''], [$code, $err]);
        /** @var array{features: list<array{properties: array<string, mixed>, geometry: array{coordinates: list<list<list<array{float, float}>>>}}>} $read */
        $read = self::json($out);
        [, $csv] = self::orbit(['run', $demo, '--only=landed', '--save-every=0.05', '--format=csv']);
        $rows = array_map(str_getcsv(...), explode("\n", trim($csv)));
        $heads = array_map(strval(...), $rows[0]);
        /** @return array<string, string|null> */
        $at = static function (string $time) use ($rows, $heads): array {
            foreach ($rows as $row) {
                if ($row[0] === $time) {
                    return array_combine($heads, $row);
                }
            }

            self::fail("There is no row of $time.");
        };
        $by = array_column(array_column($read['features'], 'properties'), null, 'name');
        self::assertEqualsWithDelta((float) $at('10')['landed[harbour bay]'], $by['Mill Cove']['landed@10'], 1e-9);
        $between = ((float) $at('20')['landed[outer bay]'] + (float) $at('20.05')['landed[outer bay]']) / 2;
        self::assertEqualsWithDelta($between, $by['Gull Cove']['landed@20.025'], 1e-6);
        self::assertArrayNotHasKey('landed@10', $by['Quillhaven']);
        self::assertLessThan(0.0, self::within($read['features'][1]['geometry']['coordinates'][0][0]), 'outlines run against the clock');
        // Along other dimensions it is the sum.
        $sum = self::json(self::orbit(['areas', $demo, "--map=$map", '--of=oysters'])[1]);
        self::assertStringContainsString('oysters@30', (string) json_encode($sum));
        foreach (
            [
                [['--of=landed'], 'Say which areas'],
                [["--map=$map"], 'Say what they are coloured by'],
                [["--map=$map", '--of=surplus'], 'No area is called like an element'],
                [["--map=$map", '--of=land'], 'did you mean'],
                [["--map=$map", '--of=landed', '--at=noon'], '--at takes a number'],
            ] as [$words, $said]
        ) {
            [$code, , $err] = self::orbit(['areas', $demo, ...$words]);
            self::assertSame(2, $code);
            self::assertStringContainsStringIgnoringCase($said, $err);
        }
    }
}
