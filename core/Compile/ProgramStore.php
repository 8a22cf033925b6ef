<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Model\Method;

/**
 * Keeps compiled sources as files named by their content, where the opcode cache and its just-in-time compiler pick them up. The
 * buffer of machine code is never freed, so what is run once and shortly, as after every edit, stays out of it: it runs as plain PHP,
 * and becomes machine code when it is run again or for long.
 */
final class ProgramStore
{
    private const JIT_MODE = '1005';

    /** Evaluations of an equation in one run beyond which machine code pays for itself the first time. */
    private const LONG = 400_000.0;

    /** Sources and marks older than this are deleted now and then. */
    private const DAYS_KEPT = 14;

    /** Of the sources of the compiler, so that what an older one made is not taken for its own. */
    private static ?string $compiler = null;

    /** @param  string  $folder private to this user; made when missing */
    public function __construct(private readonly string $folder)
    {
    }

    /** A folder for the command line, in the user's own cache. */
    public static function ofUser(): self
    {
        $cache = getenv('XDG_CACHE_HOME');
        $home = getenv('HOME');
        $base = is_string($cache) && $cache !== '' ? $cache : (is_string($home) && $home !== '' ? $home.'/.cache' : sys_get_temp_dir().'/merry-orbit-'.getmyuid());

        return new self($base.'/merry-orbit/programs');
    }

    /**
     * The program of a plan: compiled, or as it was compiled before. What a plan is known by is all of its content; it is
     * kept when it comes a second time, since most come once, after an edit.
     *
     * @param  \Closure(): Program  $compile
     */
    public function programOf(Plan $plan, Method $method, \Closure $compile): Program
    {
        $file = $this->folder.'/p'.hash('xxh128', serialize($plan).$method->value.self::compiler()).'.plan';
        if (is_file($file)) {
            $program = @unserialize((string) file_get_contents($file), ['allowed_classes' => [Program::class]]);
            if ($program instanceof Program) {
                return $program;
            }
        }
        $program = $compile();
        $this->prepare();
        if (! is_file($file.'.seen')) {
            touch($file.'.seen');
        } else {
            $new = $file.'.'.bin2hex(random_bytes(6));
            file_put_contents($new, serialize($program));
            rename($new, $file);
        }

        return $program;
    }

    private static function compiler(): string
    {
        return self::$compiler ??= hash('xxh128', implode(' ', array_map(static fn (string $f): string => $f.filemtime($f), glob(__DIR__.'/*.php') ?: [])));
    }

    /**
     * The function of a program with fixed steps, for a run of so much work.
     *
     * @param  float  $work  how often it will evaluate an equation
     */
    public function forRun(Program $program, float $work): callable
    {
        $file = $this->folder.'/'.$program->function;
        if ($work >= self::LONG || function_exists('MerryOrbit\\Compiled\\'.$program->function) || is_file($file.'.php') || is_file($file.'.seen')) {
            return $this->load($program->function, $program);
        }
        $this->prepare();
        touch($file.'.seen');

        return self::plain($program);
    }

    /** The function as plain PHP, which goes when nobody holds it any more. Its source is made from parsed formulas only. */
    private static function plain(Program $program): callable
    {
        $source = str_replace("\nfunction $program->function(", "\nreturn static function (", $program->source);
        /** @var callable $function */
        $function = eval(substr($source, strlen('<?php')).';');

        return $function;
    }

    /** @param  string  $function  one of the functions of the program's source */
    public function load(string $function, Program $program): callable
    {
        $name = 'MerryOrbit\\Compiled\\'.$function;
        if (! function_exists($name)) {
            $file = $this->folder.'/'.$program->function.'.php';
            if (! is_file($file)) {
                $this->write($file, $program->source);
            }
            self::compile($file);
        }

        return (new \ReflectionFunction($name))->getClosure();
    }

    /**
     * Under the function JIT without register allocation, whatever the mode of the process: everything else may run
     * without, which spares its buffer. With register allocation (modes 11xx and 12xx), and in the tracing modes, PHP 8.2.36
     * computes wrong numbers on such code; tests/Core/MachineCodeTest.php shows it.
     */
    private static function compile(string $file): void
    {
        $mode = ini_get('opcache.jit');
        $changed = $mode !== false && $mode !== self::JIT_MODE && ini_get('opcache.jit_buffer_size') !== '0' && @ini_set('opcache.jit', self::JIT_MODE) !== false;
        try {
            require $file;
        } finally {
            if ($changed) {
                ini_set('opcache.jit', $mode);
            }
        }
    }

    private function write(string $file, string $source): void
    {
        $this->prepare();
        if (random_int(1, 50) === 1) {
            $this->tidy();
        }
        $new = $file.'.'.bin2hex(random_bytes(6));
        file_put_contents($new, $source);
        // The opcode cache passes over files that are younger than two seconds.
        touch($new, time() - 60);
        rename($new, $file);
    }

    private function prepare(): void
    {
        if (! is_dir($this->folder) && ! @mkdir($this->folder, 0700, true) && ! is_dir($this->folder)) {
            throw new \RuntimeException("The folder $this->folder for compiled models cannot be made.");
        }
        if (fileowner($this->folder) !== (function_exists('posix_geteuid') ? posix_geteuid() : getmyuid())) {
            throw new \RuntimeException("The folder $this->folder belongs to someone else; compiled models are not read from it.");
        }
    }

    /** Deletes what was made long ago; it is made again when needed. */
    private function tidy(): void
    {
        foreach (glob($this->folder.'/[fp]*') ?: [] as $file) {
            $age = time() - (int) @filemtime($file);
            if ($age > self::DAYS_KEPT * 86400) {
                @unlink($file);
            }
        }
    }
}
