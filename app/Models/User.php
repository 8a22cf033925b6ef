<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Foundation\Auth\User as Authenticatable;

/**
 * @property int $id
 * @property string $name
 * @property string $email
 */
final class User extends Authenticatable
{
    public const DEMO = 'analyst@quillhaven.example';

    /** @var list<string> */
    protected $fillable = ['name', 'email', 'password'];

    /** @var list<string> */
    protected $hidden = ['password', 'remember_token'];

    /** @return HasMany<Study, $this> */
    public function studies(): HasMany
    {
        return $this->hasMany(Study::class);
    }

    /** The person a demo start signs in; made when missing. */
    public static function demoAnalyst(): self
    {
        return self::query()->firstOrCreate(['email' => self::DEMO], ['name' => 'Quillhaven analyst']);
    }
}
