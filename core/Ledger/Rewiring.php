<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Ledger;

use MerryOrbit\Core\Model\Claim;
use MerryOrbit\Core\Model\Transaction;

/**
 * A claim that goes from one holder to another: the rows that enter it, what becomes of each, and the books afterwards.
 *
 * What the former holder was worth by a row, the new one is. Where the former holder gave another account in exchange, an account between
 * the two takes its place: what one owes to the other becomes more or less. Where neither is there, it is a gift: one is worth less by
 * it and the other more. Going back gives the books that were there before.
 *
 * @phpstan-import-type Entry from Transaction
 */
final readonly class Rewiring
{
    /**
     * @param  array<string, list<Entry>>  $rows  new entries, by row
     * @param  list<array{row: string, sentence: string}>  $account  what becomes of each row that enters it
     */
    private function __construct(public Claim $claim, public array $rows, public array $account)
    {
    }

    /** @param  string  $holder  id of a party, other than who owes it */
    public static function of(Books $books, string $claim, string $holder): self
    {
        $moved = $books->claims[$claim]->changed(['holder' => $holder]);
        $from = $books->claims[$claim]->holder;
        $after = $books->having($moved);
        $rows = $account = [];
        foreach ($books->rows as $row) {
            if (! in_array($claim, array_column($row->entries, 'claim'), true)) {
                continue;
            }
            [$entries, $sentence] = self::row($after, $row, $from, $holder);
            $entries = Transaction::ordered($entries);
            if ($entries !== Transaction::ordered($row->entries)) {
                $rows[$row->id] = $entries;
            }
            $account[] = ['row' => $row->id, 'sentence' => $sentence];
        }

        return new self($moved, $rows, $account);
    }

    /** @return array{list<Entry>, string} */
    private static function row(Books $after, Transaction $row, string $from, string $to): array
    {
        [$one, $other] = [$after->parties[$from]->name ?? 'nobody', $after->parties[$to]->name ?? 'nobody'];
        [$lost, $got] = [$from === '' ? 0 : $after->gap($row, $from), $to === '' ? 0 : $after->gap($row, $to)];
        if ($lost === 0 && $got === 0) {
            return [$row->entries, "`$row->name` balances as it is."];
        }
        // What the former holder was worth by it, the new one is.
        foreach ($row->entries as $i => $entry) {
            $rest = $row->entries;
            array_splice($rest, $i, 1);
            $entries = $entry['worth'] === $from && $from !== '' && $to !== '' ? self::worth($rest, $to, $entry['sign']) : null;
            if ($entries !== null && self::isMended($after, $row, $entries, $from, $to)) {
                return [$entries, "`$row->name` changes the net worth of $other, no more that of $one."];
            }
        }
        // An account between the two that stood in for it is not needed any more, or is needed now.
        $between = array_filter(
            $after->claims,
            static fn (Claim $c): bool => [$c->debtor, $c->holder] === [$from, $to] || [$c->debtor, $c->holder] === [$to, $from],
        );
        foreach ($row->entries as $i => $entry) {
            $entries = $row->entries;
            array_splice($entries, $i, 1);
            if (isset($between[$entry['claim']]) && self::isMended($after, $row, $entries, $from, $to)) {
                return [$entries, "`$row->name` needs {$after->called($entry)} no more."];
            }
        }
        foreach ($between as $claim) {
            foreach ([1, -1] as $sign) {
                $entry = ['claim' => $claim->id, 'worth' => '', 'sign' => $sign];
                $entries = [...$row->entries, $entry];
                $isThere = in_array($claim->id, array_column($row->entries, 'claim'), true);
                if (! $isThere && self::isMended($after, $row, $entries, $from, $to)) {
                    return [$entries, "`$row->name` goes by $claim->name, which becomes ".($sign === 1 ? 'more.' : 'less.')];
                }
            }
        }

        // Else it is a gift from the one to the other.
        $entries = $lost === -$got && abs($got) === 1 ? self::worth($row->entries, $from, $lost > 0 ? 1 : -1) : null;
        $entries = $entries === null ? null : self::worth($entries, $to, $got > 0 ? 1 : -1);
        if ($entries !== null && self::isMended($after, $row, $entries, $from, $to)) {
            [$loser, $winner] = $got > 0 ? [$one, $other] : [$other, $one];

            return [$entries, "`$row->name` takes from what $loser is worth, and adds to what $winner is."];
        }

        return [$row->entries, "`$row->name` does not balance any more, for $one or $other: it is left out of the run until it does."];
    }

    /**
     * With an entry in what a party is worth. The opposite one and it are none.
     *
     * @param  list<Entry>  $entries
     * @param  1|-1  $sign
     * @return ?list<Entry> null where it is entered the same way already
     */
    private static function worth(array $entries, string $party, int $sign): ?array
    {
        foreach ($entries as $i => $entry) {
            if ($entry['worth'] === $party) {
                array_splice($entries, $i, 1);

                return $entry['sign'] === $sign ? null : $entries;
            }
        }

        return [...$entries, ['claim' => '', 'worth' => $party, 'sign' => $sign]];
    }

    /** @param  list<Entry>  $entries */
    private static function isMended(Books $after, Transaction $row, array $entries, string $from, string $to): bool
    {
        $tried = $row->changed(['entries' => $entries]);

        return ($from === '' || $after->gap($tried, $from) === 0) && ($to === '' || $after->gap($tried, $to) === 0);
    }
}
