<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\Auth;

/**
 * What happened to an account or to who may see a study, kept for a year: who, what, when, from where. Never with what people wrote.
 *
 * @property int $id
 * @property ?int $user_id
 * @property ?string $study_id
 * @property string $kind
 * @property string $words
 * @property string $address
 * @property Carbon $created_at
 * @property ?User $user
 */
final class Happening extends Model
{
    public const UPDATED_AT = null;

    /** @var list<string> */
    protected $fillable = ['user_id', 'study_id', 'kind', 'words', 'address'];

    /** @var array<string, string> */
    protected $casts = ['user_id' => 'integer'];

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }

    /** @param  string  $words  a sentence that begins with what was done, to stand behind a name */
    public static function note(string $kind, string $words, ?Study $study = null, ?User $by = null): void
    {
        self::query()->create([
            'user_id' => $by === null ? Auth::id() : $by->id,
            'study_id' => $study?->id,
            'kind' => $kind,
            'words' => mb_substr($words, 0, 300),
            'address' => (string) request()->ip(),
        ]);
    }
}
