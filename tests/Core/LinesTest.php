<?php

declare(strict_types=1);

namespace Tests\Core;

use PHPUnit\Framework\TestCase;

/** Code is wrapped; a text, a pattern, a comment or what stands in another language may be longer. */
final class LinesTest extends TestCase
{
    private const LONGEST = 140;

    /** A line with a text this long is left whole: a sentence that is broken cannot be found. */
    private const TEXT = 50;

    public function test_lines_of_code_are_at_most_140_characters_long(): void
    {
        $long = [];
        foreach (['core', 'app', 'tests', 'database', 'routes'] as $folder) {
            $files = new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator(__DIR__."/../../$folder"));
            foreach (new \RegexIterator($files, '/\.php$/') as $file) {
                self::assertInstanceOf(\SplFileInfo::class, $file);
                foreach (file($file->getPathname(), FILE_IGNORE_NEW_LINES) ?: [] as $i => $line) {
                    if (mb_strlen($line) > self::LONGEST && ! self::mayBe($line)) {
                        $long[] = "{$file->getFilename()}:".($i + 1);
                    }
                }
            }
        }
        self::assertSame([], $long);
    }

    private static function mayBe(string $line): bool
    {
        preg_match_all('/\'(?:[^\'\\\\]|\\\\.)*\'|"(?:[^"\\\\]|\\\\.)*"/', $line, $texts);
        $longest = max([0, ...array_map(mb_strlen(...), $texts[0])]);

        return preg_match('~^\s*(/\*\*|\*|//|<)|><~', $line) === 1 || ($longest > self::TEXT && mb_strlen($line) - $longest <= 100);
    }
}
