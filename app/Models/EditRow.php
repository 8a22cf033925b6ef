<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;
use MerryOrbit\Core\Edit\Patch;

/**
 * One edit of a model, never changed afterwards but for the mark that it was undone.
 *
 * @property int $id
 * @property string $model_id
 * @property int $user_id
 * @property int $revision
 * @property string $client_id
 * @property string $window
 * @property string $kind
 * @property string $words
 * @property array<string, mixed> $body
 * @property array<string, mixed> $forward
 * @property array<string, mixed> $inverse
 * @property ?int $undone_at_revision
 * @property bool $joined undone and made again together with the edit before it
 * @property Carbon $created_at
 * @property User $user
 */
final class EditRow extends Model
{
    public const UPDATED_AT = null;

    protected $table = 'edits';

    /** @var list<string> */
    protected $fillable = [
        'user_id',
        'revision',
        'client_id',
        'window',
        'kind',
        'words',
        'body',
        'forward',
        'inverse',
        'undone_at_revision',
        'joined',
    ];

    /** @var array<string, string> */
    protected $casts = [
        'user_id' => 'integer',
        'revision' => 'integer',
        'body' => 'array',
        'forward' => 'array',
        'inverse' => 'array',
        'undone_at_revision' => 'integer',
        'joined' => 'boolean',
    ];

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }

    public function forwardPatch(): Patch
    {
        return Patch::fromRecord($this->forward, $this->words);
    }

    public function inversePatch(string $words = ''): Patch
    {
        return Patch::fromRecord($this->inverse, $words);
    }

    /** Numbers keep being floats on their way through the database. */
    protected function asJson(mixed $value, mixed $flags = 0): string
    {
        return json_encode($value, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION);
    }
}
