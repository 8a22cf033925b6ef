<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Library;

/** Someone who looks at a run while it goes on, now and then, and may stop it. What it has so far is kept. */
final class RunWatcher
{
    private float $next;

    private bool $stopped = false;

    /**
     * @param  \Closure(float): bool  $tell  gets the share that is done, 0 to 1, and says whether to stop
     * @param  float  $every  seconds between two looks
     */
    public function __construct(private readonly \Closure $tell, private readonly float $every = 0.15)
    {
        $this->next = hrtime(true) / 1e9 + $every;
    }

    /** Stops where values are saved, as soon as so much is done. */
    public static function until(float $share): self
    {
        return new self(static fn (float $done): bool => $done >= $share, 0.0);
    }

    public function stops(float $share): bool
    {
        $now = hrtime(true) / 1e9;
        if ($now >= $this->next && ! $this->stopped) {
            $this->next = $now + $this->every;
            $this->stopped = ($this->tell)($share);
        }

        return $this->stopped;
    }
}
