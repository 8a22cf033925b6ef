<?php

declare(strict_types=1);

namespace App\People;

use App\Models\Key;
use App\Models\Study;
use App\Models\User;
use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldBeEncrypted;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;

/** Writes to an address that something was shared with, or that is invited: as to somebody who has an account, or who can make one. */
final class InviteJob implements ShouldBeEncrypted, ShouldQueue
{
    use Dispatchable;
    use Queueable;

    public function __construct(
        private readonly string $email,
        private readonly int $by,
        private readonly ?string $study,
        private readonly ?string $may,
    ) {
        $this->onConnection(Letters::queue());
    }

    public function handle(): void
    {
        $by = User::query()->find($this->by);
        $study = $this->study === null ? null : Study::query()->find($this->study);
        if ($by === null || ($this->study !== null && $study === null)) {
            return;
        }
        $has = User::query()->where('email', $this->email)->whereNull('left_at')->exists();
        if ($has && $study !== null) {
            Letters::shared($this->email, $by, $study, (string) $this->may);
        } elseif (! $has && config()->boolean('merry-orbit.invite')) {
            $key = Key::cut(Key::INVITATION, Letters::INVITATION_HOURS, $this->email, $by);
            Letters::invitation($this->email, $key, $by, $study);
        }
    }
}
