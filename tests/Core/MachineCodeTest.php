<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\TestCase;

/** The just-in-time compiler was seen to compute wrong numbers: its results are compared with those of plain PHP, to the last bit. */
final class MachineCodeTest extends TestCase
{
    public function test_machine_code_and_plain_php_agree_to_the_last_bit(): void
    {
        foreach (Build::FIXED as $method) {
            foreach ([[21, 25], [22, 150], [32, 200]] as [$seed, $count]) {
                mt_srand($seed);
                $file = (string) tempnam(sys_get_temp_dir(), 'orbit');
                file_put_contents(
                    $file,
                    NativeFile::export(
                        Build::model(
                            ['p' => '1.5', 'q' => '-2'],
                            ['s' => '3', 'sink' => '0', 'spring' => '100'],
                            ['f' => ['sin(time) + 0.7 - s / 9', 'to' => 's'], ...self::flows($count)],
                            [],
                            new TimeSettings(0, 20, 0.125, 'year', $method),
                        ),
                    ),
                );
                $plain = self::printed([PHP_BINARY, '-d', 'opcache.enable_cli=0', __DIR__.'/../../core/Cli/main.php', 'run', $file]);
                $machine = self::printed([__DIR__.'/../../bin/orbit', 'run', $file]);
                unlink($file);
                self::assertGreaterThan(161 * $count * 2, strlen($plain));
                self::assertSame($plain, $machine, $method->title()." with $count formulas");
            }
        }
    }

    /**
     * Random formulas that can be computed all the way, some of which feed a stock.
     *
     * @return array<string, array{0: string, from?: string, to?: string}>
     */
    private static function flows(int $count): array
    {
        $flows = [];
        $number = 0;
        while ($number < $count) {
            $formula = RandomFormula::text(3);
            $alone = Build::model(
                ['p' => '1.5', 'q' => '-2'],
                ['s' => '3'],
                ['f' => ['sin(time) + 0.7 - s / 9', 'to' => 's']],
                ['v' => $formula],
                new TimeSettings(0, 20, 0.125, 'year'),
            );
            $run = Build::run($alone);
            if ($run->fault === null && max(0.0, ...array_map(abs(...), $run->column('v'))) < 1e6) {
                $flows["flow $number"] = $number++ % 3 === 0 ? [$formula, 'to' => 'sink'] : [$formula, 'from' => 'spring'];
            }
        }

        return $flows;
    }

    /** @param  list<string>  $command */
    private static function printed(array $command): string
    {
        $process = proc_open($command, [1 => ['pipe', 'w'], 2 => ['pipe', 'w']], $pipes);
        self::assertIsResource($process);
        $out = (string) stream_get_contents($pipes[1]);
        self::assertMatchesRegularExpression('/^(?:# .*\n)*$/D', (string) stream_get_contents($pipes[2]), 'nothing but remarks on the run');
        self::assertSame(0, proc_close($process));

        return $out;
    }

    private static function bufferFree(): int
    {
        /** @var array{jit?: array{buffer_free?: int}}|false $status */
        $status = function_exists('opcache_get_status') ? opcache_get_status(false) : false;

        return is_array($status) ? $status['jit']['buffer_free'] ?? 0 : 0;
    }

    /** The just-in-time compiler passes over a function that is too large, without a word: its buffer tells. */
    public function test_huge_models_still_become_machine_code(): void
    {
        if (self::bufferFree() === 0) {
            self::markTestSkipped('There is no JIT in this process; bin/test core has one.');
        }
        foreach (Build::FIXED as $method) {
            $stocks = $flows = $auxiliaries = [];
            for ($i = 0; $i < 300; $i++) {
                $stocks["s$i"] = (string) (1 + ($i % 7));
                $flows["f$i"] = ["s$i * 0.1 * a$i", 'from' => "s$i", 'to' => 's'.($i + 7) % 300];
                for ($k = 0; $k < 3; $k++) {
                    $auxiliaries['a'.($i + 300 * $k)] = [
                        0 => "min(1, s$i) + ".mt_rand(1, 1_000_000).' * 0',
                        'if(s'.($i * 3) % 300 ." > 2, a$i, a$i / 2)",
                        "a$i * 0.5 + s$i / 40",
                    ][$k];
                }
            }
            $analysis = \MerryOrbit\Core\Analysis\Analyser::analyse(
                Build::model([], $stocks, $flows, $auxiliaries, new TimeSettings(0, 1, 0.25, 'year', $method)),
            );
            $program = \MerryOrbit\Core\Compile\Compiler::compile($analysis->plan(), $method);
            self::assertLessThan(1.0, $program->fill);
            $before = self::bufferFree();
            (new \MerryOrbit\Core\Compile\ProgramStore(sys_get_temp_dir().'/merry-orbit-tests-'.getmyuid()))->load(
                $program->function,
                $program,
            );
            // Machine code takes more room than the source; a function that was passed over takes none.
            self::assertGreaterThan(strlen($program->source), $before - self::bufferFree(), $method->title());
        }
    }

    public function test_a_thousand_edits_and_runs_take_no_machine_code_and_no_memory(): void
    {
        if (self::bufferFree() === 0) {
            self::markTestSkipped('There is no JIT in this process; bin/test core has one.');
        }
        $simulator = Build::simulator();
        $memory = $free = 0;
        for ($i = 0; $i < 1000; $i++) {
            $model = Build::model(['p' => '2'], ['x' => '1'], ['f' => ["p * x / ($i + 7.25) + ".hrtime(true).'e-40', 'to' => 'x']]);
            $run = $simulator->run(\MerryOrbit\Core\Analysis\Analyser::analyse($model));
            self::assertNull($run->fault);
            if ($i === 100) {
                [$memory, $free] = [memory_get_usage(), self::bufferFree()];
            }
        }
        self::assertGreaterThan(0, $free);
        self::assertSame($free, self::bufferFree(), 'what is run once stays out of the buffer of machine code');
        self::assertLessThan(4_000_000, memory_get_usage() - $memory);
    }
}
