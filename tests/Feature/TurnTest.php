<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\User;
use App\Runs\Turn;
use MerryOrbit\Core\Library\RunWatcher;
use MerryOrbit\Core\Simulate\RunRefused;
use Symfony\Component\HttpKernel\Exception\ServiceUnavailableHttpException;

/** Who computes for long takes turns with others. */
final class TurnTest extends TestCase
{
    private string $storage = '';

    protected function setUp(): void
    {
        parent::setUp();
        $this->storage = sys_get_temp_dir().'/merry-orbit-turns-'.bin2hex(random_bytes(4));
        mkdir("$this->storage/framework", recursive: true);
        $this->app->useStoragePath($this->storage);
        config(['merry-orbit.run.free_seconds' => -1.0, 'merry-orbit.run.turns' => 2]);
    }

    protected function tearDown(): void
    {
        shell_exec('rm -rf '.escapeshellarg($this->storage));
        parent::tearDown();
    }

    /** Somebody begins to compute for long; the turn is held as long as the watcher. */
    private function begin(User $who): ?RunWatcher
    {
        $this->actingAs($who);
        $watcher = Turn::watch();
        try {
            // It looks ten times a second.
            for ($until = hrtime(true) + 0.15e9; hrtime(true) < $until;) {
                $watcher->stops(0.5);
            }
        } catch (ServiceUnavailableHttpException) {
            return null;
        }

        return $watcher;
    }

    public function test_there_are_so_many_turns_and_whoever_waits_comes_before_who_has_one(): void
    {
        [$analyst, $stranger] = [User::demoAnalyst(), $this->stranger()];
        $first = $this->begin($analyst);
        $second = $this->begin($analyst);
        self::assertNotNull($first);
        self::assertNotNull($second, 'nobody else waits');
        self::assertNull($this->begin($stranger), 'all are taken');
        unset($second);
        self::assertNull($this->begin($analyst), 'somebody waits, and the analyst has one already');
        $other = $this->begin($stranger);
        self::assertNotNull($other);
        unset($first);
        $again = $this->begin($analyst);
        self::assertNotNull($again, 'who has none takes one');
        unset($again, $other);
        self::assertNotNull($this->begin($stranger));
    }

    public function test_who_takes_too_long_is_stopped_with_a_sentence(): void
    {
        config(['merry-orbit.run.most_seconds' => -1.0]);
        $this->expectException(RunRefused::class);
        $this->expectExceptionMessage('It came to 50 % of the run.');
        $this->begin(User::demoAnalyst());
    }
}
