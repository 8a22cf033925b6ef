<?php

declare(strict_types=1);

// Puts copies of a demo study into the database of the environment: many-studies.php COUNT

use App\Models\User;
use App\Studies\StudyMaker;
use Illuminate\Contracts\Console\Kernel;
use MerryOrbit\Core\Exchange\NativeFile;

require __DIR__.'/../vendor/autoload.php';
/** @var Illuminate\Foundation\Application $app */
$app = require __DIR__.'/../bootstrap/app.php';
$app->make(Kernel::class)->bootstrap();
/** @var list<string> $argv */
$model = NativeFile::import((string) file_get_contents(__DIR__.'/../demo/ferry-season.json'))->model;
for ($i = 1; $i <= (int) $argv[1]; $i++) {
    StudyMaker::make(User::demoAnalyst(), $model->with(['name' => "Season $i"]));
}
