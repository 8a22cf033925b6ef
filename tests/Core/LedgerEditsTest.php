<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\AddEcho;
use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Edit\Connect;
use MerryOrbit\Core\Edit\DeleteElements;
use MerryOrbit\Core\Edit\DropPart;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\Patch;
use MerryOrbit\Core\Edit\PutPlot;
use MerryOrbit\Core\Edit\SetFormula;
use MerryOrbit\Core\Edit\SetTrack;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Ledger\Books;
use MerryOrbit\Core\Model\Appearance;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\Placement;
use MerryOrbit\Core\Model\Plot;
use MerryOrbit\Core\Model\Point;
use MerryOrbit\Core\Simulate\RunOptions;
use PHPUnit\Framework\TestCase;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/** A thousand edits of ledgers at random: each leaves books that can be read and run, or is refused with a sentence, and can be undone. */
final class LedgerEditsTest extends TestCase
{
    public function test_a_thousand_edits_leave_a_sound_ledger_or_sentences(): void
    {
        $random = new Randomizer(new Xoshiro256StarStar(hash('sha256', 'edits of ledgers', true)));
        $model = LedgerTest::lender();
        $refused = $done = 0;
        for ($i = 0; $i < 1_000; $i++) {
            try {
                $next = self::edited($model, $random);
            } catch (EditRefused $e) {
                self::assertGreaterThan(20, strlen($e->getMessage()));
                $refused++;

                continue;
            }
            $done++;
            // As undo takes it back: a patch that was stored.
            /** @var array<string, mixed> $stored */
            $stored = json_decode((string) json_encode(Patch::between($next, $model)->record), true);
            $back = Patch::fromRecord($stored);
            self::assertSame(NativeFile::export($model), NativeFile::export($back->apply($next)), "edit $i");
            $model = $next;
            foreach (Books::of($model)->findings() as $finding) {
                self::assertStringEndsWith('.', $finding['sentence']);
            }
            if ($i % 40 === 0) {
                $analysis = Analyser::analyse($model);
                foreach ($analysis->problems as $problem) {
                    self::assertNotSame('', $problem->sentence);
                }
                if ($analysis->blockers() === []) {
                    self::assertGreaterThan(0, Build::simulator()->run($analysis, new RunOptions())->length());
                }
                // What is written is read again as it was.
                $again = NativeFile::import(NativeFile::export($model))->model;
                self::assertSame(NativeFile::export($model), NativeFile::export($again));
            }
        }
        self::assertGreaterThan(300, $done);
        self::assertGreaterThan(50, $refused);
    }

    private static function edited(Model $model, Randomizer $random): Model
    {
        $some = static fn (string $part): string => (string) ([...array_keys($model->part($part)), 'new'][
            $random->getInt(0, count($model->part($part)))
        ] ?? '');
        $id = static fn (string $part): string => $some($part) === 'new' ? 'n'.$random->getInt(0, 9_999) : $some($part);
        $formulas = [
            '1',
            'loan rate * "loans to fishers"',
            '"net worth of union" / 4',
            'wages / 2',
            '"no such thing"',
            '1 +',
            'fishers account',
        ];
        $entry = static fn (): array => [
            ...$random->getInt(0, 2) > 0 ? ['claim' => $some('claims')] : ['worth' => $some('parties')],
            'sign' => $random->getInt(0, 1) === 1 ? '+' : '-',
        ];

        return match ($random->getInt(0, 9)) {
            0 => LedgerTest::put($model, 'parties', $id('parties'), ['name' => 'party '.$random->getInt(0, 12)]),
            1, 2 => LedgerTest::put($model, 'claims', $id('claims'), [
                'name' => 'claim '.$random->getInt(0, 20),
                'debtor' => $some('parties'),
                'holder' => $some('parties'),
                'initial' => $formulas[$random->getInt(0, 6)],
                'limited' => $random->getInt(0, 3) === 0 ? true : null,
            ]),
            3 => LedgerTest::put($model, 'claims', $some('claims'), ['holder' => $random->getInt(0, 1) === 1 ? $some('parties') : null]),
            4, 5, 6 => LedgerTest::put($model, 'transactions', $id('transactions'), [
                'name' => 'row '.$random->getInt(0, 20),
                'formula' => $formulas[$random->getInt(0, 6)],
                'entries' => array_map(static fn (): array => $entry(), range(0, $random->getInt(0, 3))),
            ]),
            7 => (new DropPart(Parts::find('parties') ?? self::fail(), $some('parties')))->apply($model),
            8 => (new DropPart(Parts::find('claims') ?? self::fail(), $some('claims')))->apply($model),
            default => (new DropPart(Parts::find('transactions') ?? self::fail(), $some('transactions')))->apply($model),
        };
    }

    public function test_claims_rows_and_net_worths_are_plotted_echoed_and_linked_like_elements(): void
    {
        $model = LedgerTest::lender();
        $claim = 'claim-'.array_key_first($model->part('claims'));
        $row = 'row-'.array_key_first($model->part('transactions'));
        $worth = 'worth-'.array_key_first($model->part('parties'));
        $sheet = $model->sheets[0]->id;
        $edits = [
            new AddElement('hope', Kind::Auxiliary, 'hope', placement: new Placement(new Point(0.0, 0.0), sheet: $sheet)),
            new SetTrack($claim, true),
            new SetTrack($worth, true),
            new PutPlot(new Plot('both', [$claim, $row], 'phase', 'Both'), false),
            new AddEcho('e1', $worth, new Point(10.0, 20.0), $sheet),
            new Connect($claim, 'hope'),
        ];
        foreach ($edits as $edit) {
            $next = $edit->apply($model);
            self::assertSame(NativeFile::export($model), NativeFile::export(Patch::between($next, $model)->apply($next)));
            self::assertStringNotContainsString('``', $edit->words($model));
            $model = $next;
        }
        $own = static fn (string $id): int => count(array_filter($model->echoes, static fn (Appearance $e): bool => $e->element === $id));
        self::assertSame([1, 0, 1], [$own($claim), $own($row), $own($worth)], 'a linked claim has an echo beside what it is to feed');
        // A formula that uses it needs the link no more.
        $used = (new SetFormula('hope', (string) $model->nameOf($claim)))->apply($model);
        self::assertSame([], $used->links);

        $again = NativeFile::import(NativeFile::export($used))->model;
        self::assertSame(NativeFile::export($used), NativeFile::export($again));
        self::assertSame([[$claim], [$worth]], array_map(static fn (Plot $p): array => $p->of, $again->tracks));
        self::assertSame([$claim, $row], $again->plots['both']->of);

        $part = Parts::all()['claims'];
        $left = (new DropPart($part, substr($claim, 6)))->apply($used);
        self::assertSame([[$worth]], array_map(static fn (Plot $p): array => $p->of, $left->tracks));
        self::assertSame([$row], $left->plots['both']->of);
        self::assertCount(1, $left->echoes);
        self::assertSame(NativeFile::export($used), NativeFile::export(Patch::between($left, $used)->apply($left)));

        $this->expectExceptionMessage('stands in the ledgers: take it out there.');
        (new DeleteElements([$worth]))->apply($used);
    }
}
