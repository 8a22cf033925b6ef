<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** A file with one table or several: CSV and its relatives, XLSX, ODS, JSON. */
final class TableFile
{
    /** @var array<string, Grid> */
    private array $grids = [];

    /**
     * @param  list<string>  $sheets
     * @param  \Closure(string): Grid  $read
     */
    private function __construct(public readonly array $sheets, private readonly \Closure $read)
    {
    }

    /**
     * @param  string  $name  what it was called where it came from
     *
     * @throws TableRefused
     */
    public static function open(string $path, string $name = ''): self
    {
        $size = is_file($path) ? @filesize($path) : false;
        if ($size === false || ! is_readable($path)) {
            throw TableRefused::because('The file '.($name === '' ? $path : $name).' cannot be read.');
        }
        if ($size > CsvReader::MOST_BYTES) {
            throw TableRefused::because(
                'This file is larger than 64 MB. Save the rows and columns that you need as a file of their own.',
            );
        }
        $start = (string) file_get_contents($path, false, null, 0, 400);
        if (SheetReader::looksLike($start)) {
            [$sheets, $read] = SheetReader::open($path);

            return new self($sheets, $read);
        }
        $title = pathinfo($name === '' ? $path : $name, PATHINFO_FILENAME);
        $isJson = JsonReader::looksLike($start);

        return new self([$title], static function () use ($path, $title, $isJson): Grid {
            return $isJson
                ? JsonReader::grid((string) file_get_contents($path), $title)
                : CsvReader::grid((string) file_get_contents($path), $title);
        });
    }

    /**
     * @param  ?string  $sheet  its name; null for the first that holds something
     *
     * @throws TableRefused
     */
    public function grid(?string $sheet = null): Grid
    {
        if ($sheet !== null) {
            foreach ($this->sheets as $name) {
                if (mb_strtolower(trim($name)) === mb_strtolower(trim($sheet))) {
                    return $this->grids[$name] ??= ($this->read)($name);
                }
            }
            throw TableRefused::because(
                "There is no sheet `$sheet`; there is ".
                    implode(', ', array_map(static fn (string $s): string => "`$s`", $this->sheets)).
                    '.',
            );
        }
        foreach ($this->sheets as $name) {
            $grid = $this->grids[$name] ??= ($this->read)($name);
            if ($grid->rows !== [] && max(array_map($grid->filled(...), array_keys($grid->rows))) > 0) {
                return $grid;
            }
        }

        return throw TableRefused::because('There is nothing in this file.');
    }
}
