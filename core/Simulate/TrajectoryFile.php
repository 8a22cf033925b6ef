<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Problem\Remedy;

/**
 * A run as bytes, to be kept: the length of a JSON header as a 32-bit number, the header, then the times and each column as
 * 64-bit floats, all little-endian. What is read back equals what was written, to the bit.
 */
final class TrajectoryFile
{
    public static function write(Trajectory $run): string
    {
        $header = json_encode(
            [
                'columns' => $run->columns(),
                'length' => $run->length(),
                'steady' => (object) $run->steady(),
                'method' => $run->method->value,
                'evaluations' => $run->evaluations,
                'ended' => $run->ended,
                'stopped' => $run->stopped,
                'seconds' => $run->seconds,
                'fault' => $run->fault === null ? null : get_object_vars($run->fault),
                'notices' => array_map(get_object_vars(...), $run->notices),
            ],
            JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION,
        );
        $body = pack('V', strlen($header)).$header.pack('e*', ...$run->times());
        foreach ($run->columns() as $id) {
            $body .= pack('e*', ...$run->column($id));
        }

        return $body;
    }

    /** @throws \UnexpectedValueException when the bytes are no run */
    public static function read(string $bytes): Trajectory
    {
        $length = strlen($bytes) < 4 ? [] : (array) unpack('V', $bytes);
        $size = is_int($length[1] ?? null) ? $length[1] : -1;
        /** @var array{columns: list<string>, length: int, steady: array<string, float>, method: string, evaluations: int, ended: bool, stopped: bool, seconds: float, fault: ?array{element: string, name: string, time: float, reason: string, inputs: array<string, float>, unit: string, isMethod?: bool, remedy?: ?array{words: string, edits: non-empty-list<array<string, mixed>>}}, notices: list<array{code: string, element: string, time: float, sentence: string, remedy?: ?array{words: string, edits: non-empty-list<array<string, mixed>>}}>}|null $header */
        $header = $size < 0 ? null : json_decode(substr($bytes, 4, $size), true);
        $count = $header === null ? 0 : $header['length'];
        if ($header === null || strlen($bytes) !== 4 + $size + 8 * $count * (count($header['columns']) + 1)) {
            throw new \UnexpectedValueException('These bytes are no run.');
        }
        /** @var list<float> $times */
        $times = $count === 0 ? [] : array_values((array) unpack("e$count", $bytes, 4 + $size));
        $columns = [];
        foreach (array_keys($header['columns']) as $k) {
            /** @var list<float> $values */
            $values = $count === 0 ? [] : array_values((array) unpack("e$count", $bytes, 4 + $size + 8 * $count * ($k + 1)));
            $columns[] = $values;
        }

        return new Trajectory(
            Values::byColumn($columns),
            $header['columns'],
            $header['steady'],
            $times,
            $header['fault'] === null ? null : self::fault($header['fault']),
            $header['evaluations'],
            Method::from($header['method']),
            array_map(
                static fn (array $n): Notice => new Notice(
                    $n['code'],
                    $n['element'],
                    $n['time'],
                    $n['sentence'],
                    self::remedy($n['remedy'] ?? null),
                ),
                $header['notices'],
            ),
            $header['ended'],
            $header['seconds'],
            $header['stopped'],
        );
    }

    /** @param  array{element: string, name: string, time: float, reason: string, inputs: array<string, float>, unit: string, isMethod?: bool, remedy?: ?array{words: string, edits: non-empty-list<array<string, mixed>>}}  $record */
    private static function fault(array $record): NumericFault
    {
        return new NumericFault(
            $record['element'],
            $record['name'],
            $record['time'],
            $record['reason'],
            $record['inputs'],
            $record['unit'],
            $record['isMethod'] ?? false,
            self::remedy($record['remedy'] ?? null),
        );
    }

    /** @param  ?array{words: string, edits: non-empty-list<array<string, mixed>>}  $record */
    private static function remedy(?array $record): ?Remedy
    {
        return $record === null ? null : new Remedy($record['words'], $record['edits']);
    }
}
