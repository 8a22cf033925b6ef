<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * What somebody who does not own a study may do with it. A person is named by an address; who it is shows once they have opened it.
 *
 * @property string $id
 * @property string $study_id
 * @property string $kind
 * @property ?int $user_id
 * @property ?string $email
 * @property May $may
 * @property ?Carbon $until
 * @property ?Carbon $opened_at
 * @property ?string $link_id the link by which somebody came
 * @property ?int $given_by
 * @property ?User $user
 * @property Study $study
 */
final class Grant extends Model
{
    use HasUlids;

    public const PERSON = 'person';

    public const EVERYONE = 'everyone';

    /** @var list<string> */
    protected $fillable = ['study_id', 'kind', 'user_id', 'email', 'may', 'until', 'opened_at', 'given_by', 'link_id'];

    /** @var array<string, string> */
    protected $casts = [
        'user_id' => 'integer',
        'given_by' => 'integer',
        'may' => May::class,
        'until' => 'datetime',
        'opened_at' => 'datetime',
    ];

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }

    /** @return BelongsTo<Study, $this> */
    public function study(): BelongsTo
    {
        return $this->belongsTo(Study::class);
    }

    /**
     * Those that hold today for somebody.
     *
     * @return Builder<Grant>
     */
    public static function of(User $user): Builder
    {
        return self::query()
            // Everyone with an account: guests have none.
            ->where(
                static fn ($q) => $user->isGuest()
                    ? $q->where('user_id', $user->id)
                    : $q->where('user_id', $user->id)->orWhere('kind', self::EVERYONE),
            )
            ->where(static fn ($q) => $q->whereNull('until')->orWhere('until', '>', now()));
    }
}
