<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Ledger;

use MerryOrbit\Core\Model\Claim;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Party;
use MerryOrbit\Core\Model\Transaction;

/** The books as records that can be sent: pages, with what each row enters and what would mend it. */
final class BooksView
{
    /**
     * @param  array<string, string>  $wrong  sentences by part and id
     * @return array<string, mixed>
     */
    public static function of(Model $model, Books $books, array $wrong): array
    {
        return [
            'pages' => array_values(array_map(static fn (Party $p): array => self::page($books, $p), $books->parties)),
            'claims' => array_values(
                array_map(
                    static fn (Claim $c): array => [
                        'id' => $c->id,
                        'name' => $c->name,
                        'debtor' => $c->debtor,
                        'holder' => $c->holder,
                        'real' => $c->real,
                        'unit' => $c->unit,
                        'initial' => $c->initial->text($model->nameOf(...)),
                        'limited' => $c->limited,
                        'rate' => $c->rate->text($model->nameOf(...)),
                        'over' => $c->over,
                        'balance' => $c->balance(),
                        'stock' => Claim::stock($c->id),
                        'revalued' => $c->isForeign() ? Claim::revalued($c->id) : '',
                        'trouble' => $wrong["claims $c->id"] ?? '',
                    ],
                    $books->claims,
                ),
            ),
            'rows' => array_values(
                array_map(
                    static fn (Transaction $r): array => [
                        'id' => $r->id,
                        'name' => $r->name,
                        'formula' => $r->formula->text($model->nameOf(...)),
                        'oneWay' => $r->oneWay,
                        'flow' => Transaction::flow($r->id),
                        'sound' => $books->isSound($r),
                        'entries' => Transaction::recorded($r->entries),
                        'trouble' => $wrong["transactions $r->id"] ?? '',
                    ],
                    $books->rows,
                ),
            ),
            'findings' => $books->findings(),
        ];
    }

    /** @return array<string, mixed> */
    private static function page(Books $books, Party $party): array
    {
        $rows = [];
        foreach ($books->rows as $row) {
            if (in_array($party->id, $books->touched($row), true)) {
                $mend = $books->remedy($row, $party->id);
                $rows[] = [
                    'row' => $row->id,
                    'gap' => $books->gap($row, $party->id),
                    'remedy' => $mend === null ? null : ['words' => $mend['words'], 'entries' => Transaction::recorded($mend['entries'])],
                ];
            }
        }

        return [
            'id' => $party->id,
            'name' => $party->name,
            'worth' => Party::worth($party->id),
            'owns' => array_map(strval(...), array_keys($books->owned($party->id))),
            'owes' => array_map(strval(...), array_keys($books->owed($party->id))),
            'rows' => $rows,
        ];
    }

    /** @return array<string, mixed> */
    public static function rewired(Model $model, Books $books, Rewiring $rewiring): array
    {
        $moved = array_column($rewiring->account, 'row');
        // Interest, say, is no entry of the loan that it is of.
        $follow = [];
        foreach ($books->rows as $row) {
            $isAbout = in_array(Claim::stock($rewiring->claim->id), $row->formula->ids(), true);
            $worths = array_column($row->entries, 'worth');
            if ($isAbout && ! in_array($row->id, $moved, true) && in_array($books->claims[$rewiring->claim->id]->holder, $worths, true)) {
                $follow[] = [
                    'row' => $row->id,
                    'sentence' => "`$row->name` follows from it, but does not enter it: it stays as it is. Look whether it goes along.",
                ];
            }
        }

        return [
            'account' => [...$rewiring->account, ...$follow],
            'rows' => array_map(
                static fn (string $id, array $entries): array => ['row' => $id, 'entries' => Transaction::recorded($entries)],
                array_map(strval(...), array_keys($rewiring->rows)),
                array_values($rewiring->rows),
            ),
            'balanced' => $books->rewired($rewiring)->isBalanced(),
        ];
    }
}
