<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Models\ShownLink;
use App\People\SignIns;
use App\Problems\ProblemDocument;
use App\Tell\Reader;
use App\Tell\ShownPage;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Hash;
use MerryOrbit\Core\Simulate\Simulator;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;

/** Pages for readers: by a link without an account, or by whoever works on the study. What can be asked is what stands on the page. */
final class ShownController
{
    private const RULES = ['step' => ['sometimes', 'string', 'max:40'], 'inputs' => ['sometimes', 'array', 'max:20']];

    private const SENTENCES = [
        'step.*' => '`step` is the id of a step.',
        'inputs.*' => '`inputs` has a number for the id of each input that was moved.',
    ];

    public function page(Request $request, Simulator $simulator): JsonResponse
    {
        $link = Reader::link($request);
        if (! Reader::mayPass($request, $link)) {
            return Reader::locked();
        }
        if ($link->isOfStudy()) {
            return ProblemDocument::response(409, 'whole-study', 'This link leads to a whole study.', [
                'name' => $link->study->name ?? '',
                'may' => $link->may,
            ]);
        }
        // How often it was opened, for its owner; nothing of who.
        rescue(
            static fn (): int => ShownLink::query()
                ->whereKey($link->id)
                ->increment('opened', 1, ['opened_at' => now()]),
            report: false,
        );

        return new JsonResponse([...self::pageOf($link)->told($simulator), 'may' => $link->may]);
    }

    public function results(Request $request, Simulator $simulator): JsonResponse
    {
        $link = Reader::link($request);
        if (! Reader::mayPass($request, $link)) {
            return Reader::locked();
        }
        $request->validate(self::RULES, self::SENTENCES);
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $inputs = $link->mayTry() ? $request->array('inputs') : [];

        return JsonResponse::fromJsonString(self::pageOf($link)->shown($simulator, $request->string('step')->toString(), $inputs));
    }

    public function unlock(Request $request): JsonResponse
    {
        $link = Reader::link($request);
        $request->validate(
            ['password' => ['required', 'string', 'max:1000']],
            ['password.*' => 'Write the password that came with the link.'],
        );
        $isRight = SignIns::tried(
            "link $link->id",
            $request,
            static fn (): bool => $link->password === null || Hash::check($request->string('password')->toString(), $link->password),
        );

        return $isRight
            ? new JsonResponse(['pass' => Reader::passFor($link)])
            : ProblemDocument::response(422, 'password', 'This is not the password of this page. Ask who sent you the link.');
    }

    /** As whoever works on it sees it. */
    public function preview(Request $request, ModelDocument $model, string $showcase, Simulator $simulator): JsonResponse
    {
        $request->validate(self::RULES, self::SENTENCES);
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $page = ShownPage::of($model, $showcase, $model->revision) ?? throw new NotFoundHttpException();

        return new JsonResponse([
            'page' => [...$page->told($simulator), 'may' => 'try'],
            'shown' => json_decode(
                $page->shown($simulator, $request->string('step')->toString(), $request->array('inputs')),
                flags: JSON_THROW_ON_ERROR,
            ),
        ]);
    }

    private static function pageOf(ShownLink $link): ShownPage
    {
        $model = $link->study?->model;

        return ($model === null ? null : ShownPage::of($model, $link->showcase, $link->revision)) ?? throw new NotFoundHttpException();
    }
}
