<?php

declare(strict_types=1);

namespace App\People;

use ParagonIE\ConstantTime\Base32;

/**
 * Codes of six digits that change every thirty seconds, made of a secret and the clock.
 *
 * @see https://www.rfc-editor.org/rfc/rfc6238 with HMAC-SHA-1, as all authenticators know it
 */
final class Totp
{
    private const SECONDS = 30;

    private const DIGITS = 6;

    /** Clocks differ: so many steps before and after are taken. */
    private const NEAR = 1;

    /** @return string 160 bits in base 32, as RFC 4226 asks for */
    public static function secret(): string
    {
        return Base32::encodeUpperUnpadded(random_bytes(20));
    }

    /** @return string what an authenticator reads, as text or as a picture */
    public static function address(string $secret, string $account): string
    {
        return 'otpauth://totp/'.
            rawurlencode("Merry Orbit:$account").
            '?'.
            http_build_query(['secret' => $secret, 'issuer' => 'Merry Orbit']);
    }

    public static function code(string $secret, int $step, int $digits = self::DIGITS): string
    {
        $hash = hash_hmac('sha1', pack('J', $step), Base32::decodeUpper($secret), true);
        $from = ord($hash[19]) & 0x0F;
        /** @var array{1: int} $number */
        $number = unpack('N', substr($hash, $from, 4));

        return str_pad((string) (($number[1] & 0x7FFFFFFF) % 10 ** $digits), $digits, '0', STR_PAD_LEFT);
    }

    public static function stepAt(int $time): int
    {
        return intdiv($time, self::SECONDS);
    }

    /**
     * @param  int  $after  the last step that a code was taken for
     * @return ?int the step that a code is right for, and that counts as used from now on
     */
    public static function stepOf(string $secret, string $code, int $time, int $after): ?int
    {
        $now = self::stepAt($time);
        $found = null;
        for ($step = $now - self::NEAR; $step <= $now + self::NEAR; $step++) {
            if (hash_equals(self::code($secret, $step), $code) && $step > $after) {
                $found ??= $step;
            }
        }

        return $found;
    }
}
