<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;

/**
 * Several runs of one revision of a model, made by the queue. Their results are files, and are gone with the batch.
 *
 * @property string $id
 * @property string $model_id
 * @property int $user_id
 * @property int $revision
 * @property ?string $token of a single run that was handed over
 * @property ?Carbon $cancelled_at
 * @property Carbon $created_at
 * @property ModelDocument $model
 */
final class Batch extends Model
{
    use HasUlids;

    /** @var list<string> */
    protected $fillable = ['user_id', 'revision', 'cancelled_at', 'token'];

    /** @var array<string, string> */
    protected $casts = ['user_id' => 'integer', 'revision' => 'integer', 'cancelled_at' => 'datetime'];

    /** @return BelongsTo<ModelDocument, $this> */
    public function model(): BelongsTo
    {
        return $this->belongsTo(ModelDocument::class, 'model_id');
    }

    /** @return HasMany<BatchRun, $this> */
    public function runs(): HasMany
    {
        return $this->hasMany(BatchRun::class);
    }

    public function folder(): string
    {
        return storage_path("app/batches/$this->id");
    }
}
