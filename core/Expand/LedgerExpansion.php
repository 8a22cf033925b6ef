<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Expand;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Reference;
use MerryOrbit\Core\Ledger\Books;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Claim;
use MerryOrbit\Core\Model\Dimensions;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Party;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Model\Transaction;

/**
 * Ledgers as stocks and flows: a claim is a stock, a row is a flow with its amount into (or out of) the first claim that it enters, and
 * one more into each other, all of the same amount, so that books balance to rounding under every method. What does not balance yet is
 * computed, but enters nothing. What a party is worth is a variable.
 *
 * Where a party is several, a row has an amount for each, and what enters a claim of fewer dimensions is gathered. A claim in another
 * currency counts in its own; amounts are in that of the books and divided by its rate, and what its value moves beyond them is its
 * revaluation.
 *
 * A claim that does not fall below 0 cuts the rows that lower it as wholes: each by the part that is there for all of them in a step.
 *
 * @phpstan-import-type Entry from Transaction
 *
 * @phpstan-type Pieces list<string|Reference>
 */
final class LedgerExpansion
{
    private function __construct(
        private readonly Books $books,
        private readonly string $perTime,
        private readonly Dimensions $dimensions,
    ) {
    }

    public static function expand(Expanded $expanded): Expanded
    {
        $books = Books::of($expanded->model);

        return $books->isEmpty()
            ? $expanded
            : (new self($books, $expanded->model->time->unit, $expanded->model->dimensions()))->all($expanded);
    }

    private function all(Expanded $expanded): Expanded
    {
        foreach ($this->books->claims as $claim) {
            $made = $this->claim($claim);
            $shapes = array_fill_keys(array_map(static fn (Element $e): string => $e->id, $made), $claim->over);
            $expanded = $expanded->with(new Origin('claims', $claim->id, "the claim “{$claim->name}”"), $made, $shapes);
        }
        foreach ($this->books->rows as $row) {
            $over = $this->books->over($row);
            $shapes = [Transaction::flow($row->id) => $over, "wanted-$row->id" => $over];
            $expanded = $expanded->with(new Origin('transactions', $row->id, "the row “{$row->name}”"), $this->row($row), $shapes);
        }
        foreach ($this->books->parties as $party) {
            $shapes = [Party::worth($party->id) => $this->books->along($party->id)];
            $expanded = $expanded->with(
                new Origin('parties', $party->id, "the ledger of {$party->name}"),
                [$this->worth($party)],
                $shapes,
            );
        }

        return $expanded;
    }

    private static function ref(string $name, string $id): Reference
    {
        return new Reference(Name::quoted($name), $id);
    }

    /** @return Pieces */
    private static function balance(Claim $claim): array
    {
        return [self::ref($claim->isForeign() ? "value of $claim->name" : $claim->name, $claim->balance())];
    }

    /**
     * What extends over some dimensions, gathered to fewer.
     *
     * @param  Pieces  $pieces
     * @param  list<string>  $over
     * @param  list<string>  $left
     * @return Pieces
     */
    private function gathered(array $pieces, array $over, array $left): array
    {
        $away = array_diff($over, $left);

        return $away === []
            ? $pieces
            : [
                'sum(',
                ...$pieces,
                ...array_map(fn (string $d): string => ', '.Name::written($this->dimensions->nameOf($d)), $away),
                ')',
            ];
    }

    /** @return list<Element> */
    private function claim(Claim $claim): array
    {
        $initial = $claim->initial->isEmpty() ? new FormulaText(['0']) : $claim->initial;
        $made = [new Stock(Claim::stock($claim->id), $claim->name, $initial, $claim->unit, $claim->note)];
        if ($claim->isForeign()) {
            $unit = $this->unitOfBooks();
            [$stock, $value] = [self::ref($claim->name, Claim::stock($claim->id)), self::balance($claim)];
            $booked = self::ref("booked of $claim->name", "booked-$claim->id");
            array_push(
                $made,
                new Auxiliary(
                    Claim::value($claim->id),
                    "value of $claim->name",
                    new FormulaText([$stock, ' * (', ...$claim->rate->pieces, ')']),
                    $unit,
                ),
                new Stock(
                    "booked-$claim->id",
                    "booked of $claim->name",
                    new FormulaText(['(', ...$initial->pieces, ') * (', ...$claim->rate->pieces, ')']),
                    $unit,
                ),
                new Flow(
                    "booking-$claim->id",
                    "booking of $claim->name",
                    new FormulaText($this->bookings($claim)),
                    $this->perTime($unit),
                    to: "booked-$claim->id",
                ),
                new Auxiliary(
                    Claim::revalued($claim->id),
                    "revaluation of $claim->name",
                    new FormulaText([...$value, ' - ', $booked]),
                    $unit,
                ),
            );
        }

        return $this->isCut($claim) ? [...$made, $this->share($claim)] : $made;
    }

    /** @return Pieces what all rows bring to a claim, in the currency of the books */
    private function bookings(Claim $claim): array
    {
        $pieces = [];
        foreach ($this->books->rows as $row) {
            foreach ($this->books->isSound($row) ? $row->entries : [] as $entry) {
                if ($entry['claim'] === $claim->id) {
                    $pieces[] = $entry['sign'] === 1 ? ' + ' : ' - ';
                    $amount = [self::ref($row->name, Transaction::flow($row->id))];
                    array_push($pieces, ...$this->gathered($amount, $this->books->over($row), $claim->over));
                }
            }
        }

        return ['0', ...$pieces];
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
            $its = ['max(0, ', self::ref("$row->name, wanted", "wanted-$row->id"), ')'];
            array_push($wanted, ...$wanted === [] ? [] : [' + '], ...$this->gathered($its, $this->books->over($row), $claim->over));
        }
        $there = self::balance($claim);

        return new Auxiliary(
            "left-$claim->id",
            "what is there of $claim->name",
            new FormulaText([
                'if((',
                ...$wanted,
                ') * time step > ',
                ...$there,
                ', max(0, ',
                ...$there,
                ') / time step / (',
                ...$wanted,
                '), 1)',
            ]),
            '1',
        );
    }

    /** @return list<Element> */
    private function row(Transaction $row): array
    {
        $entries = array_values(array_filter($row->entries, fn (array $e): bool => isset($this->books->claims[$e['claim']])));
        $isSound = $this->books->isSound($row);
        $over = $this->books->over($row);
        $unit = $this->perTime($this->unit($entries));
        [$made, $amount] = $this->amount($row, $isSound ? $entries : [], $unit);
        $first = $isSound ? $this->books->claims[$entries[0]['claim']] : null;
        $isItself = $first !== null && ! $first->isForeign() && array_diff($over, $first->over) === [];
        if (! $isItself) {
            $made[] =
                $first === null
                    ? new Flow(Transaction::flow($row->id), $row->name, $amount, $unit, $row->note)
                    : new Auxiliary(Transaction::flow($row->id), $row->name, $amount, $unit, $row->note);
        }
        foreach ($isSound ? $entries : [] as $i => $entry) {
            $claim = $this->books->claims[$entry['claim']];
            $isRow = $i === 0 && $isItself;
            $pieces = $this->gathered([self::ref($row->name, Transaction::flow($row->id))], $over, $claim->over);
            $made[] = new Flow(
                $isRow ? Transaction::flow($row->id) : Transaction::flow($row->id)."-$i",
                $isRow ? $row->name : "$row->name, $claim->name",
                $isRow ? $amount : new FormulaText($claim->isForeign() ? [...$pieces, ' / (', ...$claim->rate->pieces, ')'] : $pieces),
                $claim->isForeign() ? $this->perTime($claim->unit) : $unit,
                $isRow ? $row->note : '',
                from: $entry['sign'] === -1 ? Claim::stock($claim->id) : null,
                to: $entry['sign'] === 1 ? Claim::stock($claim->id) : null,
            );
        }

        return $made;
    }

    /**
     * What a row comes to, after limits.
     *
     * @param  list<Entry>  $entries  of claims, none of a row that stays out
     * @return array{list<Element>, FormulaText} what that needs, and the amount
     */
    private function amount(Transaction $row, array $entries, string $unit): array
    {
        $amount = $row->formula;
        if ($amount->isEmpty()) {
            return [[], $amount];
        }
        if ($row->oneWay) {
            $amount = new FormulaText(['max(0, ', ...$amount->pieces, ')']);
        }
        $lowered = array_map(
            fn (array $e): Claim => $this->books->claims[$e['claim']],
            array_filter($entries, static fn (array $e): bool => $e['sign'] === -1),
        );
        $shares = [];
        foreach (array_filter($lowered, $this->isCut(...)) as $claim) {
            array_push($shares, ', ', self::ref("what is there of $claim->name", "left-$claim->id"));
        }
        if ($shares === []) {
            return [[], $amount];
        }
        $wanted = self::ref("$row->name, wanted", "wanted-$row->id");

        // What is turned round raises the claim, and is not cut.
        return [
            [new Auxiliary("wanted-$row->id", "$row->name, wanted", $amount, $unit)],
            new FormulaText(['if(', $wanted, ' > 0, ', $wanted, ' * min(1', ...$shares, '), ', $wanted, ')']),
        ];
    }

    /** @param  list<Entry>  $entries */
    private function unit(array $entries): string
    {
        $own = array_filter(
            array_map(fn (array $e): Claim => $this->books->claims[$e['claim']], $entries),
            static fn (Claim $c): bool => ! $c->isForeign(),
        );

        return $own === [] ? ($entries === [] ? '' : $this->unitOfBooks()) : array_values($own)[0]->unit;
    }

    /** The currency of the books: that of the first claim that has no rate. */
    private function unitOfBooks(): string
    {
        foreach ($this->books->claims as $claim) {
            if (! $claim->isForeign() && $claim->unit !== '') {
                return $claim->unit;
            }
        }

        return '';
    }

    private function perTime(string $unit): string
    {
        return $unit === '' || $this->perTime === '' ? $unit : "$unit/$this->perTime";
    }

    private function worth(Party $party): Auxiliary
    {
        $along = $this->books->along($party->id);
        $pieces = $units = [];
        foreach ([' + ' => $this->books->owned($party->id), ' - ' => $this->books->owed($party->id)] as $sign => $claims) {
            foreach ($claims as $claim) {
                array_push(
                    $pieces,
                    ...$pieces === [] && $sign === ' + ' ? [] : [$sign],
                    ...$this->gathered(self::balance($claim), $claim->over, $along),
                );
                $units[] = $claim->isForeign() ? $this->unitOfBooks() : $claim->unit;
            }
        }

        return new Auxiliary(
            Party::worth($party->id),
            "net worth of $party->name",
            new FormulaText($pieces === [] ? ['0'] : $pieces),
            count(array_unique($units)) === 1 ? $units[0] : '',
        );
    }
}
