<?php

declare(strict_types=1);

// A worker of the queue each of whose parts of an ensemble takes longer by some seconds of waiting, as if its runs were longer, without
// the cores that they would need: slow-worker.php SECONDS

use Illuminate\Contracts\Console\Kernel;
use Illuminate\Filesystem\FilesystemAdapter;
use Illuminate\Filesystem\LocalFilesystemAdapter;
use Illuminate\Support\Facades\Storage;

require __DIR__.'/../vendor/autoload.php';
/** @var Illuminate\Foundation\Application $app */
$app = require __DIR__.'/../bootstrap/app.php';
$app->make(Kernel::class)->bootstrap();

final class SlowDisk extends LocalFilesystemAdapter
{
    public static float $seconds = 0.0;

    public function move($from, $to)
    {
        if (str_starts_with($to, 'ensembles/')) {
            usleep((int) (1e6 * self::$seconds));
        }

        return parent::move($from, $to);
    }
}

/** @var list<string> $argv */
SlowDisk::$seconds = (float) ($argv[1] ?? 1);
$disk = Storage::disk('local');
assert($disk instanceof FilesystemAdapter);
Storage::set('local', new SlowDisk($disk->getDriver(), $disk->getAdapter(), $disk->getConfig()));
exit(
    $app->make(Kernel::class)->call('queue:work', ['--queue' => 'default,long', '--sleep' => 0.2, '--memory' => 448, '--quiet' => true])
);
