<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * An address by which anybody sees a page of a study, and perhaps tries or copies it. The key, 128 bits, is told when it is made and is
 * kept nowhere; one that is published has a readable address besides. A link `back` shows a copy to who owns what it was made of.
 *
 * @property string $id
 * @property string $study_id
 * @property string $showcase '' for the whole study
 * @property string $name
 * @property string $secret
 * @property 'look'|'try'|'copy'|'back' $may
 * @property ?list<string> $hosts origins of pages that may show it in a frame
 * @property ?int $revision the version that it shows; null for the newest
 * @property ?string $address by which it is found without a key
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

    public const MAY = ['look', 'try', 'copy'];

    public const BACK = 'back';

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
        'hosts',
        'address',
        'revision',
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
        'hosts' => 'array',
        'revision' => 'integer',
    ];

    /** @return BelongsTo<Study, $this> */
    public function study(): BelongsTo
    {
        return $this->belongsTo(Study::class);
    }

    /** @param  string  $key  the key, or the readable address of one that is published */
    public static function opening(string $key): ?self
    {
        return self::open()
            ->where(static fn ($q) => $q->where('secret', hash('sha256', $key))->orWhere('address', $key))
            ->whereIn('may', self::MAY)
            ->first();
    }

    /** @return Builder<self> those that lead somewhere */
    public static function open(): Builder
    {
        return self::query()
            ->whereNull('ended_at')
            ->where(static fn ($q) => $q->whereNull('until')->orWhere('until', '>', now()))
            ->whereHas('study');
    }

    /** Whether it leads to the whole study, and not to a page of it. */
    public function isOfStudy(): bool
    {
        return $this->showcase === '';
    }

    public function mayTry(): bool
    {
        return $this->may !== 'look';
    }
}
