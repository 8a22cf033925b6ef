<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Cli\Orbit;

/** Commands of `orbit` within the test’s own process, and files for them that are gone afterwards. */
trait Commanded
{
    /** @var list<string> */
    private array $files = [];

    protected function tearDown(): void
    {
        array_map(unlink(...), array_filter($this->files, is_file(...)));
    }

    private function file(string $text, string $ending = '.csv'): string
    {
        $file = sys_get_temp_dir().'/orbit-'.bin2hex(random_bytes(5)).$ending;
        file_put_contents($file, $text);
        $this->files[] = $file;

        return $file;
    }

    /**
     * @param  list<string>  $words
     * @return array{int, string, string} exit code, output, errors
     */
    private static function orbit(array $words): array
    {
        [$out, $err] = [fopen('php://memory', 'r+'), fopen('php://memory', 'r+')];
        self::assertIsResource($out);
        self::assertIsResource($err);
        $code = (new Orbit($out, $err))->run($words);
        rewind($out);
        rewind($err);

        return [$code, (string) stream_get_contents($out), (string) stream_get_contents($err)];
    }

    /** @return array<mixed> */
    private static function json(string $text): array
    {
        $read = json_decode($text, true, 512, JSON_THROW_ON_ERROR);
        self::assertIsArray($read);

        return $read;
    }
}
