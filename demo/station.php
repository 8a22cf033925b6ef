<?php

declare(strict_types=1);

// A simulated measuring station, the stand-in for one outside: it tells the thickness of the lens at the old well, week by week, in an
// open form, JSON over HTTP. A week of Quillhaven goes by here in twenty seconds. Started by bin/serve beside the application:
// php -S 127.0.0.1:9000 demo/station.php

const FIRST = '2022-10-03';
const PACE = 20;

/** A reading that is the same whenever it is asked for. */
$reading = static function (int $week): float {
    mt_srand(9_000 + $week);
    $noise = array_sum(array_map(static fn (): float => mt_rand() / mt_getrandmax(), range(1, 12))) - 6.0;

    return round(195.0 + 28.0 * sin((2.0 * M_PI * ($week - 13)) / 52.0) + 3.0 * $noise, 1);
};
if (parse_url((string) ($_SERVER['REQUEST_URI'] ?? '/'), PHP_URL_PATH) !== '/readings') {
    http_response_code(404);
    header('Content-Type: application/json');
    echo json_encode(['error' => 'This station tells its readings at /readings.']);

    return;
}
// It began to measure when this process began; its parent writes the moment into the environment.
$began = (int) (getenv('STATION_BEGAN') ?: time());
$weeks = min(170, 16 + intdiv(max(0, time() - $began), PACE));
$rows = [];
for ($week = 0; $week < $weeks; $week++) {
    $rows[] = [
        'date' => (new DateTimeImmutable(FIRST))->modify("+$week weeks")->format('Y-m-d'),
        'lens thickness [cm]' => $reading($week),
    ];
}
header('Content-Type: application/json');
echo json_encode(['station' => 'old well', 'made up by' => 'demo/station.php', 'readings' => $rows]);
