<?php

declare(strict_types=1);

namespace App\Runs;

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
    /** @var resource|null the turn, held by a lock that ends with the process */
    private $held = null;

    private readonly float $begun;

    /** @param  float  $free  seconds that need no turn */
    private function __construct(
        private readonly float $free,
        private readonly float $most,
        private readonly int $turns,
        private readonly string $folder,
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

    /** @return resource|null */
    private function take()
    {
        if (! is_dir($this->folder)) {
            @mkdir($this->folder, 0700, true);
        }
        for ($i = 0; $i < $this->turns; $i++) {
            $file = fopen("$this->folder/$i", 'c');
            if ($file !== false && flock($file, LOCK_EX | LOCK_NB)) {
                return $file;
            }
        }

        return null;
    }
}
