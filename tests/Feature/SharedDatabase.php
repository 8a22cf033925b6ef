<?php

declare(strict_types=1);

namespace Tests\Feature;

use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;

/** A database file that several processes see. */
trait SharedDatabase
{
    private string $file = '';

    protected function setUp(): void
    {
        parent::setUp();
        $this->file = (string) tempnam(sys_get_temp_dir(), 'merry-orbit');
        config([
            'database.connections.shared' => [...config()->array('database.connections.sqlite'), 'database' => $this->file],
            'database.default' => 'shared',
        ]);
        Artisan::call('migrate', ['--database' => 'shared', '--force' => true]);
    }

    protected function tearDown(): void
    {
        DB::purge('shared');
        config(['database.default' => 'sqlite']);
        array_map(unlink(...), glob($this->file.'*') ?: []);
        parent::tearDown();
    }

    /**
     * Another process of the application, on the same data.
     *
     * @param  list<string>  $arguments  behind the name of the script
     * @return array{resource, array<int, resource>} the process, and what it prints: 1 and 2
     */
    private function process(string $script, array $arguments): array
    {
        $environment = [
            'APP_ENV' => 'testing',
            'DB_DATABASE' => $this->file,
            'APP_KEY' => config()->string('app.key'),
            'PATH' => (string) getenv('PATH'),
        ];
        $process = proc_open(
            [PHP_BINARY, __DIR__."/$script", ...$arguments],
            [1 => ['pipe', 'w'], 2 => ['pipe', 'w']],
            $pipes,
            null,
            $environment,
        );
        self::assertIsResource($process);

        return [$process, $pipes];
    }
}
