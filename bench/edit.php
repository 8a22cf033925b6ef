<?php

declare(strict_types=1);

/*
 * Times what a modeller waits for, in one process: from an edit to the first result on the largest model, the same model again,
 * and a moved parameter on the medium one with 1,000 saved steps. Smallest and largest of the repeats, in milliseconds; fails
 * when the median is over its limit. Then a thousand edits and runs, of which the last hundred may not take longer than the first.
 *
 *     bench/run edit
 */

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Edit\SetFormula;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\Simulator;

require __DIR__.'/../core/autoload.php';
require __DIR__.'/Sizes.php';

$folder = sys_get_temp_dir().'/merry-orbit-bench-'.getmyuid().'/edit-'.getmypid();
$simulator = new Simulator(new ProgramStore($folder));
$failed = false;

/** @param  Closure(int): mixed  $work */
$measure = static function (string $words, float $limit, int $repeats, Closure $work) use (&$failed): void {
    $times = [];
    for ($k = 0; $k < $repeats; $k++) {
        $begun = hrtime(true);
        $work($k);
        $times[] = (hrtime(true) - $begun) / 1e6;
    }
    sort($times);
    $median = $times[intdiv($repeats, 2)];
    printf("%-62s %7.1f  median %7.1f  %7.1f   (at most %.0f)\n", $words, $times[0], $median, $times[$repeats - 1], $limit);
    $failed = $failed || $median > $limit;
};

$large = Sizes::of('large')->model();
$short = new RunOptions([], $large->time->with(['end' => 500 * $large->time->step, 'saveEvery' => null]));
$measure('1,500 variables, from an edit to 500 saved steps', 250.0, 15, static fn (int $k) => $simulator->run(Analyser::analyse((new SetFormula('a7', "s1 * p3 + $k.125"))->apply($large)), $short));
$known = Analyser::analyse($large);
$simulator->run($known, $short);
$measure('the same again, with another value of a parameter', 50.0, 15, static fn (int $k) => $simulator->run($known, new RunOptions(['p1' => 0.05 + $k / 1000], $short->time)));

$medium = Sizes::of('medium')->model();
$analysis = Analyser::analyse($medium);
$thousand = $medium->time->with(['end' => 1000 * $medium->time->step, 'saveEvery' => null]);
$simulator->run($analysis, new RunOptions([], $thousand));
$simulator->run($analysis, new RunOptions([], $thousand));
$measure('60 variables, a moved parameter, 1,000 saved steps', 15.0, 100, static fn (int $k) => $simulator->run($analysis, new RunOptions(['p1' => 0.05 + $k / 10_000], $thousand)));

$times = [];
for ($k = 0; $k < 1000; $k++) {
    $begun = hrtime(true);
    $simulator->run(Analyser::analyse((new SetFormula('a7', "s1 * p3 + $k.375"))->apply($medium)), new RunOptions([], $thousand));
    $times[] = (hrtime(true) - $begun) / 1e6;
}
$first = array_slice($times, 0, 100);
$last = array_slice($times, 900);
sort($first);
sort($last);
printf("a thousand edits and runs: the first hundred %.1f ms each, the last %.1f ms; ratio %.2f (at most 1.25)\n", $first[50], $last[50], $last[50] / $first[50]);
array_map(unlink(...), glob("$folder/*") ?: []);
exit($failed || $last[50] > 1.25 * $first[50] ? 1 : 0);
