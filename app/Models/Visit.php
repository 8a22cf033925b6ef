<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * When somebody was last in a study, and at which revision; and when the time before.
 *
 * @property Carbon $seen_at
 * @property int $seen_revision
 * @property ?Carbon $before_at
 * @property ?int $before_revision
 */
final class Visit extends Model
{
    public $timestamps = false;

    /** @var list<string> */
    protected $fillable = ['study_id', 'user_id', 'seen_at', 'seen_revision', 'before_at', 'before_revision'];

    /** @var array<string, string> */
    protected $casts = [
        'seen_at' => 'datetime',
        'seen_revision' => 'integer',
        'before_at' => 'datetime',
        'before_revision' => 'integer',
    ];
}
