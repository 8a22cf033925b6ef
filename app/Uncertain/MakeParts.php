<?php

declare(strict_types=1);

namespace App\Uncertain;

use App\Models\Ensemble;
use App\Runs\Engine;
use App\Runs\Lanes;
use Illuminate\Bus\Batchable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;

/**
 * One lane of an ensemble: some parts, and then another job at the end of the queue, so that whoever else waits has a turn in between.
 * After a worker was killed the job comes again and makes its part anew.
 */
final class MakeParts implements ShouldQueue
{
    use Batchable;
    use Queueable;

    public int $tries = 5;

    public int $timeout = 160;

    /** Seconds after which others have a turn. */
    private const TURN = 1.0;

    /** The last one is kept: its model is analysed and compiled. */
    private static ?PartMaker $maker = null;

    private static string $of = '';

    /** Seconds after which it is looked again whether a part that another one began was ended, and how often. */
    private const LOOK = 6;

    private const LOOKS = 10;

    public function __construct(public readonly string $ensemble, public readonly int $lane, public readonly int $looks = 0)
    {
        $this->onQueue(Lanes::QUEUE);
    }

    public function handle(): void
    {
        $ensemble = Ensemble::query()->find($this->ensemble);
        // Of lanes that were sent later the batch is another.
        if ($ensemble === null || $this->batch()?->cancelled() === true || $ensemble->jobs()?->cancelled() === true) {
            return;
        }
        $who = "$this->ensemble/$this->lane";
        $of = "$this->ensemble/$ensemble->spec";
        if (self::$maker === null || self::$of !== $of) {
            [self::$maker, self::$of] = [PartMaker::of($ensemble, Engine::inWorker()), $of];
        }
        $until = hrtime(true) + self::TURN * 1e9;
        do {
            $isMore = self::$maker->next($who);
        } while ($isMore && hrtime(true) < $until && $this->batch()?->fresh()?->cancelled() !== true);
        if (! PartMaker::left($ensemble->folder)->exists()) {
            return;
        }
        if ($isMore) {
            Lanes::goOn($this->batch(), $this->lane, fn (int $lane): self => new self($this->ensemble, $lane));
        } elseif ($this->looks < self::LOOKS) {
            // Whoever makes the rest may have been killed.
            $this->batch()?->add([(new self($this->ensemble, $this->lane, $this->looks + 1))->delay(self::LOOK)]);
        }
    }
}
