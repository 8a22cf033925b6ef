<?php

declare(strict_types=1);

namespace App\People;

use App\Models\Study;
use App\Models\User;
use Illuminate\Support\Facades\RateLimiter;

/** What is written to people. Names that people chose stand in one line, so none can write a letter of their own. */
final class Letters
{
    /** Hours that an invitation, and another address, wait. */
    public const INVITATION_HOURS = 24 * 7;

    public const ADDRESS_HOURS = 24;

    /** Letters that one person may have written to others in an hour. */
    private const MOST_BY_ONE = 60;

    /** @throws \Symfony\Component\HttpKernel\Exception\TooManyRequestsHttpException where somebody writes to everybody */
    public static function mustBeFew(User $by): void
    {
        $key = "letters of $by->id";
        if (RateLimiter::hit($key, 3600) > self::MOST_BY_ONE) {
            throw SignIns::tooOften($key);
        }
    }

    /** In one line, without what does not show. */
    public static function line(string $text): string
    {
        return trim((string) preg_replace('/[\p{C}\s]+/u', ' ', $text));
    }

    /** @return ?string the queue that letters wait in; where there are no workers they are written at once */
    public static function queue(): ?string
    {
        return config()->boolean('merry-orbit.run.workers') ? null : 'sync';
    }

    public static function invitation(string $email, string $key, User $by, ?Study $study): void
    {
        $to = $study === null ? '' : " and wants to work with you on the study “{$study->name}”";
        Letter::dispatch($email, self::line("{$by->name} invites you to Merry Orbit"), [
            self::line("{$by->name} invites you to Merry Orbit$to. Make your account within a week:"),
            self::address('join', $key),
            'If you do not know why, do nothing.',
        ]);
    }

    public static function shared(string $email, User $by, Study $study, string $may): void
    {
        Letter::dispatch($email, self::line("{$by->name} shares “{$study->name}” with you"), [
            self::line("{$by->name} shares the study “{$study->name}” with you. You may $may:"),
            config()->string('app.url')."/studies/$study->id",
        ]);
    }

    public static function newAddress(string $email, string $key): void
    {
        Letter::dispatch($email, 'Your new address', [
            'Open this within a day to sign in with this address from now on:',
            self::address('address', $key),
        ]);
    }

    public static function newPassword(User $user, string $token): void
    {
        Letter::dispatch($user->email, 'A new password', [
            'Somebody, you as we hope, has forgotten the password of this account. Choose a new one within an hour:',
            config()->string('app.url').'/new-password#'.http_build_query(['email' => $user->email, 'token' => $token]),
            'If it was not you, do nothing: the old one goes on.',
        ]);
    }

    /** Told to the address that an account had before, so that nobody loses it unnoticed. */
    public static function changed(string $email, string $what): void
    {
        Letter::dispatch($email, 'Your account was changed', [
            "$what If it was not you, choose a new password at once:",
            config()->string('app.url').'/forgotten',
        ]);
    }

    /** @return string what stands behind the mark is never sent to a server, so it is in no log */
    public static function address(string $page, string $key): string
    {
        return config()->string('app.url')."/$page#$key";
    }
}
