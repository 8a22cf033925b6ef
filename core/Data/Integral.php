<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** The integral of a course, straight or held between its times. */
final class Integral
{
    /** @var list<float> up to each time */
    private array $sums = [0.0];

    private int $at = 0;

    /**
     * @param  list<float>  $times  increasing
     * @param  list<float>  $values  as many
     * @param  bool  $isHeld  a value counts until the next time; else the course is straight between
     */
    public function __construct(private readonly array $times, private readonly array $values, private readonly bool $isHeld)
    {
        for ($i = 1; $i < count($times); $i++) {
            $this->sums[] = $this->sums[$i - 1] + $this->part($i - 1, $times[$i]);
        }
    }

    /** Null where one of them lies beyond the course. */
    public function between(float $from, float $until): ?float
    {
        [$a, $b] = [$this->to($from), $this->to($until)];

        return $a === null || $b === null || is_nan($b - $a) ? null : $b - $a;
    }

    private function to(float $time): ?float
    {
        $last = count($this->times) - 1;
        $slack = 1e-9 * max(1.0, abs($time));
        if ($last < 1 || $time < $this->times[0] - $slack || $time > $this->times[$last] + $slack) {
            return null;
        }
        // Periods follow each other: the search goes on where it was.
        $this->at = $this->times[$this->at] > $time ? 0 : $this->at;
        while ($this->at < $last - 1 && $this->times[$this->at + 1] <= $time) {
            $this->at++;
        }

        return $this->sums[$this->at] + $this->part($this->at, min($time, $this->times[$last]));
    }

    /** From a time of the course to one before the next. */
    private function part(int $i, float $until): float
    {
        $width = $until - $this->times[$i];
        if ($this->isHeld || $width === 0.0) {
            return $width * $this->values[$i];
        }
        $slope = ($this->values[$i + 1] - $this->values[$i]) / ($this->times[$i + 1] - $this->times[$i]);

        return $width * ($this->values[$i] + 0.5 * $slope * $width);
    }
}
