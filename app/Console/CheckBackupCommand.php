<?php

declare(strict_types=1);

namespace App\Console;

use App\Retention\Backup;
use App\Retention\BackupRefused;
use Illuminate\Console\Command;

final class CheckBackupCommand extends Command
{
    protected $signature = 'orbit:check {file : a backup}';

    protected $description = 'Read a backup through, and say whether it is whole';

    public function handle(): int
    {
        $file = $this->argument('file');
        try {
            $found = Backup::check(is_string($file) ? $file : '');
        } catch (BackupRefused $e) {
            $this->error($e->getMessage());

            return self::FAILURE;
        }
        $this->line("This backup of $found[made] is whole: $found[studies] studies, $found[files] files.");

        return self::SUCCESS;
    }
}
