<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\ModelDocument;
use App\Models\User;
use App\Studies\StudyMaker;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use MerryOrbit\Core\Model\Model;
use PHPUnit\Framework\Attributes\Group;

final class ConcurrencyTest extends TestCase
{
    use SharedDatabase;

    public function test_a_long_lock_is_told_and_breaks_nothing_that_comes_after(): void
    {
        $model = StudyMaker::make(User::demoAnalyst(), new Model('Crowd'))->load('model')->model;
        config(['database.connections.shared.busy_timeout' => 30]);
        DB::purge('shared');
        config(['database.connections.second' => config()->array('database.connections.shared')]);
        $other = DB::connection('second')->getPdo();
        $isFile = DB::connection()->getDriverName() === 'sqlite';
        $other->exec($isFile ? 'begin immediate' : 'begin; lock table models in exclusive mode');
        $edit = static fn (int $base): array => [
            'base' => $base,
            'window' => 'one',
            'edits' => [
                [
                    'id' => (string) \Illuminate\Support\Str::uuid(),
                    'edit' => ['kind' => 'add', 'id' => "p$base", 'element' => 'parameter', 'name' => "share $base"],
                ],
            ],
        ];
        $first = $this->postJson("/api/models/$model->id/edits", $edit(0));
        $first->assertStatus(503)->assertHeader('Retry-After', '1');
        self::assertSame('unavailable', $first->json('code'));
        // As a worker, which lives on, looks for its next job.
        for ($i = 0; $isFile && $i < 3; $i++) {
            try {
                DB::transaction(static fn (): null => null);
                self::fail('Somebody else holds the lock.');
            } catch (\PDOException $e) {
                self::assertStringContainsString('database is locked', $e->getMessage());
            }
        }
        $other->exec('rollback');
        DB::purge('second');
        self::assertSame(7, DB::transaction(static fn (): int => 7));
        $this->postJson("/api/models/$model->id/edits", $edit(0))->assertOk();
        $this->postJson("/api/models/$model->id/edits", $edit(1))->assertOk();
    }

    #[Group('sqlite')]
    public function test_a_full_disk_is_told_and_nothing_is_half_written(): void
    {
        $model = $this->study()->model;
        $pages = DB::selectOne('pragma page_count')->page_count;
        DB::statement("pragma max_page_count = $pages");
        $id = (string) Str::uuid();
        $note = ['kind' => 'note', 'id' => 'wells', 'text' => str_repeat('Seen from the shore. ', 900)];
        $answer = $this->edit($model, $note, 0, id: $id)->assertStatus(507)->assertJsonPath('code', 'disk-full');
        self::assertStringContainsString('Make room', $answer->json('detail'));
        self::assertSame([0, 0], [$model->refresh()->revision, $model->edits()->count()]);
        $this->getJson("/api/models/$model->id")->assertOk();
        DB::statement('pragma max_page_count = 1073741823');
        $this->edit($model, $note, 0, id: $id)->assertOk()->assertJsonPath('revision', 1);
    }

    public function test_many_writers_at_once_lose_nothing(): void
    {
        $model = StudyMaker::make(User::demoAnalyst(), new Model('Crowd'))->load('model')->model;
        $writers = [];
        foreach (['north', 'east', 'south', 'west'] as $name) {
            $writers[] = $this->process('writer.php', [$model->id, $name, '15']);
        }
        foreach ($writers as [$writer, $printed]) {
            self::assertSame('', stream_get_contents($printed[1]).stream_get_contents($printed[2]));
            self::assertSame(0, proc_close($writer));
        }
        $model = ModelDocument::query()->findOrFail($model->id);
        self::assertSame(60, $model->revision);
        self::assertCount(60, $model->core()->elements);
        self::assertSame(range(1, 60), $model->edits()->oldest('revision')->pluck('revision')->all());
    }
}
