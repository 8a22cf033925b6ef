<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use MerryOrbit\Core\Model\Model as CoreModel;
use MerryOrbit\Core\Model\ModelRecord;

/**
 * A model at its newest revision. Its history is in the edits.
 *
 * @property string $id
 * @property string $study_id
 * @property int $user_id
 * @property int $revision
 * @property string $document
 * @property Study $study
 */
final class ModelDocument extends Model
{
    use HasUlids;

    protected $table = 'models';

    /** @var list<string> */
    protected $fillable = ['study_id', 'user_id', 'revision', 'document'];

    /** @var array<string, string> */
    protected $casts = ['revision' => 'integer', 'user_id' => 'integer'];

    /** @return BelongsTo<Study, $this> */
    public function study(): BelongsTo
    {
        return $this->belongsTo(Study::class);
    }

    /** @return HasMany<EditRow, $this> */
    public function edits(): HasMany
    {
        return $this->hasMany(EditRow::class, 'model_id');
    }

    /** @return HasMany<Milestone, $this> */
    public function milestones(): HasMany
    {
        return $this->hasMany(Milestone::class, 'model_id');
    }

    /** @return HasMany<RunRow, $this> */
    public function runs(): HasMany
    {
        return $this->hasMany(RunRow::class, 'model_id');
    }

    /** @return HasMany<KeptRun, $this> */
    public function keptRuns(): HasMany
    {
        return $this->hasMany(KeptRun::class, 'model_id');
    }

    /** @return HasMany<Batch, $this> */
    public function batches(): HasMany
    {
        return $this->hasMany(Batch::class, 'model_id');
    }

    /** @return HasMany<Ensemble, $this> */
    public function ensembles(): HasMany
    {
        return $this->hasMany(Ensemble::class, 'model_id');
    }

    /** @return HasMany<Fit, $this> */
    public function fits(): HasMany
    {
        return $this->hasMany(Fit::class, 'model_id');
    }

    /** Whether it refers to a file by its content, today or in its history. */
    public function mentions(string $content): bool
    {
        $like = "%\"content\":\"$content\"%";

        return str_contains($this->document, "\"content\":\"$content\"") ||
            EditRow::query()
                ->where('model_id', $this->id)
                ->where(fn ($q) => $q->where('forward', 'like', $like)->orWhere('inverse', 'like', $like))
                ->exists();
    }

    /** @var array{string, CoreModel}|null the document as it was read or written last, and what it says */
    private ?array $known = null;

    public function core(): CoreModel
    {
        if ($this->known !== null && $this->known[0] === $this->document) {
            return $this->known[1];
        }
        /** @var array<string, mixed> $record */
        $record = json_decode($this->document, true, flags: JSON_THROW_ON_ERROR);

        $model = ModelRecord::toModel($record);
        $this->known = [$this->document, $model];

        return $model;
    }

    /** Takes the model as its newest revision, to be saved. */
    public function put(CoreModel $model, int $revision): void
    {
        $this->document = self::written($model);
        $this->revision = $revision;
        $this->known = [$this->document, $model];
    }

    public static function written(CoreModel $model): string
    {
        return json_encode(ModelRecord::of($model), JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION);
    }
}
