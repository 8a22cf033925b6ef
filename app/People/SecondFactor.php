<?php

declare(strict_types=1);

namespace App\People;

use App\Models\User;
use Illuminate\Support\Facades\DB;

/** Codes of an authenticator, asked for besides the password once somebody has set them up; and what helps when it is lost. */
final class SecondFactor
{
    private const RECOVERY_CODES = 8;

    public static function isOn(User $user): bool
    {
        return $user->totp_since !== null;
    }

    /** @return string the secret, to be shown until a first code was right */
    public static function begin(User $user): string
    {
        $secret = Totp::secret();
        $user->forceFill(['totp_secret' => $secret, 'totp_since' => null, 'totp_step' => 0, 'recovery_codes' => null])->save();

        return $secret;
    }

    /** @return list<string>|null recovery codes, shown once; null where the code is not right */
    public static function confirm(User $user, string $code): ?array
    {
        if ($user->totp_secret === null || ! self::take($user, $code)) {
            return null;
        }
        $codes = [];
        for ($i = 0; $i < self::RECOVERY_CODES; $i++) {
            $codes[] = implode('-', str_split(bin2hex(random_bytes(8)), 4));
        }
        $user->forceFill(['totp_since' => now(), 'recovery_codes' => array_map(self::hash(...), $codes)])->save();

        return $codes;
    }

    public static function end(User $user): void
    {
        $user->forceFill(['totp_secret' => null, 'totp_since' => null, 'totp_step' => 0, 'recovery_codes' => null])->save();
    }

    /** Whether a code of the authenticator, or one for when it is lost, is right; neither is right twice. */
    public static function passes(User $user, string $code): bool
    {
        return self::take($user, $code) || self::recover($user, $code);
    }

    private static function take(User $user, string $code): bool
    {
        $step = Totp::stepOf(
            (string) $user->totp_secret,
            (string) preg_replace('/\s+/', '', $code),
            now()->getTimestamp(),
            $user->totp_step,
        );

        // Of two who come with one code at once, one is first.
        return $step !== null &&
            User::query()
                ->whereKey($user->id)
                ->where('totp_step', '<', $step)
                ->update(['totp_step' => $step]) === 1;
    }

    private static function recover(User $user, string $code): bool
    {
        return DB::transaction(static function () use ($user, $code): bool {
            $codes = User::query()->lockForUpdate()->findOrFail($user->id)->recovery_codes ?? [];
            $left = array_values(array_diff($codes, [self::hash($code)]));
            if (count($left) === count($codes)) {
                return false;
            }
            $user->forceFill(['recovery_codes' => $left])->save();

            return true;
        });
    }

    /** They have 64 bits at random: there is nothing to slow down. */
    private static function hash(string $code): string
    {
        return hash('sha256', strtolower((string) preg_replace('/[^0-9a-fA-F]/', '', $code)));
    }
}
