<?php

declare(strict_types=1);

namespace App\Tell;

use App\Models\ShownLink;
use App\Problems\ProblemDocument;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Crypt;
use Illuminate\Support\Facades\RateLimiter;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;
use Symfony\Component\HttpKernel\Exception\TooManyRequestsHttpException;

/** Whoever comes by a link: the key stands in a header, so it is in no address, no log and no referrer. */
final class Reader
{
    public const HEADER = 'X-Merry-Link';

    /** What shows that the password of a link was right, for a while. */
    public const PASS = 'X-Merry-Pass';

    private const PASS_HOURS = 12;

    /** @throws NotFoundHttpException where the link leads nowhere, whatever the reason */
    public static function link(Request $request): ShownLink
    {
        $link = ShownLink::opening((string) $request->header(self::HEADER)) ?? throw new NotFoundHttpException();
        $most = config()->integer('merry-orbit.per_minute.shown_by_link');
        if (RateLimiter::hit("shown by $link->id", 60) > $most) {
            throw new TooManyRequestsHttpException(RateLimiter::availableIn("shown by $link->id"));
        }

        return $link;
    }

    public static function mayPass(Request $request, ShownLink $link): bool
    {
        if ($link->password === null) {
            return true;
        }
        /** @var mixed $pass */
        $pass = rescue(static fn (): mixed => Crypt::decrypt((string) $request->header(self::PASS)), report: false);

        // With another password, those who knew the old one are out.
        return is_array($pass) && ($pass['link'] ?? '') === self::mark($link) && ($pass['until'] ?? 0) > time();
    }

    public static function locked(): JsonResponse
    {
        return ProblemDocument::response(403, 'locked', 'This page has a password. It came with the link, or apart from it.');
    }

    public static function passFor(ShownLink $link): string
    {
        return Crypt::encrypt(['link' => self::mark($link), 'until' => time() + 3600 * self::PASS_HOURS]);
    }

    private static function mark(ShownLink $link): string
    {
        return hash('sha256', "$link->id $link->password");
    }
}
