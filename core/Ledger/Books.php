<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Ledger;

use MerryOrbit\Core\Model\Claim;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Party;
use MerryOrbit\Core\Model\Transaction;

/**
 * The ledgers of a study: who owns and owes what, and whether every row balances for everybody whom it touches.
 *
 * What was entered of claims and parties that are gone does not count. For a party a row balances where what it owns changes as much as what it owes and what it is worth do together.
 *
 * @phpstan-import-type Entry from Transaction
 */
final readonly class Books
{
    /**
     * @param  array<string, Party>  $parties  by id, in their order
     * @param  array<string, Claim>  $claims
     * @param  array<string, Transaction>  $rows
     */
    private function __construct(public array $parties, public array $claims, public array $rows)
    {
    }

    public static function of(Model $model): self
    {
        $parties = self::sorted($model->part('parties'), Party::class);
        $known = static fn (string $party): string => isset($parties[$party]) ? $party : '';
        $claims = array_map(
            static fn (Claim $c): Claim => $c->changed([
                'holder' => $known($c->holder),
                'debtor' => $known($c->debtor),
                'over' => array_values(array_filter($c->over, static fn (string $d): bool => $model->dimensions()->find($d) !== null)),
            ]),
            self::sorted($model->part('claims'), Claim::class),
        );
        $rows = array_map(
            static fn (Transaction $r): Transaction => $r->changed([
                'entries' => array_values(
                    array_filter($r->entries, static fn (array $e): bool => isset($claims[$e['claim']]) || isset($parties[$e['worth']])),
                ),
            ]),
            self::sorted($model->part('transactions'), Transaction::class),
        );

        return new self($parties, $claims, $rows);
    }

    /**
     * @template T of Party|Claim|Transaction
     *
     * @param  array<array-key, mixed>  $part
     * @param  class-string<T>  $class
     * @return array<string, T>
     */
    private static function sorted(array $part, string $class): array
    {
        $all = [];
        foreach ($part as $id => $one) {
            if ($one instanceof $class) {
                $all[(string) $id] = $one;
            }
        }
        uasort($all, static fn (Party|Claim|Transaction $a, Party|Claim|Transaction $b): int => $a->place <=> $b->place);

        return $all;
    }

    /** The same with another claim in the place of the one with its id. */
    public function having(Claim $claim): self
    {
        return new self($this->parties, [...$this->claims, $claim->id => $claim], $this->rows);
    }

    /** The same once a claim has gone to another holder. */
    public function rewired(Rewiring $rewiring): self
    {
        $rows = [];
        foreach ($this->rows as $id => $row) {
            $rows[$id] = isset($rewiring->rows[$id]) ? $row->changed(['entries' => $rewiring->rows[$id]]) : $row;
        }

        return new self($this->parties, [...$this->claims, $rewiring->claim->id => $rewiring->claim], $rows);
    }

    public function isEmpty(): bool
    {
        return $this->parties === [] && $this->claims === [];
    }

    /** @return array<string, Claim> what a party owns */
    public function owned(string $party): array
    {
        return array_filter($this->claims, static fn (Claim $c): bool => $party !== '' && $c->holder === $party);
    }

    /** @return array<string, Claim> what it owes */
    public function owed(string $party): array
    {
        return array_filter($this->claims, static fn (Claim $c): bool => $party !== '' && $c->debtor === $party);
    }

    /** @return array<string, Claim> what nobody holds yet, though somebody owes it, and what nobody owes, though it is no real thing */
    public function open(): array
    {
        return array_filter($this->claims, static fn (Claim $c): bool => $c->holder === '' || ($c->debtor === '' && ! $c->real));
    }

    /**
     * How often the amount of an entry counts for a party: owned, less owed, less what it is worth.
     *
     * @param  Entry  $entry
     */
    private function counts(array $entry, string $party): int
    {
        $claim = $this->claims[$entry['claim']] ?? null;
        $isOwn = ($claim?->holder === $party ? 1 : 0) - ($claim?->debtor === $party ? 1 : 0) - ($entry['worth'] === $party ? 1 : 0);

        return $isOwn * $entry['sign'];
    }

    /** @return list<string> ids of the parties whose ledgers a row touches */
    public function touched(Transaction $row): array
    {
        $touched = [];
        foreach ($row->entries as $entry) {
            $claim = $this->claims[$entry['claim']] ?? null;
            array_push($touched, $claim->holder ?? '', $claim->debtor ?? '', $entry['worth']);
        }

        return array_values(array_filter(array_unique($touched), fn (string $p): bool => isset($this->parties[$p])));
    }

    /** By how many times its amount a row is out of balance for a party; 0 where it balances. */
    public function gap(Transaction $row, string $party): int
    {
        return array_sum(array_map(fn (array $e): int => $this->counts($e, $party), $row->entries));
    }

    /** @return array<string, int> by party, where a row does not balance */
    public function gaps(Transaction $row): array
    {
        $gaps = [];
        foreach ($this->touched($row) as $party) {
            $gaps[$party] = $this->gap($row, $party);
        }

        return array_filter($gaps);
    }

    /** @return list<string> ids of the dimensions over which a row has an amount each: those of all claims that it enters */
    public function over(Transaction $row): array
    {
        $over = array_map(fn (array $e): array => $this->claims[$e['claim']]->over ?? [], $row->entries);

        return array_values(array_unique(array_merge([], ...$over)));
    }

    /** @return list<string> ids of the dimensions along which a party is several: those that all of its claims have */
    public function along(string $party): array
    {
        $all = array_map(static fn (Claim $c): array => $c->over, array_values([...$this->owned($party), ...$this->owed($party)]));

        return $all === [] ? [] : array_values(array_intersect(...$all));
    }

    /** Whether a row takes part in the run: it enters a claim, and balances for everybody whom it touches. */
    public function isSound(Transaction $row): bool
    {
        return array_filter($row->entries, fn (array $e): bool => isset($this->claims[$e['claim']])) !== [] && $this->gaps($row) === [];
    }

    /**
     * The entry that would mend a row for a party, as one would make it first: in what the party is worth; where that is entered already
     * with the wrong sign, it turns.
     *
     * @return ?array{entries: list<Entry>, words: string} the entries that the row would have; null where it balances
     */
    public function remedy(Transaction $row, string $party): ?array
    {
        $gap = $this->gap($row, $party);
        $name = $this->parties[$party]->name ?? '';
        if ($gap === 0) {
            return null;
        }
        foreach ($row->entries as $i => $entry) {
            if ($this->counts($entry, $party) * 2 === $gap && $this->mendsNobodyElse($row, $i, $party)) {
                $entries = $row->entries;
                $entries[$i] = [...$entry, 'sign' => -$entry['sign']];

                return ['entries' => $entries, 'words' => "{$this->called($entry)} turns its sign"];
            }
        }
        $sign = $gap > 0 ? 1 : -1;
        if (abs($gap) !== 1) {
            return null;
        }
        foreach ($row->entries as $i => $entry) {
            if ($entry['worth'] === $party) {
                $entries = $row->entries;
                unset($entries[$i]);

                return ['entries' => array_values($entries), 'words' => "net worth of $name is not entered"];
            }
        }
        $added = ['claim' => '', 'worth' => $party, 'sign' => $sign];

        return ['entries' => [...$row->entries, $added], 'words' => "net worth of $name takes ".($sign > 0 ? '+' : '−')];
    }

    /** Whether turning an entry leaves all others as balanced as they are. */
    private function mendsNobodyElse(Transaction $row, int $at, string $party): bool
    {
        foreach ($this->touched($row) as $other) {
            if ($other !== $party && $this->counts($row->entries[$at], $other) !== 0 && $this->gap($row, $other) === 0) {
                return false;
            }
        }

        return true;
    }

    /** @param  Entry  $entry */
    public function called(array $entry): string
    {
        return $this->claims[$entry['claim']]->name ?? 'net worth of '.($this->parties[$entry['worth']]->name ?? 'somebody');
    }

    /**
     * What is not in order, with the row, claim or party that it is about.
     *
     * @return list<array{part: 'transactions'|'claims', id: string, party: string, sentence: string}>
     */
    public function findings(): array
    {
        $found = [];
        foreach ($this->rows as $row) {
            if (! array_filter($row->entries, fn (array $e): bool => isset($this->claims[$e['claim']]))) {
                $found[] = [
                    'part' => 'transactions',
                    'id' => $row->id,
                    'party' => '',
                    'sentence' => "`$row->name` enters no claim yet, so it is left out of the run. Say where it enters.",
                ];
            }
            foreach ($this->gaps($row) as $party => $gap) {
                $times = abs($gap) === 1 ? 'its amount' : abs($gap).' times its amount';
                $mend = $this->remedy($row, (string) $party);
                $found[] = [
                    'part' => 'transactions',
                    'id' => $row->id,
                    'party' => (string) $party,
                    'sentence' => "`$row->name` does not balance for {$this->parties[$party]->name}, by $times, and is left out of the run until it does.".
                        ($mend === null ? '' : " It would if {$mend['words']}."),
                ];
            }
        }
        foreach ($this->open() as $claim) {
            $found[] = [
                'part' => 'claims',
                'id' => $claim->id,
                'party' => $claim->holder.$claim->debtor,
                'sentence' => $claim->holder === ''
                        ? "`$claim->name` has no holder yet. Say who holds it".
                            ($claim->real ? '.' : ', and it stands in that ledger too.')
                        : "`$claim->name` has nobody who owes it yet. Say who does, or that it is a real thing.",
            ];
        }

        return $found;
    }

    public function isBalanced(): bool
    {
        return $this->findings() === [];
    }

    /**
     * What each party owns, owes and is worth, by values of claims.
     *
     * @param  callable(string): float  $value  of a claim, by its id
     * @return list<array{name: string, owns: array<string, float>, owes: array<string, float>, net_worth: float}>
     */
    public function sheets(callable $value): array
    {
        $sheets = [];
        foreach ($this->parties as $id => $party) {
            [$owns, $owes] = [[], []];
            foreach ($this->owned($id) as $claim) {
                $owns[$claim->name] = $value($claim->id);
            }
            foreach ($this->owed($id) as $claim) {
                $owes[$claim->name] = $value($claim->id);
            }
            $sheets[] = ['name' => $party->name, 'owns' => $owns, 'owes' => $owes, 'net_worth' => array_sum($owns) - array_sum($owes)];
        }

        return $sheets;
    }
}
