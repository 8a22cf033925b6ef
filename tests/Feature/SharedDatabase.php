<?php

declare(strict_types=1);

namespace Tests\Feature;

use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;

/** A database file that several processes see. */
trait SharedDatabase
{
    private string $file = '';

    private string $usual = '';

    private string $schema = '';

    private function url(): string
    {
        return config()->string('database.connections.pgsql.url')."&search_path=$this->schema";
    }

    protected function setUp(): void
    {
        parent::setUp();
        $this->usual = DB::getDefaultConnection();
        $this->file = (string) tempnam(sys_get_temp_dir(), 'merry-orbit');
        $own = ['database' => $this->file];
        if ($this->usual === 'pgsql') {
            // What the test before it did in one transaction is not seen by others: a part of the database for this one.
            $this->schema = 'shared_'.bin2hex(random_bytes(4));
            DB::connection('pgsql')->statement("create schema $this->schema");
            DB::connection('pgsql')->commit();
            $own = ['url' => $this->url(), 'search_path' => $this->schema];
        }
        config([
            'database.connections.shared' => [...config()->array("database.connections.$this->usual"), ...$own],
            'database.default' => 'shared',
            'queue.batching.database' => 'shared',
            'queue.failed.database' => 'shared',
        ]);
        Artisan::call('migrate', ['--database' => 'shared', '--force' => true]);
    }

    protected function tearDown(): void
    {
        DB::purge('shared');
        config(['database.default' => $this->usual]);
        if ($this->schema !== '') {
            DB::connection('pgsql')->statement("drop schema $this->schema cascade");
        }
        array_map(unlink(...), glob($this->file.'*') ?: []);
        parent::tearDown();
    }

    /**
     * Another process of the application, on the same data.
     *
     * @param  list<string>  $arguments  behind the name of the script
     * @param  array<string, string>  $more  of its environment
     * @return array{resource, array<int, resource>} the process, and what it prints: 1 and 2
     */
    private function process(string $script, array $arguments, array $more = []): array
    {
        $environment = [
            'APP_ENV' => 'testing',
            'DB_DATABASE' => $this->file,
            ...$this->schema === '' ? [] : ['DB_CONNECTION' => 'pgsql', 'DB_URL' => $this->url()],
            'APP_KEY' => config()->string('app.key'),
            'PATH' => (string) getenv('PATH'),
            ...$more,
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
