<?php

declare(strict_types=1);

// One of several processes that edit the same model at once: writer.php MODEL NAME COUNT

use App\Models\ModelDocument;
use App\Models\User;
use App\Studies\ModelEditor;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Support\Str;

require __DIR__.'/../../vendor/autoload.php';
$app = require __DIR__.'/../../bootstrap/app.php';
$app->make(Kernel::class)->bootstrap();

/** @var list<string> $argv */
[, $model, $name, $count] = $argv;
$editor = new ModelEditor(ModelDocument::query()->findOrFail($model), User::demoAnalyst(), $name);
for ($i = 0; $i < (int) $count; $i++) {
    $editor->apply(
        [
            [
                'id' => (string) Str::uuid(),
                'edit' => ['kind' => 'add', 'id' => "$name-$i", 'element' => 'parameter', 'name' => "$name $i", 'formula' => '1'],
            ],
        ],
        0,
    );
}
