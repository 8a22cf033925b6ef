<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Exchange\LogLine;
use MerryOrbit\Core\Exchange\ModelFile;
use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Model\Appearance;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\Finding;
use MerryOrbit\Core\Model\Group;
use MerryOrbit\Core\Model\Mapping;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\Plot;
use MerryOrbit\Core\Model\Point;
use MerryOrbit\Core\Model\Roster;
use MerryOrbit\Core\Model\Scenario;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What the standard has no place for is said, and nothing else is. */
final class XmileLossesTest extends TestCase
{
    private static function model(): Model
    {
        return Build::model(['lifespan' => '70'], ['islanders' => '4200'], ['deaths' => ['islanders / lifespan', 'from' => 'islanders']]);
    }

    /** @return list<string> */
    private static function told(Model $model): array
    {
        return array_map(static fn (LogLine $line): string => "$line->where: $line->sentence", ModelFile::export($model, 'xmile')[1]);
    }

    public function test_nothing_is_told_of_a_model_that_is_carried_over_whole(): void
    {
        self::assertSame([], self::told(self::model()));
    }

    /** @param  \Closure(Model): Model  $more */
    #[DataProvider('losses')]
    public function test_each_loss_is_told_once(\Closure $more, string $sentence): void
    {
        self::assertSame([$sentence], self::told($more(self::model())));
    }

    /** @return iterable<string, array{\Closure(Model): Model, string}> */
    public static function losses(): iterable
    {
        $with = static fn (string $part, mixed $value): \Closure => static fn (Model $m): Model => $m->with([$part => $value]);
        yield 'a scenario' => [
            $with('scenarios', ['s' => new Scenario('s', 'Old age')]),
            'scenarios: The scenarios are not carried over.',
        ];
        yield 'a roster' => [
            $with('rosters', [
                'r' => new Roster('r', 'boat', exits: [['id' => 'x', 'words' => 'gone', 'kind' => 'when', 'of' => 'deaths']]),
            ]),
            'rosters: Members that come and go have no place in the standard: '.
            'those of the list are written as the elements of a dimension, and all of them stay.'.
            ' Taken together, in classes or as one aggregate, they can be written.',
        ];
        yield 'a finding' => [
            $with('findings', ['f' => new Finding('f', 'Fewer', '', ['kind' => 'sheet', 'sheet' => 'one'])]),
            'findings: The findings are not carried over.',
        ];
        yield 'a plot' => [$with('plots', ['p' => new Plot('p', ['islanders'])]), 'plots: The saved plots are not carried over.'];
        yield 'a group' => [
            $with('groups', [new Group('people', 'moss', ['islanders'])]),
            'groups: The groups and their colours are not carried over.',
        ];
        yield 'what people say' => [
            $with('causalLinks', ['c' => new CausalLink('c', 'lifespan', 'deaths', '-')]),
            'causalLinks: Causal links and what people say of them are not carried over.',
        ];
        yield 'a track' => [
            $with('tracks', [new Plot('t', ['islanders'])]),
            'tracks: Which variables are plotted at the foot is not carried over.',
        ];
        yield 'the end' => [
            $with('endWhen', new FormulaText(['islanders < 1'])),
            'time: The condition that ends a run early has no place in the standard.',
        ];
    }

    /** A new part of studies asks whoever adds it whether the standard has a place for it. */
    public function test_of_each_part_it_is_known_whether_it_is_written(): void
    {
        $written = ['placements', 'links', 'sheets', 'sameUnits', 'dimensions', 'shapes', 'tables', 'courses', 'claims', 'transactions'];
        $told = [
            'scenarios',
            'plots',
            'findings',
            'mappings',
            'causalLinks',
            'groups',
            'echoes',
            'bends',
            'tracks',
            'wordings',
            'mapSpots',
            'questions',
            'boundary',
            'modes',
            'pairs',
            'parked',
            'actions',
            'loopNames',
            'sources',
            'evidence',
            'rosters',
            'areas',
            'uncertain',
            'rankPairs',
            'outcomes',
            'muted',
            'expectations',
            'candidates',
            'calibrations',
            'policies',
            'showcases',
            'reports',
            'parties',
        ];
        $parts = array_keys(Parts::all());
        self::assertSame([], array_diff($parts, $written, $told));
        $lines = self::told(
            self::model()->with([
                'echoes' => ['e' => new Appearance('islanders', new Point(1, 2))],
                'bends' => ['lifespan>deaths' => new Point(3, 4)],
                'mappings' => ['m' => new Mapping('m', 'to bays', 'a', 'b', [])],
            ]),
        );
        self::assertSame(['echoes', 'bends', 'mappings'], array_map(static fn (string $line): string => strtok($line, ':') ?: '', $lines));
    }
}
