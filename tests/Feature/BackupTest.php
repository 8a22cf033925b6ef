<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\KeptRun;
use App\Models\Study;
use App\Models\User;
use App\Retention\Backup;
use App\Retention\BackupRefused;
use App\Runs\Results;
use App\Studies\StudyMaker;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use MerryOrbit\Core\Model\Model;

/** A backup is made while others write, read through, and put back. */
final class BackupTest extends TestCase
{
    use SharedDatabase {
        setUp as private setUpDatabase;
        tearDown as private tearDownDatabase;
    }

    private string $folder = '';

    protected function setUp(): void
    {
        $this->setUpDatabase();
        Storage::fake('local');
        $this->folder = sys_get_temp_dir().'/merry-orbit-backup-'.bin2hex(random_bytes(4));
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        shell_exec('rm -rf '.escapeshellarg($this->folder));
        $this->tearDownDatabase();
    }

    private function refusal(string $path): string
    {
        try {
            Backup::check($path);
        } catch (BackupRefused $e) {
            return $e->getMessage();
        }

        return '';
    }

    public function test_what_was_there_is_there_again_with_its_numbers(): void
    {
        $study = $this->study();
        $this->postJson("/api/models/{$study->model->id}/kept", ['name' => 'as it was'])->assertCreated();
        $numbers = Results::ofKept(KeptRun::query()->firstOrFail())->column('fresh-water');
        $document = $study->model->refresh()->document;
        $path = "$this->folder/all.zip";
        self::assertSame(0, Artisan::call('orbit:backup', ['file' => $path]));
        self::assertSame('0600', substr(sprintf('%o', fileperms($path)), -4));
        self::assertSame([$path], glob("$this->folder/*"), 'nothing is left beside it');
        Artisan::call('orbit:check', ['file' => $path]);
        self::assertStringContainsString('is whole: 1 studies, 1 files', Artisan::output());

        $this->edit($study->model, ['kind' => 'rename', 'id' => 'wells', 'name' => 'springs'])->assertOk();
        StudyMaker::make(User::demoAnalyst(), new Model('made later'));
        Results::disk()->deleteDirectory('kept');
        $before = Backup::restore($path);
        self::assertSame(['Fresh water'], Study::query()->pluck('name')->all());
        self::assertSame($document, $study->model->refresh()->document);
        self::assertSame($numbers, Results::ofKept(KeptRun::query()->firstOrFail())->column('fresh-water'));
        if (str_ends_with($before, '.zip')) {
            self::assertSame(2, Backup::check($before)['studies'], 'what was there was backed up first');
        } else {
            $studies = (new \PDO("sqlite:$before"))->query('select id from studies');
            self::assertCount(2, $studies === false ? [] : $studies->fetchAll(), 'what was there stays beside it');
        }
        unlink($before);
    }

    public function test_a_backup_that_is_not_whole_is_noticed(): void
    {
        $this->study();
        $path = "$this->folder/all.zip";
        Backup::make($path);
        self::assertSame('', $this->refusal($path));
        self::assertStringContainsString('not there', $this->refusal("$this->folder/none.zip"));
        $whole = (string) file_get_contents($path);
        file_put_contents($path, substr($whole, 0, -1000));
        self::assertNotSame('', $this->refusal($path));
        // One bit of the database.
        $place = (int) strpos($whole, 'database.sqlite') + 2000;
        file_put_contents($path, substr_replace($whole, chr(ord($whole[$place]) ^ 1), $place, 1));
        self::assertStringContainsString('not as it was', $this->refusal($path));
        $evil = new \ZipArchive();
        $evil->open("$this->folder/evil.zip", \ZipArchive::CREATE);
        $evil->addFromString('files/../../.env', 'x');
        $evil->addFromString(
            'manifest.json',
            (string) json_encode([
                'format' => 'merry-orbit backup',
                'version' => 1,
                'sha256' => ['database.sqlite' => 'x', 'files/../../.env' => hash('sha256', 'x')],
            ]),
        );
        $evil->close();
        self::assertStringContainsString('none of Merry Orbit', $this->refusal("$this->folder/evil.zip"));
        Storage::fake('local');
        self::assertSame(1, Artisan::call('orbit:restore', ['file' => "$this->folder/evil.zip"]));
    }

    public function test_only_so_many_are_kept(): void
    {
        foreach (['20260101-000000', '20260102-000000', '20260103-000000'] as $time) {
            touch("$this->folder/nightly-$time.zip");
        }
        touch("$this->folder/other.zip");
        self::assertSame(0, Artisan::call('orbit:backup', ['file' => "$this->folder/nightly.zip", '--keep' => '2']));
        $left = array_map(basename(...), glob("$this->folder/*") ?: []);
        self::assertCount(3, $left);
        self::assertContains('nightly-20260103-000000.zip', $left);
        self::assertContains('other.zip', $left);
        self::assertSame(2, Artisan::call('orbit:backup', ['file' => "$this->folder/x.zip", '--keep' => 'all']));
    }

    public function test_a_backup_that_is_made_while_somebody_writes_is_of_one_moment(): void
    {
        $study = $this->study();
        $editor = "{$study->model->id}";
        [$writer, $printed] = $this->process('writer.php', [$editor, 'backup', '40']);
        $consistent = 0;
        while (proc_get_status($writer)['running']) {
            $path = "$this->folder/while-$consistent.zip";
            Backup::make($path);
            $zip = new \ZipArchive();
            $zip->open($path);
            file_put_contents("$this->folder/copy", $zip->getStream('database.sqlite'));
            $copy = new \PDO("sqlite:$this->folder/copy");
            // A revision and the edit that led to it are written together.
            $told = $copy->query('select m.revision, (select max(revision) from edits e where e.model_id = m.id) as last from models m');
            $row = $told === false ? [] : (array) $told->fetch(\PDO::FETCH_ASSOC);
            self::assertSame((int) ($row['revision'] ?? -1), (int) ($row['last'] ?? 0));
            $consistent++;
        }
        self::assertSame('', stream_get_contents($printed[2]));
        self::assertGreaterThan(0, $consistent);
        self::assertGreaterThan(0, (int) DB::table('models')->value('revision'));
    }
}
