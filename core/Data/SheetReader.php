<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

use PhpOffice\PhpSpreadsheet\Cell\Cell;
use PhpOffice\PhpSpreadsheet\Reader\IReader;
use PhpOffice\PhpSpreadsheet\Reader\Ods;
use PhpOffice\PhpSpreadsheet\Reader\Xlsx;
use PhpOffice\PhpSpreadsheet\RichText\RichText;
use PhpOffice\PhpSpreadsheet\Shared\Date;

/**
 * Spreadsheets (XLSX, ODS), read by a well-known package once a look at the file itself has shown that it is small, plain, and fetches
 * nothing. Formulas are never worked out: the value that was saved with them counts.
 */
final class SheetReader
{
    public const MOST_CELLS = 200_000;

    private const MOST_UNPACKED = 150_000_000;

    private const MOST_PARTS = 2_000;

    private const LAST_ROW = 250_000;

    /** What a formula does that reaches outside of its file. */
    private const CALLS = '/\b(WEBSERVICE|IMPORT(?:DATA|XML|HTML|FEED|RANGE)|RTD|DDE|CALL|REGISTER|EXEC)\s*\(|\|.*!|(?:^|[^A-Za-z])\[\d+\]|https?:\/\//i';

    public static function looksLike(string $text): bool
    {
        return str_starts_with($text, "PK\x03\x04") || str_starts_with($text, "\xD0\xCF\x11\xE0");
    }

    /**
     * @return array{list<string>, \Closure(string): Grid} the names of its sheets, and the reader of one
     *
     * @throws TableRefused
     */
    public static function open(string $path): array
    {
        if (! class_exists(\ZipArchive::class) || ! class_exists(Xlsx::class)) {
            throw TableRefused::because(
                'Spreadsheets need the extension `zip` of PHP and the packages of composer.json: run `bin/start` once. CSV and JSON need neither.',
            );
        }
        $zip = new \ZipArchive();
        if ($zip->open($path) !== true) {
            throw TableRefused::because('This spreadsheet is of an old kind, or broken. Save it as XLSX, ODS or CSV.');
        }
        $isOds = $zip->locateName('content.xml') !== false;
        if (! $isOds && $zip->locateName('xl/workbook.xml') === false) {
            throw TableRefused::because('This archive holds no spreadsheet. Unpack it, and drop the tables themselves.');
        }
        self::refuseBig($zip);
        self::refuseHarm($zip);
        self::refuseSheets($path, $zip, $isOds);
        $zip->close();
        $reader = $isOds ? new Ods() : new Xlsx();
        $reader->setReadEmptyCells(false);
        try {
            $names = $reader->listWorksheetNames($path);
        } catch (\Throwable) {
            throw TableRefused::because('This spreadsheet is broken. Open it, and save it anew as XLSX, ODS or CSV.');
        }

        return [array_values($names), static fn (string $name): Grid => self::grid($reader, $path, $name)];
    }

    private static function grid(IReader $reader, string $path, string $name): Grid
    {
        $reader->setLoadSheetsOnly([$name]);
        try {
            $book = $reader->load($path);
            $sheet = $book->getSheetByNameOrThrow($name);
            $rows = [];
            foreach ($sheet->getCoordinates() as $at) {
                $cell = $sheet->getCell($at);
                $read = self::read($cell);
                if ($read !== null) {
                    $rows[$cell->getRow() - 1][
                        \PhpOffice\PhpSpreadsheet\Cell\Coordinate::columnIndexFromString($cell->getColumn()) - 1
                    ] = $read;
                }
            }
            $book->disconnectWorksheets();
        } catch (\Throwable $e) {
            throw TableRefused::because('This spreadsheet is broken. Open it, and save it anew as XLSX, ODS or CSV.');
        }
        $last = $rows === [] ? -1 : max(array_keys($rows));
        if ($last > self::LAST_ROW) {
            throw TableRefused::because(
                'Row '.($last + 1).' of this sheet holds something: take away what stands so far below the table.',
            );
        }
        $whole = [];
        for ($i = 0; $i <= $last; $i++) {
            $row = [];
            foreach ($rows[$i] ?? [] as $column => $cell) {
                for ($k = count($row); $k < $column; $k++) {
                    $row[] = null;
                }
                $row[$column] = $cell;
            }
            $whole[] = array_values($row);
        }

        return new Grid($name, $whole);
    }

    private static function read(Cell $cell): string|float|Moment|null
    {
        $value = $cell->isFormula() ? $cell->getOldCalculatedValue() : $cell->getValue();
        if ($value instanceof RichText) {
            $value = $value->getPlainText();
        }
        if (is_bool($value)) {
            return $value ? 'TRUE' : 'FALSE';
        }
        if (is_int($value) || is_float($value) || ($cell->getDataType() === 'n' && is_numeric($value))) {
            $number = (float) $value;
            $format = (string) $cell->getStyle()->getNumberFormat()->getFormatCode();
            if (Date::isDateTimeFormatCode($format) && $number > -657_434.0 && $number < 2_958_466.0) {
                $seconds = round(86_400.0 * ($number - (Date::getExcelCalendar() === Date::CALENDAR_MAC_1904 ? 24_107.0 : 25_569.0)), 3);

                return new Moment($seconds, abs($seconds / 86_400.0 - round($seconds / 86_400.0)) > 1e-7);
            }
            $isShare = str_contains((string) preg_replace('/"[^"]*"|\\\\./', '', $format), '%');

            return $isShare ? Grid::text(round(100.0 * $number, 10)).'%' : $number;
        }

        return is_string($value) ? $value : null;
    }

    private static function refuseBig(\ZipArchive $zip): void
    {
        $whole = 0;
        for ($i = 0; $i < $zip->numFiles; $i++) {
            $whole += (int) ($zip->statIndex($i)['size'] ?? 0);
        }
        if ($whole > self::MOST_UNPACKED || $zip->numFiles > self::MOST_PARTS) {
            throw self::tooBig();
        }
    }

    /** No part of a spreadsheet declares entities or hides what it is: who does means harm. */
    private static function refuseHarm(\ZipArchive $zip): void
    {
        $whole = 0;
        for ($i = 0; $i < $zip->numFiles; $i++) {
            $name = (string) $zip->getNameIndex($i);
            if (preg_match('/\.(xml|rels)$/i', $name) !== 1) {
                continue;
            }
            $refusal = XmlGuard::refusal(self::pieces($zip, $i, $whole));
            if ($refusal !== null) {
                throw TableRefused::because("This spreadsheet is not read because of its part `$name`. $refusal");
            }
        }
    }

    /**
     * @param  int  $whole  bytes so far: what a part says of its size may not be so
     * @return \Generator<string>
     */
    private static function pieces(\ZipArchive $zip, int $i, int &$whole): \Generator
    {
        $stream = $zip->getStreamIndex($i);
        while ($stream !== false && ! feof($stream)) {
            $piece = (string) fread($stream, 1 << 18);
            if ($piece === '') {
                break;
            }
            $whole += strlen($piece);
            if ($whole > self::MOST_UNPACKED) {
                throw self::tooBig();
            }
            yield $piece;
        }
    }

    private static function tooBig(): TableRefused
    {
        return TableRefused::because(
            'This spreadsheet unpacks to more than 150 MB. Save the sheet that you need as CSV, which may be larger.',
        );
    }

    private static function refuseSheets(string $path, \ZipArchive $zip, bool $isOds): void
    {
        for ($i = 0; $i < $zip->numFiles; $i++) {
            $name = (string) $zip->getNameIndex($i);
            if ($isOds ? $name === 'content.xml' : preg_match('#^xl/worksheets/[^/]+\.xml$#', $name) === 1) {
                self::refuseSheet("zip://$path#$name", $isOds);
            }
        }
    }

    /** Streams over the sheet's own XML: its cells are counted and its formulas looked at before anything is loaded. */
    private static function refuseSheet(string $part, bool $isOds): void
    {
        $reader = new \XMLReader();
        if (! @$reader->open($part, null, LIBXML_NONET | LIBXML_COMPACT)) {
            return;
        }
        $cells = 0;
        while (@$reader->read()) {
            if ($reader->nodeType !== \XMLReader::ELEMENT) {
                continue;
            }
            if ($reader->localName === ($isOds ? 'table-cell' : 'c')) {
                $isEmpty = $isOds && $reader->isEmptyElement;
                $cells += $isEmpty ? 0 : max(1, (int) $reader->getAttribute('table:number-columns-repeated'));
                self::refuseCall($isOds ? (string) $reader->getAttribute('table:formula') : '', (string) $reader->getAttribute('r'));
            } elseif (! $isOds && $reader->localName === 'f') {
                self::refuseCall($reader->readString(), '');
            }
            if ($cells > self::MOST_CELLS) {
                throw TableRefused::because(
                    'A sheet of this spreadsheet has more than '.
                        number_format(self::MOST_CELLS).
                        ' cells. Save it as CSV: that may have five million.',
                );
            }
        }
        $reader->close();
    }

    private static function refuseCall(string $formula, string $at): void
    {
        if ($formula !== '' && preg_match(self::CALLS, $formula) === 1) {
            $where = $at === '' ? 'A cell' : "The cell $at";
            throw TableRefused::because(
                "$where has a formula that fetches something from outside of its file: `".
                    mb_substr($formula, 0, 80).
                    '`. Put its value in its place.',
            );
        }
    }
}
