<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Exchange\Xmile\XmileReader;
use MerryOrbit\Core\Exchange\Xmile\XmileWriter;
use MerryOrbit\Core\Map\MapCsv;
use MerryOrbit\Core\Map\Record;
use MerryOrbit\Core\Model\Model;

/** Models in and out as files, in any format that is known; which it is shows in the file itself. */
final class ModelFile
{
    /** @var array<string, string> endings of file names by format */
    public const FORMATS = ['native' => 'json', 'xmile' => 'xmile', 'map-csv' => 'csv', 'graphml' => 'graphml', 'record' => 'md'];

    /**
     * @param  bool  $lenient  whether a native file that contradicts itself is guessed at, as one of the standard always is
     *
     * @throws FileRefused
     */
    public static function import(string $text, bool $lenient = false): Imported
    {
        $begin = ltrim(substr($text, 0, 1_000), "\xEF\xBB\xBF \t\r\n");
        if ($begin === '') {
            throw FileRefused::because('This file is empty.');
        }

        if (MapCsv::looksLike($text)) {
            return MapFile::fromCsv($text);
        }
        if (preg_match('/<graphml[\s>\/]/i', substr($text, 0, 2_000)) === 1) {
            return GraphMl::read($text);
        }

        return $begin[0] === '<' || str_starts_with($begin, "\xFF\xFE") || str_starts_with($begin, "\xFE\xFF")
            ? XmileReader::read($text)
            : NativeFile::import($text, $lenient);
    }

    /**
     * @param  key-of<self::FORMATS>  $format  the last three hold the causal map alone
     * @return array{string, list<LogLine>} the file, and what it could not hold
     */
    public static function export(Model $model, string $format): array
    {
        return match ($format) {
            'xmile' => XmileWriter::write($model),
            'map-csv' => [MapCsv::write($model), MapFile::losses($model, false)],
            'graphml' => [GraphMl::write($model), MapFile::losses($model, true)],
            'record' => [Record::markdown($model), []],
            'native' => [NativeFile::export($model), []],
        };
    }
}
