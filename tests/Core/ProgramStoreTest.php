<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Compile\Compiler;
use MerryOrbit\Core\Compile\Program;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Model\Method;
use PHPUnit\Framework\TestCase;

final class ProgramStoreTest extends TestCase
{
    private string $folder = '';

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir().'/merry-orbit-store-'.bin2hex(random_bytes(6));
    }

    protected function tearDown(): void
    {
        array_map(unlink(...), glob($this->folder.'/*') ?: []);
        is_dir($this->folder) && rmdir($this->folder);
    }

    private static function program(string $rate): Program
    {
        return Compiler::compile(
            Analyser::analyse(
                Build::model(['start value' => $rate], ['tank' => 'start value'], ['leak' => ['tank / 7.25', 'from' => 'tank']]),
            )->plan(),
            Method::Euler,
        );
    }

    public function test_one_source_is_written_once_whatever_the_values_of_parameters(): void
    {
        $store = new ProgramStore($this->folder);
        $first = self::program('1');
        $second = self::program('2');
        self::assertSame($first->function, $second->function);
        $store->load($first->function, $first);
        $store->load($second->function, $second);
        self::assertCount(1, glob($this->folder.'/*') ?: []);
        self::assertSame(0700, fileperms($this->folder) & 0777, 'nobody else can put sources there');
    }

    public function test_a_plan_that_comes_again_is_not_compiled_again(): void
    {
        $store = new ProgramStore($this->folder);
        $compiled = new \ArrayObject();
        $ask = static function (string $formula) use ($store, $compiled): Program {
            $plan = Analyser::analyse(Build::model(['k' => '1'], ['tank' => '5'], ['leak' => [$formula, 'from' => 'tank']]))->plan();

            return $store->programOf(serialize($plan), Method::Euler->value, static function () use ($plan, $compiled): Program {
                $compiled->append(true);

                return Compiler::compile($plan, Method::Euler);
            });
        };
        $first = $ask('tank / 7');
        $ask('tank / 7');
        self::assertEquals($first, $ask('tank / 7'));
        self::assertCount(2, $compiled, 'the second time it is kept, the third it is there');
        self::assertNotSame($first->function, $ask('tank / 8')->function, 'another plan is another program');
        // What is spoilt is made anew.
        foreach (glob($this->folder.'/*.plan') ?: [] as $file) {
            file_put_contents($file, 'O:8:"stdClass":0:{}');
        }
        self::assertEquals($first, $ask('tank / 7'));
        self::assertCount(4, $compiled);
    }

    public function test_a_loaded_program_computes(): void
    {
        $program = self::program('1');
        $run = (new ProgramStore($this->folder))->load($program->function, $program);
        $saved = -1;
        /** @var array{int, int, list<float>, list<float>, list<float>, list<float>, list<list<float>>, int} $end */
        $end = $run($saved, 0.0, 2.0, 1.0, 2, 1, 2.0, -1, 1, 1, null, 7.25);
        [$ending, $step] = $end;
        self::assertSame([[7.25, 6.25, 6.25 - 6.25 / 7.25], [1.0, 6.25 / 7.25, (6.25 - 6.25 / 7.25) / 7.25]], $end[6]);
        self::assertSame(3, $end[7]);
        self::assertSame([Program::DONE, 2], [$ending, $step]);
        self::assertSame(
            [Program::HALTED, 1, [], [6.25]],
            array_slice((array) $run($saved, 0.0, 2.0, 1.0, 2, 1, 2.0, 1, 1, 1, null, 7.25), 0, 4),
            'it hands over its state before the step at which it is told to halt',
        );
    }

    private static function firstRow(callable $run): mixed
    {
        $saved = -1;
        /** @var array{6: list<list<float>>} $end */
        $end = $run($saved, 0.0, 2.0, 1.0, 2, 1, 2.0, -1, 1, 1, null, 7.25);

        return $end[6][0][0];
    }

    public function test_where_nothing_can_be_kept_it_runs_from_memory(): void
    {
        foreach (['/proc/nowhere/programs', '/dev/full/programs', ''] as $i => $folder) {
            $program = Compiler::compile(
                Analyser::analyse(
                    Build::model(['start value' => '1'], ['tank' => 'start value'], ['leak' => ['tank / '.(7.5 + $i), 'from' => 'tank']]),
                )->plan(),
                Method::Euler,
            );
            self::assertSame(7.25, self::firstRow((new ProgramStore($folder))->load($program->function, $program)));
        }
    }

    /** @return iterable<string, array{string}> */
    public static function spoilt(): iterable
    {
        yield 'another’s code' => [
            '<?php namespace MerryOrbit\\Compiled; file_put_contents(getenv("MERRY_ORBIT_PROOF"), "ran"); function %s(...$x) { return 666; }',
        ];
        yield 'nothing' => [''];
        yield 'half of it' => ['half'];
    }

    #[\PHPUnit\Framework\Attributes\DataProvider('spoilt')]
    public function test_a_cut_emptied_or_foreign_source_is_never_loaded(string $content): void
    {
        $divisor = 8 + strlen($content) / 1024;
        $program = Compiler::compile(
            Analyser::analyse(
                Build::model(['start value' => '1'], ['tank' => 'start value'], ['leak' => ["tank / $divisor", 'from' => 'tank']]),
            )->plan(),
            Method::Euler,
        );
        mkdir($this->folder, 0700);
        $file = "$this->folder/$program->function.php";
        file_put_contents(
            $file,
            $content === 'half' ? substr($program->source, 0, intdiv(strlen($program->source), 2)) : sprintf($content, $program->function),
        );
        chmod($file, 0600);
        $proof = $this->folder.'/proof';
        putenv("MERRY_ORBIT_PROOF=$proof");
        self::assertSame(7.25, self::firstRow((new ProgramStore($this->folder))->load($program->function, $program)));
        self::assertFileDoesNotExist($proof);
        self::assertSame($program->source, file_get_contents($file), 'it was made anew');
    }

    public function test_nothing_is_read_from_a_folder_or_a_file_that_others_can_write_to(): void
    {
        mkdir($this->folder, 0777);
        chmod($this->folder, 0777);
        $program = Compiler::compile(
            Analyser::analyse(
                Build::model(['start value' => '1'], ['tank' => 'start value'], ['leak' => ['tank / 9.125', 'from' => 'tank']]),
            )->plan(),
            Method::Euler,
        );
        file_put_contents("$this->folder/$program->function.php", $program->source);
        self::assertSame(7.25, self::firstRow((new ProgramStore($this->folder))->load($program->function, $program)));
        self::assertNotContains("$this->folder/$program->function.php", array_map(realpath(...), get_included_files()));
        self::assertSame(
            [$program->function.'.php'],
            array_values(array_diff((array) scandir($this->folder), ['.', '..'])),
            'and nothing is written there',
        );
    }

    public function test_without_a_home_the_folder_of_all_is_not_used(): void
    {
        $out = (string) shell_exec(
            'env -u HOME -u XDG_CACHE_HOME '.
                escapeshellarg(PHP_BINARY).
                ' -r '.
                escapeshellarg(
                    'require "vendor/autoload.php"; echo (new ReflectionProperty(MerryOrbit\\Core\\Compile\\ProgramStore::class, "folder"))->getValue(MerryOrbit\\Core\\Compile\\ProgramStore::ofUser());',
                ),
        );
        self::assertFalse(str_starts_with($out, sys_get_temp_dir()), $out);
    }
}
