<?php

declare(strict_types=1);

namespace App\Console;

use App\Retention\Backup;
use App\Retention\BackupRefused;
use Illuminate\Console\Command;

final class BackupCommand extends Command
{
    protected $signature = 'orbit:backup {file : where to write it, a ZIP} {--keep= : put the time behind its name, and keep so many of the name}';

    protected $description = 'Write everything that people made into one file, while Merry Orbit runs';

    public function handle(): int
    {
        $given = $this->argument('file');
        $path = is_string($given) ? $given : '';
        $keep = $this->option('keep');
        if ($keep !== null && (! is_string($keep) || ! ctype_digit($keep) || (int) $keep < 1)) {
            $this->error('--keep takes a number of 1 or more: how many are kept.');

            return self::INVALID;
        }
        $base = str_ends_with($path, '.zip') ? substr($path, 0, -4) : $path;
        $path = $keep === null ? $path : $base.'-'.gmdate('Ymd-His').'.zip';
        @mkdir(dirname($path), 0700, true);
        try {
            $made = Backup::make($path);
        } catch (BackupRefused $e) {
            $this->error($e->getMessage());

            return self::FAILURE;
        }
        $this->line(
            "$path: the database and ".number_format($made['files']).' files, '.number_format($made['bytes'] / 1e6, 1).' MB.',
        );
        if ($made['missing'] !== []) {
            $this->warn(number_format(count($made['missing'])).' files that it refers to were missing already.');
        }
        $all = glob($base.'-[0-9]*-[0-9]*.zip') ?: [];
        sort($all);
        foreach ($keep === null ? [] : array_slice($all, 0, -(int) $keep) as $old) {
            unlink($old);
            $this->line("Removed the older $old.");
        }

        return self::SUCCESS;
    }
}
