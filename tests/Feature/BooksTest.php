<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\ModelDocument;
use App\Models\User;
use App\Studies\StudyMaker;
use MerryOrbit\Core\Model\Model;
use Tests\Core\LedgerTest;

/** Ledgers by HTTP: pages of the book, what is open, and what a claim in other hands would change. */
final class BooksTest extends TestCase
{
    private function document(?Model $model = null): ModelDocument
    {
        return StudyMaker::make(User::demoAnalyst(), $model ?? LedgerTest::lender())->load('model')->model;
    }

    public function test_pages_tell_accounts_rows_and_what_would_mend_them(): void
    {
        $document = $this->document();
        $books = $this->getJson("/api/models/$document->id/books")
            ->assertOk()
            ->json();
        self::assertSame([], $books['findings']);
        $union = array_column($books['pages'], null, 'id')['union'];
        self::assertSame([['loans'], ['account', 'savings'], 'worth-union'], [$union['owns'], $union['owes'], $union['worth']]);
        self::assertSame([0, 0, 0, 0], array_column($union['rows'], 'gap'));
        self::assertSame('loan rate * loans to fishers', array_column($books['rows'], null, 'id')['interest-paid']['formula']);

        $this->edit($document, [
            'kind' => 'put',
            'part' => 'transactions',
            'id' => 'interest-paid',
            'fields' => [
                'entries' => [['claim' => 'account', 'sign' => '-'], ['worth' => 'union', 'sign' => '+']],
                'formula' => 'loan rate * nothing',
            ],
        ])->assertOk();
        $books = $this->getJson("/api/models/$document->id/books")
            ->assertOk()
            ->json();
        $row = array_column(array_column($books['pages'], null, 'id')['fishers']['rows'], null, 'row')['interest-paid'];
        self::assertSame([-1, 'net worth of fishers takes −'], [$row['gap'], $row['remedy']['words']]);
        self::assertContains(['worth' => 'fishers', 'sign' => '-'], $row['remedy']['entries']);
        $own = array_column($books['rows'], null, 'id')['interest-paid'];
        self::assertFalse($own['sound']);
        self::assertStringContainsString('`nothing`', $own['trouble']);
        self::assertCount(1, $books['findings']);
    }

    public function test_a_claim_in_other_hands_is_foreseen_done_and_undone(): void
    {
        $document = $this->document();
        $rewire = "/api/models/$document->id/books/rewire";
        $told = $this->postJson($rewire, ['claim' => 'loans', 'holder' => 'islanders'])
            ->assertOk()
            ->json();
        // Nothing enters the loans themselves; interest follows from them.
        self::assertSame([[], true], [$told['rows'], $told['balanced']]);
        self::assertStringContainsString('`interest paid` follows from it, but does not enter it', $told['account'][0]['sentence']);
        $told = $this->postJson($rewire, ['claim' => 'savings', 'holder' => 'fishers'])
            ->assertOk()
            ->json();
        self::assertNotSame([], $told['rows']);
        $before = $this->getJson("/api/models/$document->id/books")->json();
        $this->edit($document, [
            'kind' => 'together',
            'words' => 'Gave it',
            'edits' => [
                ['kind' => 'put', 'part' => 'claims', 'id' => 'savings', 'fields' => ['holder' => 'fishers']],
                ...array_map(
                    static fn (array $r): array => [
                        'kind' => 'put',
                        'part' => 'transactions',
                        'id' => $r['row'],
                        'fields' => ['entries' => $r['entries']],
                    ],
                    $told['rows'],
                ),
            ],
        ])->assertOk();
        $after = $this->getJson("/api/models/$document->id/books")->json();
        self::assertSame($told['balanced'], $after['findings'] === []);
        self::assertSame('fishers', array_column($after['claims'], null, 'id')['savings']['holder']);
        $this->step($document, 'undo')->assertOk();
        self::assertSame([...$before, 'revision' => 0], [...$this->getJson("/api/models/$document->id/books")->json(), 'revision' => 0]);
        foreach (
            [
                [['claim' => 'loans', 'holder' => 'fishers'], 'nobody owes something to himself'],
                [['claim' => 'gone', 'holder' => 'fishers'], 'is not there any more'],
                [['claim' => ['x'], 'holder' => 'fishers'], 'Say which claim goes to whom'],
            ] as [$asked, $sentence]
        ) {
            self::assertStringContainsString($sentence, (string) $this->postJson($rewire, $asked)->assertStatus(422)->json('detail'));
        }
    }

    public function test_balances_are_columns_of_the_run(): void
    {
        $document = $this->document();
        $wanted = ['claim-account', 'worth-union', 'row-wages'];
        $message = (string) $this->postJson("/api/models/$document->id/runs", ['only' => $wanted])
            ->assertOk()
            ->getContent();
        foreach ($wanted as $column) {
            self::assertStringContainsString("\"$column\"", $message);
        }
    }

    public function test_a_pasted_table_is_foreseen_and_what_is_none_is_said(): void
    {
        $document = $this->document();
        $table = ['text' => "ice house\towns\towes\n\tcash\tdebt\nstart\t5\t3\nlent\t2\t2\nfees\t1\t\n", 'id' => 'n'];
        $told = $this->postJson("/api/models/$document->id/books/paste", $table)
            ->assertOk()
            ->json();
        self::assertSame(['ice house', true], [$told['party'], $told['isNew']]);
        self::assertSame(
            ['', 'It does not balance, by 1. It would if net worth of ice house takes +.'],
            array_column($told['rows'], 'sentence'),
        );
        self::assertSame($document->revision, $document->refresh()->revision);
        $this->edit($document, [
            'kind' => 'together',
            'words' => 'Pasted',
            'edits' => array_map(static fn (array $e): array => ['kind' => 'put', ...$e], $told['edits']),
        ]);
        self::assertContains('ice house', array_column($this->getJson("/api/models/$document->id/books")->json('pages'), 'name'));

        $this->postJson("/api/models/$document->id/books/paste", [...$table, 'text' => 'hello'])
            ->assertStatus(422)
            ->assertSee('This is no table of a ledger');
        $this->postJson("/api/models/$document->id/books/paste", [...$table, 'sides' => ['left']])
            ->assertStatus(422)
            ->assertSee('says of accounts whether they are');
    }

    public function test_what_ledgers_make_is_among_the_things_and_has_a_trail(): void
    {
        $document = $this->document();
        $model = $this->getJson("/api/models/$document->id")->json('model');
        self::assertSame('transactions', $model['elements']['row-interest-paid']['made']['part']);
        self::assertSame('loan rate * loans to fishers', $model['elements']['row-interest-paid']['formula']);
        self::assertSame('stock', $model['elements']['claim-loans']['kind']);
        self::assertNotContains('claim-loans', $model['order'], 'the document itself does not hold it');
        $trail = $this->postJson("/api/models/$document->id/trail", [
            'run' => (object) [],
            'element' => 'row-interest-paid',
            'time' => 1,
        ])->assertOk();
        self::assertStringContainsString('claim-loans', (string) $trail->getContent());

        // A name that changes there changes here.
        $news = $this->edit($document, ['kind' => 'put', 'part' => 'claims', 'id' => 'loans', 'fields' => ['name' => 'lent out']]);
        self::assertSame('lent out', $news->json('changed.elements.claim-loans.name'));
        $gone = $this->edit($document, ['kind' => 'drop', 'part' => 'claims', 'id' => 'loans']);
        self::assertArrayHasKey('claim-loans', $gone->json('changed.elements'));
        self::assertNull($gone->json('changed.elements.claim-loans'));
    }

    public function test_two_windows_change_one_row_and_neither_loses_anything(): void
    {
        $document = $this->document();
        $base = $document->refresh()->revision;
        $put = static fn (array $fields): array => [
            'kind' => 'put',
            'part' => 'transactions',
            'id' => 'interest-paid',
            'fields' => $fields,
        ];
        $entries = [['claim' => 'account', 'sign' => '-'], ['worth' => 'union', 'sign' => '+']];
        $this->edit($document, $put(['entries' => $entries]), $base, 'window-1')->assertOk();
        // Another field of the same row goes in beside it.
        $this->edit($document, $put(['formula' => '7']), $base, 'window-2')->assertOk();
        $row = $this->getJson("/api/models/$document->id")->json('model.transactions.interest-paid');
        self::assertSame([2, ['7']], [count($row['entries']), $row['formula']]);
        // The same field is asked about, with what the other made of it.
        $this->edit($document, $put(['entries' => []]), $base, 'window-2')
            ->assertStatus(409)
            ->assertSee('was changed in another window meanwhile');
        // A claim that one takes away is not brought back by an entry of the other.
        $base = $document->refresh()->revision;
        $this->edit($document, ['kind' => 'drop', 'part' => 'claims', 'id' => 'account'], $base, 'window-1')->assertOk();
        $late = $this->edit($document, $put(['entries' => $entries]), $base, 'window-2');
        self::assertContains($late->status(), [409, 422]);
        $books = $this->getJson("/api/models/$document->id/books")->assertOk();
        self::assertNotContains('account', array_column($books->json('claims'), 'id'));
    }
}
