<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Ensemble;
use App\Models\EnsemblePart;
use App\Models\KeptRun;
use App\Models\Study;
use App\Retention\Backup;
use App\Runs\Results;
use Illuminate\Support\Facades\Storage;

/** What runs come to on a store of objects, as several machines may share one: the same bytes as on a disk. */
final class BucketTest extends TestCase
{
    use MakesManyRuns;
    use SharedDatabase {
        setUp as private shared;
        tearDown as private unshared;
    }

    private const PORT = 8788;

    /** @var resource|null */
    private $server = null;

    private string $folder = '';

    protected function setUp(): void
    {
        $this->shared();
        $this->folder = sys_get_temp_dir().'/merry-orbit-bucket-'.bin2hex(random_bytes(4));
        mkdir($this->folder);
        $server = proc_open(
            [PHP_BINARY, '-S', '127.0.0.1:'.self::PORT, __DIR__.'/bucket.php'],
            [1 => ['file', '/dev/null', 'w'], 2 => ['file', '/dev/null', 'w']],
            $pipes,
            null,
            ['BUCKET_FOLDER' => $this->folder, 'PATH' => (string) getenv('PATH')],
        );
        self::assertIsResource($server);
        $this->server = $server;
        for ($i = 0; $i < 200 && @fsockopen('127.0.0.1', self::PORT) === false; $i++) {
            usleep(25_000);
        }
    }

    protected function tearDown(): void
    {
        if ($this->server !== null) {
            proc_terminate($this->server, SIGKILL);
            proc_close($this->server);
        }
        array_map(unlink(...), glob("$this->folder/*") ?: []);
        rmdir($this->folder);
        $this->unshared();
    }

    private function toBucket(): void
    {
        config([
            'merry-orbit.results_disk' => 'bucket',
            'filesystems.disks.bucket' => [
                ...config()->array('filesystems.disks.bucket'),
                'key' => 'reef',
                'secret' => 'kelp',
                'bucket' => 'coves',
                'endpoint' => 'http://127.0.0.1:'.self::PORT,
            ],
        ]);
        Storage::forgetDisk('bucket');
    }

    public function test_an_ensemble_comes_to_the_same_bytes_and_is_read_from_there(): void
    {
        $model = $this->tank();
        $state = $this->run0($model, ['runs' => 400]);
        $whole = $this->files();
        self::assertNotSame([], $whole);
        $told = $this->told($model, $state['id'], '/bands?of=tank');
        EnsemblePart::query()->delete();
        Ensemble::query()->delete();

        $this->toBucket();
        $state = $this->run0($model, ['runs' => 400]);
        self::assertTrue($state['finished']);
        self::assertSame($whole, $this->files());
        self::assertSame($told, $this->told($model, $state['id'], '/bands?of=tank'));
        self::assertGreaterThan(count($whole), count(glob("$this->folder/*") ?: []), 'they are in the store, and the model with them');
    }

    public function test_a_kept_run_is_in_a_backup_of_it_and_is_put_back(): void
    {
        $this->toBucket();
        $study = $this->study();
        $this->postJson("/api/models/{$study->model->id}/kept", ['name' => 'Kept', 'run' => []])->assertCreated();
        $numbers = Results::ofKept(KeptRun::query()->firstOrFail())->column('fresh-water');
        $path = "$this->folder.zip";
        try {
            Backup::make($path);
            self::assertGreaterThan(0, Backup::check($path)['files']);
            array_map(unlink(...), glob("$this->folder/*") ?: []);
            self::assertFalse(Results::disk()->exists((string) KeptRun::query()->value('result')));
            // Only what is missing is put back.
            $zip = new \ZipArchive();
            $zip->open($path);
            $name = (string) KeptRun::query()->value('result');
            Results::write($name, (string) $zip->getFromName("files/$name"));
            self::assertSame($numbers, Results::ofKept(KeptRun::query()->firstOrFail())->column('fresh-water'));
            self::assertSame(1, Study::query()->count());
        } finally {
            @unlink($path);
        }
    }

    public function test_whoever_is_not_known_there_is_refused(): void
    {
        $this->toBucket();
        config(['filesystems.disks.bucket.key' => 'stranger']);
        Storage::forgetDisk('bucket');
        $this->expectException(\League\Flysystem\UnableToWriteFile::class);
        Results::write('runs/aa/x.run', 'x');
    }
}
