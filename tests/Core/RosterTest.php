<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Roster\Crew;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Trajectory;

/** Members come and go as the rules say; what they bring and take is booked; nobody's luck depends on others. */
final class RosterTest extends RosterCase
{
    private const SOUND = ['name' => 'soundness', 'kind' => 'stock', 'dimensions' => ['boat'], 'formula' => '1'];

    private const WEAR = ['name' => 'wear', 'kind' => 'flow', 'from' => 'soundness', 'formula' => 'soundness * 0.1'];

    private const NUMBER = ['name' => 'boats', 'formula' => 'count(boat)'];

    public function test_a_dimension_without_entries_and_exits_is_one_as_any_other(): void
    {
        $closed = self::model(['a', 'b'], [self::SOUND, self::WEAR, self::NUMBER], []);
        $roster = self::model(['a', 'b'], [self::SOUND, self::WEAR, self::NUMBER], ['note' => 'All stay.']);

        self::assertEquals(self::ran($closed)->column('soundness[a]'), self::ran($roster)->column('soundness[a]'));
        self::assertSame([], self::ran($roster)->crews);
    }

    public function test_who_meets_the_condition_leaves_at_the_end_of_the_step_and_takes_what_is_left(): void
    {
        $run = self::ran(
            self::model(
                ['old', 'new'],
                [
                    ['name' => 'first', 'kind' => 'parameter', 'dimensions' => ['boat'], 'formula' => '1'],
                    ['dimensions' => ['boat'], 'formula' => 'first'] + self::SOUND,
                    ['name' => 'wear', 'kind' => 'flow', 'from' => 'soundness', 'formula' => '0.1 + 0 * soundness'],
                    ['name' => 'too weak', 'formula' => 'soundness < 0.45'],
                    self::NUMBER,
                ],
                ['exits' => [['id' => 'sold', 'words' => 'sold', 'kind' => 'when', 'of' => 'too weak']]],
                ['step' => 1, 'end' => 8],
                ['tables' => [['id' => 't', 'of' => 'first', 'values' => [[['old'], 0.6]]]]],
            ),
        );
        // 0.6, 0.5, 0.4: at time 2 it is found too weak, at time 3 it is gone, with 0.3 on board.
        self::assertSame([2.0, 2.0, 2.0, 1.0, 1.0, 1.0, 1.0, 0.0, 0.0], $run->column('boats'));
        $crew = self::crew($run);
        self::assertSame(['to' => 3.0, 'why' => 'sold'], array_intersect_key($crew->members[0], ['to' => 1, 'why' => 1]));
        self::assertEqualsWithDelta([0.0, 0.3 + 0.3], $crew->sums['soundness'], 1e-12);
        self::assertEqualsWithDelta([0 => 0.6, 1 => 0.5, 2 => 0.4], $crew->lifeOf(0, 'soundness'), 1e-12);
        self::assertSame([[0, 1], [1], []], [$crew->present[2], $crew->present[3], $crew->present[8]]);
        self::assertNan($run->column('soundness')[8]);
    }

    public function test_fractions_of_an_entry_are_carried_over(): void
    {
        $run = self::ran(
            self::model(
                [],
                [self::SOUND, self::NUMBER, ['name' => 'bought', 'formula' => '0.7']],
                ['entries' => [['id' => 'new', 'words' => 'bought', 'of' => 'bought']]],
                ['step' => 0.25, 'end' => 10],
            ),
        );
        foreach ($run->times() as $k => $time) {
            self::assertSame(floor(0.7 * $time + 1e-9), $run->column('boats')[$k], "at $time");
        }
        // The second comes when 2 / 0.7 years are over: in the step that ends at 3.
        self::assertSame(
            ['new.12.0', 'boat 2', 3.0, 'bought'],
            array_values(array_intersect_key(self::crew($run)->members[1], ['id' => 1, 'name' => 1, 'from' => 1, 'how' => 1])),
        );
    }

    public function test_a_pulse_lets_so_many_enter_and_a_list_those_whose_time_has_come(): void
    {
        $run = self::ran(
            self::model(
                ['here', 'later', 'soon'],
                [
                    ['name' => 'since', 'kind' => 'parameter', 'dimensions' => ['boat'], 'formula' => '0'],
                    ['name' => 'length', 'kind' => 'parameter', 'dimensions' => ['boat'], 'formula' => '7'],
                    self::SOUND,
                    self::NUMBER,
                    ['name' => 'fleet', 'formula' => 'pulse(3, 6)'],
                    ['name' => 'all length', 'formula' => 'sum(length, boat)'],
                ],
                ['since' => 'since', 'entries' => [['id' => 'fleet', 'words' => 'in one go', 'of' => 'fleet']]],
                ['step' => 0.5],
                [
                    'tables' => [
                        ['id' => 't', 'of' => 'since', 'values' => [[['later'], 4.2], [['soon'], 1]]],
                        ['id' => 'l', 'of' => 'length', 'values' => [[['later'], 9], [['soon'], 8]]],
                    ],
                ],
            ),
        );
        $at = static fn (float $time, string $key): float => $run->column($key)[(int) ($time * 2)];
        self::assertSame(
            [1.0, 2.0, 2.0, 3.0, 3.0, 6.0],
            [$at(0.5, 'boats'), $at(1, 'boats'), $at(4, 'boats'), $at(4.5, 'boats'), $at(6, 'boats'), $at(6.5, 'boats')],
        );
        self::assertSame(
            [7.0, 15.0, 24.0, 45.0],
            [$at(0, 'all-length'), $at(1, 'all-length'), $at(4.5, 'all-length'), $at(7, 'all-length')],
        );
        self::assertSame('later', self::crew($run)->members[1]['name']);
        self::assertSame(4.5, self::crew($run)->members[1]['from']);
    }

    public function test_one_who_enters_starts_with_what_holds_then(): void
    {
        $run = self::ran(
            self::model(
                [],
                [
                    ['name' => 'price', 'kind' => 'stock', 'formula' => '100'],
                    ['name' => 'rise', 'kind' => 'flow', 'to' => 'price', 'formula' => '10'],
                    ['name' => 'paid', 'kind' => 'parameter', 'dimensions' => ['boat'], 'formula' => '0'],
                    ['name' => 'value', 'kind' => 'stock', 'dimensions' => ['boat'], 'formula' => 'paid / 2 + time'],
                    ['name' => 'bought', 'formula' => '1'],
                    ['name' => 'all', 'formula' => 'sum(value, boat)'],
                ],
                [
                    'entries' => [
                        ['id' => 'new', 'words' => 'bought', 'of' => 'bought', 'starts' => [['of' => 'paid', 'from' => 'price']]],
                    ],
                ],
                ['step' => 1, 'end' => 3],
            ),
        );
        self::assertSame([0.0, 56.0, 56.0 + 62.0, 56.0 + 62.0 + 68.0], $run->column('all'));
        self::assertSame([110.0, 120.0, 130.0], array_values(self::crew($run)->attributes['paid']));
        self::assertSame([186.0, 0.0], self::crew($run)->sums['value']);
    }

    public function test_members_belong_somewhere_and_enter_there(): void
    {
        $file = [
            'dimensions' => [['id' => 'harbour', 'name' => 'harbour', 'elements' => ['north', 'lee']]],
            'mappings' => [
                [
                    'id' => 'home',
                    'name' => 'home',
                    'from' => 'boat',
                    'to' => 'harbour',
                    'pairs' => [['a', 'north'], ['b', 'north'], ['c', 'lee']],
                ],
            ],
            'tables' => [
                ['id' => 'p', 'of' => 'price', 'values' => [[['north'], 5], [['lee'], 3]]],
                ['id' => 'w', 'of' => 'wanted', 'values' => [[['lee'], 1]]],
            ],
        ];
        $run = self::ran(
            self::model(
                ['a', 'b', 'c'],
                [
                    ['name' => 'price', 'kind' => 'parameter', 'dimensions' => ['harbour'], 'formula' => '0'],
                    ['name' => 'wanted', 'kind' => 'parameter', 'dimensions' => ['harbour'], 'formula' => '0'],
                    ['name' => 'bought', 'formula' => 'wanted'],
                    ['name' => 'catch', 'dimensions' => ['boat'], 'formula' => 'price[home]'],
                    ['name' => 'landed', 'formula' => 'sum(catch, home)'],
                    ['name' => 'at home', 'formula' => 'count(home)'],
                    ['name' => 'good', 'formula' => 'count(boat, catch > 4)'],
                ],
                ['entries' => [['id' => 'new', 'words' => 'bought', 'of' => 'bought']]],
                ['step' => 1, 'end' => 2],
                $file,
            ),
        );
        self::assertSame([10.0, 10.0, 10.0], $run->column('landed[north]'));
        self::assertSame([3.0, 6.0, 9.0], $run->column('landed[lee]'));
        self::assertSame([1.0, 2.0, 3.0], $run->column('at-home[lee]'));
        self::assertSame([2.0, 2.0, 2.0], $run->column('good'));
        self::assertSame(['north', 'north', 'lee', 'lee', 'lee'], array_values(self::crew($run)->belongs['home']));
    }

    public function test_what_is_left_is_handed_on_and_nothing_is_lost(): void
    {
        foreach (['euler', 'heun', 'rk4'] as $method) {
            $model = self::model(
                ['a', 'b', 'c', 'd', 'e'],
                [
                    ['name' => 'load', 'kind' => 'stock', 'dimensions' => ['boat'], 'formula' => '2'],
                    ['name' => 'catch', 'kind' => 'flow', 'to' => 'load', 'formula' => 'random(0, 1) + 0 * load'],
                    ['name' => 'landing', 'kind' => 'flow', 'from' => 'load', 'to' => 'quay', 'formula' => 'load * 0.2'],
                    ['name' => 'quay', 'kind' => 'stock', 'formula' => '0'],
                    ['name' => 'handed on', 'kind' => 'stock', 'formula' => '0'],
                    ['name' => 'chance to sink', 'formula' => '0.2 + 0 * load'],
                    ['name' => 'bought', 'formula' => '2'],
                    ['name' => 'caught', 'kind' => 'stock', 'formula' => '0'],
                    ['name' => 'counting', 'kind' => 'flow', 'to' => 'caught', 'formula' => 'sum(catch, boat)'],
                    ['name' => 'on board', 'formula' => 'sum(load, boat)'],
                ],
                [
                    'entries' => [['id' => 'new', 'words' => 'bought', 'of' => 'bought']],
                    'exits' => [self::sinks()],
                    'hands' => [['of' => 'load', 'to' => 'handed on']],
                ],
                ['end' => 40, 'method' => $method],
            );
            $run = self::ran($model);
            $last = $run->length() - 1;
            $value = static fn (string $key): float => $run->column($key)[$last];
            [$brought, $took] = self::crew($run)->sums['load'];
            self::assertGreaterThan(100.0, $took, $method);
            self::assertEqualsWithDelta($took, $value('handed-on'), 1e-9, $method);
            self::assertEqualsWithDelta(
                10.0 + $brought + $value('caught'),
                $value('on-board') + $value('quay') + $value('handed-on'),
                1e-9 * $value('caught'),
                $method,
            );
        }
    }

    public function test_another_member_more_changes_nobodys_luck(): void
    {
        $of = static fn (string ...$names): Model => self::model(
            array_values($names),
            [
                self::SOUND,
                ['name' => 'luck', 'formula' => 'random(0, 1) + 0 * soundness'],
                ['name' => 'wear', 'kind' => 'flow', 'from' => 'soundness', 'formula' => 'luck * soundness'],
                ['name' => 'chance to sink', 'formula' => '0.1 + 0 * soundness'],
                ['name' => 'bought', 'formula' => '1.3'],
            ],
            ['entries' => [['id' => 'new', 'words' => 'bought', 'of' => 'bought']], 'exits' => [self::sinks()]],
            ['end' => 20],
        );
        $few = self::crew(self::ran($of('a', 'b', 'c'), 7));
        $more = self::crew(self::ran($of('x', 'a', 'b', 'c'), 7));
        $same = self::crew(self::ran($of('a', 'b', 'c'), 7));
        self::assertEquals($few, $same);
        $ids = static fn (Crew $crew): array => array_flip(array_map(static fn (array $m): string => $m['id'], $crew->members));
        $moreIds = $ids($more);
        self::assertGreaterThan(20, count($few->members));
        foreach ($few->members as $number => $member) {
            $other = $moreIds[$member['id']];
            self::assertSame($member['to'], $more->members[$other]['to']);
            self::assertSame($few->lifeOf($number, 'luck'), $more->lifeOf($other, 'luck'));
            self::assertSame($few->lifeOf($number, 'soundness'), $more->lifeOf($other, 'soundness'));
        }
    }

    public function test_relations_end_with_their_members(): void
    {
        $run = self::ran(
            self::model(
                ['a', 'b', 'c'],
                [
                    ['name' => 'age', 'kind' => 'stock', 'dimensions' => ['boat'], 'formula' => 'first'],
                    ['name' => 'first', 'kind' => 'parameter', 'dimensions' => ['boat'], 'formula' => '0'],
                    ['name' => 'growing', 'kind' => 'flow', 'to' => 'age', 'formula' => '1 + 0 * age'],
                    ['name' => 'old', 'formula' => 'age >= 12'],
                    ['name' => 'near age', 'formula' => 'sum(age, near)'],
                    ['name' => 'friends', 'dimensions' => ['boat'], 'formula' => 'count(near)'],
                    ['name' => 'of all', 'formula' => 'sum(near age, boat)'],
                    ['name' => 'all friends', 'formula' => 'sum(friends, boat)'],
                ],
                ['exits' => [['id' => 'old', 'words' => 'scrapped', 'kind' => 'when', 'of' => 'old']]],
                ['step' => 1, 'end' => 4],
                [
                    'tables' => [['id' => 't', 'of' => 'first', 'values' => [[['b'], 10]]]],
                    'mappings' => [
                        [
                            'id' => 'near',
                            'name' => 'near',
                            'from' => 'boat',
                            'to' => 'boat',
                            'pairs' => [['a', 'b'], ['b', 'a'], ['c', 'a', 0.5]],
                        ],
                    ],
                ],
            ),
        );
        // a hears of b and half of c, b of a; b is scrapped when it was 12 at the start of a step.
        self::assertSame([3.0, 3.0, 3.0, 1.0, 1.0], $run->column('all-friends'));
        self::assertSame([10.0, 1 + 11 + 0.5, 2 + 12 + 1.0, 0.5 * 3, 0.5 * 4], $run->column('of-all'));
    }

    public function test_members_who_have_but_numbers_come_and_go_too(): void
    {
        $run = self::ran(
            self::model(
                ['a', 'b'],
                [['name' => 'risk', 'kind' => 'parameter', 'dimensions' => ['boat'], 'formula' => '50'], self::NUMBER],
                ['exits' => [self::sinks('risk')]],
            ),
        );
        self::assertSame(['sunk', 'sunk'], array_column(self::crew($run)->members, 'why'));
        self::assertSame([[0, 1], []], [self::crew($run)->present[0], self::crew($run)->present[40]]);
    }

    public function test_a_setting_changes_what_one_has_or_all_have(): void
    {
        $model = self::model(
            ['a', 'b'],
            [
                ['name' => 'length', 'kind' => 'parameter', 'dimensions' => ['boat'], 'formula' => '7'],
                ['name' => 'all length', 'formula' => 'sum(length, boat)'],
                ['name' => 'bought', 'formula' => 'pulse(1, 0)'],
            ],
            ['entries' => [['id' => 'n', 'words' => 'new', 'of' => 'bought']]],
            ['step' => 1, 'end' => 1],
        );
        $sum = static fn (string $what, float $value): array => Build::simulator()
            ->run(Analyser::analyse($model), new RunOptions([$what => $value]))
            ->column('all-length');
        self::assertSame([14.0, 21.0], $sum('nothing', 0.0));
        self::assertSame([17.0, 24.0], $sum('length[b]', 10.0));
        self::assertSame([18.0, 27.0], $sum('length', 9.0));
    }

    public function test_what_would_be_done_as_if_all_stayed_is_refused(): void
    {
        $of = static fn (string $method): Model => self::model(
            ['a'],
            [self::SOUND, ['name' => 'weak', 'formula' => 'soundness < 0.5']],
            ['exits' => [['id' => 'x', 'words' => 'gone', 'kind' => 'when', 'of' => 'weak']]],
            ['method' => $method],
        );
        foreach (['dopri5' => 'Choose Euler', 'euler' => 'cannot be followed'] as $method => $sentence) {
            try {
                $analysis = Analyser::analyse($of($method));
                $method === 'euler' ? Build::simulator()->walkerAt($analysis, new RunOptions(), 1) : Build::simulator()->run($analysis);
                self::fail($sentence);
            } catch (RunRefused $e) {
                self::assertStringContainsString($sentence, $e->getMessage());
            }
        }
    }

    /** @param  array<string, mixed>  $roster  what is said besides of boats that wear */
    private static function worn(array $roster): Trajectory
    {
        return self::ran(
            self::model(
                ['heron', 'puffin'],
                [
                    ['name' => 'built', 'kind' => 'parameter', 'dimensions' => ['boat'], 'formula' => '0'],
                    ['name' => 'wear', 'kind' => 'stock', 'dimensions' => ['boat'], 'formula' => '0'],
                    ['name' => 'wearing', 'kind' => 'flow', 'dimensions' => ['boat'], 'to' => 'wear', 'formula' => '1'],
                    ['name' => 'twice', 'dimensions' => ['boat'], 'formula' => '2 * wear'],
                    ['name' => 'all wear', 'formula' => 'sum(wear, boat)'],
                    ['name' => 'bought', 'formula' => '1'],
                ],
                ['entries' => [['id' => 'new', 'words' => 'new', 'of' => 'bought']], ...$roster],
            ),
        );
    }

    public function test_what_is_kept_of_each_can_be_chosen_and_changes_no_number(): void
    {
        $all = self::worn([]);
        $some = self::worn(['kept' => ['of' => ['wear'], 'moments' => 5]]);
        self::assertSame($all->column('all-wear'), $some->column('all-wear'));
        self::assertSame($all->column('twice'), $some->column('twice'), 'means are kept at every moment');
        [$whole, $few] = [$all->crews['boat'], $some->crews['boat']];
        self::assertSame(range(0, 40), $whole->moments());
        self::assertSame(range(0, 40), $few->moments('wear'));
        self::assertSame([0, 9, 18, 27, 36], $few->moments('twice'));
        self::assertSame([0, 9, 18, 27, 36], $few->moments());
        foreach ([9, 10, 40] as $moment) {
            self::assertSame($whole->at('wear', $moment), $few->at('wear', $moment));
            self::assertSame($whole->at('built', $moment), $few->at('built', $moment));
        }
        self::assertSame([], $few->at('twice', 10), 'what is not kept is not there');
        self::assertSame($whole->lifeOf(0, 'wear'), $few->lifeOf(0, 'wear'));
        self::assertSame([0, 9, 18, 27, 36], array_keys($few->lifeOf(0, 'twice')));
        $still = self::worn(['kept' => ['moments' => 1]])->crews['boat'];
        self::assertSame([0], $still->moments());
        self::assertCount(12, $still->members, 'who there was is known all the same');
    }

    public function test_too_many_stop_the_run_with_a_sentence(): void
    {
        $run = self::ran(
            self::model(
                ['a'],
                [self::SOUND, ['name' => 'born', 'formula' => 'sum(soundness, boat)'], self::NUMBER],
                ['entries' => [['id' => 'new', 'words' => 'born', 'of' => 'born']], 'most' => 500],
                ['end' => 100, 'step' => 1],
            ),
        );
        self::assertStringContainsString('there would be more than 500 of `boat`', (string) $run->fault?->sentence());
        self::assertLessThanOrEqual(500.0, max(0.0, ...$run->column('boats')));
        self::assertSame(9, $run->length());
    }

    public function test_a_number_that_is_none_names_whose_it_is(): void
    {
        $run = self::ran(
            self::model(
                ['a', 'b'],
                [
                    self::SOUND,
                    ['name' => 'wear', 'kind' => 'flow', 'from' => 'soundness', 'formula' => 'sqrt(1 - time) + 0 * soundness'],
                    ['name' => 'old', 'formula' => 'soundness < -9'],
                ],
                ['exits' => [['id' => 'old', 'words' => 'scrapped', 'kind' => 'when', 'of' => 'old']]],
            ),
        );
        self::assertSame('wear', $run->fault?->name);
        self::assertEqualsWithDelta(1.25, $run->fault->time, 1e-9);
    }

    /** @return iterable<string, array{list<array{name: string}&array<string, mixed>>, array<string, mixed>, string}> */
    public static function unfits(): iterable
    {
        $exit = ['exits' => [['id' => 'x', 'words' => 'gone', 'kind' => 'when', 'of' => 'bad']]];
        $bad = ['name' => 'bad', 'formula' => 'soundness < 0.5'];
        yield 'a rule over nothing' => [[self::SOUND, ['name' => 'bad', 'formula' => '1']], $exit, 'it has to extend over `boat`'];
        yield 'a stock as a condition' => [
            [['name' => 'bad', 'kind' => 'stock', 'dimensions' => ['boat'], 'formula' => '1']],
            $exit,
            '`bad` is a stock',
        ];
        yield 'a single member' => [
            [self::SOUND, $bad, ['name' => 'x', 'formula' => 'soundness[a]']],
            $exit,
            'cannot pick single members',
        ];
        yield 'a neighbour' => [
            [self::SOUND, $bad, ['name' => 'x', 'formula' => 'soundness[boat: previous; else 0]']],
            $exit,
            'cannot pick single members',
        ];
        yield 'a place' => [
            [self::SOUND, $bad, ['name' => 'x', 'formula' => 'position(boat)']],
            $exit,
            '`position` needs members that stay',
        ];
        yield 'what cannot begin later' => [
            [self::SOUND, $bad, ['name' => 'x', 'formula' => 'shift(soundness, 2)']],
            $exit,
            '`shift` cannot begin in the middle',
        ];
        yield 'a start that depends on all' => [
            [
                ['name' => 'soundness', 'kind' => 'stock', 'dimensions' => ['boat'], 'formula' => '1'],
                $bad,
                ['name' => 'y', 'kind' => 'stock', 'dimensions' => ['boat'], 'formula' => 'sum(soundness, boat)'],
            ],
            $exit,
            'cannot depend on all of them',
        ];
        yield 'many entries of one' => [
            [self::SOUND, ['name' => 'come', 'formula' => 'soundness']],
            ['entries' => [['id' => 'n', 'words' => 'new', 'of' => 'come']]],
            'it is one number, or one for each element that they belong to',
        ];
        yield 'a value that is none of each' => [
            [self::SOUND, ['name' => 'come', 'formula' => '1'], ['name' => 'p', 'kind' => 'parameter', 'formula' => '1']],
            ['entries' => [['id' => 'n', 'words' => 'new', 'of' => 'come', 'starts' => [['of' => 'p', 'from' => 'come']]]]],
            'it has to extend over `boat`',
        ];
        yield 'a transit stock' => [
            [self::SOUND, $bad, ['name' => 'way', 'kind' => 'stock', 'formula' => '0', 'travel' => '3']],
            $exit,
            'a transit stock',
        ];
    }

    /**
     * @param  list<array{name: string}&array<string, mixed>>  $elements
     * @param  array<string, mixed>  $roster
     */
    #[\PHPUnit\Framework\Attributes\DataProvider('unfits')]
    public function test_what_does_not_fit_is_said_and_the_rest_runs(array $elements, array $roster, string $sentence): void
    {
        $model = self::model(['a', 'b'], [...$elements, ['name' => 'apart', 'kind' => 'stock', 'formula' => '3']], $roster);
        self::assertStringContainsString($sentence, implode("\n", self::sentences($model)));
        $run = Build::simulator()->run(Analyser::analyse($model));
        self::assertSame(3.0, $run->column('apart')[0]);
        self::assertFalse($run->has('soundness'));
    }

    private static function crew(Trajectory $run): Crew
    {
        self::assertNull($run->fault, (string) $run->fault?->sentence());

        return $run->crews['boat'];
    }
}
