<?php

declare(strict_types=1);

// Makes people with an account and a study each, and says who and which: people.php COUNT

use App\Models\User;
use App\Studies\StudyMaker;
use Illuminate\Contracts\Console\Kernel;
use MerryOrbit\Core\Exchange\NativeFile;

require __DIR__.'/../vendor/autoload.php';
/** @var Illuminate\Foundation\Application $app */
$app = require __DIR__.'/../bootstrap/app.php';
$app->make(Kernel::class)->bootstrap();
/** @var list<string> $argv */
$made = [];
$model = NativeFile::import((string) file_get_contents(base_path('demo/kelp-and-urchins.json')))->model;
for ($i = 1; $i <= (int) ($argv[1] ?? 50); $i++) {
    $user = User::query()->create([
        'name' => "Person $i",
        'email' => "person-$i@quillhaven.example",
        'password' => 'kelp under lantern light',
    ]);
    $made[] = ['email' => $user->email, 'model' => StudyMaker::make($user, $model)->load('model')->model->id];
}
echo json_encode($made);
