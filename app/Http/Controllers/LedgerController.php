<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Ledger\Books;
use MerryOrbit\Core\Ledger\BooksView;
use MerryOrbit\Core\Ledger\Rewiring;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Problem\Problem;

/** The ledgers of a study, as pages of a book; their numbers are columns of the run. */
final class LedgerController
{
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
}
