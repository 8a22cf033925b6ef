<?php

declare(strict_types=1);

namespace App\Console;

use App\Data\TableStore;
use App\Runs\Results;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;

/** Finds the blobs that nothing refers to any more, and removes them. */
final class TidyCommand extends Command
{
    protected $signature = 'orbit:tidy {--dry : only say what would be removed} {--minutes=60 : younger ones stay, whoever makes them may not be done}';

    protected $description = 'Remove results and files of data that nothing refers to any more';

    public function handle(): int
    {
        $disk = Results::disk();
        $wanted = [];
        foreach (
            [
                ['ensembles', 'document'],
                ['ensembles', 'folder'],
                ['fits', 'document'],
                ['fits', 'folder'],
                ['batch_runs', 'document'],
                ['batch_runs', 'result'],
                ['kept_runs', 'result'],
            ] as [$table, $column]
        ) {
            foreach (DB::table($table)->whereNotNull($column)->select($column)->distinct()->cursor() as $row) {
                $wanted[((array) $row)[$column]] = true;
            }
        }
        $until = time() - 60 * (int) $this->option('minutes');
        $count = $bytes = 0;
        foreach (Results::FOLDERS as $folder) {
            foreach ($disk->allFiles($folder) as $file) {
                // What belongs together lies in a folder of its own.
                if (isset($wanted[$file]) || isset($wanted[dirname($file)]) || $disk->lastModified($file) > $until) {
                    continue;
                }
                $count++;
                $bytes += $disk->size($file);
                if ($this->option('dry') !== true) {
                    $disk->delete($file);
                }
            }
        }
        foreach (TableStore::spare($until) as $content => $size) {
            $count++;
            $bytes += $size;
            if ($this->option('dry') !== true) {
                TableStore::forget($content);
            }
        }
        if ($this->option('dry') !== true) {
            // Results of before they were named by what they are of.
            $disk->deleteDirectory('batches');
            DB::table('ensemble_parts')
                ->whereNotIn('folder', DB::table('ensembles')->select('folder'))
                ->delete();
            $this->callSilently('queue:prune-batches', ['--hours' => 48, '--unfinished' => 72]);
        }
        $this->line(
            ($this->option('dry') === true ? 'Would remove ' : 'Removed ').
                number_format($count).
                ' results of '.
                number_format($bytes / 1e6, 1).
                ' MB; '.
                number_format(count($wanted)).
                ' are referred to.',
        );

        return self::SUCCESS;
    }
}
