<?php

declare(strict_types=1);

namespace App\Runs;

use Illuminate\Support\Facades\Auth;
use MerryOrbit\Core\Library\RunWatcher;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Simulate\RunRefused;
use Symfony\Component\HttpKernel\Exception\ServiceUnavailableHttpException;

/**
 * Keeps the computing of one request from holding up everybody else: each may compute for a moment, then it needs one of a few
 * turns; who finds none free is told to come again, and whoever takes too long is stopped with a sentence.
 */
final class Turn
{
    /** Seconds after which somebody who was told to come again does not wait any more. */
    private const WAITS = 3;

    /** @var resource|null the turn, held by a lock that ends with the process */
    private $held = null;

    private readonly float $begun;

    /**
     * @param  float  $free  seconds that need no turn
     * @param  string  $who  whose turn it is
     */
    private function __construct(
        private readonly float $free,
        private readonly float $most,
        private readonly int $turns,
        private readonly string $folder,
        private readonly string $who,
    ) {
        $this->begun = hrtime(true) / 1e9;
    }

    public static function watch(): RunWatcher
    {
        $turn = new self(
            config()->float('merry-orbit.run.free_seconds'),
            config()->float('merry-orbit.run.most_seconds'),
            config()->integer('merry-orbit.run.turns'),
            storage_path('framework/turns'),
            (string) (Auth::id() ?? 'nobody'),
        );

        return new RunWatcher($turn->look(...), 0.1);
    }

    /**
     * Always goes on, or throws.
     *
     * @throws RunRefused|ServiceUnavailableHttpException
     */
    private function look(float $share): bool
    {
        $seconds = hrtime(true) / 1e9 - $this->begun;
        if ($seconds > $this->most) {
            $about = $share > 0.0 ? ' It came to '.max(1, (int) (100 * $share)).' % of the run.' : '';
            throw RunRefused::because(
                new Problem(
                    'run.long',
                    'This takes too long to be worked out while one waits.'.
                        $about.
                        ' Make a scenario of the run, which is made in the background, or choose a longer step or a shorter span.',
                ),
            );
        }
        if ($seconds > $this->free && $this->held === null) {
            $this->held = $this->take() ?? throw new ServiceUnavailableHttpException(1);
        }

        return false;
    }

    /**
     * Whoever holds a turn already gets another one only while nobody else waits for one.
     *
     * @return resource|null
     */
    private function take()
    {
        if (! is_dir($this->folder)) {
            @mkdir($this->folder, 0700, true);
        }
        $taken = null;
        $mine = 0;
        for ($i = 0; $i < $this->turns; $i++) {
            $file = @fopen("$this->folder/$i", 'c+');
            if ($file === false) {
                continue;
            }
            if ($taken === null && flock($file, LOCK_EX | LOCK_NB)) {
                $taken = $file;
            } elseif (! flock($file, LOCK_EX | LOCK_NB)) {
                $mine += stream_get_contents($file) === $this->who ? 1 : 0;
            }
        }
        $waiting = "$this->folder/waits-$this->who";
        if ($taken === null || ($mine > 0 && $this->othersWait())) {
            @touch($waiting);

            return null;
        }
        @unlink($waiting);
        ftruncate($taken, 0);
        @fwrite($taken, $this->who);
        fflush($taken);

        return $taken;
    }

    private function othersWait(): bool
    {
        clearstatcache();
        foreach (glob("$this->folder/waits-*") ?: [] as $file) {
            if ($file !== "$this->folder/waits-$this->who" && abs(time() - (int) @filemtime($file)) <= self::WAITS) {
                return true;
            }
        }

        return false;
    }
}
