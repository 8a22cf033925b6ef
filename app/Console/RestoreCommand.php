<?php

declare(strict_types=1);

namespace App\Console;

use App\Retention\Backup;
use App\Retention\BackupRefused;
use App\Runs\Workers;
use Illuminate\Console\Command;

final class RestoreCommand extends Command
{
    protected $signature = 'orbit:restore {file : a backup}';

    protected $description = 'Put everything back as it was when a backup was made';

    public function handle(): int
    {
        foreach (glob(storage_path('framework/serve-*/lock')) ?: [] as $lock) {
            $file = @fopen($lock, 'r');
            if ($file !== false && ! flock($file, LOCK_EX | LOCK_NB)) {
                $this->error('Merry Orbit is running ('.basename(dirname($lock)).'). Stop it first, then restore.');

                return self::FAILURE;
            }
        }
        // On a server of another kind its workers tell that it runs.
        if (Workers::signs() !== []) {
            $this->error('Merry Orbit is running: its workers live. Stop it first, then restore.');

            return self::FAILURE;
        }
        $file = $this->argument('file');
        try {
            $before = Backup::restore(is_string($file) ? $file : '');
        } catch (BackupRefused $e) {
            $this->error($e->getMessage());

            return self::FAILURE;
        }
        $this->line("Everything is as it was then. The database that was there before is $before.");

        return self::SUCCESS;
    }
}
