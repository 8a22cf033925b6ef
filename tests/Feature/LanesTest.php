<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\EnsemblePart;
use App\Runs\Claim;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\Queue;

/** How many work at one thing side by side. */
final class LanesTest extends TestCase
{
    use MakesManyRuns;

    public function test_where_nobody_waits_a_lane_joins_and_where_somebody_does_none(): void
    {
        config(['merry-orbit.run.workers' => true, 'queue.default' => self::queue()]);
        $model = $this->slow();
        $this->run0($model, ['runs' => 20_000]);
        self::assertSame(2, self::waiting());
        // Another worker is at the second lane.
        self::assertNotNull(Queue::connection()->pop('long'));
        Artisan::call('queue:work', ['--once' => true, '--queue' => 'long']);
        self::assertSame(3, self::waiting(), 'one that works, the same lane again, and one that joins');
        Artisan::call('queue:work', ['--once' => true, '--queue' => 'long']);
        self::assertSame(3, self::waiting(), 'one waits, so nobody is idle');
        self::assertGreaterThan(0, $this->made());
    }

    public function test_many_that_reach_for_pieces_at_once_take_each_another_one(): void
    {
        $model = $this->tank();
        config(['merry-orbit.run.workers' => true, 'queue.default' => self::queue()]);
        $this->run0($model, ['runs' => 20_000]);
        $left = static fn () => EnsemblePart::query()->where('made', false)->orderBy('id');
        $all = $left()->count();
        $taken = [];
        for ($who = 0; $who < 20; $who++) {
            $calls = 0;
            // Looked for one's own, looked up, and now taken: just before that another one takes the first that is free.
            $piece = Claim::next(static function () use ($left, &$calls, $who): mixed {
                if (++$calls === 3 && $who % 2 === 1) {
                    $first = $left()->where('claimed_by', '')->value('id');
                    EnsemblePart::query()
                        ->whereKey($first)
                        ->update(['claimed_by' => 'faster', 'claimed_at' => time()]);
                }

                return $left();
            }, "worker $who");
            self::assertNotNull($piece);
            $taken[] = $piece->getKey();
        }
        self::assertCount(20, array_unique($taken));
        self::assertSame(20, $left()->where('claimed_by', 'like', 'worker%')->count());
        self::assertSame(10, $left()->where('claimed_by', 'faster')->count());
        self::assertSame($all, $left()->count());
    }
}
