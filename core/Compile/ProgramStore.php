<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

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

    /** Whether the folder is ours alone; asked once. */
    private ?bool $private = null;

    /** @param  string  $folder private to this user; made when missing; empty for none, then all runs from memory */
    public function __construct(private readonly string $folder)
    {
    }

    /** A folder for the command line, in the user's own cache. Where there is no home, nothing is kept: others could write to /tmp. */
    public static function ofUser(): self
    {
        $cache = (string) getenv('XDG_CACHE_HOME');
        $home = (string) getenv('HOME');
        if ($home === '' && function_exists('posix_getpwuid')) {
            $home = (string) (posix_getpwuid(posix_geteuid())['dir'] ?? '');
        }
        $base = $cache !== '' ? $cache : ($home !== '' && $home !== '/' ? "$home/.cache" : '');

        return new self($base === '' ? '' : "$base/merry-orbit/programs");
    }

    /**
     * The program of a plan: compiled, or as it was compiled before. It is
     * kept when it comes a second time, since most come once, after an edit.
     *
     * @param  string  $plan  all of its content, by which it is known
     * @param  string  $how  by which method, and for which columns
     * @param  \Closure(): Program  $compile
     */
    public function programOf(string $plan, string $how, \Closure $compile): Program
    {
        $file = $this->folder.'/p'.hash('xxh128', $plan.$how.self::compiler()).'.plan';
        $program = $this->kept($file);
        if ($program !== null) {
            return $program;
        }
        $program = $compile();
        if (! $this->isPrivate()) {
            return $program;
        }
        if (! is_file($file.'.seen')) {
            @touch($file.'.seen');
        } else {
            $content = serialize($program);
            $this->write($file, hash('sha256', $content)."\n".$content);
        }

        return $program;
    }

    /** What was kept of a plan, if it is whole and ours. */
    private function kept(string $file): ?Program
    {
        if (! is_file($file) || ! $this->isPrivate() || ! self::isOurs($file)) {
            return null;
        }
        [$digest, $content] = explode("\n", (string) @file_get_contents($file), 2) + ['', ''];
        $program = hash_equals(hash('sha256', $content), $digest) ? @unserialize($content, ['allowed_classes' => [Program::class]]) : null;

        return $program instanceof Program ? $program : null;
    }

    private static function compiler(): string
    {
        return self::$compiler ??= hash(
            'xxh128',
            implode(
                ' ',
                array_map(
                    static fn (string $f): string => $f.filemtime($f),
                    glob(dirname(__DIR__).'/{Compile,Compile/Loops,Shape,Plan,Library}/*.php', GLOB_BRACE) ?: [],
                ),
            ),
        );
    }

    /**
     * The function of a program with fixed steps, for a run of so much work.
     *
     * @param  float  $work  how often it will evaluate an equation
     */
    public function forRun(Program $program, float $work): callable
    {
        $file = $this->folder.'/'.$program->function;
        if (
            $work >= self::LONG ||
            function_exists('MerryOrbit\\Compiled\\'.$program->function) ||
            is_file($file.'.php') ||
            is_file($file.'.seen')
        ) {
            return $this->load($program->function, $program);
        }
        if ($this->isPrivate()) {
            @touch($file.'.seen');
        }

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
            if ($this->isPrivate() && (self::holds($file, $program->source) || $this->write($file, $program->source))) {
                self::compile($file);
            } else {
                // Without a folder of its own, or on a full disk, it runs from memory. The source is made from parsed formulas only.
                eval(substr($program->source, strlen('<?php')));
            }
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
        $changed =
            $mode !== false &&
            $mode !== self::JIT_MODE &&
            ini_get('opcache.jit_buffer_size') !== '0' &&
            @ini_set('opcache.jit', self::JIT_MODE) !== false;
        try {
            require $file;
        } finally {
            if ($changed) {
                ini_set('opcache.jit', $mode);
            }
        }
    }

    /** Whether a file is exactly this source, and nobody else's: what was cut, emptied or put there is never loaded. */
    private static function holds(string $file, string $source): bool
    {
        return is_file($file) && self::isOurs($file) && @file_get_contents($file) === $source;
    }

    /** Written whole or not at all; false where there is no room. */
    private function write(string $file, string $content): bool
    {
        if (random_int(1, 50) === 1) {
            $this->tidy();
        }
        $new = $file.'.'.bin2hex(random_bytes(6));
        $to = @fopen($new, 'x');
        $done = $to !== false && @fwrite($to, $content) === strlen($content) && @fflush($to) && @fsync($to);
        if ($to !== false) {
            fclose($to);
        }
        // The opcode cache passes over files that are younger than two seconds.
        $done = $done && @chmod($new, 0600) && @touch($new, time() - 60) && @rename($new, $file);
        if (! $done && $to !== false) {
            @unlink($new);
        }

        return $done;
    }

    private static function me(): int
    {
        return function_exists('posix_geteuid') ? posix_geteuid() : (int) getmyuid();
    }

    /** A plain file or folder that only this user can write to. */
    private static function isOurs(string $path): bool
    {
        clearstatcache(true, $path);

        return ! is_link($path) && fileowner($path) === self::me() && (fileperms($path) & 0022) === 0;
    }

    /** Whether nobody else can put something into the folder, or another folder into its place. */
    private function isPrivate(): bool
    {
        return $this->private ??= $this->prepared();
    }

    private function prepared(): bool
    {
        if (
            $this->folder === '' ||
            (! is_dir($this->folder) && ! @mkdir($this->folder, 0700, true) && ! is_dir($this->folder)) ||
            is_link($this->folder)
        ) {
            return false;
        }
        if (fileowner($this->folder) === self::me() && (fileperms($this->folder) & 0022) === 0020) {
            // As some systems make folders by habit.
            @chmod($this->folder, 0700);
        }
        if (! self::isOurs($this->folder)) {
            return false;
        }
        for ($above = dirname((string) realpath($this->folder)); ; $above = dirname($above)) {
            $mode = (int) @fileperms($above);
            // In a folder that all may write to, as /tmp, only the owner renames what is his if it is sticky.
            if (($mode & 0002) !== 0 && ($mode & 01000) === 0) {
                return false;
            }
            if ($above === dirname($above)) {
                return true;
            }
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
