<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Library;

/**
 * What is on the way in a transit stock, by the step in which it arrives. A leak takes the same share of everything; it is
 * kept as one factor, so that a step costs the same however long the way is.
 */
final class Passage
{
    /** @var array<int, float> by step, in units of `share` */
    private array $due = [];

    private float $share = 1.0;

    /**
     * Spreads the content at the start evenly over the way.
     *
     * @param  int  $horizon  how many steps the run has; what arrives later need not be told apart
     */
    public function __construct(float $content, float $travel, private readonly float $step, int $horizon)
    {
        $steps = max(1.0, $travel / $step);
        for ($k = 0; $k < $steps - Moment::TOLERANCE && $k <= $horizon; $k++) {
            $this->due[$k] = ($content * min(1.0, $steps - $k)) / $steps;
        }
    }

    /** What arrives during a step. */
    public function arriving(int $step): float
    {
        return ($this->due[$step] ?? 0.0) * $this->share;
    }

    /**
     * Closes a step: the arrived has left, the leak is taken from what is still on the way, and what entered sets out.
     *
     * @param  float  $rest  content without what arrived
     */
    public function close(int $step, float $leak, float $rest, float $entered, float $travel): void
    {
        unset($this->due[$step]);
        if ($leak > 0.0) {
            // What is left by rounding is nothing.
            $this->share *= $rest - $leak > 1e-12 * $rest ? 1.0 - $leak / $rest : 0.0;
            if ($this->share < 1e-100) {
                $this->due = $this->share === 0.0 ? [] : array_map(fn (float $m): float => $m * $this->share, $this->due);
                $this->share = 1.0;
            }
        }
        if ($entered <= 0.0) {
            return;
        }
        // It enters all through the step and so arrives all through one that may lie across two.
        $steps = min(1e15, max(1.0, $travel / $this->step));
        $whole = (int) floor($steps + Moment::TOLERANCE);
        $late = max(0.0, $steps - $whole);
        $late = $late < Moment::TOLERANCE ? 0.0 : $late;
        $this->due[$step + $whole] = ($this->due[$step + $whole] ?? 0.0) + ($entered * (1.0 - $late)) / $this->share;
        if ($late > 0.0) {
            $this->due[$step + $whole + 1] = ($this->due[$step + $whole + 1] ?? 0.0) + ($entered * $late) / $this->share;
        }
    }
}
