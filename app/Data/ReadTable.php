<?php

declare(strict_types=1);

namespace App\Data;

use App\Runs\Results;
use MerryOrbit\Core\Data\DataRemark;
use MerryOrbit\Core\Data\DataSeries;
use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\Grid;
use MerryOrbit\Core\Data\Reading;
use MerryOrbit\Core\Data\TableFile;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Data\Understood;
use MerryOrbit\Core\Data\Wishes;

/**
 * A file as it was read under what somebody says of it. A large one is read once: its numbers lie on the disk of results as packed
 * columns, and its rows as they stand in pieces, so that a look at some of them opens no more than these.
 */
final readonly class ReadTable
{
    /** Rows that go with the first answer, and rows of a piece. */
    public const ROWS = 400;

    /** Columns of the file that are shown. */
    public const COLUMNS = 60;

    /** Counted up when a file is read otherwise than before. */
    private const EDITION = 2;

    /** With fewer cells a file is read faster than what is kept of it. */
    private const SMALL = 20_000;

    /** So many values tell the cell that they stand in; of more, the column says enough. */
    private const MOST_TRACED = 300_000;

    /**
     * @param  list<string>  $sheets
     * @param  list<list<string>>  $rows  the first as they stand
     * @param  array{int, int}  $size  rows and columns
     */
    private function __construct(
        public array $sheets,
        public string $sheet,
        public array $rows,
        public array $size,
        public DataTable $table,
    ) {
    }

    /** Of a file that was just dropped, and may not be kept. */
    public static function ofFile(TableFile $file, Wishes $wishes, bool $isTraced = false): self
    {
        return self::made($file, $wishes, $isTraced)[0];
    }

    /** Bytes from which on a worker reads a file. */
    public const LARGE = 3_000_000;

    /** Behind a place: why what should lie there cannot be read. */
    public const REFUSED = '-refused';

    /**
     * A large file is read by a worker, where there are such.
     *
     * @throws StillReading|TableRefused
     */
    public static function awaited(string $content, string $name, Wishes $wishes, bool $isTraced): self
    {
        $place = self::place($content, $wishes, $isTraced);
        $path = TableStore::path($content);
        $isLong =
            config()->boolean('merry-orbit.run.workers') && Results::disk()->exists($path) && Results::disk()->size($path) > self::LARGE;
        if ($isLong && ! Results::disk()->exists($place)) {
            if (! Results::disk()->exists($place.self::REFUSED)) {
                ReadTableJob::dispatch($content, $name, $wishes, $isTraced);
                throw new StillReading($content, $name);
            }
            throw TableRefused::because((string) Results::disk()->get($place.self::REFUSED));
        }

        return self::ofContent($content, $wishes, $isTraced, static fn (): TableFile => TableStore::file($content, $name));
    }

    /** @param  \Closure(): TableFile  $open  where it has to be read */
    public static function ofContent(string $content, Wishes $wishes, bool $isTraced, \Closure $open): self
    {
        $place = self::place($content, $wishes, $isTraced);
        $kept = Results::disk()->exists($place) ? self::unpacked((string) Results::disk()->get($place)) : null;
        if ($kept !== null) {
            return $kept;
        }
        [$made, $grid] = self::made($open(), $wishes, $isTraced);
        if ($made->size[0] * $made->size[1] > self::SMALL) {
            for ($from = 0; $from < count($grid->rows); $from += self::ROWS) {
                Results::write("$place-rows/".intdiv($from, self::ROWS), (string) json_encode(self::texts($grid, $from)));
            }
            Results::write("$place-rows/count", (string) $made->size[0]);
            Results::write($place, $made->packed());
        }

        return $made;
    }

    /** Where all lies that was read of a file. */
    public static function folder(string $content): string
    {
        return 'read/'.substr($content, 0, 2)."/$content";
    }

    /** @return array{self, Grid} */
    private static function made(TableFile $file, Wishes $wishes, bool $isTraced): array
    {
        $grid = $file->grid($wishes->sheet);
        $size = [count($grid->rows), $grid->width];
        $table = Reading::of($grid, $wishes, $isTraced && $size[0] * $size[1] <= self::MOST_TRACED);

        return [new self($file->sheets, $grid->name, self::texts($grid, 0), $size, $table), $grid];
    }

    /** @return list<list<string>> */
    private static function texts(Grid $grid, int $from): array
    {
        return array_map(
            static fn (array $row): array => array_map(Grid::text(...), array_slice($row, 0, self::COLUMNS)),
            array_slice($grid->rows, $from, self::ROWS),
        );
    }

    /**
     * Rows of a file as they stand; those of a large one without its numbers.
     *
     * @return array{int, list<list<string>>} how many there are in all, and those that were asked for
     *
     * @throws StillReading|TableRefused
     */
    public static function rowsOf(string $content, string $name, Wishes $wishes, int $from, int $count): array
    {
        $place = self::place($content, $wishes, false);
        $isThere = Results::disk()->exists("$place-rows/count");
        $all = $isThere ? (int) Results::disk()->get("$place-rows/count") : 0;
        if (! $isThere) {
            $made = self::awaited($content, $name, $wishes, false);
            $all = $made->size[0];
            if ($all <= count($made->rows)) {
                return [$all, array_slice($made->rows, $from, $count)];
            }
        }
        $rows = [];
        for ($piece = intdiv($from, self::ROWS); $piece * self::ROWS < min($from + $count, $all); $piece++) {
            $list = json_decode((string) Results::disk()->get("$place-rows/$piece"), true);
            foreach (is_array($list) ? array_values($list) : [] as $i => $row) {
                $at = $piece * self::ROWS + $i;
                if ($at >= $from && $at < $from + $count && is_array($row)) {
                    $rows[] = array_map(static fn (mixed $c): string => is_string($c) ? $c : '', array_values($row));
                }
            }
        }

        return [$all, $rows];
    }

    /** Where it lies what was read of a file under such wishes. */
    public static function place(string $content, Wishes $wishes, bool $isTraced): string
    {
        return self::folder($content).
            '/'.
            substr(hash('sha256', self::EDITION.json_encode([$wishes, $isTraced], JSON_THROW_ON_ERROR)), 0, 24);
    }

    /** All but the numbers serialised, and then these as doubles, times first; what is a gap is not a number. */
    private function packed(): string
    {
        $bare = array_map(static fn (DataSeries $s): DataSeries => $s->with([]), $this->table->series);
        $shell = serialize([$this->sheets, $this->sheet, $this->rows, $this->size, $this->table->with($bare, [], $this->table->spacing)]);
        $columns = [$this->table->times, ...array_map(static fn (DataSeries $s): array => $s->values, $this->table->series)];

        return pack('VV', strlen($shell), count($this->table->times)).
            $shell.
            implode(
                '',
                array_map(
                    static fn (array $c): string => pack('e*', ...array_map(static fn (?float $v): float => $v ?? NAN, $c)),
                    array_merge(...array_map(static fn (array $c): array => array_chunk($c, 50_000), $columns)),
                ),
            );
    }

    private static function unpacked(string $blob): ?self
    {
        $head = unpack('Vshell/Vtimes', $blob);
        if ($head === false || ! is_int($head['shell']) || ! is_int($head['times'])) {
            return null;
        }
        $known = ['allowed_classes' => [DataTable::class, DataSeries::class, DataRemark::class, Understood::class]];
        $shell = @unserialize(substr($blob, 8, $head['shell']), $known);
        if (! is_array($shell) || ! (($shell[4] ?? null) instanceof DataTable)) {
            return null;
        }
        /** @var array{list<string>, string, list<list<string>>, array{int, int}, DataTable} $shell */
        [$sheets, $sheet, $rows, $size, $table] = $shell;
        $column = static function (int $i) use ($blob, $head): array {
            /** @var array<int, float> $read */
            $read = unpack('e*', substr($blob, 8 + $head['shell'] + 8 * $i * $head['times'], 8 * $head['times'])) ?: [];

            return array_values($read);
        };
        $series = [];
        foreach ($table->series as $i => $s) {
            $series[] = $s->with(array_map(static fn (float $v): ?float => is_nan($v) ? null : $v, $column($i + 1)));
        }

        return new self($sheets, $sheet, $rows, $size, $table->with($series, $column(0)));
    }
}
