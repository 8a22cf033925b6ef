<?php

declare(strict_types=1);

namespace App\Retention;

use App\Data\TableStore;
use App\Database\Transfer;
use App\Database\TransferRefused;
use App\Runs\Results;
use Illuminate\Database\Connection;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;

/**
 * Everything that people made, in one ZIP: the database as it is at one moment, the files that it refers to, and a manifest with the
 * SHA-256 of each. Settings and keys are not in it.
 */
final class Backup
{
    private const FORMAT = 'merry-orbit backup';

    private const VERSION = 1;

    private const DATABASE = 'database.sqlite';

    /** The connection to the copy, while it is made or read. */
    private const SNAPSHOT = 'snapshot';

    /**
     * Writes a backup while others go on working: the database gives a snapshot, and files are never changed once they are there.
     * Whatever the database is, its copy in a backup is SQLite.
     *
     * @return array{files: int, bytes: int, missing: list<string>} missing: files that were not there any more
     *
     * @throws BackupRefused
     */
    public static function make(string $path): array
    {
        $hold = Hold::shared();
        $part = "$path.part";
        $copy = "$path.database";
        @unlink($copy);
        try {
            self::copyTo($copy);
            $snapshot = new \PDO("sqlite:$copy");
            $zip = new \ZipArchive();
            if ($zip->open($part, \ZipArchive::CREATE | \ZipArchive::OVERWRITE) !== true) {
                throw BackupRefused::because("`$path` cannot be written. Choose another place for the backup.");
            }
            $zip->addFile($copy, self::DATABASE);
            $sums = [self::DATABASE => (string) hash_file('sha256', $copy)];
            $bytes = (int) filesize($copy);
            $missing = [];
            $isLocal = config('filesystems.disks.'.Results::name().'.driver') === 'local';
            foreach (self::referred($snapshot) as $file) {
                if (! Results::disk()->exists($file)) {
                    $missing[] = $file;

                    continue;
                }
                // A file of this machine is copied when the archive is closed; others are held until then.
                $isLocal
                    ? $zip->addFile(Results::disk()->path($file), "files/$file")
                    : $zip->addFromString("files/$file", (string) Results::disk()->get($file));
                // They are packed already.
                $zip->setCompressionName("files/$file", \ZipArchive::CM_STORE);
                $sums["files/$file"] = self::sum(Results::disk()->readStream($file));
                $bytes += Results::disk()->size($file);
            }
            $manifest = [
                'format' => self::FORMAT,
                'version' => self::VERSION,
                'made' => gmdate('c'),
                'migrations' => self::migrations($snapshot),
                'sha256' => $sums,
            ];
            $zip->addFromString(
                'manifest.json',
                json_encode($manifest, JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES),
            );
            if (! @$zip->close() || ! chmod($part, 0600) || ! rename($part, $path)) {
                throw BackupRefused::because("`$path` cannot be written: perhaps its disk is full. There is no backup.");
            }

            return ['files' => count($sums) - 1, 'bytes' => $bytes, 'missing' => $missing];
        } finally {
            @unlink($copy);
            @unlink($part);
            unset($hold);
        }
    }

    /**
     * Reads a backup through, to the last byte.
     *
     * @return array{made: string, files: int, studies: int, migrations: list<string>}
     *
     * @throws BackupRefused with what is wrong
     */
    public static function check(string $path): array
    {
        [$zip, $manifest] = self::opened($path);
        foreach ($manifest['sha256'] as $name => $sum) {
            if (self::sum($zip->getStream($name) ?: null) !== $sum) {
                throw BackupRefused::because("`$name` in this backup is missing, or not as it was. Use another backup.");
            }
        }
        $copy = (string) tempnam(dirname($path), 'check');
        try {
            file_put_contents($copy, $zip->getStream(self::DATABASE));
            $snapshot = new \PDO("sqlite:$copy");
            $said = self::column($snapshot, 'pragma integrity_check');
            if ($said !== ['ok'] || self::column($snapshot, 'pragma foreign_key_check') !== []) {
                throw BackupRefused::because('The database in this backup is damaged: '.implode(', ', $said).'. Use another backup.');
            }

            return [
                'made' => $manifest['made'],
                'files' => count($manifest['sha256']) - 1,
                'studies' => (int) (self::column($snapshot, 'select count(*) from studies where deleted_at is null')[0] ?? 0),
                'migrations' => self::migrations($snapshot),
            ];
        } finally {
            @unlink($copy);
        }
    }

    /**
     * Puts everything back as it was. What is there now stays beside it.
     *
     * @return string where what was replaced is: the database, or a backup of it
     *
     * @throws BackupRefused
     */
    public static function restore(string $path): string
    {
        $unknown = array_diff(self::check($path)['migrations'], self::known());
        if ($unknown !== []) {
            throw BackupRefused::because('This backup was made by a newer Merry Orbit. Restore it with that one.');
        }
        [$zip, $manifest] = self::opened($path);
        foreach (array_keys($manifest['sha256']) as $name) {
            $file = str_starts_with($name, 'files/') ? substr($name, 6) : null;
            if ($file !== null && ! Results::disk()->exists($file)) {
                Results::write($file, (string) $zip->getFromName($name));
            }
        }
        if (DB::connection()->getDriverName() !== 'sqlite') {
            return self::restoreRows($zip, $path);
        }
        $database = DB::connection()->getConfig('database');
        $database = is_string($database) ? $database : '';
        file_put_contents("$database.new", $zip->getStream(self::DATABASE));
        chmod("$database.new", 0600);
        $before = "$database.before-".gmdate('Y-m-d-His');
        if (is_file($database)) {
            // All of it in one file, before it is put aside.
            DB::statement('pragma wal_checkpoint(truncate)');
            DB::purge();
            rename($database, $before);
            @unlink("$database-wal");
            @unlink("$database-shm");
        }
        rename("$database.new", $database);
        Artisan::call('migrate', ['--force' => true]);

        return $before;
    }

    /**
     * SHA-256, piece by piece: a database may be larger than the memory.
     *
     * @param  resource|null  $stream
     */
    private static function sum($stream): string
    {
        $hash = hash_init('sha256');
        if ($stream !== null) {
            @hash_update_stream($hash, $stream);
            fclose($stream);
        }

        return hash_final($hash);
    }

    /** @throws BackupRefused */
    private static function copyTo(string $file): void
    {
        if (DB::connection()->getDriverName() === 'sqlite') {
            DB::statement('vacuum into ?', [$file]);

            return;
        }
        self::with($file, static function (Connection $copy): void {
            Transfer::make(DB::connection(), $copy);
        });
    }

    /** Into a database that is no file: what is there now is backed up first, then replaced row by row. */
    private static function restoreRows(\ZipArchive $zip, string $path): string
    {
        $before = preg_replace('/\.zip$/D', '', $path).'.before-'.gmdate('Y-m-d-His').'.zip';
        self::make($before);
        $file = "$path.database";
        try {
            file_put_contents($file, $zip->getStream(self::DATABASE));
            chmod($file, 0600);
            self::with($file, static function (Connection $copy): void {
                Artisan::call('migrate', ['--database' => self::SNAPSHOT, '--force' => true]);
                Artisan::call('migrate:fresh', ['--force' => true]);
                Transfer::make($copy, DB::connection());
            });
        } finally {
            @unlink($file);
        }

        return $before;
    }

    /**
     * @param  \Closure(Connection): void  $work  with a SQLite file as a connection
     *
     * @throws BackupRefused
     */
    private static function with(string $file, \Closure $work): void
    {
        if (! is_file($file) && ! touch($file)) {
            throw BackupRefused::because("`$file` cannot be written. Choose another place for the backup.");
        }
        chmod($file, 0600);
        config([
            'database.connections.'.self::SNAPSHOT => [
                ...config()->array('database.connections.sqlite'),
                'database' => $file,
                'journal_mode' => 'DELETE',
            ],
        ]);
        try {
            $work(DB::connection(self::SNAPSHOT));
        } catch (TransferRefused $e) {
            throw BackupRefused::because($e->getMessage());
        } finally {
            DB::purge(self::SNAPSHOT);
        }
    }

    /**
     * @return array{\ZipArchive, array{made: string, sha256: array<string, string>}}
     *
     * @throws BackupRefused
     */
    private static function opened(string $path): array
    {
        $zip = new \ZipArchive();
        if (! is_file($path) || $zip->open($path, \ZipArchive::RDONLY) !== true) {
            throw BackupRefused::because("`$path` is no backup: it is not there, or no ZIP.");
        }
        $manifest = json_decode((string) $zip->getFromName('manifest.json'), true);
        if (! is_array($manifest) || ($manifest['format'] ?? null) !== self::FORMAT || ! is_array($manifest['sha256'] ?? null)) {
            throw BackupRefused::because("`$path` is no backup of Merry Orbit: it has no manifest.json that says so.");
        }
        if (($manifest['version'] ?? null) !== self::VERSION || ! isset($manifest['sha256'][self::DATABASE])) {
            throw BackupRefused::because('This backup is of a kind that is not read here. Use the Merry Orbit that made it.');
        }
        $sums = [];
        foreach ($manifest['sha256'] as $name => $sum) {
            // Nothing of it is written outside of where it belongs.
            if (
                ! is_string($name) ||
                ! is_string($sum) ||
                preg_match('#^(?:'.self::DATABASE.'|files/[a-z]+/[\w./-]+)$#D', $name) !== 1 ||
                str_contains($name, '..')
            ) {
                throw BackupRefused::because('This backup holds a file that is none of Merry Orbit’s. Use another one.');
            }
            $sums[$name] = $sum;
        }

        return [$zip, ['made' => is_string($manifest['made'] ?? null) ? $manifest['made'] : '', 'sha256' => $sums]];
    }

    /** @return list<string> names of files on the disk of results */
    private static function referred(\PDO $snapshot): array
    {
        $files = [];
        foreach (Results::REFERRED as [$table, $column]) {
            // A database of an earlier version lacks what came later.
            if (! in_array($column, self::column($snapshot, "select name from pragma_table_info('$table')"), true)) {
                continue;
            }
            foreach (self::column($snapshot, "select distinct $column from $table where $column is not null") as $name) {
                array_push($files, ...$column === 'folder' ? Results::disk()->allFiles($name) : [$name]);
            }
        }
        if (self::column($snapshot, "select name from sqlite_master where name = 'data_files'") !== []) {
            foreach (self::column($snapshot, 'select distinct content from data_files') as $content) {
                $files[] = TableStore::path($content);
            }
        }

        return array_values(array_unique($files));
    }

    /** @return list<string> */
    private static function migrations(\PDO $database): array
    {
        return self::column($database, 'select migration from migrations order by id');
    }

    /** @return list<string> */
    private static function known(): array
    {
        return array_map(static fn (string $path): string => basename($path, '.php'), glob(database_path('migrations/*.php')) ?: []);
    }

    /** @return list<string> */
    private static function column(\PDO $database, string $sql): array
    {
        $found = $database->query($sql);
        $column = $found === false ? [] : array_values($found->fetchAll(\PDO::FETCH_COLUMN));

        return array_map(static fn (mixed $v): string => is_scalar($v) ? (string) $v : '', $column);
    }
}
