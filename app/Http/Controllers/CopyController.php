<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\StudyResource;
use App\Models\Study;
use App\Models\User;
use App\People\SignIns;
use App\Problems\ProblemDocument;
use App\Tell\Copies;
use App\Tell\Reader;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;

/** Copies that readers take by a link: into their studies where they are signed in, else for a month under a secret address. */
final class CopyController
{
    public function store(Request $request): JsonResponse
    {
        $link = Reader::link($request);
        if (! Reader::mayPass($request, $link)) {
            return Reader::locked();
        }
        if ($link->may !== 'copy' || $link->study === null) {
            return ProblemDocument::response(403, 'may-not', 'This page may not be copied. Ask who sent it for a link by which it may.');
        }
        $study = $link->study->load('model');
        $user = $request->user();
        if ($user instanceof User && ! $user->isGuest()) {
            return new JsonResponse(['study' => Copies::make($study, $user, $link->revision)->id, 'key' => null], 201);
        }
        [, $key] = Copies::forGuest($study, $link->revision);

        return new JsonResponse(['study' => null, 'key' => $key], 201);
    }

    /** By a link to a whole study: whoever has no account reads it as a guest, for a day or until the link leads nowhere. */
    public function visit(Request $request): JsonResponse
    {
        $link = Reader::link($request);
        if (! Reader::mayPass($request, $link)) {
            return Reader::locked();
        }
        if (! $link->isOfStudy()) {
            throw new NotFoundHttpException();
        }
        $user = $request->user();
        if (! ($user instanceof User)) {
            $user = Copies::guest(now()->addDay(), null);
            SignIns::begin($user, $request, false);
        }
        Copies::letIn($user, $link);

        return new JsonResponse(['study' => $link->study_id]);
    }

    /** What a key opens. */
    public function look(Request $request): JsonResponse
    {
        $guest = self::guest($request);
        $study = self::studyOf($guest);

        return new JsonResponse([
            'name' => $study->name,
            'from' => $study->origin['name'] ?? $study->name,
            'until' => $guest->guest_until?->toIso8601String(),
            'signedIn' => $request->user() instanceof User && ! $request->user()->isGuest() ? $request->user()->name : null,
        ]);
    }

    /** From now on this browser is the guest. */
    public function open(Request $request): JsonResponse
    {
        $guest = self::guest($request);
        SignIns::begin($guest, $request, true);

        return new JsonResponse(['study' => self::studyOf($guest)->id]);
    }

    public function keep(Request $request, #[CurrentUser] User $user): StudyResource
    {
        return StudyResource::make(Copies::keep(self::guest($request), $user)->load('model'));
    }

    private static function guest(Request $request): User
    {
        $request->validate(['key' => ['required', 'string', 'max:100']], ['key.*' => 'Open the address as it was told, up to its end.']);

        return Copies::guestOf($request->string('key')->toString()) ?? throw new NotFoundHttpException();
    }

    private static function studyOf(User $guest): Study
    {
        return $guest->studies()->first() ?? throw new NotFoundHttpException();
    }
}
