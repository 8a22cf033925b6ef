<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Library\History;
use MerryOrbit\Core\Library\Passage;
use MerryOrbit\Core\Plan\Plan;

/** The rule of stocks that never go below zero, on plain arrays; what compiled code does is written in Compile\Masses. */
final readonly class Limiter
{
    /** @param  array<string, float|History|Passage>  $held */
    public function __construct(private Plan $plan, private array $held)
    {
    }

    /**
     * Cuts the masses of a step.
     *
     * @param  array<string, float>  $masses  by flow
     * @param  array<string, float>  $contents  by stock, at the start of the step
     */
    public function cut(array &$masses, array $contents, int $step): void
    {
        foreach ($this->plan->transits as $stock => $transit) {
            $passage = $this->held[$stock];
            if ($transit->arrival !== null && $passage instanceof Passage) {
                $masses[$transit->arrival] = $passage->arriving($step);
            }
        }
        $served = [];
        foreach ($this->plan->limited as $stock => $group) {
            $room = max(0.0, $contents[$stock]);
            $in = $out = [];
            foreach ($this->plan->states[$stock]->rates as [$flow, $sign]) {
                $sign > 0 ? ($in[] = $flow) : ($out[] = $flow);
            }
            foreach ($in as $flow) {
                $source = $this->plan->flows[$flow]['from'];
                $certain =
                    $source === null ||
                    ! isset($this->plan->limited[$source]) ||
                    ($this->plan->limited[$source] !== $group && isset($served[$source]));
                $room += $certain ? max(0.0, $masses[$flow]) : 0.0;
            }
            foreach ($out as $flow) {
                $target = $this->plan->flows[$flow]['to'];
                $room += $target === null || ! isset($this->plan->limited[$target]) ? max(0.0, -$masses[$flow]) : 0.0;
            }
            foreach ($out as $flow) {
                $masses[$flow] = min($masses[$flow], $room);
                $room -= max(0.0, $masses[$flow]);
            }
            foreach ($in as $flow) {
                $masses[$flow] = max($masses[$flow], -$room);
                $room += min(0.0, $masses[$flow]);
            }
            $served[$stock] = true;
        }
    }
}
