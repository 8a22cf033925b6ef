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
 * A calibration that was begun: its spec says all that it follows from, its walks how far each search is, its result what it came to.
 *
 * @property string $id
 * @property string $model_id
 * @property int $user_id
 * @property int $revision
 * @property string $plan which of the study's calibrations
 * @property string $meaning what it follows from besides its plan; see PlannedFit::meaning()
 * @property string $document blob of the model
 * @property string $folder of what its walks were told
 * @property string $spec
 * @property string $stage Walker::STAGES
 * @property ?string $result
 * @property int $draws that are wanted of what the data leave open, of all chains together; 0 before somebody asks
 * @property int $chains
 * @property ?string $trouble why it cannot go on
 * @property ?string $bus_id the batch of jobs; null where the requests make all
 * @property Carbon $created_at
 * @property ModelDocument $model
 */
final class Fit extends Model
{
    use HasUlids;

    /** @var list<string> */
    protected $fillable = [
        'user_id',
        'revision',
        'plan',
        'meaning',
        'document',
        'folder',
        'spec',
        'stage',
        'result',
        'draws',
        'chains',
        'trouble',
        'bus_id',
    ];

    /** @var array<string, string> */
    protected $casts = ['user_id' => 'integer', 'revision' => 'integer', 'draws' => 'integer', 'chains' => 'integer'];

    /** @return BelongsTo<ModelDocument, $this> */
    public function model(): BelongsTo
    {
        return $this->belongsTo(ModelDocument::class, 'model_id');
    }

    /** @return HasMany<FitWalk, $this> */
    public function walks(): HasMany
    {
        return $this->hasMany(FitWalk::class, 'fit_id')->orderBy('id');
    }

    /** Stages in which all that was asked for is made. */
    public const AT_REST = ['done', 'drawn'];

    /** Whether all that was asked for is made. */
    public function isAtRest(): bool
    {
        return in_array($this->stage, self::AT_REST, true);
    }

    public function jobs(): ?\Illuminate\Bus\Batch
    {
        return $this->bus_id === null ? null : Bus::findBatch($this->bus_id);
    }
}
