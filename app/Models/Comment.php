<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * What somebody says about a study, or about something in it; or answers to that. One that was taken away has no text, and stays as long
 * as something answers it.
 *
 * @property string $id
 * @property string $study_id
 * @property int $user_id
 * @property ?string $answers
 * @property string $about
 * @property string $subject
 * @property ?float $time
 * @property int $revision
 * @property string $text
 * @property ?Carbon $settled_at
 * @property ?int $settled_by
 * @property Carbon $created_at
 * @property Carbon $updated_at
 * @property User $user
 * @property ?User $settler
 */
final class Comment extends Model
{
    use HasUlids;

    /** What one can be about. */
    public const ABOUT = ['study', 'thing', 'link', 'plot', 'moment'];

    public const LONGEST = 4000;

    /** Of one study. */
    public const MOST = 5000;

    /** @var list<string> */
    protected $fillable = ['study_id', 'user_id', 'answers', 'about', 'subject', 'time', 'revision', 'text', 'settled_at', 'settled_by'];

    /** @var array<string, string> */
    protected $casts = [
        'user_id' => 'integer',
        'time' => 'float',
        'revision' => 'integer',
        'settled_at' => 'datetime',
        'settled_by' => 'integer',
    ];

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }

    /** @return BelongsTo<User, $this> */
    public function settler(): BelongsTo
    {
        return $this->belongsTo(User::class, 'settled_by');
    }
}
