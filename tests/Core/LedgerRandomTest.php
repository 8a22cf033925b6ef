<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Ledger\Books;
use MerryOrbit\Core\Ledger\Rewiring;
use MerryOrbit\Core\Model\Claim;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Party;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Model\Transaction;
use MerryOrbit\Core\Simulate\RunOptions;
use PHPUnit\Framework\TestCase;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/** Ledgers at random: books balance at every moment under every method, and what goes to another holder and back is what it was. */
final class LedgerRandomTest extends TestCase
{
    /** Parties, claims between them, real things, and rows that are mended until they balance. */
    private static function books(Randomizer $random, TimeSettings $time): Model
    {
        $model = Build::model(['pace' => '0.3'], time: $time);
        $parties = range('a', chr(ord('a') + $random->getInt(1, 4)));
        foreach ($parties as $party) {
            $model = LedgerTest::put($model, 'parties', $party, ['name' => "party $party"]);
        }
        $names = [];
        for ($i = 0; $i < $random->getInt(2, 8); $i++) {
            [$debtor, $holder] = $random->shuffleArray([...$parties, null]);
            $isReal = $debtor === null && $random->getInt(0, 1) === 1;
            $names["c$i"] = "claim $i";
            $model = LedgerTest::put($model, 'claims', "c$i", [
                'name' => "claim $i",
                'debtor' => $debtor,
                'holder' => $holder,
                'real' => $isReal ? true : null,
                'initial' => (string) $random->getInt(0, 100),
                'limited' => $random->getInt(0, 4) === 0 ? true : null,
            ]);
        }
        for ($i = 0; $i < $random->getInt(1, 9); $i++) {
            $claim = $random->pickArrayKeys($names, 1)[0];
            $formula = ['pace * "claim 0"', '2 + sin(time)', '"net worth of party a" / 5', '"claim 1" - "claim 0"'][
                $random->getInt(0, 3)
            ];
            $sign = $random->getInt(0, 1) === 1 ? 1 : -1;
            $row = new Transaction("r$i", "row $i", entries: [['claim' => (string) $claim, 'worth' => '', 'sign' => $sign]]);
            $books = Books::of($model);
            while ($books->gaps($row) !== []) {
                $mend = $books->remedy($row, (string) array_key_first($books->gaps($row)));
                self::assertNotNull($mend);
                $row = $row->changed(['entries' => $mend['entries']]);
            }
            $model = LedgerTest::put($model, 'transactions', "r$i", [...$row->toRecord(), 'formula' => $formula]);
        }

        return $model;
    }

    public function test_books_balance_at_every_moment_under_every_method(): void
    {
        $random = new Randomizer(new Xoshiro256StarStar(hash('sha256', 'books', true)));
        foreach (Method::cases() as $method) {
            for ($round = 0; $round < 12; $round++) {
                $model = self::books($random, new TimeSettings(0, 5, 0.125, 'year', $method));
                $books = Books::of($model);
                $analysis = Analyser::analyse($model);
                self::assertSame([], $analysis->blockers());
                $run = Build::simulator()->run($analysis, new RunOptions());
                $course = static fn (string $key): array => $run->has($key)
                    ? $run->column($key)
                    : array_fill(0, $run->length(), $run->steadyOf($key) ?? NAN);
                $courses = array_map(static fn (Claim $c): array => $course(Claim::stock($c->id)), $books->claims);
                $worths = array_map(static fn (Party $p): array => $course(Party::worth($p->id)), $books->parties);
                foreach ($run->times() as $i => $t) {
                    $size = 1.0 + array_sum(array_map(static fn (array $c): float => abs($c[$i]), $courses));
                    // What all are worth is what nobody owes, less what nobody holds.
                    $nobody = 0.0;
                    foreach ($books->claims as $id => $claim) {
                        $nobody += ($claim->holder === '' ? 0.0 : $courses[$id][$i]) - ($claim->debtor === '' ? 0.0 : $courses[$id][$i]);
                    }
                    $all = array_sum(array_map(static fn (array $w): float => $w[$i], $worths));
                    self::assertEqualsWithDelta($nobody, $all, 1e-9 * $size, "$method->value at $t");
                    // Every flow of a row has the same amount.
                    foreach ($books->rows as $row) {
                        foreach (array_keys($row->entries) as $k) {
                            $key = Transaction::flow($row->id)."-$k";
                            if ($k > 0 && $analysis->model->element($key) !== null) {
                                self::assertSame($course(Transaction::flow($row->id))[$i], $course($key)[$i]);
                            }
                        }
                    }
                }
            }
        }
    }

    public function test_there_and_back_is_where_it_was(): void
    {
        $random = new Randomizer(new Xoshiro256StarStar(hash('sha256', 'there and back', true)));
        $turned = 0;
        for ($round = 0; $round < 400; $round++) {
            $model = self::books($random, new TimeSettings(0, 5, 0.25, 'year'));
            $books = Books::of($model);
            $held = array_filter($books->claims, static fn (Claim $c): bool => $c->holder !== '');
            if ($held === []) {
                continue;
            }
            $claim = $held[$random->pickArrayKeys($held, 1)[0]];
            $others = array_values(array_diff(array_keys($books->parties), [$claim->holder, $claim->debtor]));
            if ($others === []) {
                continue;
            }
            $there = Rewiring::of($books, $claim->id, (string) $others[0]);
            $after = $books->rewired($there);
            $back = $after->rewired(Rewiring::of($after, $claim->id, $claim->holder));
            self::assertEquals($books, $back, "round $round, $claim->name");
            $turned += count($there->rows);
            // It can be done: no row enters the same thing twice.
            foreach ($after->rows as $row) {
                self::assertSame($row->entries, array_unique($row->entries, SORT_REGULAR));
                $what = array_map(static fn (array $e): string => "$e[claim] $e[worth]", $row->entries);
                self::assertSame($what, array_unique($what));
            }
            // What was moved is open, or balances for both.
            foreach ($there->account as $one) {
                $gaps = $after->gaps($after->rows[$one['row']]);
                self::assertSame(str_contains($one['sentence'], 'does not balance any more'), $gaps !== []);
            }
        }
        self::assertGreaterThan(100, $turned);
    }

    /** Savers lend of what they have: their account becomes less, where the lender added to both sides. */
    public function test_lending_by_savers_instead_of_the_lender(): void
    {
        $model = LedgerTest::with(LedgerTest::lender(), [
            'new loans' => ['0.1 * loans to fishers', '+loans +account'],
            'repayment' => ['loans to fishers / 8', '-loans -account'],
        ]);
        $books = Books::of($model);
        $rewiring = Rewiring::of($books, 'loans', 'islanders');
        $after = $books->rewired($rewiring);
        self::assertTrue($after->isBalanced());
        $signs = static fn (string $row): array => array_map(
            static fn (array $e): string => ($e['sign'] === 1 ? '+' : '-').$e['claim'].$e['worth'],
            $after->rows[$row]->entries,
        );
        self::assertSame(['+account', '+loans', '-savings'], $signs('new-loans'));
        self::assertSame(['-account', '-loans', '+savings'], $signs('repayment'));
        // Interest goes to the savers, through the account that they have with the lender.
        self::assertSame('`new loans` goes by islanders account, which becomes less.', $rewiring->account[0]['sentence'] ?? '');
    }
}
