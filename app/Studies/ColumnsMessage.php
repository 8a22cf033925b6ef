<?php

declare(strict_types=1);

namespace App\Studies;

use Illuminate\Http\Response;
use MerryOrbit\Core\Compile\Analysis;
use MerryOrbit\Core\Simulate\Trajectory;

/**
 * A run on its way to the page: the length of a JSON header as a 32-bit number, the header, padding to a multiple of
 * eight bytes, then the time column and each column as 64-bit floats, all little-endian.
 */
final class ColumnsMessage
{
    public const TYPE = 'application/vnd.merry-orbit.columns';

    /** @param  ?list<string>  $only  the columns that are sent; null for all */
    public static function of(Analysis $analysis, Trajectory $run, int $revision, float $milliseconds, ?array $only = null): Response
    {
        $columns = $only === null ? $run->columns : array_values(array_intersect($run->columns, $only));
        $header = json_encode([
            'revision' => $revision,
            'unit' => $analysis->model->time->unit,
            'method' => $run->method->title(),
            'evaluations' => $run->evaluations,
            'milliseconds' => round($milliseconds, 1),
            'length' => $run->length(),
            'columns' => $columns,
            'whole' => count($columns) === count($run->columns),
            'steady' => (object) $run->steady,
            'ended' => $run->ended,
            'notices' => $run->notices,
            'fault' => $run->fault,
        ], JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE);
        $header = str_pad($header, (int) ceil((strlen($header) + 4) / 8) * 8 - 4, ' ');
        $body = pack('V', strlen($header)).$header.pack('e*', ...$run->times());
        foreach ($columns as $id) {
            $body .= pack('e*', ...$run->column($id));
        }

        return new Response($body, 200, ['Content-Type' => self::TYPE]);
    }
}
