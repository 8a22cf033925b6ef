<?php

declare(strict_types=1);

namespace App\Runs;

use Illuminate\Http\Response;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Plan\Positions;
use MerryOrbit\Core\Simulate\Thinning;
use MerryOrbit\Core\Simulate\Trajectory;

/**
 * A run on its way to the page: the length of a JSON header as a 32-bit number, the header, padding to a multiple of
 * eight bytes, then the time column and each column as 64-bit floats, all little-endian. Where moments were left out
 * (`coarse` in the header) each column is followed by how low and how high it went from each moment to the next.
 */
final readonly class ColumnsMessage
{
    public const TYPE = 'application/vnd.merry-orbit.columns';

    /**
     * @param  ?list<string>  $only  the columns that are sent; null for all, of a thing over dimensions those of its first elements
     * @param  list<string>  $along  keys of elements, and of gatherings over them, that are sent besides
     * @param  array<string, string>  $untold  by such a key, why it has no column
     * @param  ?int  $points  at most so many moments of each
     * @param  ?float  $from  only from this time on
     * @param  ?float  $until  only up to this time
     * @param  ?float  $at  a time at which the values of the columns that are not sent are told in the header
     */
    public function __construct(
        private ?array $only = null,
        private array $along = [],
        private array $untold = [],
        private ?int $points = null,
        private ?float $from = null,
        private ?float $until = null,
        private ?float $at = null,
    ) {
    }

    /** @param  array<string, mixed>  $beside  more for the header */
    public function of(Trajectory $run, string $unit, int $revision, float $milliseconds, array $beside = []): Response
    {
        $asked = $this->only === null ? null : [...$this->only, ...$this->along];
        $moving = $run->columns(Positions::MOST_TOLD);
        $more = array_filter($this->along, static fn (string $k): bool => $run->has($k) && $run->steadyOf($k) === null);
        $columns = self::wanted(array_values(array_unique([...$moving, ...$more])), $asked, $this->along);
        $single = static fn (string $key): bool => Key::ownerOf($key) === $key;
        $rest = array_values(array_filter(array_diff($moving, $columns), $single));
        $thin = Thinning::of($run, $this->points ?? PHP_INT_MAX, $this->from, $this->until);
        $times = $thin->times();
        $coarse = $thin->isCoarse();
        $header = json_encode(
            [
                'revision' => $revision,
                'unit' => $unit,
                'method' => $run->method->title(),
                'evaluations' => $run->evaluations,
                'milliseconds' => round($milliseconds, 1),
                'length' => count($times),
                'saved' => $run->length(),
                'span' => [$run->times()[0] ?? null, $run->times()[$run->length() - 1] ?? null],
                'columns' => $columns,
                'whole' => $rest === [] && ! $coarse && $this->from === null && $this->until === null,
                'coarse' => $coarse,
                'now' => (object) $this->now($run, $rest),
                'steady' => (object) $this->steady($run),
                'untold' => (object) $this->untold,
                'ended' => $run->ended,
                'stopped' => $run->stopped,
                'notices' => $run->notices,
                'fault' => $run->fault,
                ...$beside,
            ],
            JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE,
        );
        $header = str_pad($header, (int) ceil((strlen($header) + 4) / 8) * 8 - 4, ' ');
        $body = pack('V', strlen($header)).$header.pack('e*', ...$times);
        foreach ($columns as $id) {
            $body .= pack('e*', ...$thin->column($id));
            if ($coarse) {
                [$lows, $highs] = $thin->extremes($id);
                $body .= pack('e*', ...$lows).pack('e*', ...$highs);
            }
        }

        return new Response($body, 200, ['Content-Type' => self::TYPE]);
    }

    /** @return array<string, float> what stays the same: of what has elements the first, and those that are meant besides */
    private function steady(Trajectory $run): array
    {
        $steady = $run->steady(Positions::MOST_TOLD);
        foreach ($this->along as $key) {
            $value = $run->steadyOf($key);
            $steady += $value === null ? [] : [$key => $value];
        }

        return array_intersect_key($steady, array_flip(self::wanted(array_map(strval(...), array_keys($steady)), null, $this->along)));
    }

    /**
     * The columns that are asked for; of a thing that extends over dimensions those of its first elements.
     *
     * @param  list<string>  $columns
     * @param  ?list<string>  $only  null for all
     * @param  list<string>  $along  keys that are meant besides
     * @return list<string>
     */
    public static function wanted(array $columns, ?array $only, array $along = []): array
    {
        $asked = array_flip([...$only ?? [], ...$along]);
        $sent = [];
        $wanted = [];
        foreach ($columns as $key) {
            $owner = Key::ownerOf($key);
            if (isset($asked[$key]) && str_contains($key, '*')) {
                // A gathering is none of the first elements.
                $wanted[] = $key;

                continue;
            }
            $isMeant = $only === null || isset($asked[$owner]);
            $isFirst = $isMeant && ($owner === $key || ($sent[$owner] = ($sent[$owner] ?? 0) + 1) <= Positions::MOST_TOLD);
            if (isset($asked[$key]) || $isFirst) {
                $wanted[] = $key;
            }
        }

        return $wanted;
    }

    /**
     * @param  list<string>  $columns
     * @return array<string, float>
     */
    private function now(Trajectory $run, array $columns): array
    {
        if ($this->at === null || $run->length() === 0) {
            return [];
        }
        $times = $run->times();
        $low = 0;
        $high = count($times) - 1;
        while ($low < $high) {
            $middle = intdiv($low + $high + 1, 2);
            $times[$middle] <= $this->at ? ($low = $middle) : ($high = $middle - 1);
        }
        $share = isset($times[$low + 1]) ? max(0.0, min(1.0, ($this->at - $times[$low]) / ($times[$low + 1] - $times[$low]))) : 0.0;
        $now = [];
        foreach ($columns as $id) {
            $column = $run->column($id);
            $now[$id] = $column[$low] + $share * (($share > 0.0 ? $column[$low + 1] : $column[$low]) - $column[$low]);
        }

        return $now;
    }
}
