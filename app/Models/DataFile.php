<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A file of data that somebody dropped; its bytes lie on the disk of results.
 *
 * @property int $id
 * @property int $user_id
 * @property string $content SHA-256
 * @property string $name
 * @property int $bytes
 */
final class DataFile extends Model
{
    protected $guarded = [];

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }
}
