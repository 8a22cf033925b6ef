<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\SoftDeletes;
use Illuminate\Support\Carbon;

/**
 * A run that someone froze under a name: its numbers stay as they were, whatever becomes of the model.
 *
 * @property string $id
 * @property string $model_id
 * @property int $user_id
 * @property int $revision
 * @property string $name
 * @property string $note
 * @property int $colour
 * @property bool $hidden
 * @property string $meaning
 * @property ?string $result blob of its numbers
 * @property int $bytes of that blob
 * @property array<string, mixed> $setting
 * @property Carbon $created_at
 */
final class KeptRun extends Model
{
    use HasUlids;
    use SoftDeletes;

    public const COLOURS = 8;

    /** @var list<string> */
    protected $fillable = ['user_id', 'revision', 'name', 'note', 'colour', 'hidden', 'setting', 'meaning', 'result', 'bytes'];

    /** @var array<string, string> */
    protected $casts = [
        'user_id' => 'integer',
        'revision' => 'integer',
        'colour' => 'integer',
        'bytes' => 'integer',
        'hidden' => 'boolean',
        'setting' => 'array',
    ];

    /** @return BelongsTo<ModelDocument, $this> */
    public function model(): BelongsTo
    {
        return $this->belongsTo(ModelDocument::class, 'model_id');
    }

    /** Numbers keep being floats on their way through the database. */
    protected function asJson(mixed $value, mixed $flags = 0): string
    {
        return json_encode($value, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION);
    }
}
