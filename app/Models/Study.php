<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasOne;
use Illuminate\Database\Eloquent\SoftDeletes;
use Illuminate\Support\Carbon;

/**
 * @property string $id
 * @property int $user_id
 * @property string $name
 * @property ?string $demo
 * @property ?list<array{where: string, sentence: string, element: ?string, grade: string, done: bool}> $import_log
 * @property ?array{study: string, revision: int, name: string} $origin what it is a copy of
 * @property ?Carbon $created_at
 * @property ?Carbon $updated_at
 * @property ModelDocument $model
 * @property User $owner
 */
final class Study extends Model
{
    use HasUlids;
    use SoftDeletes;

    /** @var list<string> */
    protected $fillable = ['user_id', 'name', 'demo', 'import_log', 'origin'];

    /** @var array<string, string> */
    protected $casts = ['user_id' => 'integer', 'import_log' => 'array', 'origin' => 'array'];

    /** @return BelongsTo<User, $this> */
    public function owner(): BelongsTo
    {
        return $this->belongsTo(User::class, 'user_id');
    }

    /** @return HasOne<ModelDocument, $this> */
    public function model(): HasOne
    {
        return $this->hasOne(ModelDocument::class);
    }

    /** @return array{name: string, revision: int}|null what it is a copy of, as its owner may know */
    public function origin(): ?array
    {
        return $this->origin === null ? null : ['name' => $this->origin['name'], 'revision' => $this->origin['revision']];
    }
}
