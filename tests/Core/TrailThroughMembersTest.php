<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Experiment\Instant;
use MerryOrbit\Core\Experiment\ThroughMembers;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;

/** What moves a value, followed through members that come and go: to all of them together, and to each. */
final class TrailThroughMembersTest extends RosterCase
{
    private const ELEMENTS = [
        ['name' => 'length', 'kind' => 'parameter', 'formula' => '8', 'dimensions' => ['boat']],
        ['name' => 'sound', 'kind' => 'stock', 'formula' => '1', 'dimensions' => ['boat']],
        ['name' => 'wear', 'kind' => 'flow', 'formula' => '0.1 * sound * hard use', 'from' => 'sound', 'dimensions' => ['boat']],
        ['name' => 'catch', 'formula' => 'sound * length * (1 + 0.1 * gaussian(0, 1))', 'dimensions' => ['boat']],
        ['name' => 'usual', 'formula' => 'smooth(catch, 2)', 'dimensions' => ['boat']],
        ['name' => 'all', 'formula' => 'sum(catch, boat)'],
        ['name' => 'price', 'formula' => '100 / (10 + smooth(all, 3))'],
        ['name' => 'hard use', 'formula' => '0.5 + price / 10'],
        ['name' => 'number', 'formula' => 'count(boat)'],
        ['name' => 'risk', 'formula' => '0', 'dimensions' => ['boat']],
        ['name' => 'bought', 'formula' => '0'],
    ];

    /**
     * @param  array<string, string>  $formulas
     * @param  array<string, mixed>  $roster
     */
    private static function fleet(array $formulas = [], array $roster = ['entries' => true], string $method = 'rk4'): Model
    {
        $rules = [
            'entries' => [['id' => 'new', 'words' => 'bought', 'of' => 'bought']],
            'exits' => [['id' => 'x', 'words' => 'sunk', 'kind' => 'chance', 'of' => 'risk']],
        ];

        return self::model(
            ['tern', 'kelpie', 'ivy'],
            array_values(
                array_map(static fn (array $e): array => [...$e, 'formula' => $formulas[$e['name']] ?? $e['formula']], self::ELEMENTS),
            ),
            $roster === [] ? [] : $rules,
            ['method' => $method],
            ['tables' => [['id' => 't', 'of' => 'length', 'values' => [[['tern'], 7], [['kelpie'], 9]]]]],
        );
    }

    /** Where nobody happens to come or go, it is what it is of a dimension as any other. */
    public function test_it_is_what_it_is_of_any_dimension_where_nobody_comes_or_goes(): void
    {
        $simulator = Build::simulator();
        foreach (['euler', 'rk4'] as $method) {
            $open = Trial::of(self::fleet(method: $method));
            self::assertTrue($open->analysis->shaped?->extents->rosters->isAny());
            $closed = Trial::of(self::fleet(roster: [], method: $method));
            [$one, $other] = [Instant::of($simulator, $open, 4.0), Instant::of($simulator, $closed, 4.0)];
            self::assertNotNull($one);
            self::assertNotNull($other);
            foreach (['all', 'price', 'hard-use', 'sound[kelpie]', 'usual[ivy]', 'catch[tern]'] as $id) {
                self::assertEqualsWithDelta($other->value($id), $one->value($id), 1e-9, $id);
                self::assertEqualsWithDelta($other->rate($id), $one->rate($id), 1e-6, $id);
                $causes = static fn (Instant $i): array => array_column($i->causes($id)['causes'], 'change', 'cause');
                self::assertEqualsWithDelta($causes($other), $causes($one), 1e-6, $id);
            }
        }
    }

    /** At a moment all stands as in the run, whoever is there; and what all have together is one cause. */
    public function test_it_leads_to_all_together_and_from_there_to_each(): void
    {
        $trial = Trial::of(
            self::fleet(['risk' => '0.15', 'bought' => '2']),
            Setting::read(['seed' => 3, 'parameters' => ['length[ivy]' => 12]]),
        );
        $simulator = Build::simulator();
        $run = $trial->run($simulator);
        $crew = $run->crews['boat'];
        $instant = Instant::of($simulator, $trial, 6.1);
        self::assertNotNull($instant);
        self::assertSame(6.0, $instant->time());
        $moment = (int) array_search(6.0, $run->times(), true);
        foreach (['all', 'price', 'hard-use', 'number', 'bought'] as $id) {
            self::assertEqualsWithDelta($run->value($id, $moment) ?? 2.0, $instant->value($id), 1e-9, $id);
        }
        $ids = array_column($crew->members, 'id');
        self::assertNotSame($crew->present[$moment], [0, 1, 2]);
        foreach (['sound', 'catch', 'usual', 'wear', 'length'] as $key) {
            foreach ($crew->at($key, $moment) as $number => $value) {
                self::assertEqualsWithDelta($value, $instant->value("{$key}[{$ids[$number]}]"), 1e-9, "$key of {$ids[$number]}");
            }
        }

        $through = ThroughMembers::of($trial, $instant);
        $causes = $through->causes('all');
        self::assertSame('catch', $causes['causes'][0]['cause']);
        self::assertEqualsWithDelta($instant->rate('all'), array_sum(array_column($causes['causes'], 'change')) + $causes['rest'], 1e-9);
        self::assertEqualsWithDelta(array_sum($crew->at('catch', $moment)), $through->value('catch'), 1e-9);
        self::assertEqualsWithDelta($through->rate('catch'), $instant->rate('all'), 1e-5);
        $each = $through->causes('catch');
        self::assertCount(count($crew->present[$moment]), $each['causes']);
        self::assertEqualsWithDelta($through->rate('catch'), array_sum(array_column($each['causes'], 'change')), 1e-9);
        // One of them: by its own flow.
        $member = $each['causes'][0]['cause'];
        self::assertMatchesRegularExpression('/^catch\[.+\]$/', $member);
        $own = substr($member, strlen('catch'));
        self::assertSame("wear$own", $through->causes("sound$own")['causes'][0]['cause']);
        self::assertStringContainsString('Members of `boat` come and go', $through->remarks('all')[0]['sentence']);
        self::assertSame([], $through->remarks('price'));
        self::assertSame([], $through->remarks("sound$own"));
        // What follows from the price: the hard use, and by that the wear of all.
        self::assertSame(['hard-use'], array_column($through->effects('price'), 'effect'));
        self::assertSame(['wear'], array_column($through->effects('hard-use'), 'effect'));
    }

    /** Of very many the strongest are told one by one, and the others are told as such, not as rounding. */
    public function test_of_very_many_the_others_are_one_cause(): void
    {
        $trial = Trial::of(self::fleet(['bought' => '20']));
        $instant = Instant::of(Build::simulator(), $trial, 8.0);
        self::assertNotNull($instant);
        $through = ThroughMembers::of($trial, $instant);
        ['causes' => $causes, 'rest' => $rest] = $through->causes('catch');
        self::assertCount(61, $causes);
        self::assertSame([ThroughMembers::OTHERS, 0.0], [$causes[60]['cause'], $rest]);
        self::assertEqualsWithDelta($through->rate('catch'), array_sum(array_column($causes, 'change')), 1e-9);
    }

    public function test_what_cannot_be_followed_is_said(): void
    {
        $this->expectException(NotUnderstood::class);
        $this->expectExceptionMessage('`price` remembers what has been, by `latch`');
        Instant::of(Build::simulator(), Trial::of(self::fleet(['price' => 'latch(all < 1, all > 2)', 'bought' => '1'])), 4.0);
    }

    public function test_the_demo_stands_at_any_moment_as_in_its_run(): void
    {
        $model = NativeFile::import((string) file_get_contents(__DIR__.'/../../demo/new-boats-for-old.json'))->model;
        $trial = Trial::of($model);
        $simulator = Build::simulator();
        $run = $trial->run($simulator);
        foreach ([2000.0, 2013.0, 2040.0] as $time) {
            $instant = Instant::of($simulator, $trial, $time);
            self::assertNotNull($instant);
            $moment = (int) array_search($instant->time(), $run->times(), true);
            foreach (['boats', 'price', 'all-catch'] as $id) {
                self::assertEqualsWithDelta(
                    $run->value($id, $moment),
                    $instant->value($id),
                    1e-9 * abs((float) $run->value($id, $moment)),
                    $id,
                );
            }
        }
    }
}
