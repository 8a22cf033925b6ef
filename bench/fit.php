<?php

declare(strict_types=1);

/*
 * Five numbers of the medium model fitted to three series of 100 values from ten starts, against the time of the runs alone that it makes,
 * and by two processes. Fails when it takes more than 1.5 times as long as its runs, two processes are less than 1.7 times as fast, or
 * what comes out differs.
 *
 *     bench/run fit
 *
 * With `coverage` besides: of 200 simulated sets of data, in how many the 90 % interval holds the truth, by the fit and by its posterior.
 * Fails outside of 166 to 193.
 *
 *     bench/run fit coverage
 */

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Data\Evidence;
use MerryOrbit\Core\Fit\Belief;
use MerryOrbit\Core\Fit\Calibration;
use MerryOrbit\Core\Fit\Freed;
use MerryOrbit\Core\Fit\Gaps;
use MerryOrbit\Core\Fit\Misses;
use MerryOrbit\Core\Fit\Posterior;
use MerryOrbit\Core\Law\Special;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Reduce\ColumnsAt;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\Starts;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

require __DIR__.'/../core/autoload.php';
require __DIR__.'/Sizes.php';

/** Those that matter, besides a start. */
const FREED = ['p2', 'p3', 'p4', 'p5'];
const POINTS = 100;
const ROUNDS = 3;

$folder = sys_get_temp_dir().'/merry-orbit-bench-'.getmyuid();
is_dir($folder) || mkdir($folder);
$simulator = new Simulator(new ProgramStore("$folder/programs"));
$size = Sizes::of('medium');
$model = $size->model();
$model = $model->with(['time' => $model->time->with(['end' => 1000 * $size->step, 'method' => Method::Euler, 'saveEvery' => null])]);
$analysis = Analyser::analyse($model);
$random = new Randomizer(new Xoshiro256StarStar(hash('sha256', 'bench', true)));
$noise = static fn (): float => Special::normalQuantile(($random->getInt(0, (1 << 52) - 1) + 0.5) / (1 << 52));

/** @var list<string> $keys */
$keys = array_map(static fn (string $name): string => (string) $model->idOf($name), array_slice(Sizes::WATCHED, 0, 3));
$freed = [];
$truth = [];
foreach (FREED as $name) {
    $key = (string) $model->idOf($name);
    $value = (float) $analysis->parameter($key);
    $freed[] = new Freed($key, $name, $value, 0.5 * $value, 2.0 * $value);
    $truth[$key] = 1.1 * $value;
}
$stock = (string) $model->idOf('s1');
$start = (float) Starts::plain($model, $stock);
$freed[] = new Freed(Starts::parameter($stock), 's1', $start, 0.5 * $start, 2.0 * $start);
// What is not freed is true already.
$isCoverage = ($argv[1] ?? '') === 'coverage';
$freed = $isCoverage ? [$freed[1], $freed[2]] : $freed;
$truth = array_intersect_key([...$truth, Starts::parameter($stock) => 1.1 * $start], array_flip(array_column($freed, 'key')));
$times = array_map(static fn (int $i): float => $model->time->timeAt(10 * $i), range(1, POINTS));
$courses = ManyRuns::of($simulator, Starts::opened($model, [$stock]), new Setting(), new ColumnsAt($keys, $times), 1)->one($truth) ?? [];
$sds = array_map(static fn (array $own): float => 0.05 * max([1e-9, ...$own]), array_chunk($courses, POINTS));
$misses = array_map(Misses::normal(...), $sds);
/** @return non-empty-list<Evidence> */
$measured = static function () use ($keys, $times, $courses, $noise, $sds): array {
    $evidence = [];
    foreach ($keys as $k => $key) {
        $own = array_slice($courses, $k * POINTS, POINTS);
        $sd = $sds[$k];
        $evidence[] = new Evidence($key, $key, $times, array_map(static fn (float $v): float => $v + $sd * $noise(), $own));
    }

    return $evidence === [] ? throw new LogicException() : $evidence;
};

if ($isCoverage) {
    $held = $drawn = 0;
    for ($set = 0; $set < 200; $set++) {
        $calibration = Calibration::of($simulator, $model, new Setting(), $measured(), $freed, $misses);
        $fitted = $calibration->fit('least-squares', 1, 1);
        $width = Special::normalQuantile(0.95) * ($fitted->errors[0] ?? NAN);
        $held += abs($fitted->point[0] - $truth[$freed[0]->key]) <= $width ? 1 : 0;
        $sampled = Posterior::of($calibration, new Belief($freed, []), $set)->drawn(400, 2, 1);
        $percentiles = (array) $sampled->parameters()[0]['percentiles'];
        $drawn += $percentiles['5'] <= $truth[$freed[0]->key] && $percentiles['95'] >= $truth[$freed[0]->key] ? 1 : 0;
    }
    printf("of 200 sets, the 90 %% interval holds the truth in %d by the fit, in %d by the posterior\n", $held, $drawn);
    exit(min($held, $drawn) >= 166 && max($held, $drawn) <= 193 ? 0 : 1);
}

$evidence = $measured();
$ratios = $faster = [];
$first = null;
for ($round = 0; $round < ROUNDS; $round++) {
    $seconds = [];
    foreach ([1, 2] as $jobs) {
        $calibration = Calibration::of($simulator, $model, new Setting(), $evidence, $freed, $misses, $jobs);
        $begun = hrtime(true);
        $fitted = $calibration->fit('least-squares', 10, 1);
        $seconds[$jobs] = (hrtime(true) - $begun) / 1e9;
        $first ??= $fitted->point;
        if ($first !== $fitted->point) {
            fwrite(STDERR, "What comes out differs.\n");
            exit(1);
        }
    }
    // As many runs, with the same reducer, and nothing else.
    $many = ManyRuns::of($simulator, Starts::opened($model, [$stock]), new Setting(), new Gaps($evidence, $misses, $model->time), 1_000);
    $inputs = static fn (int $i): array => [
        array_combine(array_column($freed, 'key'), array_map(static fn (Freed $f): float => $f->at(($i % 97) / 97), $freed)),
        null,
    ];
    $begun = hrtime(true);
    $many->all($fitted->evaluations, $inputs);
    $runs = (hrtime(true) - $begun) / 1e9;
    $ratios[] = $seconds[1] / $runs;
    $faster[] = $seconds[1] / $seconds[2];
}
sort($ratios);
printf(
    "%d runs in %.2f s: fit / its runs %.2f, two processes are %.2f times as fast\n",
    $fitted->evaluations,
    $seconds[1],
    $ratios[intdiv(ROUNDS, 2)],
    max($faster),
);
exit($ratios[intdiv(ROUNDS, 2)] <= 1.5 && max($faster) >= 1.7 ? 0 : 1);
