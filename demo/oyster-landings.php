<?php

declare(strict_types=1);

// Makes the made-up data of Oyster terraces in demo/files: landings by cove and year (long), by harbour and month (across), which of
// them belong to which bay, and an area map of the coves; from a run of the study with other numbers than it has, with seeded noise
// and gaps, as messy as such files are. What is kept of them goes into the study by the steps that stand there. Run it with:
// php demo/oyster-landings.php

require __DIR__.'/../core/autoload.php';

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\Integral;
use MerryOrbit\Core\Data\Reading;
use MerryOrbit\Core\Data\Steps\Others;
use MerryOrbit\Core\Data\Steps\Steps;
use MerryOrbit\Core\Data\Steps\WordRows;
use MerryOrbit\Core\Data\StudyTimes;
use MerryOrbit\Core\Data\TableFile;
use MerryOrbit\Core\Data\Tie;
use MerryOrbit\Core\Exchange\ModelFile;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\AreaMap;
use MerryOrbit\Core\Model\CleaningStep;
use MerryOrbit\Core\Model\Measured;
use MerryOrbit\Core\Model\Source;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\Simulator;

const FILES = __DIR__.'/files/';
// Cove: bay and share of it, share of the bay's landings, terrace.
const COVES = [
    'Gull Cove' => [['outer bay' => 1.0], 0.3, 'north'],
    'Lantern Cove' => [['outer bay' => 1.0], 0.25, 'north'],
    'Long Sand' => [['outer bay' => 1.0], 0.25, 'south'],
    'Whistler Hole' => [['outer bay' => 1.0], 0.1, 'south'],
    'Seal Cove' => [['outer bay' => 0.5, 'harbour bay' => 0.5], 0.1, 'lee'],
    'Mill Cove' => [['harbour bay' => 1.0], 0.45, 'middle'],
    'Old Quay' => [['harbour bay' => 1.0], 0.35, 'middle'],
    'Thrift Cove' => [['harbour bay' => 1.0], 0.1, 'lee'],
];
const HARBOURS = ['Town quay' => ['harbour bay', 0.8], 'Mill slip' => ['harbour bay', 0.2], 'Gull jetty' => ['outer bay', 1.0]];

$model = ModelFile::import((string) file_get_contents(__DIR__.'/oyster-terraces.json'))->model;
$model = $model->with(['time' => $model->time->with(['startDate' => '2000-01-01'])]);
$analysis = Analyser::analyse($model);
$run = (new Simulator(ProgramStore::ofUser()))->run($analysis, new RunOptions(['room' => 680.0, 'usual-time-in-an-age' => 0.92]));
$landed = [];
foreach (['harbour-bay' => 'harbour bay', 'outer-bay' => 'outer bay'] as $id => $bay) {
    $landed[$bay] = new Integral($run->times(), $run->column("landed[$id]"), false);
}
mt_srand(4_711);
$noise = static fn (): float => array_sum(array_map(static fn (): float => mt_rand() / mt_getrandmax(), range(1, 12))) - 6.0;

// By cove and year, as the cooperative's clerk keeps them.
$lines = [
    '# Landings by cove, the cooperative of Quillhaven; made up by demo/oyster-landings.php',
    'Year,Cove,Landed [thousand],Remarks',
];
for ($year = 2002; $year <= 2024; $year++) {
    foreach (COVES as $cove => [$bays, $part]) {
        $amount = 0.0;
        foreach ($bays as $bay => $share) {
            $amount += $part * ($landed[$bay]->between($year - 2000.0, $year - 1999.0) ?? 0.0);
        }
        $word = number_format(max(0.0, $amount * (1.0 + 0.08 * $noise())), 1, '.', '');
        $isGap = $cove === 'Long Sand' && in_array($year, [2021, 2022], true);
        $lines[] =
            "$year,$cove,".
            ($isGap ? 'n/a' : $word).
            ','.
            ($isGap ? 'the clerk was ill' : ($year === 2017 && $cove === 'Mill Cove' ? 'new scales' : ''));
    }
}
file_put_contents(FILES.'landings by cove.csv', implode("\n", $lines)."\n");

// By harbour and month, as the harbour master does, with a comma.
$months = [];
for ($i = 0; $i < 96; $i++) {
    $months[] = [2019 + intdiv($i, 12), ($i % 12) + 1];
}
$rows = [['Harbour', ...array_map(static fn (array $m): string => sprintf('%02d/%d', $m[1], $m[0]), $months)]];
foreach (HARBOURS as $harbour => [$bay, $part]) {
    $row = [$harbour];
    foreach ($months as [$year, $month]) {
        $from = $year - 2000 + ($month - 1) / 12;
        $season = 1.0 + 0.5 * cos((2.0 * M_PI * ($month - 11)) / 12.0);
        $amount = 0.93 * $part * $season * ($landed[$bay]->between($from, $from + 1 / 12) ?? 0.0) * (1.0 + 0.05 * $noise());
        $row[] = number_format($amount, 2, ',', '');
    }
    $rows[] = $row;
}
file_put_contents(
    FILES.'harbour landings.csv',
    implode("\n", array_map(static fn (array $r): string => implode(';', $r), $rows))."\n",
);

$lines = ['place;bay;share'];
foreach (COVES as $cove => [$bays]) {
    foreach ($bays as $bay => $share) {
        $lines[] = "$cove;$bay;".number_format(100.0 * $share, 0).'%';
    }
}
foreach (HARBOURS as $harbour => [$bay]) {
    $lines[] = "$harbour;$bay;100%";
}
file_put_contents(FILES.'coves and bays.csv', implode("\n", $lines)."\n");

// The coves lie around the island, which is in no sea that there is.
$point = static fn (float $angle, float $far): array => [
    round(-31.4 + 0.05 * $far * cos($angle), 5),
    round(47.9 + 0.031 * $far * sin($angle), 5),
];
$coast = static fn (float $a): float => 1.0 + 0.12 * sin(3 * $a + 0.6) + 0.07 * sin(7 * $a) + 0.03 * cos(13 * $a);
// Each corner lies on the same rays, so that coves lie on the coast.
$ring = static fn (float $from, float $until, callable $far): array => array_map(
    static fn (int $i): array => $point($i / 30, $far($i / 30)),
    range((int) round(30 * $from), (int) round(30 * $until)),
);
$features = [
    [
        'type' => 'Feature',
        'properties' => ['name' => 'Quillhaven', 'kind' => 'land'],
        'geometry' => [
            'type' => 'Polygon',
            'coordinates' => [[...array_slice($ring(0.0, 2 * M_PI, $coast), 0, -1), $point(0.0, $coast(0.0))]],
        ],
    ],
];
$angle = 0.15;
foreach (COVES as $cove => [$bays, $part, $terrace]) {
    $until = $angle + 0.66;
    $outer = static fn (float $a): float => $coast($a) + 0.28 + 0.05 * sin(5 * $a);
    $line = [...$ring($angle, $until, $coast), ...array_reverse($ring($angle, $until, $outer))];
    $features[] = [
        'type' => 'Feature',
        'properties' => ['name' => $cove, 'terrace' => $terrace, 'bay' => array_key_first($bays)],
        'geometry' => ['type' => 'Polygon', 'coordinates' => [[...$line, $line[0]]]],
    ];
    $angle = $until + 0.1;
}
$collection = [
    'type' => 'FeatureCollection',
    'name' => 'coves of Quillhaven, made up by demo/oyster-landings.php',
    'features' => $features,
];
file_put_contents(FILES.'coves.geojson', json_encode($collection, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE)."\n");

// What of it is kept lies in the study itself, by its own steps.
$source = static fn (string $id, string $name, array $steps = []): Source => new Source(
    $id,
    $name,
    hash('sha256', (string) file_get_contents(FILES.$name)),
    note: 'Made up by demo/oyster-landings.php: a run with other numbers than the study has, noise and gaps.',
    steps: CleaningStep::list($steps),
);
$toBays = static fn (string $along): array => [
    'do' => 'over mapping',
    'series' => ['Landed'],
    'source' => 'places',
    'along' => $along,
    'from' => 'place',
    'to' => 'bay',
    'take' => 'sum',
    'share' => 'share',
];
$sources = [
    'coves' => $source('coves', 'landings by cove.csv', [
        $toBays('Cove'),
        [
            'do' => 'fill',
            'series' => ['Landed'],
            'source' => 'harbours',
            'from' => 'Landed',
            'take' => 'overlap',
            'note' => 'the harbour master misses what is eaten on the boats',
        ],
        ['do' => 'rate', 'to' => 'year'],
    ]),
    'harbours' => $source('harbours', 'harbour landings.csv', [
        ['do' => 'gather', 'to' => 'Landed', 'along' => 'harbour'],
        $toBays('harbour'),
        ['do' => 'over time', 'to' => 'year', 'take' => 'sum'],
    ]),
    'places' => $source('places', 'coves and bays.csv'),
];
$others = new class($sources) implements Others
{
    /** @param  array<string, Source>  $sources */
    public function __construct(private readonly array $sources)
    {
    }

    public function table(string $source): DataTable
    {
        $read = Reading::of(TableFile::open(FILES.$this->name($source))->grid(), isTraced: true);

        return Steps::of($read, $this->sources[$source]->steps, $this);
    }

    public function words(string $source): WordRows
    {
        return WordRows::of(TableFile::open(FILES.$this->name($source))->grid());
    }

    public function name(string $source): string
    {
        return $this->sources[$source]->name;
    }
};
$table = $others->table('coves');
$times = StudyTimes::of($table, $model->time);
$evidence = [];
foreach ($table->series as $series) {
    $element = str_replace(' ', '-', $series->elements['bay']);
    $tie = Tie::to($analysis, "landed[$element]", $series, $times, StudyTimes::ends($table, $model->time));
    $evidence["landed-$element"] = new Measured(
        "landed-$element",
        'landed',
        array_map(static fn (array $p): array => [round($p[0], 9), $p[1]], $tie->points),
        $tie->at,
        'coves',
        $series->label(),
        $series->unit,
        $tie->factor ?? 1.0,
        $series->over,
        array_map(static fn (float $t): float => round($t, 9), $tie->ends),
        $tie->cells,
        8.0,
        '%',
    );
}
$map = new AreaMap('coves', 'coves.geojson', hash('sha256', (string) file_get_contents(FILES.'coves.geojson')), '', 'catch', true);
file_put_contents(
    __DIR__.'/oyster-terraces.json',
    NativeFile::export($model->with(['sources' => $sources, 'evidence' => $evidence, 'areas' => ['coves' => $map]])),
);
