<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\DropPart;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\PutPart;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Ledger\Books;
use MerryOrbit\Core\Model\Claim;
use MerryOrbit\Core\Model\Meaning;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\Party;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Model\Transaction;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\Trajectory;
use MerryOrbit\Core\Structure\Checkup;
use PHPUnit\Framework\TestCase;

/** Ledgers: what balances runs, against closed forms; what does not is said, with what would mend it. */
final class LedgerTest extends TestCase
{
    use Commanded;

    /** @param  array<string, mixed>  $fields */
    public static function put(Model $model, string $part, string $id, array $fields): Model
    {
        return (new PutPart(Parts::find($part) ?? self::fail("No part $part"), $id, $fields))->apply($model);
    }

    /**
     * Entries as `+loans -deposit +union`, where names of parties are their net worth.
     *
     * @return list<array<string, string>>
     */
    private static function entries(Model $model, string $written): array
    {
        return array_map(
            static fn (string $one): array => [
                isset($model->part('claims')[substr($one, 1)]) ? 'claim' : 'worth' => substr($one, 1),
                'sign' => $one[0],
            ],
            explode(' ', $written),
        );
    }

    /** @param  array<string, array{string, string}>  $rows  formula and entries, by name */
    public static function with(Model $model, array $rows): Model
    {
        foreach ($rows as $name => [$formula, $entries]) {
            $fields = ['name' => $name, 'formula' => $formula, 'entries' => self::entries($model, $entries)];
            $model = self::put($model, 'transactions', Build::id($name), $fields);
        }

        return $model;
    }

    /** A lender whose loan is paid interest on, and who spends what it earns: of a loan of 1,000 crowns. */
    public static function lender(?TimeSettings $time = null): Model
    {
        $model = Build::model(
            ['loan rate' => '0.05', 'time to spend' => '0.25', 'time to consume' => '0.5'],
            time: $time ?? new TimeSettings(0, 40, 1 / 64, 'year', Method::RungeKutta4),
        );
        foreach (['union', 'fishers', 'islanders'] as $party) {
            $model = self::put($model, 'parties', $party, ['name' => $party]);
        }
        $claim = static fn (Model $m, string $id, string $name, string $debtor, string $holder, string $initial): Model => self::put(
            $m,
            'claims',
            $id,
            ['name' => $name, 'debtor' => $debtor, 'holder' => $holder, 'initial' => $initial, 'unit' => 'crown'],
        );
        $model = $claim($model, 'loans', 'loans to fishers', 'fishers', 'union', '1000');
        $model = $claim($model, 'account', 'fishers account', 'union', 'fishers', '600');
        $model = $claim($model, 'savings', 'islanders account', 'union', 'islanders', '400');

        return self::with($model, [
            'interest paid' => ['loan rate * loans to fishers', '-account +union -fishers'],
            'wages' => ['fishers account / time to spend', '-account +savings -fishers +islanders'],
            'spending by islanders' => ['islanders account / time to consume', '-savings +account -islanders +fishers'],
            'spending by the union' => ['net worth of union / 2', '+account -union +fishers'],
        ]);
    }

    private static function made(Model $model): Trajectory
    {
        return Build::simulator()->run(Analyser::analyse($model), new RunOptions());
    }

    /** At rest the union spends what it earns, so is worth 2 · 50; of the 900 that are left accounts stand as times of turning over do. */
    public function test_one_lender_comes_to_rest_where_its_closed_form_says(): void
    {
        $model = self::lender();
        self::assertSame([], Analyser::analyse($model)->problems);
        self::assertTrue(Books::of($model)->isBalanced());
        // That nothing uses a net worth is nothing to look at.
        self::assertSame([], Checkup::of(Analyser::analyse($model)));
        $run = self::made($model);
        $last = $run->length() - 1;
        $end = static fn (string $claim): float => $run->column(Claim::stock($claim))[$last];
        self::assertSame(1000.0, $run->steadyOf(Claim::stock('loans')) ?? $end('loans'));
        self::assertEqualsWithDelta(100.0, $run->column(Party::worth('union'))[$last], 1e-6);
        self::assertEqualsWithDelta(900.0 / 3, $end('account'), 1e-6);
        self::assertEqualsWithDelta((900.0 * 2) / 3, $end('savings'), 1e-6);
        // Money turns over while what is lent stays the same.
        self::assertEqualsWithDelta(1200.0, $run->column(Transaction::flow('wages'))[$last], 1e-5);
    }

    /** Interest that is added to the loan: it grows as e^(rate · t), and so does what the lender is worth by it. */
    public function test_a_debt_that_its_interest_is_added_to_grows_at_its_rate(): void
    {
        $model = Build::model(['rate' => '0.07'], time: new TimeSettings(0, 10, 1 / 16, 'year', Method::RungeKutta4));
        foreach (['lender', 'borrower'] as $party) {
            $model = self::put($model, 'parties', $party, ['name' => $party]);
        }
        $fields = ['name' => 'loan', 'debtor' => 'borrower', 'holder' => 'lender', 'initial' => '100'];
        $model = self::with(self::put($model, 'claims', 'loan', $fields), ['interest' => ['rate * loan', '+loan +lender -borrower']]);
        $run = self::made($model);
        foreach ($run->times() as $i => $t) {
            self::assertEqualsWithDelta(100 * exp(0.07 * $t), $run->column('claim-loan')[$i], 1e-6);
            self::assertSame(0.0, $run->column('worth-lender')[$i] + $run->column('worth-borrower')[$i]);
        }
    }

    public function test_a_row_that_does_not_balance_stays_out_and_says_what_would_mend_it(): void
    {
        $model = self::lender();
        $whole = self::made($model)->column('claim-account');
        $open = self::with($model, ['interest paid' => ['loan rate * loans to fishers', '-account +union']]);
        $books = Books::of($open);
        self::assertFalse($books->isBalanced());
        self::assertSame(['fishers' => -1], $books->gaps($books->rows['interest-paid']));
        self::assertStringContainsString(
            '`interest paid` does not balance for fishers, by its amount, and is left out of the run until it does. '.
                'It would if net worth of fishers takes −.',
            $books->findings()[0]['sentence'],
        );
        // Its amount is known, but nothing is booked: the union earns nothing and is worth less and less.
        $run = self::made($open);
        self::assertSame(50.0, $run->column('row-interest-paid')[0] ?? $run->steadyOf('row-interest-paid'));
        self::assertLessThan(1e-3, $run->column('worth-union')[$run->length() - 1]);
        // The remedy, taken: the books are those of before.
        $remedy = $books->remedy($books->rows['interest-paid'], 'fishers');
        self::assertNotNull($remedy);
        $row = $books->rows['interest-paid']->changed(['entries' => Transaction::ordered($remedy['entries'])]);
        $mended = $open->with(['transactions' => [...$open->part('transactions'), 'interest-paid' => $row]]);
        self::assertSame($whole, self::made($mended)->column('claim-account'));
        // A sign the wrong way round is turned, an entry too much is left out.
        $wrong = self::with($model, ['wages' => ['1', '+account +savings -fishers +islanders']]);
        $books = Books::of($wrong);
        self::assertSame('fishers account turns its sign', $books->remedy($books->rows['wages'], 'union')['words'] ?? '');
        $much = self::with($model, ['wages' => ['1', '-account +savings -fishers +islanders +union']]);
        $books = Books::of($much);
        self::assertSame('net worth of union is not entered', $books->remedy($books->rows['wages'], 'union')['words'] ?? '');
    }

    public function test_a_claim_without_holder_stands_on_one_side_until_somebody_holds_it(): void
    {
        $model = self::put(self::lender(), 'claims', 'savings', ['holder' => null]);
        $books = Books::of($model);
        self::assertSame(['savings'], array_keys($books->open()));
        self::assertStringContainsString(
            '`islanders account` has no holder yet.',
            implode(' ', array_column($books->findings(), 'sentence')),
        );
        // Rows that have the islanders' worth wait; all else goes on.
        self::assertSame(['islanders' => -1], $books->gaps($books->rows['wages']));
        $held = self::put($model, 'claims', 'savings', ['holder' => 'islanders']);
        self::assertTrue(Books::of($held)->isBalanced());
        self::assertSame(Meaning::of(self::lender()), Meaning::of($held));
        self::assertNotSame(Meaning::of($model), Meaning::of($held));
    }

    public function test_names_of_claims_are_mentioned_renamed_and_waited_for(): void
    {
        $model = self::lender();
        $text = static fn (Model $m): string => $m->part('transactions')['interest-paid'] instanceof Transaction
            ? $m->part('transactions')['interest-paid']->formula->text($m->nameOf(...))
            : '';
        $renamed = self::put($model, 'claims', 'loans', ['name' => 'boat loans']);
        self::assertSame('loan rate * boat loans', $text($renamed));
        self::assertSame(self::made($model)->column('worth-union'), self::made($renamed)->column('worth-union'));
        $gone = (new DropPart(Parts::find('claims') ?? self::fail(), 'loans'))->apply($renamed);
        self::assertSame('loan rate * boat loans', $text($gone));
        self::assertFalse(Analyser::analyse($gone)->canCompute('row-interest-paid'));
        $again = self::put($gone, 'claims', 'other', [
            'name' => 'boat loans',
            'debtor' => 'fishers',
            'holder' => 'union',
            'initial' => '1000',
        ]);
        self::assertTrue(Analyser::analyse($again)->canCompute('row-interest-paid'));
        $refusals = [
            ['claims', 'x', ['name' => 'Loan rate'], 'Something is called `Loan rate` already'],
            ['parties', 'x', ['name' => 'union'], 'Something is called `net worth of union` already'],
            ['claims', 'x', ['name' => 'x', 'debtor' => 'union', 'holder' => 'union'], 'Nobody owes something to himself'],
            ['claims', 'x', ['name' => 'x', 'debtor' => 'nobody'], 'is no party of the study any more'],
            ['claims', 'x', ['name' => 'x', 'debtor' => 'union', 'real' => true], 'is a real thing, which nobody owes'],
            ['transactions', 'x', ['name' => 'x', 'entries' => [['claim' => 'nothing']]], 'enters something that is no claim'],
            ['transactions', 'x', ['name' => 'x', 'entries' => [['sign' => '+']]], 'in one of them'],
            [
                'transactions',
                'x',
                ['name' => 'x', 'entries' => [['claim' => 'loans'], ['claim' => 'loans']]],
                'enters `loans to fishers` twice',
            ],
        ];
        foreach ($refusals as [$part, $id, $fields, $sentence]) {
            try {
                self::put($model, $part, $id, $fields);
                self::fail("Not said: $sentence");
            } catch (EditRefused $e) {
                self::assertStringContainsString($sentence, $e->getMessage());
            }
        }
    }

    public function test_what_would_fall_below_zero_is_cut_on_all_sides(): void
    {
        foreach (Build::FIXED as $method) {
            $model = self::lender(new TimeSettings(0, 4, 1 / 16, 'year', $method));
            $model = self::put($model, 'claims', 'account', ['limited' => true]);
            // More is paid than there is.
            $model = self::with($model, [
                'spending by islanders' => ['0', '-savings +account -islanders +fishers'],
                'wages' => ['5000', '-account +savings -fishers +islanders'],
            ]);
            self::assertSame([], Analyser::analyse($model)->problems);
            $run = self::made($model);
            $sum = array_map(
                static fn (float ...$v): float => array_sum($v),
                $run->column('worth-union'),
                $run->column('worth-fishers'),
                $run->column('worth-islanders'),
            );
            self::assertLessThan(1e-9, max([0.0, ...array_map(abs(...), $sum)]), $method->value);
            self::assertGreaterThanOrEqual(-1e-9, min([INF, ...$run->column('claim-account')]), $method->value);
            self::assertLessThan(100.0, min([INF, ...$run->column('claim-account')]), $method->value);
            // What the union owes is what it has lent, less what it is worth: nothing came from nowhere.
            $last = $run->length() - 1;
            $owed = $run->column('claim-account')[$last] + $run->column('claim-savings')[$last];
            self::assertEqualsWithDelta(1000.0 - $run->column('worth-union')[$last], $owed, 1e-9);
        }
    }

    public function test_books_come_through_the_file_and_are_told_by_the_command(): void
    {
        $model = self::put(self::lender(), 'claims', 'boats', [
            'name' => 'boats',
            'holder' => 'fishers',
            'real' => true,
            'initial' => '250',
        ]);
        $read = NativeFile::import(NativeFile::export($model));
        self::assertSame([], $read->log);
        self::assertSame(NativeFile::export($model), NativeFile::export($read->model));
        self::assertSame(self::made($model)->column('worth-union'), self::made($read->model)->column('worth-union'));
        $file = $this->file(NativeFile::export($model), '.json');
        [$code, $out] = self::orbit(['ledger', $file, '--at=0', '--format=json']);
        self::assertSame(0, $code);
        $told = self::json($out);
        self::assertEquals([0, true, 250, []], [$told['time'], $told['balanced'], $told['sum_of_net_worth'], $told['unheld']]);
        /** @var list<array{name: string, owns: array<string, float>, owes: array<string, float>, net_worth: float}> $parties */
        $parties = $told['parties'];
        $fishers = array_column($parties, null, 'name')['fishers'];
        self::assertEquals(['fishers account' => 600.0, 'boats' => 250.0], $fishers['owns']);
        self::assertEquals(['loans to fishers' => 1000.0], $fishers['owes']);
        self::assertEquals(-150.0, $fishers['net_worth']);
        [$code, $out] = self::orbit(['ledger', $file]);
        self::assertSame(0, $code);
        self::assertStringContainsString('is worth', $out);
        [$code, , $err] = self::orbit(['ledger', $file, '--at=99']);
        self::assertSame(2, $code);
        self::assertStringContainsString('goes from 0 to 40', $err);
        [$code, , $err] = self::orbit(['ledger', $this->file(NativeFile::export(PolicyTest::bakery()), '.json')]);
        self::assertSame(3, $code);
        self::assertStringContainsString('Nobody keeps a ledger', $err);
    }
}
