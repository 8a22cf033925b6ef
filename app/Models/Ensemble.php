<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\Bus;

/**
 * Many runs of a model under uncertainty. Which there are to be says its spec; which are made already, the rows of App\Models\EnsemblePart
 * under its folder, which others that ask for the same share.
 *
 * @property string $id
 * @property string $model_id
 * @property int $user_id
 * @property int $revision
 * @property string $purpose what the runs are for: EnsemblePlan::PURPOSES
 * @property string $scenario
 * @property string $name
 * @property string $meaning of the model: what gives other numbers has another one
 * @property string $document blob of the model
 * @property string $folder of its results
 * @property string $spec
 * @property ?string $bus_id the batch of jobs; null where the request made all
 * @property Carbon $created_at
 * @property ModelDocument $model
 */
final class Ensemble extends Model
{
    use HasUlids;

    /** @var list<string> */
    protected $fillable = ['user_id', 'revision', 'purpose', 'scenario', 'name', 'meaning', 'document', 'folder', 'spec', 'bus_id'];

    /** @var array<string, string> */
    protected $casts = ['user_id' => 'integer', 'revision' => 'integer'];

    /** @return BelongsTo<ModelDocument, $this> */
    public function model(): BelongsTo
    {
        return $this->belongsTo(ModelDocument::class, 'model_id');
    }

    public function jobs(): ?\Illuminate\Bus\Batch
    {
        return $this->bus_id === null ? null : Bus::findBatch($this->bus_id);
    }
}
