<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Data\CsvReader;
use MerryOrbit\Core\Data\Figures;
use MerryOrbit\Core\Data\Grid;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * A table out of a spreadsheet, read as the ledger of one party: accounts across, transactions down, each entry a sign, a signed number
 * or a signed formula; a row for what stands at the start, a column for formulas, and a line that says which accounts are owned and
 * which are owed, all where they are.
 *
 * @phpstan-type Side 'owns'|'owes'|'worth'|''
 * @phpstan-type Cell array{sign: 1|-1, amount: string}
 */
final readonly class LedgerTable
{
    public const MOST_ACCOUNTS = 200;

    private const SIDES = [
        'owns' => '/^(owns?|owned|assets?|holds)$/i',
        'owes' => '/^(owes?|owed|debts?|liabilit(y|ies))$/i',
        'worth' => '/^(is worth|(net )?worth|equity)$/i',
    ];

    private const OPENING = '/^(stood\b|stands at|(at the )?(start|beginning|opening)\b|opening|initial)/i';

    /** What follows from the rest, so that it is no transaction. */
    private const DERIVED = '/^(stands\b|changes\b|moved\b|closing\b|end(ing)?\b|at the end\b|total|sum\b|balance\b|rows at\b)/i';

    private const FORMULA = '/^(formula|how much|amount)$/i';

    /**
     * @param  string  $party  as the table calls it; empty where it does not
     * @param  list<array{name: string, side: Side, column: int, opening: string}>  $accounts
     * @param  list<array{name: string, formula: string, cells: array<int, Cell>, odd: string}>  $rows  cells by account
     * @param  list<string>  $remarks
     */
    private function __construct(public string $party, public array $accounts, public array $rows, public array $remarks)
    {
    }

    /**
     * @param  array<int, string>  $sides  by account, where somebody knows better
     *
     * @throws NotUnderstood|TableRefused
     */
    public static function read(string $text, array $sides = []): self
    {
        $grid = CsvReader::grid($text, 'pasted');
        $rows = array_values(
            array_filter(
                array_map(
                    static fn (int $r): array => array_map(
                        static fn (int $c): string => trim(Grid::text($grid->cell($r, $c))),
                        range(0, max(0, $grid->width - 1)),
                    ),
                    array_keys($grid->rows),
                ),
                static fn (array $row): bool => array_filter($row, static fn (string $c): bool => $c !== '') !== [],
            ),
        );
        $sideRow = self::isSides($rows[0] ?? []) ? array_shift($rows) : null;
        $heads = array_shift($rows) ?? [];
        if ($sideRow === null && self::isSides($rows[0] ?? [])) {
            $sideRow = array_shift($rows);
        }
        $formulas = self::formulaColumn($heads, $sideRow, $rows);
        $accounts = self::accounts($heads, $sideRow, $formulas, $sides);
        if ($accounts === [] || $rows === []) {
            throw NotUnderstood::because(
                'This is no table of a ledger: it needs a line with the names of accounts, and below it a line for each transaction, '.
                    'with its name first.',
            );
        }
        $party = '';
        foreach ([$sideRow[0] ?? '', $heads[0] ?? ''] as $name) {
            $party = $party === '' && preg_match('/^(row|rows|transactions?|name|account)?$/i', $name) !== 1 ? $name : $party;
        }

        return self::body($party, $accounts, $rows, $formulas, new Figures(self::decimal($rows)));
    }

    /** @param  array<int, string>  $row */
    private static function isSides(array $row): bool
    {
        $words = array_filter(array_slice($row, 1), static fn (string $c): bool => $c !== '');

        return count(array_filter($words, static fn (string $c): bool => self::side($c) !== '')) * 2 > count($words);
    }

    /** @return Side */
    private static function side(string $word): string
    {
        foreach (self::SIDES as $side => $pattern) {
            if (preg_match($pattern, $word) === 1) {
                return $side;
            }
        }

        return '';
    }

    /**
     * @param  array<int, string>  $heads
     * @param  array<int, string>|null  $sideRow
     * @param  list<array<int, string>>  $rows
     */
    private static function formulaColumn(array $heads, ?array $sideRow, array $rows): ?int
    {
        if (preg_match(self::FORMULA, $heads[1] ?? '') === 1) {
            return 1;
        }
        foreach ($rows as $row) {
            if (preg_match(self::FORMULA, $row[1] ?? '') === 1) {
                return 1;
            }
        }

        return ($heads[1] ?? '') === '' && self::side($sideRow[1] ?? '') === '' ? 1 : null;
    }

    /**
     * @param  array<int, string>  $heads
     * @param  array<int, string>|null  $sideRow
     * @param  array<int, string>  $wishes
     * @return list<array{name: string, side: Side, column: int, opening: string}>
     */
    private static function accounts(array $heads, ?array $sideRow, ?int $formulas, array $wishes): array
    {
        $accounts = [];
        $side = '';
        for ($c = 1, $n = count($heads); $c < $n; $c++) {
            // A head over several columns stands in the first of them.
            $side = self::side($sideRow[$c] ?? '') ?: $side;
            [$name, $own] = self::named($heads[$c]);
            $own = $own === '' && self::side($name) === 'worth' ? 'worth' : $own;
            $its = $own === '' ? $side : $own;
            if ($c === $formulas || ($name === '' && $its !== 'worth')) {
                continue;
            }
            $wish = $wishes[count($accounts)] ?? '';
            $its = in_array($wish, ['owns', 'owes', 'worth'], true) ? $wish : $its;
            $accounts[] = ['name' => $its === 'worth' ? 'net worth' : $name, 'side' => $its, 'column' => $c, 'opening' => ''];
        }
        if (count($accounts) > self::MOST_ACCOUNTS) {
            throw NotUnderstood::because('A ledger out of a table has at most '.self::MOST_ACCOUNTS.' accounts. Paste a part of it.');
        }

        return $accounts;
    }

    /** @return array{string, Side} of `owes: account of the fishers` the account and its side */
    private static function named(string $head): array
    {
        if (preg_match('/^([^:]+):\s*(.+)$/Ds', $head, $m) === 1 && self::side(trim($m[1])) !== '') {
            return [trim($m[2]), self::side(trim($m[1]))];
        }

        return [$head, ''];
    }

    /**
     * @param  list<array<int, string>>  $rows
     * @return '.'|','
     */
    private static function decimal(array $rows): string
    {
        $signs = array_count_values(
            array_filter(
                array_map(Figures::evidence(...), array_merge(...$rows)),
                static fn (string $s): bool => $s === '.' || $s === ',',
            ),
        );

        return ($signs[','] ?? 0) > ($signs['.'] ?? 0) ? ',' : '.';
    }

    /**
     * @param  list<array{name: string, side: Side, column: int, opening: string}>  $accounts
     * @param  list<array<int, string>>  $rows
     */
    private static function body(string $party, array $accounts, array $rows, ?int $formulas, Figures $figures): self
    {
        $read = $remarks = [];
        $hasOpening = false;
        foreach ($rows as $row) {
            $name = $row[0] ?? '';
            if (! $hasOpening && preg_match(self::OPENING, $name) === 1) {
                $hasOpening = true;
                foreach ($accounts as $i => $account) {
                    $accounts[$i]['opening'] = self::plain($row[$account['column']] ?? '', $figures);
                }

                continue;
            }
            if (preg_match(self::OPENING, $name) === 1 || preg_match(self::DERIVED, $name) === 1) {
                continue;
            }
            $cells = array_filter(
                array_map(static fn (array $a): ?array => self::cell($row[$a['column']] ?? '', $figures), $accounts),
                static fn (?array $c): bool => $c !== null,
            );
            if ($name === '') {
                $remarks[] = $cells === [] ? '' : 'A line without a name was left out: its transaction needs one, in the first column.';

                continue;
            }
            $formula = $formulas === null ? '' : self::plain($row[$formulas] ?? '', $figures);
            // What our own tables say of a row that stays out belongs to no name.
            $name = (string) preg_replace('/ \(left out of the run\)$/', '', $name);
            array_push($read, ...self::ofLine($name, $formula, $cells, $accounts));
        }

        return new self($party, $accounts, $read, array_values(array_unique(array_filter($remarks))));
    }

    /**
     * A row has one amount. Where a line has several, each becomes a row of its own, which does not balance until somebody mends it.
     *
     * @param  array<int, Cell>  $cells
     * @param  list<array{name: string, side: Side, column: int, opening: string}>  $accounts
     * @return list<array{name: string, formula: string, cells: array<int, Cell>, odd: string}>
     */
    private static function ofLine(string $name, string $formula, array $cells, array $accounts): array
    {
        $amounts = array_values(array_unique(array_filter(array_column($cells, 'amount'), static fn (string $a): bool => $a !== '')));
        if ($formula !== '' || count($amounts) < 2) {
            return [['name' => $name, 'formula' => $formula === '' ? $amounts[0] ?? '' : $formula, 'cells' => $cells, 'odd' => '']];
        }
        $rows = [];
        foreach ($amounts as $k => $amount) {
            $own = array_filter($cells, static fn (array $c): bool => $c['amount'] === $amount || ($k === 0 && $c['amount'] === ''));
            $rows[] = [
                'name' => $k === 0 ? $name : "$name, {$accounts[(int) array_key_first($own)]['name']}",
                'formula' => $amount,
                'cells' => $own,
                'odd' => "The line has $amounts[0] in one place and $amounts[1] in another. A row has one amount, so each has a row of its own.",
            ];
        }

        return $rows;
    }

    /** A number as formulas write it, or the text as it is. */
    private static function plain(string $text, Figures $figures): string
    {
        $number = $figures->read(str_replace('−', '-', $text));

        return $number === null ? $text : (string) json_encode($number['value']);
    }

    /** @return ?Cell */
    private static function cell(string $text, Figures $figures): ?array
    {
        $text = str_replace('−', '-', $text);
        $number = in_array($text, ['-', '+', ''], true) ? null : $figures->read($text);
        if ($number !== null) {
            $amount = (string) json_encode(abs($number['value']));

            return $number['value'] === 0.0 ? null : ['sign' => $number['value'] < 0 ? -1 : 1, 'amount' => $amount];
        }
        if ($text === '') {
            return null;
        }

        return ['sign' => str_starts_with($text, '-') ? -1 : 1, 'amount' => trim(ltrim($text, '+-'))];
    }
}
