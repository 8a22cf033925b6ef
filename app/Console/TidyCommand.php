<?php

declare(strict_types=1);

namespace App\Console;

use App\Retention\Hold;
use App\Retention\Sweeps;
use Illuminate\Console\Command;

/** Removes what has been kept for long enough and what nothing refers to any more, and says what it was. */
final class TidyCommand extends Command
{
    protected $signature = 'orbit:tidy {--dry : only say what would be removed} {--minutes=60 : younger results stay, whoever makes them may not be done}';

    protected $description = 'Remove what has been kept for long enough, and what nothing refers to any more';

    public function handle(): int
    {
        $hold = Hold::alone();
        if ($hold === null) {
            $this->line('A backup is being made, or somebody else tidies; nothing was removed.');

            return self::SUCCESS;
        }
        $minutes = (int) $this->option('minutes');
        $isDry = $this->option('dry') === true;
        $sweeps = new Sweeps($isDry);
        $all = 0;
        // Rows first: what they referred to is found afterwards.
        foreach (
            [
                $sweeps->deletedStudies(...),
                $sweeps->runsOfDeletedStudies(...),
                $sweeps->removedRuns(...),
                static fn (): array => $sweeps->results($minutes),
                static fn (): array => $sweeps->tables($minutes),
                $sweeps->failedJobs(...),
                $sweeps->people(...),
                $sweeps->sessions(...),
                $sweeps->cache(...),
                $sweeps->leftovers(...),
            ] as $sweep
        ) {
            [$what, $count, $bytes] = $sweep();
            $all += $count;
            if ($count > 0) {
                $this->line(
                    ($isDry ? 'Would remove ' : 'Removed ').
                        number_format($count).
                        " $what".
                        ($bytes > 0 ? ' ('.number_format($bytes / 1e6, 1).' MB)' : '').
                        '.',
                );
            }
        }
        if ($all === 0) {
            $this->line('There is nothing to remove.');
        }

        return self::SUCCESS;
    }
}
