<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Law\Special;
use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Uncertain\Householder;

/** What a calibration came to: where it is nearest, how sure each number is, and what one should know of it. */
final readonly class Fitted
{
    /** Ends that differ by less than this part of their distance, or of their bounds, are one. */
    private const SAME = 1e-3;

    /** A standard error of so many widths of its bounds is none: slopes tell no more digits than that. */
    private const LOST = 10.0;

    /** Two numbers move together when their estimates go together by more than this. */
    private const TOGETHER = 0.95;

    /**
     * @param  list<float>  $point  a value for each freed number
     * @param  float  $rss  of the plain differences, not in standard deviations
     * @param  list<Found>  $ends  of all starts, the nearest first
     * @param  ?list<?float>  $errors  standard errors
     * @param  ?list<list<float>>  $correlations  of the estimates; null where the data do not decide between them
     * @param  float  $width  how many standard errors an interval goes to either side
     */
    private function __construct(
        public array $point,
        public float $distance,
        public bool $isConverged,
        public float $rss,
        public int $n,
        public array $ends,
        public ?array $errors,
        public ?array $correlations,
        public float $width,
        public int $evaluations,
        private Calibration $of,
    ) {
    }

    /** @param  list<Found>  $found */
    public static function of(Calibration $calibration, array $found): self
    {
        usort($found, static fn (Found $a, Found $b): int => $a->distance <=> $b->distance);
        $best = $found[0];
        [$there] = $calibration->runs([$best->point]);
        $gaps = $calibration->gapsAt($best->point, $there);
        $slopes = new Slopes($calibration->freed, $best->point);
        $columns = $gaps === null ? [] : $slopes->columns($gaps, $calibration->at($slopes->points()));
        $n = count($there ?? []);
        $p = count($calibration->freed);
        $rss = 0.0;
        $measured = $calibration->gaps->measured();
        foreach ($there ?? [] as $i => $value) {
            $rss += ($value - $measured[$i]) ** 2;
        }
        $solved = $gaps === null || count($gaps) < $p ? null : Householder::of($columns, $gaps);
        $errors = $correlations = null;
        $isKnown = $calibration->isKnown || $calibration->belief !== null;
        if ($solved !== null && ($isKnown || $n > $p)) {
            $inverse = $solved->inverseOfProducts();
            $variance = $isKnown ? 1.0 : Found::distance($gaps) / ($n - $p);
            $errors = array_map(static fn (int $j): float => sqrt($variance * $inverse[$j][$j]), range(0, $p - 1));
            $errors = array_map(
                static fn (float $e, Freed $f): ?float => $e > self::LOST * ($f->high - $f->low) ? null : $e,
                $errors,
                $calibration->freed,
            );
            $correlations = array_map(
                static fn (array $row, int $i): array => array_map(
                    static fn (float $v, int $j): float => $v / sqrt($inverse[$i][$i] * $inverse[$j][$j]),
                    $row,
                    array_keys($row),
                ),
                $inverse,
                array_keys($inverse),
            );
        }

        return new self(
            $best->point,
            $best->distance,
            $best->isConverged,
            $rss,
            $n,
            $found,
            $errors,
            $correlations,
            $isKnown || $n <= $p ? Special::normalQuantile(0.975) : Special::studentQuantile(0.975, $n - $p),
            $calibration->evaluations(),
            $calibration,
        );
    }

    /** @return list<array{name: string, value: float, standard_error: ?float, low: ?float, high: ?float, at_bound: bool}> of each number */
    public function parameters(): array
    {
        return array_map(
            function (Freed $f, float $value, ?float $error): array {
                $width = $error === null ? null : $this->width * $error;

                return [
                    'name' => $f->name,
                    'value' => $value,
                    'standard_error' => $error,
                    'low' => $width === null ? null : $value - $width,
                    'high' => $width === null ? null : $value + $width,
                    'at_bound' => $f->isAtBound($value),
                ];
            },
            $this->of->freed,
            $this->point,
            $this->errors ?? array_fill(0, count($this->point), null),
        );
    }

    /** The standard deviation of what is left, in units of what was measured. */
    public function residualSd(): ?float
    {
        $free = $this->n - count($this->point);

        return $free > 0 ? sqrt($this->rss / $free) : null;
    }

    /** @return list<string> what one should know of it */
    public function sentences(): array
    {
        $freed = $this->of->freed;
        if (! is_finite($this->distance)) {
            return ['No run came to an end between these bounds. Narrow them to where the model can be run.'];
        }
        $told = [];
        $same = count(array_filter($this->ends, $this->isSameEnd(...)));
        if (count($this->ends) > 1) {
            $told[] = "$same of ".count($this->ends).' starts end at the same place.';
        }
        if (! $this->isConverged) {
            $told[] = 'The nearest one had not come to rest: start from here, or allow more starts.';
        }
        foreach ($freed as $j => $f) {
            if ($f->isAtBound($this->point[$j])) {
                $told[] =
                    "`$f->name` is at its bound, ".Shown::brief($this->point[$j]).': the data want it further out, or do not say.';
            }
        }
        if ($this->correlations === null) {
            $told[] =
                'The data do not decide between these numbers: some can change together, or one by itself, and nothing is further off.';
        }
        $lost = array_filter(array_keys($freed), fn (int $j): bool => $this->errors !== null && $this->errors[$j] === null);
        if ($lost !== []) {
            $names = array_map(static fn (int $j): string => "`{$freed[$j]->name}`", array_values($lost));
            $last = array_pop($names);
            $told[] =
                $names === []
                    ? "The data say nothing of $last: it can change, and nothing is further off."
                    : 'The data do not decide between '.
                        implode(', ', $names).
                        " and $last: they can change together, and nothing is further off.";
        }
        foreach ($this->together() as [$i, $j, $r]) {
            $told[] =
                "`{$freed[$i]->name}` and `{$freed[$j]->name}` can hardly be told apart: their estimates move together, ".
                Shown::brief(round($r, 3)).
                '.';
        }

        return $told;
    }

    /** @return list<array{int, int, float}> numbers that can hardly be told apart, by their places, and how far their estimates go together */
    public function together(): array
    {
        $pairs = [];
        foreach ($this->correlations ?? [] as $i => $row) {
            foreach ($row as $j => $r) {
                // Of what the data say nothing at all the correlation is noise.
                if ($j > $i && abs($r) > self::TOGETHER && isset($this->errors[$i], $this->errors[$j])) {
                    $pairs[] = [$i, $j, $r];
                }
            }
        }

        return $pairs;
    }

    private function isSameEnd(Found $end): bool
    {
        if (! ($end->distance - $this->distance <= self::SAME * max($this->distance, 1e-12))) {
            return false;
        }
        foreach ($this->of->freed as $j => $f) {
            if (abs($f->share($end->point[$j]) - $f->share($this->point[$j])) > 10 * self::SAME) {
                return false;
            }
        }

        return true;
    }
}
