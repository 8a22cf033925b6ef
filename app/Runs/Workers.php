<?php

declare(strict_types=1);

namespace App\Runs;

use Illuminate\Queue\Events\JobExceptionOccurred;
use Illuminate\Queue\Events\JobProcessed;
use Illuminate\Queue\Events\JobProcessing;
use Illuminate\Queue\Events\JobTimedOut;
use Illuminate\Queue\Events\Looping;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Event;

/**
 * The workers of this machine: each holds a locked file that names the job it is at. The lock ends with the process, however it ends,
 * so another worker notices within a second or two and lets the job of a dead one be taken up again; the queue by itself would wait
 * until the longest job could have ended.
 */
final class Workers
{
    /** Seconds between two looks at the others, and two signs of life. */
    private const LOOK = 1;

    /** Seconds between two looks whether the clock was set back, and beyond which no job is put off. */
    private const CLOCK = 5;

    private const CLOCK_SECONDS = 120;

    /** @var resource|null */
    private static $file = null;

    private static int $looked = 0;

    private static int $clocked = 0;

    public static function listen(): void
    {
        Event::listen(Looping::class, self::look(...));
        Event::listen(JobProcessing::class, static function (JobProcessing $e): void {
            self::write(HeldJob::of($e->job));
            Elsewhere::tell(true);
        });
        Event::listen([JobProcessed::class, JobExceptionOccurred::class, JobTimedOut::class], static function (): void {
            self::write('');
            Elsewhere::tell(false);
        });
    }

    /** @return list<int> of each living worker, here and on other machines, when it last gave a sign of life: Unix times */
    public static function signs(): array
    {
        clearstatcache();
        $signs = Elsewhere::signs();
        foreach (self::files() as $path) {
            $file = @fopen($path, 'r+');
            if ($file === false) {
                continue;
            }
            if (! flock($file, LOCK_EX | LOCK_NB)) {
                $signs[] = (int) @filemtime($path);
            }
            fclose($file);
        }

        return $signs;
    }

    private static function look(): void
    {
        $now = time();
        // The clock may be set back.
        if (abs($now - self::$looked) < self::LOOK) {
            return;
        }
        self::$looked = $now;
        self::write('');
        Elsewhere::tell(false);
        Lost::look();
        // The clock was set back: what waits for a moment that is further away than any job is put off would wait that long.
        if (abs($now - self::$clocked) >= self::CLOCK && config()->string('queue.default') === 'database') {
            self::$clocked = $now;
            DB::table('jobs')
                ->where('available_at', '>', $now + self::CLOCK_SECONDS)
                ->update(['available_at' => $now]);
        }
        foreach (self::files() as $path) {
            $file = @fopen($path, 'r+');
            if ($file === false || ! flock($file, LOCK_EX | LOCK_NB)) {
                continue;
            }
            HeldJob::release((string) stream_get_contents($file));
            @unlink($path);
            fclose($file);
        }
    }

    /** Where it cannot be written, on a full disk, the queue waits as it would by itself. */
    private static function write(string $job): void
    {
        if (self::$file === null) {
            @mkdir(self::folder(), 0700, true);
            $file = @fopen(self::folder().'/'.getmypid(), 'c+');
            // Another worker may have taken the file away between the two, for that of a dead one.
            self::$file = $file !== false && flock($file, LOCK_EX | LOCK_NB) && (fstat($file)['nlink'] ?? 0) > 0 ? $file : null;
            if (self::$file !== null) {
                // A dead one may have had the same number.
                HeldJob::release((string) stream_get_contents(self::$file));
            }
        }
        if (self::$file !== null) {
            ftruncate(self::$file, 0);
            rewind(self::$file);
            @fwrite(self::$file, $job);
            @touch(self::folder().'/'.getmypid());
        }
    }

    /** @return list<string> of the other workers */
    private static function files(): array
    {
        $files = glob(self::folder().'/*');

        return array_values(
            array_filter($files === false ? [] : $files, static fn (string $path): bool => basename($path) !== (string) getmypid()),
        );
    }

    private static function folder(): string
    {
        // Jobs have numbers of their own in each database.
        $connection = 'database.connections.'.config()->string('database.default');
        $database = config("$connection.url") ?? config("$connection.database");

        return storage_path('framework/workers/'.hash('crc32b', (string) json_encode($database)));
    }
}
