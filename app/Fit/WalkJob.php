<?php

declare(strict_types=1);

namespace App\Fit;

use App\Models\Fit;
use App\Runs\Engine;
use App\Runs\Lanes;
use Illuminate\Bus\Batchable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunRefused;

/**
 * One lane of a fit: some stretches, and then another job at the end of the queue, so that whoever else waits has a turn in between.
 * After a worker was killed the job comes again.
 */
final class WalkJob implements ShouldQueue
{
    use Batchable;
    use Queueable;

    public int $tries = 5;

    public int $timeout = 160;

    /** Seconds after which others have a turn. */
    private const TURN = 1.0;

    /** The last one is kept: its model is compiled, and its walks stand where they are. */
    private static ?Walker $walker = null;

    private static string $of = '';

    /** Seconds after which it is looked again whether a stretch that another one went was ended, and how often. */
    private const LOOK = 1;

    private const LOOKS = 60;

    public function __construct(public readonly string $fit, public readonly int $lane, public readonly int $looks = 0)
    {
        $this->onQueue(Lanes::QUEUE);
    }

    public function handle(): void
    {
        $fit = Fit::query()->find($this->fit);
        if ($fit === null || $fit->isAtRest() || $this->batch()?->cancelled() === true || $fit->jobs()?->cancelled() === true) {
            return;
        }
        $who = "$this->fit/$this->lane";
        if (self::$walker === null || self::$of !== $this->fit) {
            [self::$walker, self::$of] = [new Walker($fit, Engine::inWorker()), $this->fit];
        }
        $until = hrtime(true) + self::TURN * 1e9;
        try {
            do {
                $isMore = self::$walker->next($who);
            } while ($isMore && hrtime(true) < $until && $this->batch()?->fresh()?->cancelled() !== true);
        } catch (NotUnderstood|RunRefused $e) {
            Fit::query()
                ->whereKey($this->fit)
                ->update(['trouble' => $e->getMessage()]);
            $this->batch()?->cancel();

            return;
        }
        if ($fit->refresh()->isAtRest()) {
            return;
        }
        if ($isMore) {
            Lanes::goOn($this->batch(), $this->lane, fn (int $lane): self => new self($this->fit, $lane));
        } elseif ($this->looks < self::LOOKS) {
            // What another one ends may begin the next stage; and it may have been killed.
            $this->batch()?->add([(new self($this->fit, $this->lane, $this->looks + 1))->delay(self::LOOK)]);
        }
    }
}
