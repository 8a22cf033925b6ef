<?php

declare(strict_types=1);

namespace App\Retention;

use App\Data\TableStore;
use App\Models\Study;
use App\Models\User;
use App\People\Leaving;
use App\Runs\Results;
use Illuminate\Support\Facades\DB;

/** What is removed once it has been kept for long enough; each sweep tells how much it removed, or would remove. */
final class Sweeps
{
    private int $now;

    /** @param  bool  $dry  whether nothing is removed */
    public function __construct(private readonly bool $dry)
    {
        $this->now = time();
    }

    /**
     * What was deleted and may be brought back for a while.
     *
     * @return array{string, int, int} what, how many, bytes where they are known
     */
    public function deletedStudies(): array
    {
        $old = Study::onlyTrashed()->where('deleted_at', '<', $this->before('deleted_study_days'));
        $count = $old->count();
        if (! $this->dry) {
            // The rows of all that belongs to it go with it; their files are found afterwards, as nothing refers to them.
            $old->forceDelete();
        }

        return ['studies deleted long ago', $count, 0];
    }

    /** @return array{string, int, int} runs that can be made again, of studies that are deleted */
    public function runsOfDeletedStudies(): array
    {
        $models = DB::table('models')
            ->join('studies', 'studies.id', '=', 'models.study_id')
            ->where('studies.deleted_at', '<', $this->before('removed_days'))
            ->select('models.id');
        $count = 0;
        foreach (['batches', 'ensembles'] as $table) {
            $old = DB::table($table)->whereIn('model_id', clone $models);
            $count += $this->dry ? $old->count() : $old->delete();
        }

        return ['runs of deleted studies', $count, 0];
    }

    /** @return array{string, int, int} */
    public function removedRuns(): array
    {
        $old = DB::table('kept_runs')->where('deleted_at', '<', $this->before('removed_days'));

        return ['kept runs removed a while ago', $this->dry ? $old->count() : $old->delete(), 0];
    }

    /**
     * Blobs that nothing refers to.
     *
     * @param  int  $minutes  younger ones stay: whoever makes them may not be done
     * @return array{string, int, int}
     */
    public function results(int $minutes): array
    {
        $disk = Results::disk();
        $wanted = [];
        foreach (Results::REFERRED as [$table, $column]) {
            foreach (DB::table($table)->whereNotNull($column)->select($column)->distinct()->cursor() as $row) {
                $wanted[((array) $row)[$column]] = true;
            }
        }
        $until = $this->now - 60 * $minutes;
        $count = $bytes = 0;
        foreach (Results::FOLDERS as $folder) {
            foreach ($disk->allFiles($folder) as $file) {
                // What belongs together lies in a folder of its own.
                if (isset($wanted[$file]) || isset($wanted[dirname($file)]) || $disk->lastModified($file) > $until) {
                    continue;
                }
                $count++;
                $bytes += $disk->size($file);
                if (! $this->dry) {
                    $disk->delete($file);
                }
            }
        }
        if (! $this->dry) {
            DB::table('ensemble_parts')
                ->whereNotIn('folder', DB::table('ensembles')->select('folder'))
                ->delete();
        }

        return ['results that nothing refers to', $count, $bytes];
    }

    /** @return array{string, int, int} */
    public function tables(int $minutes): array
    {
        $count = $bytes = 0;
        foreach (TableStore::spare($this->now - 60 * $minutes) as $content => $size) {
            $count++;
            $bytes += $size;
            if (! $this->dry) {
                TableStore::forget($content);
            }
        }

        return ['files of data that nothing refers to', $count, $bytes];
    }

    /** @return array{string, int, int} */
    public function failedJobs(): array
    {
        $old = DB::table('failed_jobs')->where('failed_at', '<', $this->before('failed_job_days'));
        $count = $this->dry ? $old->count() : $old->delete();
        $batches = DB::table('job_batches')->where('created_at', '<', $this->now - 3 * 86_400);

        return ['jobs that failed, or were done, long ago', $count + ($this->dry ? $batches->count() : $batches->delete()), 0];
    }

    /** @return array{string, int, int} what was kept about people for as long as it is of use */
    public function people(): array
    {
        $now = date('Y-m-d H:i:s', $this->now);
        $count = 0;
        foreach (
            [
                DB::table('sign_ins')->where('until', '<', $now),
                DB::table('keys')->where('until', '<', $now),
                DB::table('personal_access_tokens')->where('expires_at', '<', $now),
                DB::table('password_reset_tokens')->where('created_at', '<', date('Y-m-d H:i:s', $this->now - 86_400)),
                DB::table('rooms')->where('until', '<', $now),
                DB::table('happenings')->where('created_at', '<', $this->before('happening_days')),
            ] as $old
        ) {
            $count += $this->dry ? $old->count() : $old->delete();
        }

        $guests = User::query()->where('guest_until', '<', $now);
        $count += $guests->count();
        foreach ($this->dry ? [] : $guests->get() as $guest) {
            // With their copies.
            Leaving::leave($guest);
            $guest->delete();
        }

        return ['sign-ins, keys, notes and copies of guests that ran out', $count, 0];
    }

    /** @return array{string, int, int} */
    public function sessions(): array
    {
        $until = $this->now - 60 * config()->integer('session.lifetime');

        return [
            'sessions that ran out',
            ...$this->files(config()->string('session.files').'/*', static fn (string $f): bool => filemtime($f) < $until),
        ];
    }

    /** @return array{string, int, int} entries of the cache, whose files begin with when they run out */
    public function cache(): array
    {
        $path = config('cache.stores.file.path');

        return [
            'entries of the cache that ran out',
            ...$this->files(
                (is_string($path) ? $path : storage_path('framework/cache')).'/*/*/*',
                fn (string $f): bool => (int) @file_get_contents($f, length: 10) < $this->now,
            ),
        ];
    }

    /** @return array{string, int, int} what servers and workers that are gone have left */
    public function leftovers(): array
    {
        $old = fn (string $f): bool => filemtime($f) < $this->now - 86_400 && self::isFree($f);

        [$workers, $bytes] = $this->files(storage_path('framework/workers/*/*'), $old);
        [$files, $more] = $this->files(sys_get_temp_dir().'/orbit-data*', $old);

        return ['traces of processes that are gone', $workers + $files, $bytes + $more];
    }

    private static function isFree(string $path): bool
    {
        $file = @fopen($path, 'r');

        return $file !== false && flock($file, LOCK_EX | LOCK_NB);
    }

    /**
     * @param  \Closure(string): bool  $isOld
     * @return array{int, int} how many, and bytes
     */
    private function files(string $pattern, \Closure $isOld): array
    {
        $count = $bytes = 0;
        foreach (glob($pattern) ?: [] as $file) {
            // Somebody else may have removed it meanwhile.
            if (! @is_file($file) || ! $isOld($file)) {
                continue;
            }
            $count++;
            $bytes += (int) @filesize($file);
            if (! $this->dry) {
                @unlink($file);
            }
        }

        return [$count, $bytes];
    }

    private function before(string $setting): string
    {
        return date('Y-m-d H:i:s', $this->now - 86_400 * config()->integer("merry-orbit.retention.$setting"));
    }
}
