<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * What opens something once: the first account, an account for who was invited, another address for an account. The key itself, 128
 * bits, stands in a letter or on the terminal and nowhere here.
 *
 * @property int $id
 * @property string $kind
 * @property string $hash
 * @property ?string $email
 * @property ?int $user_id
 * @property Carbon $until
 */
final class Key extends Model
{
    public const UPDATED_AT = null;

    public const FIRST = 'first';

    public const INVITATION = 'invitation';

    public const ADDRESS = 'address';

    /** @var list<string> */
    protected $fillable = ['kind', 'hash', 'email', 'user_id', 'until'];

    /** @var array<string, string> */
    protected $casts = ['user_id' => 'integer', 'until' => 'datetime'];

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }

    /** @return string the key, told here and never again */
    public static function cut(string $kind, int $hours, ?string $email = null, ?User $by = null): string
    {
        $key = bin2hex(random_bytes(16));
        self::query()->create([
            'kind' => $kind,
            'hash' => hash('sha256', $key),
            'email' => $email,
            'user_id' => $by?->id,
            'until' => now()->addHours($hours),
        ]);

        return $key;
    }

    public static function find(string $key): ?self
    {
        return self::query()->where('hash', hash('sha256', $key))->where('until', '>', now())->first();
    }

    /** @return bool whether it was there to be used; two that come at once use it once */
    public function use(): bool
    {
        return self::query()->whereKey($this->id)->delete() === 1;
    }
}
