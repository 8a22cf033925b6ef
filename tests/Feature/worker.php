<?php

declare(strict_types=1);

// A worker of the queue that somebody else may kill: worker.php FOLDER, where the results are

use Illuminate\Contracts\Console\Kernel;

require __DIR__.'/../../vendor/autoload.php';
$app = require __DIR__.'/../../bootstrap/app.php';
$app->make(Kernel::class)->bootstrap();
/** @var list<string> $argv */
config([
    'filesystems.disks.local.root' => $argv[1],
    'queue.default' => getenv('QUEUE_CONNECTION') ?: 'database',
    'merry-orbit.run.workers' => true,
]);
exit($app->make(Kernel::class)->call('queue:work', ['--queue' => 'default,long', '--sleep' => 0.05, '--stop-when-empty' => true]));
