<?php

declare(strict_types=1);

namespace App\Data;

use App\Models\DataFile;
use App\Models\User;
use App\Runs\Results;
use Illuminate\Contracts\Filesystem\Filesystem;
use Illuminate\Support\Facades\DB;
use MerryOrbit\Core\Data\CsvReader;
use MerryOrbit\Core\Data\TableFile;
use MerryOrbit\Core\Data\TableRefused;

/**
 * Files with tables as they were dropped, on the disk of results, under the hash of their content. The database knows whose they are;
 * see Console\TidyCommand for those that nobody needs any more.
 */
final class TableStore
{
    public const GONE = 'The file of this source is not here any more. Drop it once more.';

    /**
     * @return string the content's SHA-256, under which it lies from now on
     *
     * @throws TableRefused where it is too large, or there is no room for it
     */
    public static function keep(User $user, string $name, string $bytes): string
    {
        if (strlen($bytes) > CsvReader::MOST_BYTES) {
            throw TableRefused::because(
                'This file is larger than 64 MB. Save the rows and columns that you need as a file of their own.',
            );
        }
        $content = hash('sha256', $bytes);
        $isNew = DataFile::query()->whereBelongsTo($user)->where('content', $content)->doesntExist();
        $used = (int) DataFile::query()->whereBelongsTo($user)->sum('bytes');
        $most = 1_000_000 * config()->integer('merry-orbit.quota.data_megabytes');
        if ($isNew && $used + strlen($bytes) > $most) {
            throw TableRefused::because(
                'Your files of data take up '.
                    round($used / 1e6).
                    ' MB of '.
                    round($most / 1e6).
                    '. Delete studies whose data you need no more; their files go a week after them.',
            );
        }
        if (! Results::disk()->exists(self::path($content))) {
            Results::write(self::path($content), $bytes);
        }
        if ($isNew) {
            DataFile::query()->create([
                'user_id' => $user->id,
                'content' => $content,
                'name' => mb_substr($name, 0, 200),
                'bytes' => strlen($bytes),
            ]);
        }

        return $content;
    }

    /**
     * Readers of spreadsheets want a file of this machine; it is gone when the request is answered.
     *
     * @param  string|resource  $bytes
     *
     * @throws TableRefused
     */
    public static function opened(mixed $bytes, string $name): TableFile
    {
        $local = (string) tempnam(sys_get_temp_dir(), 'orbit-data');
        app()->terminating(static fn (): bool => @unlink($local));
        file_put_contents($local, $bytes);

        return TableFile::open($local, $name);
    }

    public static function path(string $content): string
    {
        return 'data/'.substr($content, 0, 2)."/$content";
    }

    /**
     * Files that no study refers to, today or in its history, and that lay there before a moment.
     *
     * @return array<string, int> bytes by content
     */
    public static function spare(int $until): array
    {
        $wanted = [];
        foreach ([['models', 'document'], ['edits', 'forward'], ['edits', 'inverse']] as [$table, $column]) {
            foreach (DB::table($table)->where($column, 'like', '%"content":"%')->select($column)->cursor() as $row) {
                preg_match_all('/"content":"([0-9a-f]{64})"/', (string) ((array) $row)[$column], $found);
                $wanted += array_fill_keys($found[1], true);
            }
        }
        $spare = [];
        foreach (Results::disk()->allFiles('data') as $file) {
            $content = basename($file);
            if (! isset($wanted[$content]) && Results::disk()->lastModified($file) <= $until) {
                $spare[$content] = Results::disk()->size($file);
            }
        }

        return $spare;
    }

    public static function forget(string $content): void
    {
        Results::disk()->delete(self::path($content));
        Results::disk()->deleteDirectory(ReadTable::folder($content));
        DataFile::query()->where('content', $content)->delete();
    }

    /** @throws TableRefused where it is not there */
    public static function file(string $content, string $name): TableFile
    {
        return self::opened(self::there($content)->readStream(self::path($content)) ?? '', $name);
    }

    /** @throws TableRefused where it is not there */
    public static function bytes(string $content): string
    {
        return self::there($content)->get(self::path($content)) ?? '';
    }

    private static function there(string $content): Filesystem
    {
        $disk = Results::disk();

        return preg_match('/^[0-9a-f]{64}$/', $content) === 1 && $disk->exists(self::path($content))
            ? $disk
            : throw TableRefused::because(self::GONE);
    }
}
