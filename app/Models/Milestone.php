<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A name for a revision, to find it again.
 *
 * @property int $user_id
 * @property int $revision
 * @property string $name
 */
final class Milestone extends Model
{
    public const UPDATED_AT = null;

    /** @var list<string> */
    protected $fillable = ['user_id', 'revision', 'name'];

    /** @var array<string, string> */
    protected $casts = ['user_id' => 'integer', 'revision' => 'integer'];
}
