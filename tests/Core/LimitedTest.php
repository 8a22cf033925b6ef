<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Scenario;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Simulate\RunRefused;
use PHPUnit\Framework\TestCase;

/** Dimensions that are limited to some of their elements, for a while or in a scenario. */
final class LimitedTest extends TestCase
{
    use ShapedModels;

    private const SEVEN = ['a', 'b', 'c', 'd', 'e', 'f', 'g'];

    /**
     * @param  list<string>  $elements
     * @param  array<string, mixed>  $more  of the dimension
     */
    private static function terraces(array $elements, array $more = [], string $pick = 'levels[terrace: previous; else 1]'): Model
    {
        $values = [];
        foreach (array_intersect(self::SEVEN, $elements) as $i => $e) {
            $values[] = [[$e], $i + 1];
        }
        $lives = [];
        foreach (array_intersect(self::SEVEN, $elements) as $e) {
            $lives[] = [$e, in_array($e, ['a', 'b', 'f'], true) ? 'east' : 'west'];
        }

        return self::model(
            [
                ['name' => 'terrace', 'elements' => $elements, ...$more],
                ['name' => 'other terrace', 'sameAs' => 'terrace'],
                ['name' => 'outer', 'partOf' => 'terrace', 'elements' => array_values(array_intersect(['b', 'e', 'g'], $elements))],
                ['name' => 'bay', 'elements' => ['east', 'west']],
            ],
            [
                self::line('parameter', 'seed', '5', 'terrace'),
                self::line('stock', 'levels', 'seed', 'terrace'),
                ['kind' => 'flow', 'name' => 'growth', 'formula' => "seed + smooth($pick, 1) * count(terrace)", 'to' => 'levels'],
                self::line('auxiliary', 'outside', 'seed[outer: first] + sum(seed, outer)'),
                self::line('auxiliary', 'shares', 'share(seed, terrace) + position(terrace)'),
                self::line('auxiliary', 'by bay', 'sum(levels, lies in)'),
                self::line('auxiliary', 'pairs', 'seed[terrace: other terrace] - seed'),
                [...self::line('auxiliary', 'odd', 'seed'), 'exceptions' => [['for' => ['terrace' => 'last'], 'formula' => '100']]],
                self::line('auxiliary', 'weather', 'random(0, seed)'),
            ],
            [
                'tables' => [['id' => 't', 'of' => 'seed', 'values' => $values]],
                'mappings' => [['id' => 'm', 'name' => 'lies in', 'from' => 'terrace', 'to' => 'bay', 'pairs' => $lives]],
            ],
        );
    }

    public function test_every_number_is_as_if_there_were_no_others_to_the_bit(): void
    {
        foreach ([['b', 'e'], ['c', 'b', 'g'], ['g', 'e', 'b', 'a']] as $left) {
            $order = array_values(array_intersect(self::SEVEN, $left));
            $alone = self::columns(self::terraces($order));
            $limited = self::columns(self::terraces(self::SEVEN, ['limitedTo' => $left]));
            self::assertSame($alone, $limited);
            self::assertArrayHasKey("pairs[$order[0], $order[1]]", $limited);
        }
    }

    public function test_what_is_entered_for_the_others_is_still_there_afterwards(): void
    {
        $model = self::terraces(self::SEVEN);
        $records = static fn (Model $m): array => array_map(static fn ($d): array => $d->toRecord(), $m->dimensions);
        $limit = $records($model);
        $limit[0]['limitedTo'] = ['b', 'e'];
        $limited = self::after($model, ['kind' => 'dimensions', 'dimensions' => $limit]);
        self::assertSame(2.0, self::start($limited)['seed[b]']);
        self::assertArrayNotHasKey('seed[a]', self::start($limited));
        // Also a dimension that comes and goes while it is limited, and an edit of the table.
        $id = (string) $model->idOf('seed');
        $widened = self::after(
            $limited,
            ['kind' => 'extent', 'id' => $id, 'dimensions' => ['terrace', 'bay']],
            ['kind' => 'extent', 'id' => $id, 'dimensions' => ['terrace']],
        );
        $file = NativeFile::import(NativeFile::export($widened))->model;
        $back = self::after($file, ['kind' => 'dimensions', 'dimensions' => $records($model)]);
        self::assertSame(NativeFile::export($model), NativeFile::export($back));
    }

    public function test_a_scenario_limits_them_too(): void
    {
        $model = self::after(self::terraces(self::SEVEN), [
            'kind' => 'scenario', 'id' => 's1', 'name' => 'Two terraces', 'setting' => ['limits' => ['terrace' => ['e', 'b']]],
        ]);
        $model = NativeFile::import(NativeFile::export($model))->model;
        $trial = Trial::of($model, Scenario::settingOf($model->scenarios, 's1'));
        $alone = Analyser::analyse(self::terraces(['b', 'e']));
        $run = $trial->run(Build::simulator());
        foreach (['seed[b]' => 2.0, 'seed[e]' => 5.0] as $name => $value) {
            self::assertSame($value, $run->column($this->key($trial->analysis, $name))[0]);
        }
        $there = Build::simulator()->run($alone, new \MerryOrbit\Core\Simulate\RunOptions());
        foreach (['by bay[east]', 'by bay[west]', 'odd[e]', 'growth[e]'] as $name) {
            self::assertSame($there->column($this->key($alone, $name)), $run->column($this->key($trial->analysis, $name)));
        }
        $this->expectException(RunRefused::class);
        $this->expectExceptionMessage('elements that are all gone');
        Trial::of($model, Setting::read(['limits' => ['terrace' => ['z']]]));
    }

    private function key(\MerryOrbit\Core\Analysis\Analysis $analysis, string $name): string
    {
        return (string) array_search($name, $analysis->columns(), true);
    }

    /** A scenario gives one element a value of its own, in files by name. */
    public function test_a_scenario_sets_one_element_of_a_parameter(): void
    {
        $model = self::terraces(self::SEVEN);
        $id = (string) $model->idOf('seed');
        $setting = ['parameters' => ["{$id}[c]" => 30]];
        $model = self::after($model, ['kind' => 'scenario', 'id' => 's1', 'name' => 'More', 'setting' => $setting]);
        $file = NativeFile::export($model);
        self::assertStringContainsString('"seed[c]":30', $file);
        $model = NativeFile::import($file)->model;
        $trial = Trial::of($model, Scenario::settingOf($model->scenarios, 's1'));
        $run = $trial->run(Build::simulator());
        self::assertSame([30.0], array_unique($run->column($this->key($trial->analysis, 'seed[c]'))));
        self::assertSame([4.0], array_unique($run->column($this->key($trial->analysis, 'seed[d]'))));
    }

    public function test_a_pick_of_what_is_limited_away_takes_its_else_or_waits_and_says_so(): void
    {
        $with = self::terraces(self::SEVEN, ['limitedTo' => ['b', 'e']], 'levels[a; else 3]');
        $alone = self::terraces(['b', 'e'], [], '3');
        self::assertSame(self::columns($alone), self::columns($with));
        $problems = Analyser::analyse(self::terraces(self::SEVEN, ['limitedTo' => ['b', 'e']], 'levels[a]'))->blockers();
        self::assertSame('pick.limited', $problems[0]->code);
        self::assertStringContainsString('`a`', $problems[0]->sentence);
    }

    public function test_what_makes_no_sense_is_refused_in_words(): void
    {
        $model = self::terraces(self::SEVEN);
        foreach ([
            [['name' => 'terrace', 'elements' => self::SEVEN, 'limitedTo' => []], 'none of its elements'],
            [['name' => 'terrace', 'elements' => self::SEVEN, 'limitedTo' => ['x']], 'no element of it'],
            [['name' => 'cove', 'sameAs' => 'terrace', 'limitedTo' => ['a']], 'Limit that one'],
        ] as [$dimension, $words]) {
            try {
                EditReader::read(['kind' => 'dimensions', 'dimensions' => [$dimension]])->apply($model);
                self::fail('refused');
            } catch (EditRefused $e) {
                self::assertStringContainsString($words, $e->getMessage());
            }
        }
    }
}
