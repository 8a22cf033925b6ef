<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * A secret address by which anybody sees a page of a study, and perhaps tries it. The key, 128 bits, is told when it is made and is kept
 * nowhere.
 *
 * @property string $id
 * @property string $study_id
 * @property string $showcase
 * @property string $name
 * @property string $secret
 * @property 'look'|'try' $may
 * @property ?string $password
 * @property ?Carbon $until
 * @property ?Carbon $ended_at
 * @property int $opened
 * @property ?Carbon $opened_at
 * @property Carbon $created_at
 * @property ?Study $study
 */
final class ShownLink extends Model
{
    use HasUlids;

    public const MAY = ['look', 'try'];

    /** Of one study, those that were taken back not counted. */
    public const MOST = 50;

    protected $table = 'links';

    /** @var list<string> */
    protected $fillable = [
        'study_id',
        'showcase',
        'name',
        'secret',
        'may',
        'password',
        'until',
        'ended_at',
        'opened',
        'opened_at',
        'given_by',
    ];

    /** @var list<string> */
    protected $hidden = ['password', 'secret'];

    /** @var array<string, string> */
    protected $casts = [
        'until' => 'datetime',
        'ended_at' => 'datetime',
        'opened' => 'integer',
        'opened_at' => 'datetime',
        'password' => 'hashed',
    ];

    /** @return BelongsTo<Study, $this> */
    public function study(): BelongsTo
    {
        return $this->belongsTo(Study::class);
    }

    public static function opening(string $key): ?self
    {
        return self::query()
            ->where('secret', hash('sha256', $key))
            ->whereNull('ended_at')
            ->where(static fn ($q) => $q->whereNull('until')->orWhere('until', '>', now()))
            ->whereHas('study')
            ->first();
    }
}
