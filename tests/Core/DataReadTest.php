<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\Reading;
use MerryOrbit\Core\Data\TableFile;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Data\Wishes;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * @phpstan-import-type Whole from MessyTables
 */
final class DataReadTest extends TestCase
{
    /** @var list<string> */
    private array $files = [];

    protected function tearDown(): void
    {
        array_map(unlink(...), array_filter($this->files, is_file(...)));
    }

    private function file(string $name, string $bytes): string
    {
        $file = sys_get_temp_dir().'/orbit-'.bin2hex(random_bytes(5)).$name;
        file_put_contents($file, $bytes);
        $this->files[] = $file;

        return $file;
    }

    /** @param  array<string, mixed>  $said */
    private function read(string $name, string $bytes, array $said = []): DataTable
    {
        $wishes = Wishes::read($said);

        return Reading::of(TableFile::open($this->file($name, $bytes))->grid($wishes->sheet), $wishes);
    }

    /** @return iterable<string, array{Whole}> */
    public static function messy(): iterable
    {
        foreach (MessyTables::all() as $name => $case) {
            yield $name => [$case];
        }
    }

    /** @param  Whole  $case */
    #[DataProvider('messy')]
    public function test_a_messy_table_gives_what_it_holds(array $case): void
    {
        $table = $this->read($case['file'], $case['bytes'], $case['wishes']);
        $series = [];
        foreach ($table->series as $s) {
            $label = $s->label()." [$s->unit]";
            $series[isset($series[$label]) ? "$label 2" : $label] = $s->values;
        }
        self::assertSame($case['layout'], $table->layout);
        self::assertSame($case['times'], $table->timeKind === 'date' ? $table->timeWords : $table->times);
        self::assertSame($case['series'], $series);
        foreach ($case['remarks'] as [$row, $column, $words]) {
            $there = array_filter(
                $table->remarks,
                static fn ($r): bool => $r->row === $row && $r->column === $column && str_contains($r->sentence, $words),
            );
            self::assertNotSame([], $there, "$row, $column: $words in ".json_encode($table->remarks));
        }
        if ($case['remarks'] === []) {
            self::assertSame([], $table->remarks, (string) json_encode($table->remarks));
        }
    }

    public function test_there_are_at_least_sixty_messy_tables(): void
    {
        self::assertGreaterThanOrEqual(60, count(MessyTables::all()));
    }

    public function test_a_table_read_twice_is_the_same(): void
    {
        foreach (MessyTables::all() as $case) {
            $records = array_map(
                fn (): string => (string) json_encode($this->read($case['file'], $case['bytes'], $case['wishes'])->toRecord()),
                [1, 2],
            );
            self::assertSame($records[0], $records[1]);
        }
    }

    /** @return iterable<string, array{string, string, string}> */
    public static function refused(): iterable
    {
        $bomb = Sheets::xlsx(['A' => [['year', 'x'], [1.0, 2.0]]], ['xl/media/a.bin' => str_repeat("\0", 160_000_000)]);
        yield 'a bomb' => ['t.xlsx', $bomb, '150 MB'];
        yield 'entities' => [
            't.xlsx',
            Sheets::xlsx(
                [],
                ['xl/worksheets/sheet1.xml' => '<?xml version="1.0"?><!DOCTYPE a [<!ENTITY b SYSTEM "file:///etc/passwd">]><a>&b;</a>'],
            ),
            'document type',
        ];
        yield 'a formula that calls out' => [
            't.xlsx',
            Sheets::xlsx(['A' => [['year', 'x'], [1.0, ['formula', 'WEBSERVICE("http://example.org")', 2.0]]]]),
            'from outside',
        ];
        yield 'a formula of another file' => [
            't.xlsx',
            Sheets::xlsx(['A' => [['year', 'x'], [1.0, ['formula', '[1]Sheet1!A1', 2.0]]]]),
            'from outside',
        ];
        yield 'a command' => [
            't.xlsx',
            Sheets::xlsx(['A' => [['year', 'x'], [1.0, ['formula', "cmd|'/c calc'!A1", 2.0]]]]),
            'from outside',
        ];
        yield 'many cells' => ['t.xlsx', Sheets::xlsx(['A' => array_fill(0, 20_001, array_fill(0, 10, 1.0))]), '200,000 cells'];
        yield 'one line' => ['t.csv', str_repeat('1,', 25_000_000), 'longer than two million'];
        yield 'a very large file' => ['t.csv', str_repeat("1,2\n", 25_000_000), '64 MB'];
        yield 'nothing' => ['t.csv', '', 'nothing in this file'];
        yield 'heads alone' => ['t.csv', "year,kelp\n", 'no table'];
        yield 'an archive' => ['t.zip', Sheets::zip(['a.txt' => 'x']), 'no spreadsheet'];
        yield 'a broken archive' => ['t.xlsx', "PK\x03\x04rubbish", 'broken'];
        yield 'a picture' => ['t.png', "\x89PNG\r\n\x1a\n\0\0\0\rIHDR\0\0", 'no table'];
        yield 'broken JSON' => ['t.json', '[{"a":', 'JSON'];
        yield 'deep JSON' => ['t.json', str_repeat('[', 500).str_repeat(']', 500), 'JSON'];
    }

    #[DataProvider('refused')]
    public function test_what_is_no_table_or_means_harm_is_refused_soon_with_a_sentence(string $name, string $bytes, string $words): void
    {
        $took = Pace::seconds(function () use ($name, $bytes, $words): void {
            try {
                $this->read($name, $bytes);
                self::fail('It was read.');
            } catch (TableRefused $e) {
                self::assertStringContainsString($words, $e->getMessage());
            }
        });
        self::assertLessThan(4.0, $took);
    }

    public function test_a_sheet_or_column_that_is_not_there_is_said_with_those_that_are(): void
    {
        $this->expectException(TableRefused::class);
        $this->expectExceptionMessage('`Reef`');
        $this->read('t.xlsx', Sheets::xlsx(['Reef' => [['year', 'x'], [1.0, 2.0]]]), ['sheet' => 'Bay']);
    }
}
