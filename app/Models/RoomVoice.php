<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * What a phone said in a workshop: one voice for each thing.
 *
 * @property int $id
 * @property string $room_id
 * @property string $phone
 * @property 'here'|'factor'|'pair'|'link' $kind
 * @property string $subject
 * @property string $says
 */
final class RoomVoice extends Model
{
    public const HERE = 'here';

    public const FACTOR = 'factor';

    public const PAIR = 'pair';

    public const LINK = 'link';

    /** @var list<string> */
    protected $fillable = ['room_id', 'phone', 'kind', 'subject', 'says'];
}
