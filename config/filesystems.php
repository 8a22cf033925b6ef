<?php

declare(strict_types=1);

return [
    'default' => 'local',
    // What runs came to; a disk that several machines share makes their workers work for one another.
    'disks' => ['local' => ['driver' => 'local', 'root' => storage_path('app'), 'serve' => false, 'throw' => true]],
];
