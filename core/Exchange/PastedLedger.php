<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\PutPart;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Ledger\Books;
use MerryOrbit\Core\Model\Claim;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Part;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\Party;
use MerryOrbit\Core\Model\Transaction;
use MerryOrbit\Core\Problem\Shown;

/**
 * What a table becomes in the books of a study: a party, its claims and rows. Accounts that somebody else's ledger has already, open on
 * this side, are the same claim seen from here; rows of the same name get the entries that they lack. Nothing is changed here.
 *
 * @phpstan-type Put array{part: string, id: string, fields: array<string, mixed>}
 * @phpstan-type Made array{party: string, isNew: bool, accounts: list<array{name: string, side: string, opening: string, known: bool}>,
 *     rows: list<array{name: string, formula: string, cells: list<string>, sentence: string}>, remarks: list<string>, edits: list<Put>}
 */
final class PastedLedger
{
    /** @var list<Put> */
    private array $puts = [];

    /** @var list<string> */
    private array $remarks = [];

    private int $number = 0;

    /** @param  array<string, Part>  $parts */
    private function __construct(
        private Model $model,
        private readonly LedgerTable $table,
        private readonly string $id,
        private readonly array $parts,
    ) {
    }

    /**
     * @param  string  $id  what new ids begin with
     * @param  string  $party  what it is called, where the table does not say it or it is to be called otherwise
     * @return Made
     */
    public static function of(Model $model, LedgerTable $table, string $id, string $party = ''): array
    {
        $made = new self($model, $table, $id, Parts::all());
        $name = trim($party) === '' ? $table->party : trim($party);

        return $made->made($name === '' ? $made->unused() : mb_substr($name, 0, 80));
    }

    /** A table that calls its party by no name goes into nobody else's ledger. */
    private function unused(): string
    {
        $names = array_map(static fn (mixed $p): string => $p instanceof Party ? Name::key($p->name) : '', $this->model->part('parties'));
        for ($i = 1, $name = 'party'; in_array(Name::key($name), $names, true); $name = 'party '.++$i);

        return $name;
    }

    /** @return Made */
    private function made(string $name): array
    {
        $party = null;
        foreach ($this->model->part('parties') as $one) {
            $party = $one instanceof Party && Name::key($one->name) === Name::key($name) ? $one->id : $party;
        }
        $isNew = $party === null;
        $party ??= "$this->id-p";
        if ($isNew) {
            $this->put('parties', $party, ['name' => $name, 'place' => $this->last('parties')]);
        }
        $this->remarks = $this->table->remarks;
        $ids = $accounts = [];
        foreach ($this->table->accounts as $i => $account) {
            $known = $this->called('claims', $account['name']);
            $ids[$i] = $account['side'] === 'worth' ? $party : $this->claim($account, $party, $known);
            $accounts[] = [
                'name' => $account['name'],
                'side' => $account['side'],
                'opening' => $account['opening'],
                'known' => $known instanceof Claim,
            ];
        }
        $rows = [];
        foreach ($this->table->rows as $row) {
            $rows[] = $this->row($row, $ids, $party);
        }
        if (array_filter($this->table->accounts, static fn (array $a): bool => $a['side'] === '') !== []) {
            $this->remarks[] = 'Say of each account whether it is owned or owed: the table does not tell.';
        }
        $this->compareWorth();

        return [
            'party' => $name,
            'isNew' => $isNew,
            'accounts' => $accounts,
            'rows' => $rows,
            'remarks' => array_values(array_unique($this->remarks)),
            'edits' => $this->puts,
        ];
    }

    private function called(string $part, string $name): Claim|Transaction|null
    {
        foreach ($this->model->part($part) as $one) {
            if (($one instanceof Claim || $one instanceof Transaction) && Name::key($one->name) === Name::key($name)) {
                return $one;
            }
        }

        return null;
    }

    /** @param  array{name: string, side: string, column: int, opening: string}  $account */
    private function claim(array $account, string $party, Claim|Transaction|null $known): string
    {
        $side = $account['side'] === 'owes' ? 'debtor' : 'holder';
        $start = $account['opening'] === '' ? [] : ['initial' => $account['opening']];
        if (! ($known instanceof Claim)) {
            $id = "$this->id-c".++$this->number;

            return $this->put('claims', $id, [
                'name' => $account['name'],
                $side => $party,
                ...$start,
                'unit' => $this->unit(),
                'place' => $this->last('claims'),
            ])
                ? $id
                : '';
        }
        $now = $side === 'holder' ? $known->holder : $known->debtor;
        if ($now !== '' && $now !== $party) {
            $who = $this->model->part('parties')[$now] ?? null;
            $this->remarks[] =
                "`$known->name` is ".
                ($side === 'holder' ? 'held' : 'owed').
                ' by '.
                ($who instanceof Party ? $who->name : 'another').
                ' already, so it stays there. Give the account of this table another name, or the claim another holder.';

            return '';
        }
        $isOther =
            $start !== [] && ! $known->initial->isEmpty() && $known->initial->text($this->model->nameOf(...)) !== $account['opening'];
        if ($isOther) {
            $this->remarks[] =
                "`$known->name` starts at {$known->initial->text($this->model->nameOf(...))} in the books ".
                "and at {$account['opening']} in the table. The books stay as they are.";
        }
        $fields = [...$now === $party ? [] : [$side => $party], ...$isOther || ! $known->initial->isEmpty() ? [] : $start];

        return $fields === [] || $this->put('claims', $known->id, $fields) ? $known->id : '';
    }

    /**
     * @param  array{name: string, formula: string, cells: array<int, array{sign: 1|-1, amount: string}>, odd: string}  $row
     * @param  array<int, string>  $ids  of claims and the party, by account
     * @return array{name: string, formula: string, cells: list<string>, sentence: string}
     */
    private function row(array $row, array $ids, string $party): array
    {
        $known = $this->called('transactions', $row['name']);
        $known = $known instanceof Transaction ? $known : null;
        $entries = Transaction::recorded($known->entries ?? []);
        $has = array_map(static fn (array $e): string => ($e['claim'] ?? '').' '.($e['worth'] ?? ''), $entries);
        $cells = [];
        foreach ($this->table->accounts as $i => $account) {
            $cell = $row['cells'][$i] ?? null;
            $cells[] = $cell === null ? '' : ($cell['sign'] > 0 ? '+' : '−');
            if ($cell === null || $ids[$i] === '') {
                continue;
            }
            $what = $account['side'] === 'worth' ? ['worth' => $ids[$i]] : ['claim' => $ids[$i]];
            if (! in_array(($what['claim'] ?? '').' '.($what['worth'] ?? ''), $has, true)) {
                $entries[] = [...$what, 'sign' => $cell['sign'] > 0 ? '+' : '-'];
            }
        }
        $id = $known->id ?? "$this->id-r".++$this->number;
        $formula = $known !== null && ! $known->formula->isEmpty() ? [] : array_filter(['formula' => $row['formula']]);
        $isMade = $this->put('transactions', $id, [
            ...$known === null ? ['name' => $row['name'], 'place' => $this->last('transactions')] : [],
            ...$formula,
            'entries' => $entries,
        ]);
        $books = Books::of($this->model);
        $now = $books->rows[$id] ?? null;
        $gap = $now === null ? 0 : $books->gap($now, $party);
        $mend = $now === null ? null : $books->remedy($now, $party);

        return [
            'name' => $row['name'],
            'formula' => $row['formula'],
            'cells' => $cells,
            'sentence' => match (true) {
                ! $isMade => 'It is left out; see below.',
                $row['odd'] !== '' => $row['odd'],
                $gap !== 0 => 'It does not balance'.
                    (is_numeric($row['formula']) ? ', by '.Shown::brief(abs($gap * (float) $row['formula'])) : '').
                    '.'.
                    ($mend === null ? '' : " It would if {$mend['words']}."),
                $entries === [] => 'It enters nothing.',
                default => '',
            },
        ];
    }

    /** What the table says that the party is worth at the start, beside what it owns and owes. */
    private function compareWorth(): void
    {
        $said = null;
        $sum = 0.0;
        foreach ($this->table->accounts as $account) {
            if (! is_numeric($account['opening'])) {
                if ($account['opening'] !== '') {
                    return;
                }

                continue;
            }
            $value = (float) $account['opening'];
            $said = $account['side'] === 'worth' ? $value : $said;
            $sum += $account['side'] === 'worth' ? 0.0 : ($account['side'] === 'owes' ? -$value : $value);
        }
        if ($said !== null && abs($said - $sum) > 1e-9 * max(1.0, abs($sum))) {
            $this->remarks[] = "The table says that net worth is $said at the start; what is owned, less what is owed, is $sum.";
        }
    }

    private function unit(): string
    {
        foreach ($this->model->part('claims') as $claim) {
            if ($claim instanceof Claim && $claim->unit !== '') {
                return $claim->unit;
            }
        }

        return '';
    }

    private function last(string $part): float
    {
        $places = array_map(
            static fn (mixed $one): float => $one instanceof Party || $one instanceof Claim || $one instanceof Transaction
                ? $one->place
                : 0.0,
            $this->model->part($part),
        );

        return 1.0 + max([0.0, ...array_values($places)]);
    }

    /** @param  array<string, mixed>  $fields */
    private function put(string $part, string $id, array $fields): bool
    {
        try {
            $this->model = (new PutPart($this->parts[$part], $id, $fields))->apply($this->model);
        } catch (EditRefused $e) {
            $this->remarks[] = $e->getMessage();

            return false;
        }
        $this->puts[] = ['part' => $part, 'id' => $id, 'fields' => $fields];

        return true;
    }
}
