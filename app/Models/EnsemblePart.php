<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * Some runs of an ensemble, which one worker makes at a stretch.
 *
 * @property int $id
 * @property string $folder
 * @property string $name of its file in the folder
 * @property int $first
 * @property int $runs
 * @property int $failed
 * @property float $seconds
 * @property string $claimed_by who makes it
 * @property int $claimed_at seconds
 * @property bool $made
 */
final class EnsemblePart extends Model
{
    public $timestamps = false;

    /** @var list<string> */
    protected $fillable = ['folder', 'name', 'first', 'runs', 'failed', 'seconds', 'claimed_by', 'claimed_at', 'made'];

    /** @var array<string, string> */
    protected $casts = [
        'first' => 'integer',
        'runs' => 'integer',
        'failed' => 'integer',
        'seconds' => 'float',
        'claimed_at' => 'integer',
        'made' => 'boolean',
    ];
}
