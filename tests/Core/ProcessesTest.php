<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Reduce\Processes;
use PHPUnit\Framework\TestCase;

/** Work that is split over processes: whatever becomes of them, one goes on. */
final class ProcessesTest extends TestCase
{
    public function test_parts_come_back_in_their_order_from_processes_of_their_own(): void
    {
        $parts = array_map(static fn (int $i): \Closure => static fn (): array => [$i, getmypid()], range(0, 3));
        $made = Processes::each($parts);
        self::assertSame([0, 1, 2, 3], array_column($made, 0));
        self::assertSame(getmypid(), $made[0][1]);
        self::assertCount(4, array_unique(array_column($made, 1)));
    }

    public function test_a_part_that_throws_does_so_once_and_in_one_process_alone(): void
    {
        $trace = (string) tempnam(sys_get_temp_dir(), 'processes');
        try {
            Processes::each([static fn (): int => 1, static fn (): int => throw new \RuntimeException('no more time')]);
            self::fail('nothing was thrown');
        } catch (\RuntimeException $e) {
            file_put_contents($trace, getmypid()."\n", FILE_APPEND);
            self::assertSame('no more time', $e->getMessage());
        }
        self::assertSame(getmypid()."\n", file_get_contents($trace), 'a second process came out as well');
        unlink($trace);
        self::assertSame(-1, pcntl_waitpid(-1, $status, WNOHANG), 'a process is left');
    }

    public function test_when_ones_own_part_throws_the_others_are_ended(): void
    {
        $endless = static fn (): int => sleep(60);
        $begun = hrtime(true);
        try {
            Processes::each([static fn (): int => throw new \RuntimeException('no more time'), $endless, $endless]);
        } catch (\RuntimeException) {
        }
        self::assertLessThan(30e9, hrtime(true) - $begun, 'nobody slept to the end');
        self::assertSame(-1, pcntl_waitpid(-1, $status, WNOHANG), 'a process is left');
    }

    public function test_what_a_killed_process_had_to_do_is_done_here(): void
    {
        $here = getmypid();
        $part = static function () use ($here): string {
            if (getmypid() !== $here) {
                posix_kill((int) getmypid(), SIGKILL);
            }

            return 'done';
        };
        self::assertSame(['done', 'done', 'done'], Processes::each([$part, $part, $part]));
    }
}
