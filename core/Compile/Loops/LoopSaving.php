<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Compile\Emitter;
use MerryOrbit\Core\Compile\Saving;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Roster\Detail;
use MerryOrbit\Core\Shape\ShapedPlan;

/** What a function of loops saves: of a value with elements all of them as one list, or single ones. */
final class LoopSaving extends Saving
{
    /** @var list<array{string, ?int}> by column, the key of what it is of, and which element; null for all, or a single number */
    public array $of = [];

    /** @var array<string, string> by key of a state, the variable with its values at the start of a step where others hold them no more */
    public array $before = [];

    private ?ShapedPlan $shaped = null;

    private ?LoopMembers $members = null;

    private ?Detail $logged = null;

    /** @param  ?Detail  $logged  at which of the saved moments what each member has is kept; null for none */
    public function logs(ShapedPlan $shaped, LoopMembers $members, ?Detail $logged): void
    {
        if ($shaped->extents->rosters->isAny()) {
            [$this->shaped, $this->members, $this->logged] = [$shaped, $members, $logged];
        }
    }

    public function noOutputs(): string
    {
        $lists = '';
        foreach ($this->logged !== null ? $this->of : [] as $k => [$key]) {
            $lists .= $this->shaped?->roster($key) === null ? '' : " \$l$k = [];";
        }

        return parent::noOutputs().$lists;
    }

    protected function savedLine(Emitter $emitter): string
    {
        $lines = [];
        foreach ($this->of as $k => [$key, $index]) {
            $whole = $this->before[$key] ?? $this->frame->whole(isset($this->plan->states[$key]) ? 'y' : 'v', $key);
            $lines[] =
                $this->shaped?->roster($key) === null
                    ? "\$o{$k}[] = $whole".($index === null ? '' : "[$index]").';'
                    : $this->memberLines($k, $key, '$count', static fn (string $n): string => "{$whole}[$n]");
        }
        $logged = $this->logged;
        $rosters = $logged === null ? [] : $this->shaped->extents->rosters->all ?? [];
        foreach ($rosters as $roster) {
            $lines[] = "if (\$count % {$logged->present($roster)} === 0) { {$roster->variable(
                'crew',
            )}[\$count] = \\array_slice({$roster->variable('who')}, 0, {$roster->count()}); }";
        }

        return implode(' ', $lines);
    }

    /**
     * Of what the members of a roster have, the mean at a moment, and what each has.
     *
     * @param  \Closure(string): string  $value  code for the value at a place
     */
    private function memberLines(int $k, string $key, string $moment, \Closure $value): string
    {
        $size = $this->shaped?->sizeCode($this->shaped->extent($key)) ?? '0';
        $each = $this->logged?->each($key, $this->shaped?->roster($key)->dimension ?? '');
        $list = $each === null ? '' : " if ($moment % $each === 0) { \$l{$k}[$moment] = \$each; }";

        return "\$each = []; \$sum = 0.0; for (\$n = 0; \$n < $size; \$n++) { \$each[] = {$value('$n')}; \$sum += {$value('$n')}; } ".
            "\$o{$k}[$moment] = $size > 0 ? \$sum / (float) ($size) : \\NAN;".
            $list;
    }

    public function ending(int $how): string
    {
        if ($this->shaped === null || $this->members === null) {
            return parent::ending($how);
        }
        $lists = [];
        foreach ($this->logged !== null ? $this->of : [] as $k => [$key]) {
            if ($this->shaped->roster($key) !== null) {
                $lists[] = var_export($key, true)." => \$l$k";
            }
        }

        return substr(parent::ending($how), 0, -1).", [{$this->members->told()}, [".implode(', ', $lists).']]]';
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
            if ($key === $flow && $this->shaped?->roster($key) !== null) {
                $g = $this->frame->whole('g', $flow);
                $lines[] = $this->memberLines($k, $key, '$at', static fn (string $n): string => "{$g}[$n] / \$step");
            } elseif ($key === $flow && $index === null && $this->frame->isIndexed($flow)) {
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
