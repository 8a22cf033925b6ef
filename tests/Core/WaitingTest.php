<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Experiment\Waiting;
use PHPUnit\Framework\TestCase;

/** Who keeps others waiting, and which chain decides when all is through. */
final class WaitingTest extends TestCase
{
    /** Stone, then wall and timber; then a roof after both; a bench by itself. */
    private const PAIRS = [[0, 1], [0, 2], [1, 3], [2, 3]];

    private const SPANS = [[[0, 2]], [[2, 5]], [[2, 3], [6, 7]], [[5, 9]], [[0, 1]]];

    /** @return array<int, array<int, float>> by number and moment, whether it is under way */
    private static function lives(bool $done = false): array
    {
        $lives = [];
        foreach (self::SPANS as $n => $spans) {
            for ($i = 0; $i <= 10; $i++) {
                $isUnder = array_filter($spans, static fn (array $s): bool => $i >= $s[0] && $i < $s[1]) !== [];
                $lives[$n][$i] = ($done ? $i >= $spans[0][1] : $isUnder) ? 1.0 : 0.0;
            }
        }

        return $lives;
    }

    /** @return list<float> */
    private static function times(): array
    {
        return array_map(floatval(...), range(0, 10));
    }

    public function test_through_is_who_first_ceased_or_of_whom_it_first_held_for_good(): void
    {
        $expected = [0 => 2.0, 1 => 5.0, 2 => 3.0, 3 => 9.0, 4 => 1.0];
        self::assertSame($expected, Waiting::of(self::lives(), self::times(), self::PAIRS)->through);
        self::assertSame($expected, Waiting::of(self::lives(true), self::times(), self::PAIRS)->through);
        self::assertSame([], Waiting::of([[0.0, 0.0]], [0.0, 1.0], [])->through);
    }

    public function test_the_chain_leads_from_the_first_to_the_last(): void
    {
        self::assertSame([0, 1, 3], Waiting::of(self::lives(), self::times(), self::PAIRS)->chain());
        self::assertSame([], Waiting::of([], [], [])->chain());
        // A circle comes to an end.
        self::assertCount(2, Waiting::of([[1.0, 0.0, 0.0], [1.0, 1.0, 0.0]], [0.0, 1.0, 2.0], [[0, 1], [1, 0]])->chain());
    }

    public function test_who_could_go_on_and_how_many_wait_for_it(): void
    {
        $waiting = Waiting::of(self::lives(), self::times(), self::PAIRS);
        self::assertSame([['number' => 0, 'waiting' => 3]], $waiting->at(1.0));
        self::assertSame([['number' => 1, 'waiting' => 1]], $waiting->at(4.0));
        self::assertSame([], $waiting->at(9.0));
    }

    /** On random networks, against the closure by products of the matrix of who waits for whom. */
    public function test_it_counts_all_who_wait_directly_or_not(): void
    {
        mt_srand(3);
        for ($round = 0; $round < 20; $round++) {
            $n = 9;
            $pairs = [];
            $reach = array_fill(0, $n, array_fill(0, $n, false));
            for ($a = 0; $a < $n; $a++) {
                for ($b = $a + 1; $b < $n; $b++) {
                    if (mt_rand(0, 3) === 0) {
                        $pairs[] = [$a, $b];
                        $reach[$a][$b] = true;
                    }
                }
            }
            for ($k = 0; $k < $n; $k++) {
                for ($a = 0; $a < $n; $a++) {
                    for ($b = 0; $b < $n; $b++) {
                        $reach[$a][$b] = $reach[$a][$b] || ($reach[$a][$k] && $reach[$k][$b]);
                    }
                }
            }
            // None is through yet.
            $told = array_column(Waiting::of(array_fill(0, $n, [0.0, 0.0]), [0.0, 1.0], $pairs)->at(0.0), 'waiting', 'number');
            foreach (range(0, $n - 1) as $a) {
                $isFree = array_filter($pairs, static fn (array $p): bool => $p[1] === $a) === [];
                $count = count(array_filter($reach[$a]));
                self::assertSame($isFree && $count > 0 ? $count : null, $told[$a] ?? null);
            }
        }
    }
}
