<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * A run as its settings and the revision of its model; its numbers are computed again when asked for.
 *
 * @property int $id
 * @property int $user_id
 * @property int $revision
 * @property array<string, mixed> $settings
 * @property bool $starred
 * @property string $comment
 * @property string $scenario
 * @property string $meaning
 * @property Carbon $created_at
 */
final class RunRow extends Model
{
    public const UPDATED_AT = null;

    protected $table = 'runs';

    /** @var list<string> */
    protected $fillable = ['user_id', 'revision', 'settings', 'starred', 'comment', 'scenario', 'meaning'];

    /** @var array<string, string> */
    protected $casts = ['user_id' => 'integer', 'revision' => 'integer', 'settings' => 'array', 'starred' => 'boolean'];
}
