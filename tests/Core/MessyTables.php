<?php

declare(strict_types=1);

namespace Tests\Core;

/**
 * Tables as people make them, and what should come out of each: the layout, the times, the series as `name [unit]` with their values,
 * and words that a remark has to hold, with the row and the column that it is about.
 *
 * @phpstan-type Written array{
 *     file?: string,
 *     bytes: string,
 *     wishes?: array<string, mixed>,
 *     layout?: string,
 *     times: list<float|string>,
 *     series: array<string, list<float|null>>,
 *     remarks?: list<array{?int, ?int, string}>,
 * }
 * @phpstan-type Whole array{
 *     file: string,
 *     bytes: string,
 *     wishes: array<string, mixed>,
 *     layout: string,
 *     times: list<float|string>,
 *     series: array<string, list<float|null>>,
 *     remarks: list<array{?int, ?int, string}>,
 * }
 */
final class MessyTables
{
    /** @return array<string, Whole> */
    public static function all(): array
    {
        $all = [];
        foreach (
            [
                ...self::separators(),
                ...self::encodings(),
                ...self::heads(),
                ...self::numbers(),
                ...self::dates(),
                ...self::shapes(),
                ...self::sheets(),
            ] as $name => $case
        ) {
            $all[$name] = [...['file' => 't.csv', 'wishes' => [], 'layout' => 'down', 'remarks' => []], ...$case];
        }

        return $all;
    }

    /** @return array<string, Written> */
    private static function separators(): array
    {
        $out = ['times' => [2001.0, 2002.0, 2003.0], 'series' => ['kelp []' => [1.5, 2.5, 3.5], 'urchins []' => [10.0, 20.0, 30.0]]];
        $rows = [['year', 'kelp', 'urchins'], ['2001', '1.5', '10'], ['2002', '2.5', '20'], ['2003', '3.5', '30']];
        $text = static fn (string $sep, string $end = "\n"): string => implode(
            $end,
            array_map(static fn (array $r): string => implode($sep, $r), $rows),
        ).$end;
        $comma = str_replace('.', ',', $text(';'));

        return [
            'commas' => ['bytes' => $text(','), ...$out],
            'semicolons' => ['bytes' => $text(';'), ...$out],
            'tabs' => ['bytes' => $text("\t"), ...$out],
            'bars' => ['bytes' => $text('|'), ...$out],
            'blanks' => ['bytes' => $text('  '), ...$out],
            'lines of Windows' => ['bytes' => $text(',', "\r\n"), ...$out],
            'lines of old' => ['bytes' => $text(',', "\r"), ...$out],
            'no line end at the end' => ['bytes' => rtrim($text(',')), ...$out],
            'decimal comma' => ['bytes' => $comma, ...$out],
            'comments and blank lines' => ['bytes' => "# made by hand\n\n".str_replace('2002', "\n# later\n2002", $text(',')), ...$out],
            'quotes with separators and line breaks inside' => [
                'bytes' => "year,\"kelp, all\",\"note\nof two lines\"\n2001,\"1\",\"a, b\"\n2002,\"2\",\"c\"\"d\"\n",
                'times' => [2001.0, 2002.0],
                'series' => ['kelp, all []' => [1.0, 2.0]],
                'remarks' => [[1, 3, 'no numbers']],
            ],
            'quoted numbers' => [
                'bytes' => '"year";"kelp"'."\n".'"2001";"1,5"'."\n".'"2002";"2,5"'."\n",
                'times' => [2001.0, 2002.0],
                'series' => ['kelp []' => [1.5, 2.5]],
            ],
            'ragged lines' => [
                'bytes' => "year,kelp,urchins\n2001,1\n2002,2,20\n2003,3,30,\n",
                'times' => [2001.0, 2002.0, 2003.0],
                'series' => ['kelp []' => [1.0, 2.0, 3.0], 'urchins []' => [null, 20.0, 30.0]],
            ],
            'empty columns' => [
                'bytes' => ",year,,kelp,\n,2001,,1,\n,2002,,2,\n",
                'times' => [2001.0, 2002.0],
                'series' => ['kelp []' => [1.0, 2.0]],
            ],
        ];
    }

    /** @return array<string, Written> */
    private static function encodings(): array
    {
        $text = "año;algas (kg/m²)\n2001;1,5\n2002;2,5\n";
        $out = ['times' => [2001.0, 2002.0], 'series' => ['algas [kg/m²]' => [1.5, 2.5]]];

        return [
            'UTF-8' => ['bytes' => $text, ...$out],
            'UTF-8 with a mark' => ['bytes' => "\xEF\xBB\xBF$text", ...$out],
            'UTF-16 little end first' => ['bytes' => "\xFF\xFE".mb_convert_encoding($text, 'UTF-16LE', 'UTF-8'), ...$out],
            'UTF-16 big end first' => ['bytes' => "\xFE\xFF".mb_convert_encoding($text, 'UTF-16BE', 'UTF-8'), ...$out],
            'UTF-16 without a mark' => ['bytes' => mb_convert_encoding($text, 'UTF-16LE', 'UTF-8'), ...$out],
            'Latin-1' => ['bytes' => mb_convert_encoding($text, 'ISO-8859-1', 'UTF-8'), ...$out],
        ];
    }

    /** @return array<string, Written> */
    private static function heads(): array
    {
        return [
            'titles above and a total below' => [
                'bytes' => "Reef dives, Quillhaven\nsix lines, each second August\nYear;Kelp [t];Urchins [hundred];Remarks\n2001;50,2;173;calm\n2003;47,7;12O;two divers\n2005;n. d.;197;\n2007;51,6;;boat in dock\nTotal;149,5;370;\n",
                'times' => [2001.0, 2003.0, 2005.0, 2007.0],
                'series' => ['Kelp [t]' => [50.2, 47.7, null, 51.6], 'Urchins [hundred]' => [173.0, null, 197.0, null]],
                'remarks' => [[5, 3, '120'], [8, 1, 'totals'], [3, 4, 'no numbers']],
            ],
            'units in a row of their own' => [
                'bytes' => "year,kelp,eaten\n,[t],[t/year]\n2001,1,2\n2002,3,4\n",
                'times' => [2001.0, 2002.0],
                'series' => ['kelp [t]' => [1.0, 3.0], 'eaten [t/year]' => [2.0, 4.0]],
            ],
            'units in a row without brackets' => [
                'bytes' => "year;kelp;water\nyear;t;m³\n2001;1;2\n2002;3;4\n",
                'times' => [2001.0, 2002.0],
                'series' => ['kelp [t]' => [1.0, 3.0], 'water [m³]' => [2.0, 4.0]],
            ],
            'no heads' => [
                'bytes' => "2001,1\n2002,2\n2003,4\n",
                'times' => [2001.0, 2002.0, 2003.0],
                'series' => ['column 2 []' => [1.0, 2.0, 4.0]],
            ],
            'heads where they are said to be' => [
                'bytes' => "year,kelp\nyear,algae\n2001,1\n2002,2\n",
                'wishes' => ['names' => 2],
                'times' => [2001.0, 2002.0],
                'series' => ['algae []' => [1.0, 2.0]],
            ],
            'a name twice' => [
                'bytes' => "year,kelp,kelp\n2001,1,2\n2002,3,4\n",
                'times' => [2001.0, 2002.0],
                'series' => ['kelp []' => [1.0, 3.0], 'kelp [] 2' => [2.0, 4.0]],
                'remarks' => [[1, 3, 'twice']],
            ],
            'time that is not first' => [
                'bytes' => "kelp,season,year\n1,dry,2001\n2,wet,2002\n",
                'times' => [2001.0, 2002.0],
                'series' => ['kelp []' => [1.0, 2.0]],
                'remarks' => [[1, 2, 'no numbers']],
            ],
            'time that is said' => [
                'bytes' => "year,survey,kelp\n1,10,5\n1,20,6\n",
                'wishes' => ['time' => 'survey'],
                'times' => [10.0, 20.0],
                'series' => ['year []' => [1.0, 1.0], 'kelp []' => [5.0, 6.0]],
            ],
            'no time at all' => [
                'bytes' => "kelp,urchins\n5,7\n3,8\n9,1\n",
                'times' => [1.0, 2.0, 3.0],
                'series' => ['kelp []' => [5.0, 3.0, 9.0], 'urchins []' => [7.0, 8.0, 1.0]],
                'remarks' => [[null, null, '1, 2, 3']],
            ],
            'a note at the end' => [
                'bytes' => "year,kelp,urchins\n2001,1,2\n2002,3,4\nSource: the cooperative,,\n",
                'times' => [2001.0, 2002.0],
                'series' => ['kelp []' => [1.0, 3.0], 'urchins []' => [2.0, 4.0]],
                'remarks' => [[4, 1, 'note']],
            ],
            'an average at the end' => [
                'bytes' => "year,kelp\n2001,1\n2002,3\nMean,2\n",
                'times' => [2001.0, 2002.0],
                'series' => ['kelp []' => [1.0, 3.0]],
                'remarks' => [[4, 1, 'totals']],
            ],
        ];
    }

    /** @return array<string, Written> */
    private static function numbers(): array
    {
        return [
            'thousands with commas' => self::two('1,234.5', '12,345,678', 1234.5, 12_345_678.0),
            'thousands with points' => self::two('1.234,5', '12.345.678', 1234.5, 12_345_678.0),
            'thousands with blanks' => self::two('1 234,5', "12\u{A0}345", 1234.5, 12_345.0),
            'thousands with thin blanks' => self::two("1\u{202F}234,5", "12\u{2009}345", 1234.5, 12_345.0),
            'thousands with apostrophes' => self::two("1'234.5", '12’345', 1234.5, 12_345.0),
            'could be read two ways' => self::two('1,234', '2,345', 1234.0, 2345.0, remarks: [[null, null, 'two ways']]),
            'said to be a comma' => self::two('1,234', '2,345', 1.234, 2.345, wishes: ['decimal' => ',']),
            'powers of ten' => self::two('1.5e3', '2E-2', 1500.0, 0.02),
            'minus signs of print' => self::two('−5', '–6', -5.0, -6.0),
            'brackets for less than nothing' => self::two('(5)', '(1,200.5)', -5.0, -1200.5),
            'currency before' => self::two('€ 5', '$6.50', 5.0, 6.5, remarks: [[2, 2, '€'], [3, 2, '$']]),
            'currency behind' => self::two('5 €', '6,50 €', 5.0, 6.5, remarks: [[2, 2, '€']]),
            'marks of footnotes' => self::two('5*', '6 (p)', 5.0, 6.0, remarks: [[2, 2, '*'], [3, 2, '(p)']]),
            'gaps of all kinds' => [
                'bytes' => "year,kelp\n1,5\n2,\n3,NA\n4,#N/A\n5,n/a\n6,-\n7,–\n8,n.d.\n9,..\n10,NaN\n11,6\n",
                'times' => [1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 7.0, 8.0, 9.0, 10.0, 11.0],
                'series' => ['kelp []' => [5.0, null, null, null, null, null, null, null, null, null, 6.0]],
            ],
            'errors of a spreadsheet' => self::two('#DIV/0!', '5', null, 5.0, remarks: [[2, 2, 'error']]),
            'letters for digits' => self::two('12O', '5', null, 5.0, remarks: [[2, 2, '120']]),
            'words between numbers' => self::two('lost', '5', null, 5.0, remarks: [[2, 2, 'no number']]),
            'larger than any number' => self::two('1e400', '5', null, 5.0, remarks: [[2, 2, 'no number']]),
            'bounds' => self::two('<5', '5', null, 5.0, remarks: [[2, 2, 'no number']]),
            'per cent' => [
                'bytes' => "year,share\n2001,12%\n2002,12.5 %\n",
                'times' => [2001.0, 2002.0],
                'series' => ['share [%]' => [12.0, 12.5]],
            ],
            'units behind numbers' => [
                'bytes' => "year,kelp\n2001,12 t\n2002,13 t\n2003,14 t\n",
                'times' => [2001.0, 2002.0, 2003.0],
                'series' => ['kelp [t]' => [12.0, 13.0, 14.0]],
            ],
            'another decimal sign in one cell' => [
                'bytes' => "year;kelp\n1;1,5\n2;2,5\n3;3,25\n4;4.5\n",
                'times' => [1.0, 2.0, 3.0, 4.0],
                'series' => ['kelp []' => [1.5, 2.5, 3.25, null]],
                'remarks' => [[5, 2, 'another decimal sign']],
            ],
        ];
    }

    /** @return array<string, Written> */
    private static function dates(): array
    {
        $open = [[null, null, 'two ways']];

        return [
            'dates of ISO' => self::dated(['2001-03-04', '2001-03-05'], ['2001-03-04', '2001-03-05']),
            'dates with a time of day' => self::dated(
                ['2001-03-04 12:30', '2001-03-05T01:00:30Z'],
                ['2001-03-04T12:30:00', '2001-03-05T01:00:30'],
            ),
            'days first' => self::dated(['25.03.2001', '26.03.2001'], ['2001-03-25', '2001-03-26']),
            'months first' => self::dated(['03/25/2001', '03/26/2001'], ['2001-03-25', '2001-03-26']),
            'open' => self::dated(['01/02/2001', '01/03/2001'], ['2001-02-01', '2001-03-01'], remarks: $open),
            'open, but one order goes on' => self::dated(
                ['12/11/2001', '01/12/2001', '02/12/2001'],
                ['2001-11-12', '2001-12-01', '2001-12-02'],
                remarks: $open,
            ),
            'open, but said' => self::dated(['01/02/2001', '01/03/2001'], ['2001-01-02', '2001-01-03'], wishes: ['dates' => 'mdy']),
            'years of two digits' => self::dated(['25.03.99', '26.03.01'], ['1999-03-25', '2001-03-26']),
            'months by name' => self::dated(['Jan 2001', 'February 2001', 'mar-01'], ['2001-01-01', '2001-02-01', '2001-03-01']),
            'days with months by name' => self::dated(
                ['3 Jan 2001', '4th February 2001', 'March 5, 2001'],
                ['2001-01-03', '2001-02-04', '2001-03-05'],
            ),
            'quarters' => self::dated(['2001Q1', 'Q2 2001', '2001-Q3'], ['2001-01-01', '2001-04-01', '2001-07-01']),
            'months by number' => self::dated(['2001-01', '2001M02', '2001/03'], ['2001-01-01', '2001-02-01', '2001-03-01']),
            'weeks' => self::dated(['2001-W01', '2001W02'], ['2001-01-01', '2001-01-08']),
            'stamps of eight digits' => self::dated(['20010304', '20010305'], ['2001-03-04', '2001-03-05']),
            'year and month apart' => [
                'bytes' => "year,month,kelp\n2001,1,5\n,2,6\n2002,Mar,7\n",
                'times' => ['2001-01-01', '2001-02-01', '2002-03-01'],
                'series' => ['kelp []' => [5.0, 6.0, 7.0]],
            ],
            'falling times' => [
                'bytes' => "year,kelp\n2003,3\n2002,2\n2001,1\n",
                'times' => [2001.0, 2002.0, 2003.0],
                'series' => ['kelp []' => [1.0, 2.0, 3.0]],
                'remarks' => [[null, null, 'fall']],
            ],
            'times that come again' => [
                'bytes' => "year,kelp\n2001,1\n2001,2\n2002,3\n",
                'times' => [2001.0, 2001.0, 2002.0],
                'series' => ['kelp []' => [1.0, 2.0, 3.0]],
                'remarks' => [[3, 1, 'again']],
            ],
            'a row without a time' => [
                'bytes' => "year,kelp,urchins\n2001,1,2\n,3,4\n2002,5,6\n",
                'times' => [2001.0, 2002.0],
                'series' => ['kelp []' => [1.0, 5.0], 'urchins []' => [2.0, 6.0]],
                'remarks' => [[3, 1, 'no time']],
            ],
            'no such day' => [
                'bytes' => "date,kelp\n2001-02-28,1\n2001-02-30,2\n2001-03-01,3\n",
                'times' => ['2001-02-28', '2001-03-01'],
                'series' => ['kelp []' => [1.0, 3.0]],
                'remarks' => [[3, 1, 'no time']],
            ],
            'years across two' => [
                'bytes' => "season,kelp\n1999/00,1\n2000/01,2\n",
                'times' => [1999.0, 2000.0],
                'series' => ['kelp []' => [1.0, 2.0]],
            ],
            'parts of years' => [
                'bytes' => "year;kelp\n2001,25;1\n2001,5;2\n",
                'times' => [2001.25, 2001.5],
                'series' => ['kelp []' => [1.0, 2.0]],
            ],
        ];
    }

    /** @return array<string, Written> */
    private static function shapes(): array
    {
        return [
            'across' => [
                'bytes' => "name,2001,2002,2003\nkelp,1,,3\nurchins,4,5,6\n",
                'layout' => 'across',
                'times' => [2001.0, 2002.0, 2003.0],
                'series' => ['kelp []' => [1.0, null, 3.0], 'urchins []' => [4.0, 5.0, 6.0]],
            ],
            'across with units and a total' => [
                'bytes' => "Catches\nname;unit;2001;2002\nkelp;t;1,5;2\nurchins;thousand;4;5\nTotal;;5,5;7\n",
                'layout' => 'across',
                'times' => [2001.0, 2002.0],
                'series' => ['kelp [t]' => [1.5, 2.0], 'urchins [thousand]' => [4.0, 5.0]],
                'remarks' => [[5, 1, 'totals']],
            ],
            'across with means that are series' => [
                'bytes' => "name,2001,2002,2003\nmean depth,1,2,3\nTotal,4,5,6\n",
                'wishes' => ['time' => 'year'],
                'layout' => 'across',
                'times' => [2001.0, 2002.0, 2003.0],
                'series' => ['mean depth []' => [1.0, 2.0, 3.0]],
                'remarks' => [[3, 1, 'totals']],
            ],
            'across between words' => [
                'bytes' => "Variable,Unit,2001,2002,Note\nkelp,t,5,6,x\nurchins,,50%,60%,y\n",
                'layout' => 'across',
                'times' => [2001.0, 2002.0],
                'series' => ['kelp [t]' => [5.0, 6.0], 'urchins [%]' => [50.0, 60.0]],
                'remarks' => [[1, 5, 'no time']],
            ],
            'across by months' => [
                'bytes' => "harbour,Jan 2001,Feb 2001\nNorth,1,2\nSouth,3,4\n",
                'layout' => 'across',
                'times' => ['2001-01-01', '2001-02-01'],
                'series' => ['North []' => [1.0, 2.0], 'South []' => [3.0, 4.0]],
            ],
            'across with a bad cell' => [
                'bytes' => ",2001,2002,2003\nkelp,1,lost,3\n",
                'layout' => 'across',
                'times' => [2001.0, 2002.0, 2003.0],
                'series' => ['kelp []' => [1.0, null, 3.0]],
                'remarks' => [[2, 3, 'no number']],
            ],
            'across that is said' => [
                'bytes' => "t,0,5\nkelp,1,2\n",
                'wishes' => ['layout' => 'across', 'names' => 1],
                'layout' => 'across',
                'times' => [0.0, 5.0],
                'series' => ['kelp []' => [1.0, 2.0]],
            ],
            'long' => [
                'bytes' => "year,bay,kelp [t]\n2001,North,1\n2001,South,2\n2002,North,3\n2002,South,4\n",
                'layout' => 'long',
                'times' => [2001.0, 2002.0],
                'series' => ['kelp[North] [t]' => [1.0, 3.0], 'kelp[South] [t]' => [2.0, 4.0]],
            ],
            'long by what comes first' => [
                'bytes' => "bay;year;kelp;urchins\nNorth;2001;1;5\nNorth;2002;2;6\nSouth;2001;3;7\nSouth;2002;4;8\n",
                'layout' => 'long',
                'times' => [2001.0, 2002.0],
                'series' => [
                    'kelp[North] []' => [1.0, 2.0],
                    'urchins[North] []' => [5.0, 6.0],
                    'kelp[South] []' => [3.0, 4.0],
                    'urchins[South] []' => [7.0, 8.0],
                ],
                'remarks' => [[null, null, 'sorted']],
            ],
            'long by numbers' => [
                'bytes' => "year,plot,kelp\n2001,1,1.5\n2001,2,2.5\n2002,1,3.5\n2002,2,4.5\n",
                'layout' => 'long',
                'times' => [2001.0, 2002.0],
                'series' => ['kelp[1] []' => [1.5, 3.5], 'kelp[2] []' => [2.5, 4.5]],
            ],
            'long with measures' => [
                'bytes' => "year,variable,value\n2001,kelp,1\n2001,urchins,5\n2002,kelp,2\n2002,urchins,6\n",
                'layout' => 'long',
                'times' => [2001.0, 2002.0],
                'series' => ['kelp []' => [1.0, 2.0], 'urchins []' => [5.0, 6.0]],
            ],
            'long with gaps' => [
                'bytes' => "year,bay,kelp\n2001,North,1\n2001,South,2\n2002,North,3\n2003,South,\n2003,North,5\n",
                'layout' => 'long',
                'times' => [2001.0, 2002.0, 2003.0],
                'series' => ['kelp[North] []' => [1.0, 3.0, 5.0], 'kelp[South] []' => [2.0, null, null]],
            ],
            'rows as JSON' => [
                'file' => 't.json',
                'bytes' => '[{"year":2001,"kelp [t]":1.5},{"year":2002,"kelp [t]":null,"urchins":7}]',
                'times' => [2001.0, 2002.0],
                'series' => ['kelp [t]' => [1.5, null], 'urchins []' => [null, 7.0]],
            ],
            'columns as JSON' => [
                'file' => 't.json',
                'bytes' => '{"year":[2001,2002],"kelp":[1.5,"2.5"]}',
                'times' => [2001.0, 2002.0],
                'series' => ['kelp []' => [1.5, 2.5]],
            ],
            'readings of a station' => [
                'file' => 't.json',
                'bytes' => '{"station":"lens","readings":[{"time":"2027-01-04T00:00:00Z","level":2.5},{"time":"2027-01-11T06:00:00Z","level":2.4}]}',
                'times' => ['2027-01-04T00:00:00', '2027-01-11T06:00:00'],
                'series' => ['level []' => [2.5, 2.4]],
            ],
        ];
    }

    /** @return array<string, Written> */
    private static function sheets(): array
    {
        $rows = [
            ['Reef dives, Quillhaven'],
            [],
            ['Year', 'Kelp [t]', 'Urchins [hundred]', 'Remarks'],
            [2001.0, 50.2, 173.0, 'calm'],
            [2003.0, null, '12O'],
            [2005.0, 51.6, '#DIV/0!', 'two'],
            [2007.0, 52.0, 180.0, 'x'],
            ['Total', 153.8, 353.0],
        ];
        $out = [
            'times' => [2001.0, 2003.0, 2005.0, 2007.0],
            'series' => ['Kelp [t]' => [50.2, null, 51.6, 52.0], 'Urchins [hundred]' => [173.0, null, null, 180.0]],
            'remarks' => [[8, 1, 'totals'], [5, 3, '120'], [6, 3, 'error']],
        ];
        $two = ['Notes' => [], 'Reef' => $rows];

        return [
            'a spreadsheet of two sheets' => ['file' => 't.xlsx', 'bytes' => Sheets::xlsx($two), ...$out],
            'the sheet that is said' => [
                'file' => 't.xlsx',
                'bytes' => Sheets::xlsx(['Other' => [['year', 'x'], [1.0, 2.0]], 'Reef' => $rows]),
                'wishes' => ['sheet' => 'reef'],
                ...$out,
            ],
            'an open document' => ['file' => 't.ods', 'bytes' => Sheets::ods($two), ...$out],
            'dates and shares of a spreadsheet' => [
                'file' => 't.xlsx',
                // 36,954 is 4 March 2001 there.
                'bytes' => Sheets::xlsx([
                    'A' => [['when', 'share'], [['date', 36_954.0], ['share', 0.125]], [['date', 36_955.0], ['share', 0.5]]],
                ]),
                'times' => ['2001-03-04', '2001-03-05'],
                'series' => ['share [%]' => [12.5, 50.0]],
            ],
        ];
    }

    /**
     * A column that begins with two numbers as they are written.
     *
     * @param  array<string, mixed>  $wishes
     * @param  list<array{?int, ?int, string}>  $remarks
     * @return Written
     */
    private static function two(string $a, string $b, ?float $x, ?float $y, array $wishes = [], array $remarks = []): array
    {
        return [
            'bytes' => "year\tkelp\n2001\t$a\n2002\t$b\n2003\t7\n",
            'times' => [2001.0, 2002.0, 2003.0],
            'series' => ['kelp []' => [$x, $y, 7.0]],
            'wishes' => $wishes,
            'remarks' => $remarks,
        ];
    }

    /**
     * @param  list<string>  $written
     * @param  list<string>  $times
     * @param  array<string, mixed>  $wishes
     * @param  list<array{?int, ?int, string}>  $remarks
     * @return Written
     */
    private static function dated(array $written, array $times, array $wishes = [], array $remarks = []): array
    {
        return [
            'bytes' => "date\tkelp\n".
                implode('', array_map(static fn (string $w, int $i): string => "$w\t$i\n", $written, array_keys($written))),
            'times' => $times,
            'series' => ['kelp []' => array_map(floatval(...), array_keys($written))],
            'wishes' => $wishes,
            'remarks' => $remarks,
        ];
    }
}
