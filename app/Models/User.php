<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Foundation\Auth\User as Authenticatable;
use Illuminate\Support\Carbon;
use Laravel\Sanctum\HasApiTokens;
use Laravel\Sanctum\PersonalAccessToken;

/**
 * A person with an account. One that has left is still a row, without a name: what it did in studies of others stays there.
 *
 * @property int $id
 * @property string $name
 * @property string $email
 * @property ?string $password null for persons of the demo
 * @property ?string $totp_secret
 * @property ?Carbon $totp_since
 * @property int $totp_step
 * @property ?list<string> $recovery_codes hashes
 * @property ?Carbon $left_at
 * @property ?string $guest_key
 * @property ?Carbon $guest_until until when a guest's one copy is kept; null for who has an account
 * @property ?Carbon $created_at
 */
final class User extends Authenticatable
{
    /** @use HasApiTokens<PersonalAccessToken> */
    use HasApiTokens;

    public const DEMO = 'analyst@quillhaven.example';

    /** Who else there is in demo mode, to try sharing with. */
    public const DEMO_OTHERS = [
        'ilse@quillhaven.example' => 'Ilse Brandt',
        'tomas@quillhaven.example' => 'Tomas Wren',
        'odile@quillhaven.example' => 'Odile Marsh',
    ];

    /** @var list<string> */
    protected $fillable = ['name', 'email', 'password'];

    /** @var list<string> */
    protected $hidden = ['password', 'remember_token', 'totp_secret', 'recovery_codes', 'guest_key'];

    /** @var array<string, string> */
    protected $casts = [
        'password' => 'hashed',
        'totp_secret' => 'encrypted',
        'totp_since' => 'datetime',
        'totp_step' => 'integer',
        'recovery_codes' => 'array',
        'left_at' => 'datetime',
        'guest_until' => 'datetime',
    ];

    /** @return HasMany<Study, $this> */
    public function studies(): HasMany
    {
        return $this->hasMany(Study::class);
    }

    /** @return HasMany<SignIn, $this> */
    public function signIns(): HasMany
    {
        return $this->hasMany(SignIn::class);
    }

    /** The person a demo start signs in; made when missing. */
    public static function demoAnalyst(): self
    {
        return self::query()->firstOrCreate(['email' => self::DEMO], ['name' => 'Quillhaven analyst']);
    }

    public function isGuest(): bool
    {
        // Of who was made a moment ago, only what was said then is known.
        return ($this->attributes['guest_until'] ?? null) !== null;
    }

    /** Addresses are compared as they are kept: without room around them, in small letters. */
    public static function emailOf(string $typed): string
    {
        return mb_strtolower(trim($typed));
    }
}
