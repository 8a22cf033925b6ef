<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Compile\Emitter;
use MerryOrbit\Core\Compile\Saving;
use MerryOrbit\Core\Formula\Node\Node;

/** What a function of loops saves: of a value with elements all of them as one list, or single ones. */
final class LoopSaving extends Saving
{
    /** @var list<array{string, ?int}> by column, the key of what it is of, and which element; null for all, or a single number */
    public array $of = [];

    /** @var array<string, string> by key of a state, the variable with its values at the start of a step where others hold them no more */
    public array $before = [];

    protected function savedLine(Emitter $emitter): string
    {
        $lines = [];
        foreach ($this->of as $k => [$key, $index]) {
            $whole = $this->before[$key] ?? $this->frame->whole(isset($this->plan->states[$key]) ? 'y' : 'v', $key);
            $lines[] = "\$o{$k}[] = $whole".($index === null ? '' : "[$index]").';';
        }

        return implode(' ', $lines);
    }

    protected function sumOf(string $state): string
    {
        $before = $this->before[$state] ?? null;

        return match (true) {
            $before === null => parent::sumOf($state),
            $this->frame->isIndexed($state) => "(float) \\array_sum($before)",
            default => $before,
        };
    }

    protected function endCondition(Emitter $emitter, Node $endWhen): string
    {
        return '$ends != 0.0';
    }

    public function reported(string $flow): array
    {
        $lines = [];
        foreach ($this->of as $k => [$key, $index]) {
            if ($key === $flow && $index === null && $this->frame->isIndexed($flow)) {
                $lines[] = implode(' ', [
                    '$flowed = [];',
                    ...$this->frame->each($flow, ['$flowed[] = '.$this->frame->variable('g', $flow).' / $step;']),
                    "\$o{$k}[\$at] = \$flowed;",
                ]);
            } elseif ($key === $flow) {
                $lines[] = "\$o{$k}[\$at] = ".$this->frame->whole('g', $flow).($index === null ? '' : "[$index]").' / $step;';
            }
        }

        return $lines;
    }

    public function carried(): array
    {
        return [];
    }
}
