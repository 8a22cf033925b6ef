<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\Bus;

/**
 * Several runs of a model, made by the queue. Each names its model and its result by blobs; see App\Runs\Results.
 *
 * @property string $id
 * @property string $model_id
 * @property int $user_id
 * @property int $revision
 * @property ?string $token of a single run that was handed over
 * @property ?string $bus_id the batch of jobs; null where the request made the runs by itself
 * @property Carbon $created_at
 * @property ModelDocument $model
 */
final class Batch extends Model
{
    use HasUlids;

    /** @var list<string> */
    protected $fillable = ['user_id', 'revision', 'token', 'bus_id'];

    /** @var array<string, string> */
    protected $casts = ['user_id' => 'integer', 'revision' => 'integer'];

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

    public function isCancelled(): bool
    {
        return $this->jobs()?->cancelled() === true;
    }

    /** What of it has not begun is not begun any more. */
    public function cancel(): void
    {
        $this->jobs()?->cancel();
    }

    public function jobs(): ?\Illuminate\Bus\Batch
    {
        return $this->bus_id === null ? null : Bus::findBatch($this->bus_id);
    }
}
