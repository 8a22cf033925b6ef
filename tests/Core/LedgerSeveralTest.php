<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Ledger\Books;
use MerryOrbit\Core\Model\Claim;
use MerryOrbit\Core\Model\Dimension;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Party;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Model\Transaction;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\Trajectory;
use PHPUnit\Framework\TestCase;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/** Parties that are several, along dimensions, and claims in other currencies: books balance as before. */
final class LedgerSeveralTest extends TestCase
{
    private static function dimensions(): Model
    {
        return Build::model(['pace' => '0.3'], time: new TimeSettings(0, 5, 0.125, 'year', Method::RungeKutta4))->with([
            'dimensions' => [
                new Dimension('region', 'region', ['n', 's', 'w'], ['north', 'south', 'west']),
                new Dimension('group', 'income group', ['poor', 'rich'], ['poor', 'rich']),
            ],
        ]);
    }

    /** @return list<float> what a thing comes to over all of its elements, by moment */
    private static function total(Analysis $analysis, Trajectory $run, string $id): array
    {
        $sum = array_fill(0, $run->length(), 0.0);
        foreach ($analysis->positions->of($id) as $key) {
            foreach ($sum as $i => $known) {
                $sum[$i] = $known + ($run->has($key) ? $run->column($key)[$i] : $run->steadyOf($key) ?? NAN);
            }
        }

        return $sum;
    }

    public function test_what_each_pays_adds_up_to_what_the_others_get(): void
    {
        $model = self::dimensions();
        foreach (['union', 'households', 'council'] as $party) {
            $model = LedgerTest::put($model, 'parties', $party, ['name' => $party]);
        }
        $over = ['over' => ['region', 'group']];
        $account = ['name' => 'accounts', 'debtor' => 'union', 'holder' => 'households', 'initial' => '10', ...$over];
        $model = LedgerTest::put($model, 'claims', 'account', $account);
        $model = LedgerTest::put($model, 'claims', 'cash', [
            'name' => 'cash',
            'debtor' => 'union',
            'holder' => 'council',
            'initial' => '5',
        ]);
        // Each group of each region pays a share of its own account.
        $model = LedgerTest::with($model, ['tax' => ['0.1 * accounts', '-account +cash -households +council']]);
        $books = Books::of($model);
        self::assertSame([['region', 'group'], [], []], [$books->along('households'), $books->along('council'), $books->along('union')]);
        $analysis = Analyser::analyse($model);
        self::assertSame([], $analysis->blockers());
        $run = Build::simulator()->run($analysis, new RunOptions());
        $last = $run->length() - 1;
        // Each by the closed form of its own decay; the council has got what is gone of the six.
        self::assertEqualsWithDelta(10 * exp(-0.5), $run->column('claim-account[n,rich]')[$last], 1e-6);
        self::assertEqualsWithDelta(5 + 60 * (1 - exp(-0.5)), $run->column('claim-cash')[$last], 1e-6);
        self::assertEqualsWithDelta(10 * exp(-0.5), $run->column('worth-households[s,poor]')[$last], 1e-6);
        self::assertEqualsWithDelta(-65.0, $run->column('worth-union')[$last], 1e-9);

        $again = NativeFile::import(NativeFile::export($model))->model;
        self::assertSame(NativeFile::export($model), NativeFile::export($again));
    }

    public function test_a_claim_in_another_currency_moves_in_value_by_rows_and_by_its_rate(): void
    {
        $model = Build::model(['pace' => '1'], time: new TimeSettings(0, 5, 0.125, 'year', Method::RungeKutta4));
        foreach (['us', 'them'] as $party) {
            $model = LedgerTest::put($model, 'parties', $party, ['name' => $party]);
        }
        $model = LedgerTest::put($model, 'claims', 'cash', [
            'name' => 'cash',
            'debtor' => 'them',
            'holder' => 'us',
            'initial' => '100',
            'unit' => 'crown',
        ]);
        $model = LedgerTest::put($model, 'claims', 'shells', [
            'name' => 'shells',
            'debtor' => 'them',
            'holder' => 'us',
            'initial' => '20',
            'unit' => 'shell',
            'rate' => '1 + 0.1 * time',
        ]);
        $model = LedgerTest::with($model, ['shells bought' => ['10', '+shells -cash']]);
        self::assertTrue(Books::of($model)->isBalanced());
        $run = Build::simulator()->run(Analyser::analyse($model), new RunOptions());
        $last = $run->length() - 1;
        $end = static fn (string $key): float => $run->column($key)[$last];
        // d shells = 10 / (1 + t/10): 100 ln 1.5 in five years.
        $shells = 20 + 100 * log(1.5);
        self::assertEqualsWithDelta($shells, $end('claim-shells'), 1e-6);
        self::assertEqualsWithDelta($shells * 1.5, $end('value-shells'), 1e-5);
        self::assertEqualsWithDelta($shells * 1.5 - 20 - 50, $end('revalued-shells'), 1e-5);
        self::assertEqualsWithDelta(50.0, $end('claim-cash'), 1e-9);
        self::assertEqualsWithDelta(50 + $shells * 1.5, $end('worth-us'), 1e-5);
        self::assertEqualsWithDelta(-$end('worth-us'), $end('worth-them'), 1e-9);
        $element = Analyser::analyse($model)->model->element('row-shells-bought-1');
        self::assertSame('shell/year', $element?->unit);

        $again = NativeFile::import(NativeFile::export($model))->model;
        self::assertSame(NativeFile::export($model), NativeFile::export($again));
    }

    public function test_books_of_several_parties_and_currencies_balance_at_every_moment(): void
    {
        $random = new Randomizer(new Xoshiro256StarStar(hash('sha256', 'several', true)));
        $shaped = $foreign = 0;
        for ($round = 0; $round < 40; $round++) {
            $model = self::dimensions();
            $parties = ['a', 'b', 'c'];
            foreach ($parties as $party) {
                $model = LedgerTest::put($model, 'parties', $party, ['name' => "party $party"]);
            }
            for ($i = 0; $i < 5; $i++) {
                [$debtor, $holder] = $random->shuffleArray([...$parties, null]);
                $over = array_slice($random->shuffleArray(['region', 'group']), 0, $random->getInt(0, 2));
                $rate = $random->getInt(0, 3) === 0 ? '1 + 0.2 * time' : null;
                $shaped += count($over);
                $foreign += $rate === null ? 0 : 1;
                $model = LedgerTest::put($model, 'claims', "c$i", [
                    'name' => "claim $i",
                    'debtor' => $debtor,
                    'holder' => $holder,
                    'real' => $debtor === null ? true : null,
                    'initial' => (string) $random->getInt(0, 100),
                    'limited' => $random->getInt(0, 4) === 0 ? true : null,
                    'over' => $over,
                    'rate' => $rate,
                ]);
            }
            for ($i = 0; $i < 6; $i++) {
                $entry = ['claim' => 'c'.$random->getInt(0, 4), 'worth' => '', 'sign' => $random->getInt(0, 1) === 1 ? 1 : -1];
                $row = new Transaction("r$i", "row $i", entries: [$entry]);
                $books = Books::of($model);
                while ($books->gaps($row) !== []) {
                    $row = $row->changed([
                        'entries' => $books->remedy($row, (string) array_key_first($books->gaps($row)))['entries'] ?? [],
                    ]);
                }
                $formula = ['pace', '2 + sin(time)', 'pace * time'][$random->getInt(0, 2)];
                $model = LedgerTest::put($model, 'transactions', "r$i", [...$row->toRecord(), 'formula' => $formula]);
            }
            $analysis = Analyser::analyse($model);
            self::assertSame([], $analysis->blockers());
            $run = Build::simulator()->run($analysis, new RunOptions());
            $books = Books::of($model);
            $values = array_map(static fn (Claim $c): array => self::total($analysis, $run, $c->balance()), $books->claims);
            $worths = array_map(static fn (Party $p): array => self::total($analysis, $run, Party::worth($p->id)), $books->parties);
            foreach ($run->times() as $i => $t) {
                $real = 0.0;
                foreach ($books->claims as $id => $claim) {
                    $real += ($claim->holder === '' ? 0.0 : $values[$id][$i]) - ($claim->debtor === '' ? 0.0 : $values[$id][$i]);
                }
                $size = 1.0 + array_sum(array_map(static fn (array $v): float => abs($v[$i]), $values));
                self::assertEqualsWithDelta(
                    $real,
                    array_sum(array_map(static fn (array $w): float => $w[$i], $worths)),
                    1e-9 * $size,
                    "at $t",
                );
            }
            // What a row does to one side it does to the other: without a rate, what claims have gained is what rows brought.
            foreach ($books->claims as $id => $claim) {
                if ($claim->isForeign()) {
                    $booked = self::total($analysis, $run, "booked-$id");
                    $moved = self::total($analysis, $run, Claim::revalued((string) $id));
                    self::assertEqualsWithDelta(end($values[$id]), end($booked) + end($moved), 1e-6);
                }
            }
        }
        self::assertGreaterThan(50, $shaped);
        self::assertGreaterThan(20, $foreign);
    }
}
