<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;

/**
 * A workshop that is open to phones for a while, by a short address.
 *
 * @property string $id
 * @property string $model_id
 * @property int $user_id
 * @property string $code
 * @property string $step
 * @property string $about
 * @property Carbon $until
 * @property ?ModelDocument $model
 * @property User $user
 */
final class Room extends Model
{
    use HasUlids;

    public const HOURS = 12;

    /** Of letters and digits that nobody takes for another: 31⁶ is 887 million, and a guess is allowed now and then. */
    private const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';

    private const LENGTH = 6;

    /** @var list<string> */
    protected $fillable = ['model_id', 'user_id', 'code', 'step', 'about', 'until'];

    /** @var array<string, string> */
    protected $casts = ['until' => 'datetime', 'user_id' => 'integer'];

    /** @return BelongsTo<ModelDocument, $this> */
    public function model(): BelongsTo
    {
        return $this->belongsTo(ModelDocument::class, 'model_id');
    }

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }

    /** @return HasMany<RoomVoice, $this> */
    public function voices(): HasMany
    {
        return $this->hasMany(RoomVoice::class);
    }

    public static function of(ModelDocument $model): ?self
    {
        return self::query()->where('model_id', $model->id)->where('until', '>', now())->latest()->first();
    }

    /** By its address, as long as it is open. */
    public static function byCode(string $code): ?self
    {
        return self::query()
            ->where('code', $code)
            ->where('until', '>', now())
            ->whereHas('model.study')
            ->with(['model.study', 'user'])
            ->first();
    }

    public static function newCode(): string
    {
        $code = '';
        for ($i = 0; $i < self::LENGTH; $i++) {
            $code .= self::LETTERS[random_int(0, strlen(self::LETTERS) - 1)];
        }

        return $code;
    }
}
