<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * A browser in which somebody is signed in. Without its row the session is nobody's.
 *
 * @property int $id
 * @property int $user_id
 * @property string $secret SHA-256 of what the session holds
 * @property string $address
 * @property string $browser
 * @property Carbon $until
 * @property Carbon $seen_at
 * @property Carbon $created_at
 */
final class SignIn extends Model
{
    /** @var list<string> */
    protected $fillable = ['user_id', 'secret', 'address', 'browser', 'until', 'seen_at'];

    /** @var array<string, string> */
    protected $casts = ['user_id' => 'integer', 'until' => 'datetime', 'seen_at' => 'datetime'];

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }
}
