<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\EditRefused;

/** What the engine has to say about a formula while it is being typed. */
final class FormulaController
{
    public function __invoke(Request $request, ModelDocument $model): JsonResponse
    {
        $request->validate(
            ['element' => ['required', 'string'], 'text' => ['present', 'string', 'max:20000']],
            [
                'element.*' => 'Say whose formula this is: `element`.',
                'text.*' => 'A formula is text of at most 20,000 characters.',
            ],
        );
        $core = $model->core();
        $element = $core->element($request->string('element')->toString()) ?? throw EditRefused::gone();
        $text = $request->string('text')->toString();

        return new JsonResponse(['problems' => trim($text) === '' ? [] : Analyser::check($core, $element, $text)]);
    }
}
