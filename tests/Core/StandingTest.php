<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\LoopName;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Showcase;
use MerryOrbit\Core\Tell\Showing;
use MerryOrbit\Core\Tell\Standing;
use PHPUnit\Framework\TestCase;

/** What of a page for readers stays as it is: the map, loops, findings, and how likely values are. */
final class StandingTest extends TestCase
{
    private static function demo(string $name): Model
    {
        return NativeFile::import((string) file_get_contents(__DIR__."/../../demo/$name.json"))->model;
    }

    /** @param  array<string, mixed>  $fields */
    private static function page(array $fields): Showcase
    {
        return Showcase::read(['id' => 'page', 'title' => 'A page', ...$fields]);
    }

    public function test_the_map_is_a_picture_with_every_factor_that_stands_on_it(): void
    {
        $model = self::demo('why-the-harbour-silts-up');
        $page = self::page(['blocks' => [['id' => 'm', 'kind' => 'map'], ['id' => 't', 'kind' => 'text', 'words' => 'x']]]);
        $standing = new Standing(Build::simulator(), $model);
        $told = $standing->of($page->blocks[0]);
        $svg = simplexml_load_string($told['pictures'][0]['svg'] ?? '');
        self::assertNotFalse($svg);
        $words = preg_replace('/\s+/', ' ', strip_tags((string) $svg->asXML()));
        foreach ($model->part('causalLinks') as $link) {
            self::assertInstanceOf(CausalLink::class, $link);
            foreach (explode(' ', (string) $model->nameOf($link->from)) as $word) {
                self::assertStringContainsString($word, (string) $words);
            }
        }
        self::assertNull($standing->of($page->blocks[1]));
        // What is moved changes nothing of it: it is not asked for again.
        self::assertSame(['t'], array_keys((new Showing(Build::simulator(), $model, $page))->of('', [])['blocks']));
    }

    public function test_loops_are_those_that_pass_what_is_asked_for_with_the_names_that_people_gave(): void
    {
        $model = self::demo('why-the-harbour-silts-up');
        $standing = new Standing(Build::simulator(), $model);
        $all = $standing->of(self::page(['blocks' => [['id' => 'l', 'kind' => 'loops']]])->blocks[0])['loops'] ?? [];
        self::assertCount(6, $all);
        $through = (string) $model->idOf('depth at the quay');
        $some = $standing->of(self::page(['blocks' => [['id' => 'l', 'kind' => 'loops', 'of' => [$through]]]])->blocks[0])['loops'] ?? [];
        self::assertNotSame([], $some);
        foreach ($some as $loop) {
            self::assertNotSame([], $loop['sentences']);
        }
        $names = array_map(
            static fn (mixed $n): string => $n instanceof LoopName ? $n->name : '',
            array_values($model->part('loopNames')),
        );
        foreach (array_column($all, 'name') as $name) {
            self::assertTrue($name === '' || in_array($name, $names, true), "$name is no name that somebody gave.");
        }
        self::assertNotSame([], array_filter(array_column($all, 'name')));
    }

    public function test_a_finding_comes_with_its_words_and_its_plot_of_each_run(): void
    {
        $model = EditReader::read([
            'kind' => 'finding',
            'id' => 'f1',
            'title' => 'Two prices',
            'words' => 'A dear crossing keeps the **island** quiet.',
            'view' => [
                'kind' => 'plot',
                'plot' => ['id' => 'p', 'of' => [self::demo('ferry-season')->idOf('visitors')]],
                'courses' => [
                    ['name' => 'as it is', 'ref' => []],
                    [
                        'name' => 'dear',
                        'ref' => ['setting' => ['parameters' => [self::demo('ferry-season')->idOf('ticket price') => 80]]],
                    ],
                ],
            ],
        ])->apply(self::demo('ferry-season'));
        $page = self::page([
            'blocks' => [['id' => 'a', 'kind' => 'finding', 'finding' => 'f1'], ['id' => 'b', 'kind' => 'finding', 'finding' => 'x']],
        ]);
        $standing = new Standing(Build::simulator(), $model);
        $told = $standing->of($page->blocks[0]) ?? [];
        self::assertSame(['Two prices', 'A dear crossing keeps the **island** quiet.'], [$told['title'] ?? '', $told['words'] ?? '']);
        $svg = $told['pictures'][0]['svg'] ?? '';
        self::assertStringContainsString('dear</text>', $svg);
        self::assertSame(2, preg_match_all('/<path d="M[^"]+" fill="none"/', $svg));
        // One that is gone leaves an empty place, and no trouble.
        self::assertSame([], $standing->of($page->blocks[1]));
    }

    public function test_a_finding_is_drawn_under_the_scenario_it_was_made_with_or_not_at_all(): void
    {
        $model = self::demo('ferry-season');
        $scenario = array_key_first($model->scenarios);
        $view = static fn (array $course, array $plot = []): array => [
            'kind' => 'plot',
            'plot' => ['id' => 'p', 'of' => [$model->idOf('visitors')], ...$plot],
            'courses' => [['name' => 'it', 'ref' => $course]],
        ];
        $svg = static function (array $view) use ($model): ?string {
            $with = EditReader::read(['kind' => 'finding', 'id' => 'f', 'title' => 'T', 'words' => 'W', 'view' => $view])->apply($model);
            $page = self::page(['blocks' => [['id' => 'a', 'kind' => 'finding', 'finding' => 'f']]]);

            return (new Standing(Build::simulator(), $with))->of($page->blocks[0])['pictures'][0]['svg'] ?? null;
        };
        $plain = $svg($view([]));
        self::assertNotNull($plain);
        self::assertNotSame($plain, $svg($view(['scenario' => $scenario])));
        // What was kept elsewhere, or measured otherwise, would be drawn as what it is not.
        foreach ([$view(['kept' => 'x']), $view(['scenario' => 'gone']), $view([], ['options' => ['measure' => 'percent']])] as $other) {
            self::assertNull($svg($other));
        }
    }

    public function test_how_likely_a_value_is_is_told_only_where_the_page_says_so(): void
    {
        $model = self::demo('ferry-season');
        $rain = (string) $model->idOf('usual rain');
        $input = ['id' => 'r', 'of' => $rain, 'words' => 'Rain', 'low' => 1, 'high' => 4];
        $standing = new Standing(Build::simulator(), $model);
        self::assertNull($standing->likely(self::page(['inputs' => [$input]])->inputs[0]));
        $likely = $standing->likely(self::page(['inputs' => [[...$input, 'likely' => true]]])->inputs[0]);
        self::assertNotNull($likely);
        // A normal distribution of 2.9 and 0.2: 5 % lie 1.6449 sd below its middle.
        self::assertEqualsWithDelta(2.9, $likely['middle'], 1e-9);
        self::assertEqualsWithDelta(2.9 - 1.6448536 * 0.2, $likely['low'], 1e-6);
        self::assertEqualsWithDelta(2.9 + 1.6448536 * 0.2, $likely['high'], 1e-6);
        $area = 0.0;
        foreach ($likely['density'] as $i => [$x, $d]) {
            $before = $likely['density'][$i - 1] ?? [$x, $d];
            $area += (($d + $before[1]) / 2) * ($x - $before[0]);
        }
        self::assertEqualsWithDelta(0.998, $area, 0.002);
        $other = (string) $model->idOf('ticket price');
        self::assertNull($standing->likely(self::page(['inputs' => [[...$input, 'of' => $other, 'likely' => true]]])->inputs[0]));
    }

    public function test_what_ledgers_make_has_its_unit_on_a_page(): void
    {
        $model = self::demo('harbour-books');
        $page = $model->part('showcases')['books'];
        self::assertInstanceOf(Showcase::class, $page);
        $shown = (new Showing(Build::simulator(), $model, $page))->of('owed', []);
        $lines = $shown['blocks']['owed']['lines'] ?? null;
        self::assertIsArray($lines);
        self::assertSame(['k crown', 'k crown'], array_column($lines, 'unit'));
    }
}
