<?php

declare(strict_types=1);

namespace App\Runs;

use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Library\RunWatcher;
use MerryOrbit\Core\Simulate\RunLimits;
use MerryOrbit\Core\Simulate\Simulator;

/** Simulators with what they may take, by where they work. */
final class Engine
{
    /** While somebody waits, and others wait behind. */
    public static function inRequest(): Simulator
    {
        return self::with('most_adaptive_seconds', Turn::watch());
    }

    /** A worker of the queue has more time. */
    public static function inWorker(): Simulator
    {
        return self::with('most_worker_seconds');
    }

    private static function with(string $seconds, ?RunWatcher $watch = null): Simulator
    {
        return new Simulator(
            new ProgramStore(config()->string('merry-orbit.programs')),
            new RunLimits(
                config()->float('merry-orbit.run.most_evaluations'),
                config()->float('merry-orbit.run.most_values'),
                config()->float("merry-orbit.run.$seconds"),
            ),
            $watch,
        );
    }
}
