<?php

declare(strict_types=1);

namespace App\Data;

use App\Models\User;
use App\Runs\Results;
use MerryOrbit\Core\Exchange\FileRefused;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\AreaMap;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Source;

/** A study with the files of its data: a ZIP of `study.json`, the native file, and `data/`, the files as they were dropped. */
final class StudyArchive
{
    private const STUDY = 'study.json';

    private const DATA = 'data/';

    private const MOST_ENTRIES = 600;

    private const MOST_BYTES = 300_000_000;

    private const MOST_OF_ONE = 64_000_000;

    public static function looksLike(string $bytes): bool
    {
        return str_starts_with($bytes, "PK\x03\x04");
    }

    /** @return string the bytes of the ZIP */
    public static function pack(Model $model): string
    {
        $path = self::path();
        $zip = new \ZipArchive();
        $zip->open($path, \ZipArchive::CREATE | \ZipArchive::OVERWRITE);
        $zip->addFromString(self::STUDY, NativeFile::export($model));
        $used = [];
        foreach (self::contents($model) as $content => $name) {
            $file = Results::disk()->exists(TableStore::path($content)) ? Results::disk()->get(TableStore::path($content)) : null;
            if ($file !== null) {
                // Two files of one name stand beside each other.
                $plain = trim((string) preg_replace('~[\\\\/:*?"<>|\x00-\x1F]+~', '_', $name), ' .') ?: 'table';
                $entry = isset($used[mb_strtolower($plain)]) ? substr($content, 0, 8)." $plain" : $plain;
                $used[mb_strtolower($plain)] = true;
                $zip->addFromString(self::DATA.$entry, $file);
            }
        }
        $zip->close();
        $bytes = (string) file_get_contents($path);
        @unlink($path);

        return $bytes;
    }

    /**
     * Keeps the files of its data, those that its study speaks of.
     *
     * @return string the native file
     *
     * @throws FileRefused|\MerryOrbit\Core\Data\TableRefused
     */
    public static function unpack(string $bytes, User $user): string
    {
        $path = self::path();
        file_put_contents($path, $bytes);
        $zip = new \ZipArchive();
        if ($zip->open($path, \ZipArchive::RDONLY) !== true) {
            @unlink($path);
            throw FileRefused::because('This ZIP cannot be opened; it may have been cut off on its way.');
        }
        try {
            self::mustBeSmall($zip);
            $study = $zip->getFromName(self::STUDY);
            if ($study === false) {
                throw FileRefused::because('This ZIP holds no study: there is no `study.json` in it.');
            }
            for ($i = 0; $i < $zip->numFiles; $i++) {
                $name = (string) $zip->getNameIndex($i);
                $file = str_starts_with($name, self::DATA) ? $zip->getFromIndex($i) : false;
                // What the study does not speak of has no business here.
                if (is_string($file) && str_contains($study, hash('sha256', $file))) {
                    TableStore::keep($user, basename($name), $file);
                }
            }

            return $study;
        } finally {
            $zip->close();
            @unlink($path);
        }
    }

    /** @throws FileRefused */
    private static function mustBeSmall(\ZipArchive $zip): void
    {
        $bytes = 0;
        for ($i = 0; $i < $zip->numFiles; $i++) {
            $size = (int) ($zip->statIndex($i)['size'] ?? 0);
            $bytes += $size;
            if ($zip->numFiles > self::MOST_ENTRIES || $size > self::MOST_OF_ONE || $bytes > self::MOST_BYTES) {
                throw FileRefused::because('This ZIP holds more than a study with its data can: 600 files, 64 MB each, 300 MB in all.');
            }
        }
    }

    /** @return array<string, string> names of files by content */
    private static function contents(Model $model): array
    {
        $contents = [];
        foreach ([...array_values($model->part('sources')), ...array_values($model->part('areas'))] as $one) {
            if (($one instanceof Source || $one instanceof AreaMap) && $one->content !== '') {
                $contents[$one->content] = $one->name;
            }
        }

        return $contents;
    }

    private static function path(): string
    {
        return (string) tempnam(sys_get_temp_dir(), 'orbit-study');
    }
}
