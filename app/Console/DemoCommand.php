<?php

declare(strict_types=1);

namespace App\Console;

use App\Data\TableStore;
use App\Models\Study;
use App\Models\User;
use App\Studies\StudyMaker;
use Illuminate\Console\Command;

/** Puts the demo studies in place for the demo analyst. */
final class DemoCommand extends Command
{
    protected $signature = 'orbit:demo {--fresh : make them anew, and delete all other studies} {--count-other : only print how many studies hold other work}';

    protected $description = 'Put the demo studies in place';

    public function handle(): int
    {
        $user = User::demoAnalyst();
        if ($this->option('count-other') === true) {
            $this->line(
                (string) Study::query()
                    ->with('model')
                    ->get()
                    ->filter(static fn (Study $s): bool => $s->demo === null || StudyMaker::isWorkedOn($s->model))
                    ->count(),
            );

            return self::SUCCESS;
        }
        if ($this->option('fresh') === true) {
            Study::withTrashed()->where('user_id', $user->id)->forceDelete();
        }
        StudyMaker::demo($user);
        foreach (User::DEMO_OTHERS as $email => $name) {
            User::query()->firstOrCreate(['email' => $email], ['name' => $name]);
        }
        // The files that their data came from can be opened, too.
        foreach (glob(base_path('demo/files/*.*')) ?: [] as $file) {
            TableStore::keep($user, basename($file), (string) file_get_contents($file));
        }

        return self::SUCCESS;
    }
}
