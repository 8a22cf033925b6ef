<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Expand;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Reference;
use MerryOrbit\Core\Ledger\Books;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Claim;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Party;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Model\Transaction;

/**
 * Ledgers as stocks and flows: a claim is a stock, a row is a flow with its amount into (or out of) the first claim that it enters, and
 * one more into each other, all of the same amount, so that books balance to rounding under every method. What does not balance yet is
 * computed, but enters nothing. What a party is worth is a variable.
 *
 * A claim that does not fall below 0 cuts the rows that lower it as wholes: each by the part that is there for all of them in a step.
 */
final class LedgerExpansion
{
    private function __construct(private readonly Books $books, private readonly string $perTime)
    {
    }

    public static function expand(Expanded $expanded): Expanded
    {
        $books = Books::of($expanded->model);

        return $books->isEmpty() ? $expanded : (new self($books, $expanded->model->time->unit))->all($expanded);
    }

    private function all(Expanded $expanded): Expanded
    {
        foreach ($this->books->claims as $claim) {
            $stock = new Stock(Claim::stock($claim->id), $claim->name, self::orZero($claim->initial), $claim->unit, $claim->note);
            $expanded = $expanded->with(new Origin('claims', $claim->id, "the claim “{$claim->name}”"), [
                $stock,
                ...$this->isCut($claim) ? [$this->share($claim)] : [],
            ]);
        }
        foreach ($this->books->rows as $row) {
            $expanded = $expanded->with(new Origin('transactions', $row->id, "the row “{$row->name}”"), $this->flows($row));
        }
        foreach ($this->books->parties as $party) {
            $expanded = $expanded->with(new Origin('parties', $party->id, "the ledger of {$party->name}"), [$this->worth($party)]);
        }

        return $expanded;
    }

    private static function orZero(FormulaText $formula): FormulaText
    {
        return $formula->isEmpty() ? new FormulaText(['0']) : $formula;
    }

    private static function ref(string $name, string $id): Reference
    {
        return new Reference(Name::quoted($name), $id);
    }

    /** @return list<Transaction> rows that take part and lower a claim */
    private function lowering(Claim $claim): array
    {
        $isLower = static fn (Transaction $r): bool => array_filter(
            $r->entries,
            static fn (array $e): bool => $e['claim'] === $claim->id && $e['sign'] === -1,
        ) !== [];

        return array_values(array_filter($this->books->rows, fn (Transaction $r): bool => $this->books->isSound($r) && $isLower($r)));
    }

    private function isCut(Claim $claim): bool
    {
        return $claim->limited && $this->lowering($claim) !== [];
    }

    /** What of all that would lower a claim is there in a step: 1 where that is enough. */
    private function share(Claim $claim): Auxiliary
    {
        $wanted = [];
        foreach ($this->lowering($claim) as $row) {
            array_push(
                $wanted,
                ...$wanted === [] ? [] : [' + '],
                ...['max(0, ', self::ref("$row->name, wanted", "wanted-$row->id"), ')'],
            );
        }
        $stock = self::ref($claim->name, Claim::stock($claim->id));

        return new Auxiliary(
            "left-$claim->id",
            "what is there of $claim->name",
            new FormulaText([
                'if((',
                ...$wanted,
                ') * time step > ',
                $stock,
                ', max(0, ',
                $stock,
                ') / time step / (',
                ...$wanted,
                '), 1)',
            ]),
            '1',
        );
    }

    /** @return list<Flow|Auxiliary> */
    private function flows(Transaction $row): array
    {
        $entries = array_values(array_filter($row->entries, fn (array $e): bool => isset($this->books->claims[$e['claim']])));
        $isSound = $this->books->isSound($row);
        $unit = $this->unit($entries[0]['claim'] ?? '');
        $amount = $row->formula;
        if ($row->oneWay && ! $amount->isEmpty()) {
            $amount = new FormulaText(['max(0, ', ...$amount->pieces, ')']);
        }
        $cut = $isSound
            ? array_values(
                array_filter(
                    array_map(
                        fn (array $e): Claim => $this->books->claims[$e['claim']],
                        array_filter($entries, static fn (array $e): bool => $e['sign'] === -1),
                    ),
                    $this->isCut(...),
                ),
            )
            : [];
        $made = [];
        if ($cut !== [] && ! $amount->isEmpty()) {
            $made[] = new Auxiliary("wanted-$row->id", "$row->name, wanted", $amount, $unit);
            $wanted = self::ref("$row->name, wanted", "wanted-$row->id");
            $shares = [];
            foreach ($cut as $claim) {
                array_push($shares, ', ', self::ref("what is there of $claim->name", "left-$claim->id"));
            }
            // What is turned round raises the claim, and is not cut.
            $amount = new FormulaText(['if(', $wanted, ' > 0, ', $wanted, ' * min(1', ...$shares, '), ', $wanted, ')']);
        }
        foreach ($isSound ? $entries : [null] as $i => $entry) {
            $stock = $entry === null ? null : Claim::stock($entry['claim']);
            $made[] = new Flow(
                $i === 0 ? Transaction::flow($row->id) : Transaction::flow($row->id)."-$i",
                $i === 0 || $entry === null ? $row->name : "$row->name, {$this->books->claims[$entry['claim']]->name}",
                $i === 0 ? $amount : new FormulaText([self::ref($row->name, Transaction::flow($row->id))]),
                $entry === null ? $unit : $this->unit($entry['claim']),
                $i === 0 ? $row->note : '',
                from: ($entry['sign'] ?? 0) === -1 ? $stock : null,
                to: ($entry['sign'] ?? 0) === 1 ? $stock : null,
            );
        }

        return $made;
    }

    private function unit(string $claim): string
    {
        $unit = $this->books->claims[$claim]->unit ?? '';

        return $unit === '' || $this->perTime === '' ? $unit : "$unit/$this->perTime";
    }

    private function worth(Party $party): Auxiliary
    {
        $pieces = [];
        foreach ($this->books->owned($party->id) as $claim) {
            array_push($pieces, ...$pieces === [] ? [] : [' + '], ...[self::ref($claim->name, Claim::stock($claim->id))]);
        }
        foreach ($this->books->owed($party->id) as $claim) {
            array_push($pieces, ' - ', self::ref($claim->name, Claim::stock($claim->id)));
        }
        $claims = [...$this->books->owned($party->id), ...$this->books->owed($party->id)];
        $units = array_unique(array_map(static fn (Claim $c): string => $c->unit, $claims));

        return new Auxiliary(
            Party::worth($party->id),
            "net worth of $party->name",
            new FormulaText($pieces === [] ? ['0'] : $pieces),
            count($units) === 1 ? current($units) : '',
        );
    }
}
