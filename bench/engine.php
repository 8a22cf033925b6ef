<?php

declare(strict_types=1);

/*
 * Times a compiled three-stock model against the same model written by hand in PHP (same JIT) and in C -O2:
 * 200,000 Runge–Kutta steps each, interleaved, the smallest of the repeats in several processes (where machine code lands
 * in memory differs from process to process, and with it the speed). Prints the ratios, which are to stay below 1.5
 * and 3, and fails when they do not or when the three disagree.
 *
 *     bench/run engine
 */

use MerryOrbit\Core\Compile\Analyser;
use MerryOrbit\Core\Compile\Compiler;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;

require __DIR__.'/../core/autoload.php';
require __DIR__.'/by_hand.php';

const STEPS = 200_000;
const PROCESSES = 6;
const REPEATS = 5;
const INPUTS = [0.4, 6.0, 0.01, 0.25];

$model = new Model('Epidemic');
foreach ([
    new AddElement('s', Kind::Stock, 'susceptible islanders', '4190'),
    new AddElement('i', Kind::Stock, 'ill islanders', '10'),
    new AddElement('r', Kind::Stock, 'recovered islanders', '0'),
    new AddElement('c', Kind::Parameter, 'contact rate', '0.4'),
    new AddElement('d', Kind::Parameter, 'duration of illness', '6'),
    new AddElement('w', Kind::Parameter, 'waning', '1%'),
    new AddElement('n', Kind::Auxiliary, 'islanders', 'susceptible islanders + ill islanders + recovered islanders'),
    new AddElement('f1', Kind::Flow, 'infection', 'susceptible islanders * contact rate * ill islanders / islanders', from: 's', to: 'i'),
    new AddElement('f2', Kind::Flow, 'recovery', 'ill islanders / duration of illness', from: 'i', to: 'r'),
    new AddElement('f3', Kind::Flow, 'losing protection', 'recovered islanders * waning', from: 'r', to: 's'),
] as $edit) {
    $model = $edit->apply($model);
}
$program = Compiler::compile(Analyser::analyse($model), Method::RungeKutta4);
$compiled = ProgramStore::ofUser()->load($program);

$end = STEPS * INPUTS[3];
$best = ['compiled' => INF, 'by hand' => INF, 'C -O2' => INF];
$ill = [];

if (($argv[1] ?? '') === 'php') {
    for ($k = 0; $k < REPEATS; $k++) {
        $begun = hrtime(true);
        [$rows] = $compiled(0.0, $end, INPUTS[3], STEPS, STEPS, $end, INPUTS[0], INPUTS[1], INPUTS[2]);
        $best['compiled'] = min($best['compiled'], (hrtime(true) - $begun) / 1e6);

        $begun = hrtime(true);
        $byHand = by_hand(STEPS, ...INPUTS);
        $best['by hand'] = min($best['by hand'], (hrtime(true) - $begun) / 1e6);
    }
    printf('%.6f %.17g %.6f %.17g', $best['compiled'], $rows[1][1], $best['by hand'], $byHand);
    exit;
}

$folder = __DIR__.'/build';
is_dir($folder) || mkdir($folder);
$binary = $folder.'/epidemic';
passthru('cc -O2 -o '.escapeshellarg($binary).' '.escapeshellarg(__DIR__.'/epidemic.c'), $status);
if ($status !== 0) {
    fwrite(STDERR, "A C compiler is needed as the yardstick: install gcc.\n");
    exit(2);
}
for ($k = 0; $k < PROCESSES; $k++) {
    $values = array_map(floatval(...), explode(' ', (string) shell_exec(escapeshellarg(__DIR__.'/run').' engine php')));
    $best['compiled'] = min($best['compiled'], $values[0]);
    $best['by hand'] = min($best['by hand'], $values[2] ?? INF);
    [$ill['compiled'], $ill['by hand']] = [$values[1] ?? NAN, $values[3] ?? NAN];
    for ($i = 0; $i < REPEATS; $i++) {
        [$ms, $value] = array_map(floatval(...), explode(' ', (string) shell_exec(escapeshellarg($binary).' '.STEPS.' '.implode(' ', INPUTS))));
        $best['C -O2'] = min($best['C -O2'], $ms);
        $ill['C -O2'] = $value;
    }
}

foreach ($best as $name => $ms) {
    printf("%-10s %8.2f ms   ill at the end %.10f\n", $name, $ms, $ill[$name]);
}
$toHand = $best['compiled'] / $best['by hand'];
$toC = $best['compiled'] / $best['C -O2'];
printf("compiled / by hand  %.2f  (at most 1.5)\ncompiled / C -O2    %.2f  (at most 3)\n", $toHand, $toC);
$agree = max($ill) - min($ill) < 1e-9 * max($ill);
if (! $agree) {
    echo "The three do not agree.\n";
}
exit($agree && $toHand <= 1.5 && $toC <= 3.0 ? 0 : 1);
