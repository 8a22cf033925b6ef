<?php

declare(strict_types=1);

namespace Tests\Core;

/**
 * Writes small spreadsheets by hand, so that what reads them is tested against the standards and not against its own writer.
 *
 * @phpstan-type Cell string|float|null|array{'date'|'share', float}|array{'formula', string, float}
 */
final class Sheets
{
    /**
     * @param  array<string, list<list<Cell>>>  $sheets  rows by name; `['date', 36954.0]` and `['share', 0.1]` are formatted so, `['formula', '…', 1.0]` is one
     * @param  array<string, string>  $more  parts besides, or in place of those written here
     */
    public static function xlsx(array $sheets, array $more = []): string
    {
        $head = '<?xml version="1.0" encoding="UTF-8"?>';
        $main = 'xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"';
        $types = $list = $relations = '';
        $parts = [];
        foreach (array_keys($sheets) as $i => $name) {
            $n = $i + 1;
            $types .= "<Override PartName=\"/xl/worksheets/sheet$n.xml\" ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml\"/>";
            $list .= '<sheet name="'.htmlspecialchars((string) $name)."\" sheetId=\"$n\" r:id=\"r$n\"/>";
            $relations .= "<Relationship Id=\"r$n\" Type=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet\" Target=\"worksheets/sheet$n.xml\"/>";
            $parts["xl/worksheets/sheet$n.xml"] =
                "$head<worksheet $main><sheetData>".self::rows($sheets[$name]).'</sheetData></worksheet>';
        }
        $package = 'http://schemas.openxmlformats.org/package/2006';
        $office = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';

        return self::zip([
            '[Content_Types].xml' => "$head<Types xmlns=\"$package/content-types\"><Default Extension=\"rels\" ContentType=\"application/vnd.openxmlformats-package.relationships+xml\"/><Default Extension=\"xml\" ContentType=\"application/xml\"/><Override PartName=\"/xl/workbook.xml\" ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml\"/><Override PartName=\"/xl/styles.xml\" ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.styles+xml\"/>$types</Types>",
            '_rels/.rels' => "$head<Relationships xmlns=\"$package/relationships\"><Relationship Id=\"r1\" Type=\"$office/officeDocument\" Target=\"xl/workbook.xml\"/></Relationships>",
            'xl/workbook.xml' => "$head<workbook $main xmlns:r=\"$office\"><sheets>$list</sheets></workbook>",
            'xl/_rels/workbook.xml.rels' => "$head<Relationships xmlns=\"$package/relationships\">$relations<Relationship Id=\"styles\" Type=\"$office/styles\" Target=\"styles.xml\"/></Relationships>",
            'xl/styles.xml' => "$head<styleSheet $main><fonts count=\"1\"><font/></fonts><fills count=\"1\"><fill/></fills><borders count=\"1\"><border/></borders><cellStyleXfs count=\"1\"><xf/></cellStyleXfs><cellXfs count=\"3\"><xf numFmtId=\"0\"/><xf numFmtId=\"14\" applyNumberFormat=\"1\"/><xf numFmtId=\"10\" applyNumberFormat=\"1\"/></cellXfs></styleSheet>",
            ...$parts,
            ...$more,
        ]);
    }

    /** @param  list<list<Cell>>  $rows */
    private static function rows(array $rows): string
    {
        $text = '';
        foreach ($rows as $r => $row) {
            $text .= '<row r="'.($r + 1).'">';
            foreach ($row as $c => $cell) {
                $at = chr(65 + $c).($r + 1);
                $text .= match (true) {
                    $cell === null => '',
                    is_string($cell) && str_starts_with($cell, '#') => "<c r=\"$at\" t=\"e\"><v>$cell</v></c>",
                    is_string($cell) => "<c r=\"$at\" t=\"inlineStr\"><is><t>".htmlspecialchars($cell).'</t></is></c>',
                    is_array($cell) && isset($cell[2]) => "<c r=\"$at\"><f>".htmlspecialchars($cell[1])."</f><v>$cell[2]</v></c>",
                    is_array($cell) => "<c r=\"$at\" s=\"".($cell[0] === 'date' ? 1 : 2)."\"><v>$cell[1]</v></c>",
                    default => "<c r=\"$at\"><v>".json_encode($cell).'</v></c>',
                };
            }
            $text .= '</row>';
        }

        return $text;
    }

    /** @param  array<string, list<list<string|float|null>>>  $sheets */
    public static function ods(array $sheets): string
    {
        $tables = '';
        foreach ($sheets as $name => $rows) {
            $tables .= "<table:table table:name=\"$name\">";
            foreach ($rows as $row) {
                $cells = array_map(
                    static fn (string|float|null $cell): string => match (true) {
                        $cell === null => '<table:table-cell/>',
                        is_string($cell) => '<table:table-cell office:value-type="string"><text:p>'.
                            htmlspecialchars($cell).
                            '</text:p></table:table-cell>',
                        default => "<table:table-cell office:value-type=\"float\" office:value=\"$cell\"><text:p>$cell</text:p></table:table-cell>",
                    },
                    $row,
                );
                $tables .= '<table:table-row>'.(implode('', $cells) ?: '<table:table-cell/>').'</table:table-row>';
            }
            $tables .= '</table:table>';
        }
        $ns = 'urn:oasis:names:tc:opendocument:xmlns';

        return self::zip([
            'mimetype' => 'application/vnd.oasis.opendocument.spreadsheet',
            'META-INF/manifest.xml' => '<?xml version="1.0"?><manifest:manifest xmlns:manifest="'.
                $ns.
                ':manifest:1.0"><manifest:file-entry manifest:full-path="/" manifest:media-type="application/vnd.oasis.opendocument.spreadsheet"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/></manifest:manifest>',
            'meta.xml' => "<?xml version=\"1.0\"?><office:document-meta xmlns:office=\"$ns:office:1.0\"><office:meta/></office:document-meta>",
            'styles.xml' => "<?xml version=\"1.0\"?><office:document-styles xmlns:office=\"$ns:office:1.0\" xmlns:table=\"$ns:table:1.0\" xmlns:text=\"$ns:text:1.0\" xmlns:style=\"$ns:style:1.0\" xmlns:number=\"$ns:datastyle:1.0\" xmlns:fo=\"$ns:xsl-fo-compatible:1.0\"/>",
            'content.xml' => "<?xml version=\"1.0\"?><office:document-content xmlns:office=\"$ns:office:1.0\" xmlns:table=\"$ns:table:1.0\" xmlns:text=\"$ns:text:1.0\" office:version=\"1.2\"><office:body><office:spreadsheet>$tables</office:spreadsheet></office:body></office:document-content>",
        ]);
    }

    /** @param  array<string, string>  $parts */
    public static function zip(array $parts): string
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'zip');
        $zip = new \ZipArchive();
        $zip->open($file, \ZipArchive::OVERWRITE | \ZipArchive::CREATE);
        foreach ($parts as $name => $text) {
            $zip->addFromString($name, $text);
        }
        $zip->close();
        $bytes = (string) file_get_contents($file);
        unlink($file);

        return $bytes;
    }
}
