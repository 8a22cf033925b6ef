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

    /** `max(0, ...$list)` fails where the list is empty: of one number there is no greatest. `max([0, ...$list])` does not. */
    public function test_the_least_and_the_greatest_of_a_spread_are_of_one_list(): void
    {
        $found = [];
        foreach (['core', 'app'] as $folder) {
            $files = new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator(__DIR__."/../../$folder"));
            foreach (new \RegexIterator($files, '/\.php$/') as $file) {
                self::assertInstanceOf(\SplFileInfo::class, $file);
                // The code itself, not what it writes in texts.
                $code = '';
                foreach (token_get_all((string) file_get_contents($file->getPathname())) as $token) {
                    $isText = is_array($token) && in_array($token[0], [T_CONSTANT_ENCAPSED_STRING, T_COMMENT, T_DOC_COMMENT], true);
                    $code .= $isText ? "''" : (is_array($token) ? $token[1] : $token);
                }
                if (preg_match('/\b(?:max|min)\(\s*[^()\[]+,\s*\.\.\./', $code, $m) === 1) {
                    $found[] = "{$file->getFilename()}: $m[0]";
                }
            }
        }
        self::assertSame([], $found);
    }

    private static function mayBe(string $line): bool
    {
        preg_match_all('/\'(?:[^\'\\\\]|\\\\.)*\'|"(?:[^"\\\\]|\\\\.)*"/', $line, $texts);
        $longest = max([0, ...array_map(mb_strlen(...), $texts[0])]);

        return preg_match('~^\s*(/\*\*|\*|//|<)|><~', $line) === 1 || ($longest > self::TEXT && mb_strlen($line) - $longest <= 100);
    }
}
