<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

/** Keeps compiled sources as files named by their content, where the opcode cache and its compiler pick them up. */
final readonly class ProgramStore
{
    private const JIT_MODE = '1005';

    /** @param  string  $folder private to this user; made when missing */
    public function __construct(private string $folder)
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
        if (! is_dir($this->folder) && ! @mkdir($this->folder, 0700, true) && ! is_dir($this->folder)) {
            throw new \RuntimeException("The folder $this->folder for compiled models cannot be made.");
        }
        if (fileowner($this->folder) !== (function_exists('posix_geteuid') ? posix_geteuid() : getmyuid())) {
            throw new \RuntimeException("The folder $this->folder belongs to someone else; compiled models are not read from it.");
        }
        $new = $file.'.'.bin2hex(random_bytes(6));
        file_put_contents($new, $source);
        // The opcode cache passes over files that are younger than two seconds.
        touch($new, time() - 60);
        rename($new, $file);
    }
}
