<?php

declare(strict_types=1);

/*
 * Times models of 10,000 members who come and go against the same written by hand in PHP, interleaved under the same just-in-time
 * compiler, the smallest of the repeats in several processes: ten equations; the same with a draw for each member and step; a relation of
 * 50,000 pairs. Fails when the engine takes more than 1.5 times as long as PHP by hand, or when the two disagree by more than 1e-9.
 *
 *     bench/run members [plain|draws|pairs]
 */

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\Simulator;

require __DIR__.'/../core/autoload.php';

const LIMIT = 1.5;
const PROCESSES = 3;
const REPEATS = 3;
const MEMBERS = 10_000;
const STEPS = ['plain' => 1_000, 'draws' => 200, 'pairs' => 500];

$folder = sys_get_temp_dir().'/merry-orbit-bench-'.getmyuid();
is_dir($folder) || mkdir($folder);

/** @return array<string, mixed> the model as a file */
$file = static function (string $case): array {
    $names = array_map(static fn (int $k): string => "m$k", range(0, MEMBERS - 1));
    $more = [];
    $inflow = match ($case) {
        'draws' => 'a * random(0, 0.1)',
        'pairs' => 'sum(a, knows) * 0.001',
        default => 'a * 0.05',
    };
    if ($case === 'pairs') {
        for ($k = 0; $k < MEMBERS; $k++) {
            for ($j = 1; $j <= 5; $j++) {
                $more[] = ["m$k", 'm'.($k * 7 + $j * 13) % MEMBERS];
            }
        }
    }
    $auxiliary = static fn (string $name, string $formula): array => [
        'kind' => 'auxiliary',
        'id' => strtr($name, ' ', '-'),
        'name' => $name,
        'formula' => $formula,
    ];

    return [
        'format' => 'merry-orbit model',
        'version' => 1,
        'name' => 'Members',
        'time' => [
            'start' => 0,
            'end' => STEPS[$case] / 10,
            'step' => 0.1,
            'unit' => 'year',
            'method' => 'euler',
            'saveEvery' => STEPS[$case] / 10,
        ],
        'dimensions' => [['id' => 'boat', 'name' => 'boat', 'elements' => $names]],
        ...$more === [] ? [] : ['mappings' => [['id' => 'k', 'name' => 'knows', 'from' => 'boat', 'to' => 'boat', 'pairs' => $more]]],
        'elements' => [
            ['kind' => 'stock', 'id' => 'a', 'name' => 'a', 'dimensions' => ['boat'], 'formula' => '1'],
            ['kind' => 'stock', 'id' => 'b', 'name' => 'b', 'dimensions' => ['boat'], 'formula' => '2'],
            ['kind' => 'flow', 'id' => 'in', 'name' => 'in', 'to' => 'a', 'formula' => $inflow],
            ['kind' => 'flow', 'id' => 'out', 'name' => 'out', 'from' => 'a', 'formula' => 'share * a * 0.1'],
            ['kind' => 'flow', 'id' => 'up', 'name' => 'up', 'to' => 'b', 'formula' => 'gap * 0.2'],
            $auxiliary('gap', 'max(a - b, 0) + push'),
            $auxiliary('share', 'a / (a + b)'),
            $auxiliary('push', '0.01 * a'),
            $auxiliary('gone', 'b > 1e6'),
            $auxiliary('all', 'sum(b, boat)'),
        ],
        'rosters' => [['id' => 'boats', 'of' => 'boat', 'exits' => [['id' => 'x', 'words' => 'gone', 'kind' => 'when', 'of' => 'gone']]]],
    ];
};

$byHand = static function (string $case): string {
    $inflow = match ($case) {
        'draws' => '$a[$n] * (0.0 + (0.1 - 0.0) * \MerryOrbit\Core\Library\Chance::uniform(1, \'in#1[\' . $name[$n] . \']\', $i))',
        'pairs' => '$near * 0.001',
        default => '$a[$n] * 0.05',
    };
    $near =
        $case !== 'pairs'
            ? ''
            : '$near = 0.0; for ($k = $begin[$n], $e = $begin[$n + 1]; $k < $e; $k++) { $near += $weight[$k] * $a[$with[$k]]; }';
    $next = $case === 'pairs' ? '$c[$n]' : '$a[$n]';
    $swap = $case === 'pairs' ? '$a = $c;' : '';

    return <<<PHP
    function {$case}_by_hand(int \$steps, float \$step, array \$name, array \$begins, array \$withs): float
    {
        \$begin = []; foreach (\$begins as \$one) { \$begin[] = (int) \$one; }
        \$with = []; foreach (\$withs as \$one) { \$with[] = (int) \$one; }
        \$weight = []; foreach (\$withs as \$one) { \$weight[] = 1.0; }
        \$m = \\count(\$name);
        \$a = \\array_fill(0, \$m, 1.0); \$b = \\array_fill(0, \$m, 2.0); \$c = \$a; \$gone = \\array_fill(0, \$m, 0.0);
        \$all = 0.0;
        for (\$i = 0; \$i <= \$steps; \$i++) {
            \$all = 0.0;
            for (\$n = 0; \$n < \$m; \$n++) { \$all += \$b[\$n]; }
            if (\$i === \$steps) { break; }
            for (\$n = 0; \$n < \$m; \$n++) {
                $near
                \$x = \$a[\$n]; \$y = \$b[\$n];
                \$in = $inflow;
                \$share = \$x / (\$x + \$y);
                \$out = \$share * \$x * 0.1;
                \$push = 0.01 * \$x;
                \$gap = (\$x - \$y > 0.0 ? \$x - \$y : 0.0) + \$push;
                \$up = \$gap * 0.2;
                \$gone[\$n] = \$y > 1e6 ? 1.0 : 0.0;
                $next = \$x + \$step * (\$in - \$out);
                \$b[\$n] = \$y + \$step * \$up;
            }
            for (\$n = \$m - 1; \$n >= 0; \$n--) {
                if (\$gone[\$n] !== 0.0) { \$m--; \$a[\$n] = \$a[\$m]; \$b[\$n] = \$b[\$m]; \$name[\$n] = \$name[\$m]; }
            }
            $swap
        }
        return \$all;
    }
    PHP;
};

if (($argv[1] ?? '') === 'php') {
    $case = $argv[2] ?? '';
    $model = NativeFile::import(json_encode($file($case), JSON_THROW_ON_ERROR))->model;
    $analysis = Analyser::analyse($model);
    foreach ($analysis->blockers() as $problem) {
        exit($problem->sentence);
    }
    $prepared = (new Simulator(new ProgramStore($folder.'/programs')))->prepare($analysis, new RunOptions(), ['all'], 1_000);
    $prepared->run();
    require "$folder/members-$case.php";
    $hand = (new ReflectionFunction($case.'_by_hand'))->getClosure();
    $roster = $analysis->shaped?->extents->rosters->all['boat'] ?? throw new LogicException();
    $place = array_flip($roster->listed);
    $rows = array_fill(0, MEMBERS, []);
    foreach ($roster->relations['k']->pairs ?? [] as [$one, $two]) {
        $rows[$place[$two]][] = $place[$one];
    }
    $begins = [0];
    $with = [];
    foreach ($rows as $row) {
        sort($row);
        array_push($with, ...$row);
        $begins[] = count($with);
    }
    $best = [INF, INF];
    $apart = 0.0;
    for ($k = 0; $k < REPEATS; $k++) {
        $run = $prepared->run();
        $best[0] = min($best[0], $run->seconds * 1e3);
        $begun = hrtime(true);
        /** @var float $all */
        $all = $hand(STEPS[$case], 0.1, $roster->listed, $begins, $with);
        $best[1] = min($best[1], (hrtime(true) - $begun) / 1e6);
        $apart = max($apart, $case === 'draws' ? 0.0 : abs((float) $run->value('all', $run->length() - 1) / $all - 1.0));
    }
    printf('%.6f %.6f %.17g', $best[0], $best[1], $apart);
    exit();
}

$failed = false;
$chosen = $argv[1] ?? null;
foreach (array_intersect(array_keys(STEPS), $chosen === null ? array_keys(STEPS) : [$chosen]) as $name) {
    file_put_contents("$folder/members-$name.php", "<?php\n\ndeclare(strict_types=1);\n\n".$byHand($name)."\n");
    touch("$folder/members-$name.php", time() - 60);
    $best = [INF, INF];
    $apart = 0.0;
    for ($k = 0; $k < PROCESSES; $k++) {
        $said = (string) shell_exec(escapeshellarg(__DIR__.'/run')." members php $name");
        [$engine, $hand, $by] = [...array_map(floatval(...), explode(' ', $said)), NAN, NAN, NAN];
        $best = [min($best[0], $engine), min($best[1], $hand)];
        $apart = max($apart, $by);
    }
    $ratio = $best[0] / $best[1];
    $isFine = $apart <= 1e-9 && $ratio <= LIMIT;
    printf(
        "%-6s %d steps   engine %8.1f ms   by hand %8.1f ms   engine / by hand %.2f   apart by %.1e%s\n",
        $name,
        STEPS[$name],
        ...[...$best, $ratio, $apart, $isFine ? '' : '   NOT FINE'],
    );
    $failed = $failed || ! $isFine;
}
exit($failed ? 1 : 0);
