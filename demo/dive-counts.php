<?php

declare(strict_types=1);

// Makes demo/files/dive counts.csv, the made-up dive counts of Kelp and urchins, as messy as such files are: from a run of the study
// with other numbers than it has, noise on top (seeded: the same file each time), gaps, and divers who counted low before they had
// lamps. What it holds goes into the study as evidence. Run it with: php demo/dive-counts.php

require __DIR__.'/../core/autoload.php';

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Data\Reading;
use MerryOrbit\Core\Data\TableFile;
use MerryOrbit\Core\Exchange\ModelFile;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Experiment\Alignment;
use MerryOrbit\Core\Model\FitPlan;
use MerryOrbit\Core\Model\Measured;
use MerryOrbit\Core\Model\Source;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\Simulator;

$model = ModelFile::import((string) file_get_contents(__DIR__.'/kelp-and-urchins.json'))->model;
$truth = ['growth-rate' => 0.85, 'bite' => 0.0195, 'hunting-skill' => 1.5];
$run = (new Simulator(ProgramStore::ofUser()))->run(Analyser::analyse($model), new RunOptions($truth));
$years = array_map(floatval(...), range(0, 40, 2));
$true = array_map(static fn (string $id): array => Alignment::at($run->times(), $run->column($id), $years), [
    'kelp' => 'kelp',
    'urchins' => 'urchins',
    'otters' => 'otters',
]);

mt_srand(20_271);
// The sum of twelve evenly spread numbers is very nearly a normal one.
$noise = static fn (): float => array_sum(array_map(static fn (): float => mt_rand() / mt_getrandmax(), range(1, 12))) - 6.0;
$written = static fn (float $v, int $places): string => number_format($v, $places, ',', '');
$lines = [
    'Reef dives, Quillhaven;;;',
    'six lines, each second August; made up by demo/dive-counts.php;;',
    'Year;Kelp [t];Urchins [hundred];Remarks',
];
$remarks = [6.0 => 'two divers', 10.0 => 'swell, no dive', 12.0 => 'lamps from now on', 16.0 => 'boat in dock', 22.0 => 'calm'];
$sums = [0.0, 0.0];
foreach ($years as $i => $year) {
    $lamps = $year < 12.0 ? 0.9 : 1.0;
    $kelp = round(max(0.0, $lamps * $true['kelp'][$i] * (1.0 + 0.06 * $noise())), 1);
    $urchins = round(max(0.0, 10.0 * $lamps * $true['urchins'][$i] * (1.0 + 0.12 * $noise())));
    [$sums[0], $sums[1]] = [$sums[0] + ($year === 10.0 ? 0.0 : $kelp), $sums[1] + ($year === 16.0 ? 0.0 : $urchins)];
    $lines[] = implode(';', [
        (string) $year,
        $year === 10.0 ? 'n. d.' : $written($kelp, 1),
        $year === 16.0 ? '' : ($year === 36.0 ? str_replace('0', 'O', (string) $urchins) : (string) $urchins),
        $remarks[$year] ?? '',
    ]);
}
$lines[] = implode(';', ['Total', $written($sums[0], 1), (string) $sums[1], '']);
file_put_contents(__DIR__.'/files/dive counts.csv', implode("\n", $lines)."\n");

// Otters are counted from the harbour wall on many mornings of a spring: their mean, in a table of its own.
$counts = array_map(static fn (float $otters): float => round($otters * (1.0 + 0.025 * $noise()), 1), $true['otters']);
file_put_contents(
    __DIR__.'/files/otter counts.csv',
    "year,otters\n".implode('', array_map(static fn (float $year, float $n): string => "$year,$n\n", $years, $counts)),
);

// What of it is kept lies in the study itself.
$file = (string) file_get_contents(__DIR__.'/files/dive counts.csv');
$table = Reading::of(TableFile::open(__DIR__.'/files/dive counts.csv')->grid());
$evidence = [];
foreach ($table->series as $i => $series) {
    $of = ['kelp', 'urchins'][$i];
    $factor = [1.0, 0.1][$i];
    $points = [];
    foreach ($series->values as $k => $value) {
        if ($value !== null) {
            $points[] = [$table->times[$k], round($value * $factor, 9)];
        }
    }
    $evidence["dives-$of"] = new Measured("dives-$of", $of, $points, [], 'dives', $series->name, $series->unit, $factor);
}
$otters = array_map(null, $years, $counts);
$evidence['wall-otters'] = new Measured('wall-otters', 'otters', $otters, [], 'wall', 'otters');
$note =
    'Made up by demo/dive-counts.php: a run with other numbers than the study has, noise, gaps, and divers who counted low before they had lamps.';
$wall = (string) file_get_contents(__DIR__.'/files/otter counts.csv');
$sources = [
    'dives' => new Source('dives', 'dive counts.csv', hash('sha256', $file), note: $note),
    'wall' => new Source('wall', 'otter counts.csv', hash('sha256', $wall), note: 'Made up by demo/dive-counts.php, as the dives.'),
];

// Two series leave open whether there are few otters that hunt well, or many; the third one tells.
$free = static fn (string $of, float $low, float $high): array => ['of' => $of, 'low' => $low, 'high' => $high];
$wanted = [
    'free' => [
        $free('growth-rate', 0.4, 1.6),
        $free('bite', 0.005, 0.05),
        $free('hunting-skill', 0.5, 6.0),
        $free('pups-per-urchin', 0.05, 1.0),
        $free('urchins', 5.0, 60.0),
    ],
    'until' => 22.0,
];
$dives = [['evidence' => 'dives-kelp'], ['evidence' => 'dives-urchins']];
$calibrations = [
    'two' => FitPlan::read(['id' => 'two', 'name' => 'Two dive series', 'to' => $dives, 'place' => 1, ...$wanted]),
    'three' => FitPlan::read([
        'id' => 'three',
        'name' => 'With otters as a third',
        'to' => [...$dives, ['evidence' => 'wall-otters']],
        'place' => 2,
        ...$wanted,
    ]),
];
file_put_contents(
    __DIR__.'/kelp-and-urchins.json',
    NativeFile::export($model->with(['sources' => $sources, 'evidence' => $evidence, 'calibrations' => $calibrations])),
);
