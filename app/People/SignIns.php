<?php

declare(strict_types=1);

namespace App\People;

use App\Files\LastingSessions;
use App\Models\Happening;
use App\Models\SignIn;
use App\Models\User;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\Hash;
use Illuminate\Support\Facades\RateLimiter;
use Symfony\Component\HttpKernel\Exception\TooManyRequestsHttpException;

/** Signing in and out in browsers. Each is a row that can be seen and ended; a session without its row is nobody's. */
final class SignIns
{
    private const IN_SESSION = 'sign-in';

    /** Hours that one lasts: on a machine of one's own, and on another. */
    private const KEPT_HOURS = 24 * 30;

    private const HOURS = 12;

    /** Tries in a quarter of an hour for one account, and from one address, whoever is meant. */
    private const TRIES = 10;

    private const TRIES_FROM_ADDRESS = 60;

    private const WINDOW = 900;

    /** A sign of life is written at most so often, in seconds. */
    private const SEEN_EVERY = 300;

    /**
     * @param  \Closure(): bool  $isRight  tried only while there are tries left
     *
     * @throws TooManyRequestsHttpException
     */
    public static function tried(string $account, Request $request, \Closure $isRight): bool
    {
        $keys = ['sign-in of '.hash('sha256', $account) => self::TRIES, 'sign-in from '.$request->ip() => self::TRIES_FROM_ADDRESS];
        foreach ($keys as $key => $most) {
            // Counted before it is looked: many that come at once are not more than come one by one.
            if (RateLimiter::hit($key, self::WINDOW) > $most) {
                throw self::tooOften($key);
            }
        }
        if (! $isRight()) {
            return false;
        }
        RateLimiter::clear(array_key_first($keys));
        RateLimiter::decrement(array_key_last($keys), self::WINDOW);

        return true;
    }

    public static function tooOften(string $key): TooManyRequestsHttpException
    {
        $seconds = RateLimiter::availableIn($key);
        $minutes = (int) ceil($seconds / 60);

        return new TooManyRequestsHttpException(
            $seconds,
            'That was tried too often. Wait '.($minutes === 1 ? 'a minute' : "$minutes minutes").', then try again.',
        );
    }

    /** Takes as long for an address that nobody has. */
    public static function personOf(string $email, string $password): ?User
    {
        $user = User::query()->where('email', User::emailOf($email))->whereNull('left_at')->first();
        $hash = $user->password ?? self::nobody();

        return Hash::check($password, $hash) && $user?->password !== null ? $user : null;
    }

    /** A hash of nothing that can be typed. */
    private static function nobody(): string
    {
        static $hash = null;

        return $hash ??= Hash::make(bin2hex(random_bytes(16)));
    }

    public static function begin(User $user, Request $request, bool $keep): void
    {
        $session = $request->session();
        $request->attributes->set(LastingSessions::SIGNS_IN, true);
        self::forget($request);
        Auth::guard('web')->login($user);
        // A session that somebody else knows beforehand is worth nothing.
        $session->regenerate();
        $secret = bin2hex(random_bytes(16));
        $session->put(self::IN_SESSION, $secret);
        $user->signIns()->create([
            'secret' => hash('sha256', $secret),
            'address' => (string) $request->ip(),
            'browser' => self::browserOf($request),
            'until' => now()->addHours($keep ? self::KEPT_HOURS : self::HOURS),
            'seen_at' => now(),
        ]);
        Happening::note('signed-in', 'signed in with '.self::browserOf($request), by: $user);
    }

    /** Ends the one of this browser. */
    public static function end(Request $request): void
    {
        self::forget($request);
        Auth::guard('web')->logout();
        $request->session()->invalidate();
        $request->session()->regenerateToken();
    }

    private static function forget(Request $request): void
    {
        $secret = $request->session()->get(self::IN_SESSION);
        if (is_string($secret)) {
            SignIn::query()->where('secret', hash('sha256', $secret))->delete();
        }
    }

    /** The row of this browser, with which its session is somebody's. */
    public static function here(Request $request): ?SignIn
    {
        $secret = $request->hasSession() ? $request->session()->get(self::IN_SESSION) : null;
        $row = is_string($secret) ? SignIn::query()->where('secret', hash('sha256', $secret))->where('until', '>', now())->first() : null;
        if ($row?->seen_at->lt(now()->subSeconds(self::SEEN_EVERY)) === true) {
            rescue(static fn (): bool => $row->forceFill(['seen_at' => now()])->save(), report: false);
        }

        return $row;
    }

    /** @return int how many others were ended */
    public static function endOthers(User $user, ?SignIn $but): int
    {
        return $user->signIns()->when($but, static fn ($q) => $q->whereKeyNot($but?->id))->delete();
    }

    /** @return string what a person knows their browser by: "Firefox on Linux" */
    private static function browserOf(Request $request): string
    {
        $agent = (string) $request->userAgent();
        $first = static function (array $names) use ($agent): ?string {
            foreach ($names as $mark => $name) {
                if (str_contains($agent, (string) $mark)) {
                    return $name;
                }
            }

            return null;
        };
        $browser = $first(['Edg' => 'Edge', 'Firefox' => 'Firefox', 'Chrom' => 'Chromium', 'Safari' => 'Safari']) ?? 'a program';
        $machine = $first([
            'Android' => 'Android',
            'iPhone' => 'iPhone',
            'iPad' => 'iPad',
            'Windows' => 'Windows',
            'Mac OS' => 'macOS',
            'Linux' => 'Linux',
        ]);

        return $machine === null ? $browser : "$browser on $machine";
    }
}
