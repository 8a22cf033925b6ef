<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\PutPart;
use MerryOrbit\Core\Exchange\LedgerTable;
use MerryOrbit\Core\Exchange\PastedLedger;
use MerryOrbit\Core\Ledger\Books;
use MerryOrbit\Core\Model\Claim;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunOptions;
use PHPUnit\Framework\TestCase;

/** Tables out of spreadsheets as ledgers. */
final class PastedLedgerTest extends TestCase
{
    private const UNION =
        "credit union\towns\t\towes\t\tis worth\n".
        "\tloans\tcash\taccount of fishers\taccount of islanders\t\n".
        "Stood at month 0\t180\t20\t120\t60\t20\n".
        "interest\t\t\t−12\t\t12\n".
        "wages\t\t\t-5\t+5\t\n".
        "lent\t7.5\t\t7.5\t\t\n".
        "Closing\t1\t1\t1\t1\t1\n";

    /** @param  list<array{part: string, id: string, fields: array<string, mixed>}>  $edits */
    private static function done(Model $model, array $edits): Model
    {
        foreach ($edits as $e) {
            $model = (new PutPart(Parts::all()[$e['part']], $e['id'], $e['fields']))->apply($model);
        }

        return $model;
    }

    public function test_a_table_with_sides_becomes_books_that_run_as_the_table_adds_up(): void
    {
        $told = PastedLedger::of(new Model('x', time: new TimeSettings(0.0, 10.0, 1.0)), LedgerTable::read(self::UNION), 'n');
        self::assertSame('credit union', $told['party']);
        self::assertSame([], $told['remarks']);
        self::assertSame(['owns', 'owns', 'owes', 'owes', 'worth'], array_column($told['accounts'], 'side'));
        self::assertSame(['interest', 'wages', 'lent'], array_column($told['rows'], 'name'), 'what follows from the rest is no row');
        self::assertSame(['', '', ''], array_column($told['rows'], 'sentence'));
        $model = self::done(new Model('x', time: new TimeSettings(0.0, 10.0, 1.0)), $told['edits']);
        $run = Build::simulator()->run(Analyser::analyse($model), new RunOptions());
        $end = static fn (string $name): float => (float) $run->column((string) $model->idOf($name))[10];
        // Ten times each row on what it was: loans, the two accounts, and what is left.
        self::assertEqualsWithDelta(180 + 75, $end('loans'), 1e-9);
        self::assertEqualsWithDelta(120 - 120 - 50 + 75, $end('account of fishers'), 1e-9);
        self::assertEqualsWithDelta(60 + 50, $end('account of islanders'), 1e-9);
        self::assertEqualsWithDelta(20 + 120, $end('net worth of credit union'), 1e-9);
    }

    public function test_what_does_not_balance_is_told_by_how_much_with_its_remedy_and_comes_along(): void
    {
        $table = LedgerTable::read("till,owns,owes,is worth\n,cash,debt,\nfees,3,,\nodd,4,-2,\n");
        $told = PastedLedger::of(new Model('x'), $table, 'n');
        self::assertSame('It does not balance, by 3. It would if net worth of till takes +.', $told['rows'][0]['sentence']);
        self::assertSame(['fees', 'odd', 'odd, debt'], array_column($told['rows'], 'name'), 'each amount has a row of its own');
        self::assertSame(['3', '4', '2'], array_column($told['rows'], 'formula'));
        self::assertStringStartsWith('The line has 4 in one place and 2 in another.', $told['rows'][1]['sentence']);
        $books = Books::of(self::done(new Model('x'), $told['edits']));
        self::assertSame([1, 1, 1], array_map(fn ($r): int => abs($books->gap($r, 'n-p')), array_values($books->rows)));
    }

    public function test_accounts_that_wait_on_the_other_side_are_joined_and_rows_get_the_entries_that_they_lack(): void
    {
        $model = self::done(new Model('x'), PastedLedger::of(new Model('x'), LedgerTable::read(self::UNION), 'n')['edits']);
        $table = LedgerTable::read(
            "\towns: account of fishers\towes: loans\tnet worth\tboats\nat the start\t120\t200\t\t40\ninterest\t-12\t\t-12\t\nwages\t-5\t\t-5\t\n",
            [3 => 'owns'],
        );
        $told = PastedLedger::of($model, $table, 'm', 'fishers');
        self::assertSame([true, true, false, false], array_column($told['accounts'], 'known'));
        self::assertSame(['`loans` starts at 180 in the books and at 200 in the table. The books stay as they are.'], $told['remarks']);
        $after = self::done($model, $told['edits']);
        $loans = $after->part('claims')['n-c1'];
        self::assertInstanceOf(Claim::class, $loans);
        self::assertSame(['m-p', 'n-p', '180'], [$loans->debtor, $loans->holder, $loans->initial->text($after->nameOf(...))]);
        self::assertCount(3, Books::of($after)->rows, 'rows of the same name are the same rows');
        self::assertSame(
            [],
            array_filter(Books::of($after)->rows, static fn ($r): bool => Books::of($after)->gaps($r) !== [] && $r->name === 'interest'),
        );
        // Once more, and nothing is new but what the table says otherwise.
        $again = PastedLedger::of($after, $table, 'k', 'fishers');
        self::assertFalse($again['isNew']);
        self::assertCount(count($after->part('claims')), self::done($after, $again['edits'])->part('claims'));
    }

    public function test_the_side_of_an_account_is_asked_for_where_nothing_tells_it(): void
    {
        $told = PastedLedger::of(new Model('x'), LedgerTable::read("row;cash;debt\nlent;1.250,5;1.250,5\n"), 'n');
        self::assertSame(['', ''], array_column($told['accounts'], 'side'));
        self::assertContains('Say of each account whether it is owned or owed: the table does not tell.', $told['remarks']);
        self::assertSame('1250.5', $told['rows'][0]['formula'], 'a decimal comma is read as one');
        self::assertSame('party', $told['party']);
    }

    public function test_what_is_no_table_of_a_ledger_is_said(): void
    {
        $this->expectException(NotUnderstood::class);
        $this->expectExceptionMessage('This is no table of a ledger');
        LedgerTable::read('hello');
    }
}
