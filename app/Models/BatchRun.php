<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * @property int $id
 * @property string $batch_id
 * @property int $position
 * @property string $name
 * @property string $scenario
 * @property array<string, mixed> $setting
 * @property string $state
 * @property float $share
 * @property ?float $seconds
 * @property string $words
 * @property ?string $document blob of the model it is of
 * @property ?string $result blob of the run
 */
final class BatchRun extends Model
{
    public $timestamps = false;

    /** @var list<string> */
    protected $fillable = ['position', 'name', 'scenario', 'setting', 'state', 'share', 'seconds', 'words', 'document', 'result'];

    /** @var array<string, string> */
    protected $casts = ['position' => 'integer', 'setting' => 'array', 'share' => 'float', 'seconds' => 'float'];
}
