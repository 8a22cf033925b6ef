<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Exchange\LedgerTable;
use MerryOrbit\Core\Exchange\PastedLedger;
use MerryOrbit\Core\Ledger\Books;
use MerryOrbit\Core\Ledger\BooksView;
use MerryOrbit\Core\Ledger\Rewiring;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Problem\Problem;

/** The ledgers of a study, as pages of a book; their numbers are columns of the run. */
final class LedgerController
{
    private const SIDES = '`sides` says of accounts whether they are `owns`, `owes` or `worth`.';

    public function show(ModelDocument $model): JsonResponse
    {
        $core = $model->core();
        $wrong = [];
        foreach (Analyser::analyse($core)->problems as $problem) {
            $at = self::partOf($problem);
            if ($at !== null) {
                $wrong[$at] ??= $problem->sentence;
            }
        }

        return new JsonResponse(['revision' => $model->revision, ...BooksView::of($core, Books::of($core), $wrong)]);
    }

    private static function partOf(Problem $problem): ?string
    {
        return $problem->origin === null ? null : "{$problem->origin['part']} {$problem->origin['id']}";
    }

    /** What would become of each row if a claim went to another holder; nothing is changed. */
    public function rewire(Request $request, ModelDocument $model): JsonResponse
    {
        $request->validate(
            ['claim' => ['required', 'string', 'max:40'], 'holder' => ['required', 'string', 'max:40']],
            ['*' => 'Say which claim goes to whom.'],
        );
        $core = $model->core();
        $books = Books::of($core);
        [$claim, $holder] = [$request->string('claim')->toString(), $request->string('holder')->toString()];
        if (! isset($books->claims[$claim], $books->parties[$holder])) {
            throw NotUnderstood::because('The claim, or who is to hold it, is not there any more. Undo brings it back.');
        }
        if ($books->claims[$claim]->debtor === $holder) {
            throw NotUnderstood::because(
                "`{$books->parties[$holder]->name}` owes it, and nobody owes something to himself. Choose another one.",
            );
        }

        return new JsonResponse(BooksView::rewired($core, $books, Rewiring::of($books, $claim, $holder)));
    }

    /** What a table out of a spreadsheet would become; nothing is changed. */
    public function paste(Request $request, ModelDocument $model): JsonResponse
    {
        $request->validate(
            [
                'text' => ['required', 'string', 'max:400000'],
                'id' => ['required', 'string', 'regex:/^[a-z0-9-]{1,30}$/'],
                'party' => ['sometimes', 'string', 'max:80'],
                'sides' => ['sometimes', 'array', 'max:'.LedgerTable::MOST_ACCOUNTS],
                'sides.*' => ['nullable', 'in:owns,owes,worth'],
            ],
            [
                'text.*' => 'Paste a table of at most 400,000 characters.',
                'id.*' => '`id` is what new ids begin with: up to 30 small letters, digits and hyphens.',
                'party.*' => 'The name of a party has at most 80 characters.',
                'sides.array' => self::SIDES,
                'sides.max' => self::SIDES,
                'sides.*.in' => self::SIDES,
            ],
        );
        $sides = array_filter($request->array('sides'), is_string(...));
        $table = LedgerTable::read(
            $request->string('text')->toString(),
            array_combine(array_map(intval(...), array_keys($sides)), $sides),
        );

        return new JsonResponse(
            PastedLedger::of($model->core(), $table, $request->string('id')->toString(), $request->string('party')->toString()),
        );
    }
}
