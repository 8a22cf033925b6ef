<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * One search of a fit, or one profile: how far it is.
 *
 * @property int $id
 * @property string $fit_id
 * @property string $name
 * @property int $pieces how many files there are with what it was told
 * @property int $runs
 * @property ?float $best how far off its nearest point is
 * @property string $path where it came nearer: runs, distance and point of each, as JSON
 * @property ?string $ends what it came to, as JSON
 * @property string $claimed_by who goes on with it
 * @property int $claimed_at seconds
 * @property bool $made
 */
final class FitWalk extends Model
{
    public $timestamps = false;

    /** @var list<string> */
    protected $fillable = ['fit_id', 'name', 'pieces', 'runs', 'best', 'path', 'ends', 'claimed_by', 'claimed_at', 'made'];

    /** @var array<string, string> */
    protected $casts = [
        'pieces' => 'integer',
        'runs' => 'integer',
        'best' => 'float',
        'claimed_at' => 'integer',
        'made' => 'boolean',
    ];

    /** @return list<array{int, float, list<float>}> where it came nearer: after how many runs, how far off, and where */
    public function nearer(): array
    {
        /** @var list<array{int, float, list<float>}> */
        return json_decode($this->path, true, flags: JSON_THROW_ON_ERROR);
    }
}
