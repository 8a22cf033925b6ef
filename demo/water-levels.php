<?php

declare(strict_types=1);

// Makes demo/files/water levels.csv, the made-up weekly readings of the lens of Fresh water: from a run of the study with other numbers
// than it has, with seeded noise and weeks in which nobody looked. What it holds goes into the study as evidence of the lens's
// thickness. Run it with: php demo/water-levels.php

require __DIR__.'/../core/autoload.php';

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Data\Reading;
use MerryOrbit\Core\Data\StudyTimes;
use MerryOrbit\Core\Data\TableFile;
use MerryOrbit\Core\Data\Tie;
use MerryOrbit\Core\Exchange\ModelFile;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Experiment\Alignment;
use MerryOrbit\Core\Model\Measured;
use MerryOrbit\Core\Model\Source;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\Simulator;

const FILE = __DIR__.'/files/water levels.csv';

$model = ModelFile::import((string) file_get_contents(__DIR__.'/fresh-water.json'))->model;
// A Monday: weeks of the study are weeks of the calendar.
$model = $model->with(['time' => $model->time->with(['startDate' => '2016-01-04'])]);
$analysis = Analyser::analyse($model);
$truth = ['time-to-reach-the-shore' => 55.0, 'share-that-seeps-in' => 0.26, 'rain-lost-in-drought' => 0.6];
$run = (new Simulator(ProgramStore::ofUser()))->run($analysis, new RunOptions($truth));
$weeks = array_map(floatval(...), range(0, 364));
$levels = Alignment::at($run->times(), $run->column('lens-thickness'), $weeks);

mt_srand(52_016);
$noise = static fn (): float => array_sum(array_map(static fn (): float => mt_rand() / mt_getrandmax(), range(1, 12))) - 6.0;
$lines = [
    "Water board of Quillhaven, readings at the old well; made up by demo/water-levels.php\t\t",
    "Date\tThickness of the lens (cm)\tRead by",
];
foreach ($weeks as $i => $week) {
    $date = (new DateTimeImmutable('2016-01-04'))->modify('+'.(int) $week.' weeks')->format('d.m.Y');
    $isGap = mt_rand(0, 24) === 0 || ($week >= 118.0 && $week < 124.0);
    $reading = number_format(100.0 * $levels[$i] + 6.0 * $noise(), 1, ',', '');
    $lines[] = implode("\t", [$date, $isGap ? '' : $reading, $isGap ? 'nobody' : ($week < 150 ? 'warden' : 'sensor')]);
}
file_put_contents(FILE, implode("\n", $lines)."\n");

$table = Reading::of(TableFile::open(FILE)->grid(), isTraced: true);
$tie = Tie::to($analysis, 'lens-thickness', $table->series[0], StudyTimes::of($table, $model->time));
$evidence = new Measured(
    'levels',
    'lens-thickness',
    array_map(static fn (array $p): array => [round($p[0], 9), $p[1]], $tie->points),
    [],
    'levels',
    $table->series[0]->label(),
    $table->series[0]->unit,
    $tie->factor ?? 1.0,
    '',
    [],
    $tie->cells,
    0.06,
);
$note = 'Made up by demo/water-levels.php: a run with other numbers than the study has, noise, and weeks in which nobody looked.';
$source = new Source('levels', 'water levels.csv', hash('sha256', (string) file_get_contents(FILE)), note: $note);
file_put_contents(
    __DIR__.'/fresh-water.json',
    NativeFile::export($model->with(['sources' => ['levels' => $source], 'evidence' => ['levels' => $evidence]])),
);
