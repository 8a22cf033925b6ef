<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Database\Transfer;
use App\Database\TransferRefused;
use App\Models\ShownLink;
use App\Studies\StudyMaker;
use Illuminate\Database\Connection;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use MerryOrbit\Core\Exchange\NativeFile;

/** Everything of one database into another, and back: the database of the tests and a SQLite file. */
final class TransferTest extends AccountsCase
{
    private string $file = '';

    protected function setUp(): void
    {
        parent::setUp();
        $this->file = (string) tempnam(sys_get_temp_dir(), 'merry-orbit');
        config(['database.connections.other' => [...config()->array('database.connections.sqlite'), 'database' => $this->file]]);
    }

    protected function tearDown(): void
    {
        DB::purge('other');
        array_map(unlink(...), glob("$this->file*") ?: []);
        parent::tearDown();
    }

    private function other(): Connection
    {
        return DB::connection('other');
    }

    public function test_every_row_comes_over_and_what_differs_is_found(): void
    {
        $mara = $this->person();
        $model = NativeFile::import((string) file_get_contents(base_path('demo/ferry-season.json')))->model;
        $study = StudyMaker::make($mara, $model)->load('model');
        $this->signedIn($mara)
            ->ask('POST', "/api/studies/$study->id/links", ['showcase' => 'guests', 'may' => 'try', 'name' => 'Ærø “council”'])
            ->assertCreated();
        $this->edited($mara, $study->model, ['kind' => 'note', 'id' => 'e89331e5407d', 'text' => "A “note”\nin two lines, 1e-300"]);

        $counts = Transfer::make(DB::connection(), $this->other());
        self::assertSame([1, 1, 1], [$counts['users'], $counts['studies'], $counts['links']]);
        self::assertSame([], Transfer::compare(DB::connection(), $this->other()));
        // Independently of how it compares: the document to the byte.
        self::assertSame(DB::table('models')->value('document'), $this->other()->table('models')->value('document'));
        // One letter, one row more, one row less: each is found.
        $this->other()
            ->table('links')
            ->update(['name' => 'The council']);
        self::assertSame(
            ['of `links` 1 rows of the one are not in the other, and 1 the other way'],
            Transfer::compare(DB::connection(), $this->other()),
        );
        ShownLink::query()->delete();
        self::assertStringContainsString(
            'of `links` 0 rows of the one are not in the other, and 1',
            implode(Transfer::compare(DB::connection(), $this->other())),
        );
    }

    public function test_nothing_is_written_over(): void
    {
        $this->person();
        Transfer::make(DB::connection(), $this->other());
        $this->expectException(TransferRefused::class);
        $this->expectExceptionMessage('The database `other` is not empty: there is something in `users`.');
        Transfer::make(DB::connection(), $this->other());
    }

    public function test_the_command_says_what_it_did_and_refuses_what_it_does_not_know(): void
    {
        $this->person();
        self::assertSame(0, Artisan::call('orbit:move', ['to' => 'other']));
        self::assertMatchesRegularExpression('/^users +1$/m', Artisan::output());
        self::assertSame(1, Artisan::call('orbit:move', ['to' => 'other']));
        self::assertStringContainsString('is not empty', Artisan::output());
        self::assertSame(2, Artisan::call('orbit:move', ['to' => 'elsewhere']));
        self::assertStringContainsString('Name a database of config/database.php', Artisan::output());
        self::assertSame(2, Artisan::call('orbit:move', ['to' => config()->string('database.default')]));
    }
}
