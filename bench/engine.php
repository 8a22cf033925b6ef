<?php

declare(strict_types=1);

/*
 * Times compiled models of three sizes against the same models written by hand in PHP (same JIT) and in C -O2, interleaved, the
 * smallest of the repeats in several processes (where machine code lands in memory differs from process to process, and with it
 * the speed). Prints the ratios; fails when the three disagree by more than 1e-9 or the engine takes more than 1.25 times
 * as long as PHP by hand.
 *
 *     bench/run engine [small|medium|large]
 */

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Compile\Compiler;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Model\Method;

require __DIR__.'/../core/autoload.php';
require __DIR__.'/Sizes.php';

const LIMIT = 1.25;
const PROCESSES = 5;
const REPEATS = 4;

$folder = sys_get_temp_dir().'/merry-orbit-bench-'.getmyuid();
is_dir($folder) || mkdir($folder);

if (($argv[1] ?? '') === 'php') {
    $size = Sizes::of($argv[2] ?? '');
    $program = Compiler::compile(Analyser::analyse($size->model())->plan(), Method::RungeKutta4);
    $compiled = (new ProgramStore($folder.'/programs'))->load($program->function, $program);
    require "$folder/{$size->name}.php";
    $end = $size->steps * $size->step;
    $best = [INF, INF];
    $value = [NAN, NAN];
    $parameters = array_values($size->parameters);
    for ($k = 0; $k < REPEATS; $k++) {
        $saved = -1;
        $begun = hrtime(true);
        /** @var array{6: list<list<float>>} $run */
        $run = $compiled($saved, 0.0, $end, $size->step, $size->steps, intdiv($size->steps, 20), $end, -1, 1, 1, null, ...$parameters);
        $best[0] = min($best[0], (hrtime(true) - $begun) / 1e6);
        $column = (int) array_search('s2', $program->columns, true);
        $value[0] = $program->byMoment ? $run[6][20][$column] : $run[6][$column][20];
        $begun = hrtime(true);
        $byHand = (new ReflectionFunction('by_hand_'.$size->name))->getClosure();
        /** @var list<float> $state */
        $state = $byHand($size->steps, $size->step, ...$parameters);
        $best[1] = min($best[1], (hrtime(true) - $begun) / 1e6);
        $value[1] = $state[1];
    }
    printf('%.6f %.17g %.6f %.17g', $best[0], $value[0], $best[1], $value[1]);
    exit;
}

$failed = false;
foreach (isset($argv[1]) ? [$argv[1]] : ['small', 'medium', 'large'] as $name) {
    $size = Sizes::of($name);
    foreach (['php', 'c'] as $language) {
        file_put_contents("$folder/$name.$language", $size->source($language));
    }
    touch("$folder/$name.php", time() - 60);
    passthru('cc -O2 -o '.escapeshellarg("$folder/$name").' '.escapeshellarg("$folder/$name.c"), $status);
    if ($status !== 0) {
        fwrite(STDERR, "A C compiler is needed as the yardstick: install gcc.\n");
        exit(2);
    }
    $best = ['engine' => INF, 'by hand' => INF, 'C -O2' => INF];
    $value = [];
    for ($k = 0; $k < PROCESSES; $k++) {
        $printed = array_map(floatval(...), explode(' ', (string) shell_exec(escapeshellarg(__DIR__.'/run')." engine php $name")));
        [$ms, $value['engine'], $hand, $value['by hand']] = [...$printed, NAN, NAN, NAN, NAN];
        $best['engine'] = min($best['engine'], $ms);
        $best['by hand'] = min($best['by hand'], $hand);
        for ($i = 0; $i < REPEATS; $i++) {
            [$ms, $value['C -O2']] = array_map(floatval(...), explode(' ', (string) shell_exec(escapeshellarg("$folder/$name")." {$size->steps} {$size->step}")));
            $best['C -O2'] = min($best['C -O2'], $ms);
        }
    }
    $ratio = $best['engine'] / $best['by hand'];
    $agree = max($value) - min($value) <= 1e-9 * max(abs(max($value)), abs(min($value)));
    printf("%-7s engine %8.2f ms   by hand %8.2f ms   C -O2 %7.2f ms   engine / by hand %.2f   engine / C %.2f   by hand / C %.2f%s\n",
        $name, $best['engine'], $best['by hand'], $best['C -O2'], $ratio, $best['engine'] / $best['C -O2'], $best['by hand'] / $best['C -O2'], $agree ? '' : '   THEY DISAGREE: '.implode(', ', $value));
    $failed = $failed || ! $agree || $ratio > LIMIT;
}
exit($failed ? 1 : 0);
