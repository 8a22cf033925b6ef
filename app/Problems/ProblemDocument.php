<?php

declare(strict_types=1);

namespace App\Problems;

use App\Database\Away;
use App\Database\Locked;
use App\Studies\EditClash;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Database\Eloquent\ModelNotFoundException;
use Illuminate\Http\JsonResponse;
use Illuminate\Session\TokenMismatchException;
use Illuminate\Validation\ValidationException;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Exchange\FileRefused;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunRefused;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Exception\HttpExceptionInterface;
use Symfony\Component\HttpKernel\Exception\TooManyRequestsHttpException;

/** Errors as RFC 9457 problem documents, with a sentence a modeller understands. */
final class ProblemDocument
{
    private const SENTENCES = [
        400 => ['request', 'This address or this request cannot be read. Look whether it was cut off or changed on its way.'],
        401 => [
            'signed-out',
            'You are not signed in. Open Merry Orbit on the machine it runs on, or by the address with a key that it prints at its start.',
        ],
        403 => ['not-yours', 'This is not for you.'],
        404 => ['not-found', 'There is nothing at this address. It may have been deleted; look for it on the home page.'],
        405 => ['method', 'This address cannot be used in this way.'],
        413 => [
            'too-large',
            'What was sent is larger than this server takes at once (SIZE). Of a table, save the rows and columns that you need by themselves.',
        ],
        419 => ['page-old', 'The page was open for too long. Reload it; what you typed last is kept in the page until then.'],
        429 => ['too-many', 'That was more in a minute than one person may ask for, so that others have their share. Wait a moment.'],
        503 => ['unavailable', 'Merry Orbit is busy for a moment. Try again.'],
        507 => [
            'disk-full',
            'The disk of the machine that runs Merry Orbit is full or fails, and nothing was changed. Make room there, then try again.',
        ],
    ];

    private const AWAY = 'A part of the server does not answer for a moment. Nothing is lost; try again.';

    public static function of(\Throwable $e): JsonResponse
    {
        return match (true) {
            $e instanceof EditClash => self::response(409, 'edit.clash', $e->getMessage(), $e->details()),
            $e instanceof EditRefused => self::response(
                422,
                $e->refusalCode,
                $e->getMessage(),
                $e->field === null ? [] : ['field' => $e->field],
            ),
            $e instanceof NotUnderstood => self::response(422, 'request', $e->getMessage()),
            $e instanceof TableRefused => self::response(422, 'table', $e->getMessage()),
            $e instanceof FileRefused => self::response(422, 'file', $e->getMessage()),
            $e instanceof RunRefused => self::response(422, $e->problem->code, $e->getMessage(), ['field' => $e->problem->field]),
            $e instanceof ValidationException => self::response(422, 'request', collect($e->errors())->flatten()->implode(' '), [
                'errors' => $e->errors(),
            ]),
            $e instanceof AuthenticationException => self::signedOut(),
            self::refusal($e) !== null => self::response(403, self::refusal($e), $e->getMessage()),
            $e instanceof ModelNotFoundException => self::known(404),
            $e instanceof TokenMismatchException => self::known(419),
            $e instanceof TooManyRequestsHttpException && $e->getMessage() !== '' => self::response(
                429,
                'too-many',
                $e->getMessage(),
            )->withHeaders($e->getHeaders()),
            $e instanceof HttpExceptionInterface => self::known($e->getStatusCode())->withHeaders($e->getHeaders()),
            Locked::is($e) => self::known(503)->withHeaders(['Retry-After' => '1']),
            Away::is($e) => self::response(503, 'unavailable', self::AWAY)->withHeaders(['Retry-After' => '2']),
            self::isFull($e) => self::known(507),
            default => self::known(500),
        };
    }

    /** In demo mode nobody has a password to sign in with. */
    /** @return ?string why, where a policy says it */
    private static function refusal(\Throwable $e): ?string
    {
        $by = $e->getPrevious();
        $code = $by instanceof AuthorizationException ? $by->response()->code() : null;

        return in_array($code, ['may-not', 'guest'], true) ? $code : null;
    }

    private static function signedOut(): JsonResponse
    {
        return config()->boolean('merry-orbit.demo')
            ? self::known(401)
            : self::response(401, 'signed-out', 'You are not signed in, or not any more. Sign in with your address and your password.', [
                'accounts' => true,
            ]);
    }

    /** The database, or a file beside it, finds no room. */
    private static function isFull(\Throwable $e): bool
    {
        return str_contains($e->getMessage(), 'database or disk is full') ||
            str_contains($e->getMessage(), 'disk I/O error') ||
            str_contains($e->getMessage(), 'No space left on device') ||
            str_contains($e->getMessage(), 'possibly out of free disk space');
    }

    private static function known(int $status): JsonResponse
    {
        [$code, $sentence] = self::SENTENCES[$status] ?? [
            'trouble',
            'Something went wrong inside Merry Orbit. Nothing of yours is lost; try again.',
        ];

        return self::response($status, $code, str_replace('SIZE', ini_get('post_max_size').'B', $sentence));
    }

    /** @param  array<string, mixed>  $more */
    public static function response(int $status, string $code, string $sentence, array $more = []): JsonResponse
    {
        return new JsonResponse(
            [
                'type' => 'about:blank',
                'title' => Response::$statusTexts[$status] ?? 'Problem',
                'status' => $status,
                'code' => $code,
                'detail' => $sentence,
                ...$more,
            ],
            $status,
            ['Content-Type' => 'application/problem+json'],
        );
    }
}
