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
                file_put_contents($file, NativeFile::export(Build::model(
                    ['p' => '1.5', 'q' => '-2'],
                    ['s' => '3', 'sink' => '0', 'spring' => '100'],
                    ['f' => ['sin(time) + 0.7 - s / 9', 'to' => 's'], ...self::flows($count)],
                    [],
                    new TimeSettings(0, 20, 0.125, 'year', $method),
                )));
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
            $alone = Build::model(['p' => '1.5', 'q' => '-2'], ['s' => '3'], ['f' => ['sin(time) + 0.7 - s / 9', 'to' => 's']], ['v' => $formula], new TimeSettings(0, 20, 0.125, 'year'));
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
        self::assertSame('', stream_get_contents($pipes[2]));
        self::assertSame(0, proc_close($process));

        return $out;
    }
}
