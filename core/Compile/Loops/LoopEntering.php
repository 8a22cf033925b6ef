<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Compile\Frame;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Shape\ShapedPlan;

/** The lines by which members of one roster enter at the end of a step. */
final readonly class LoopEntering
{
    private Plan $plan;

    private ShapedPlan $shaped;

    private Frame $frame;

    public function __construct(private LoopContext $context, private LoopCrew $crew, private bool $logged)
    {
        $this->plan = $context->plan;
        $this->shaped = $context->shaped;
        $this->frame = $context->frame;
    }

    /** @return list<string> */
    public function enterLines(): array
    {
        $lines = [];
        $m = $this->crew->roster->count();
        $crowded = ' > '.(int) $this->crew->roster->roster->most.') { return %crowded%; }';
        if ($this->crew->roster->roster->since !== '') {
            $wait = $this->crew->roster->variable('wait');
            array_push(
                $lines,
                "while ($wait !== [] && \\reset($wait) <= \$now + \$step + 1e-9 * \$step) {",
                "\$j = \\key($wait); unset({$wait}[\$j]);",
                "if ($m + 1$crowded",
                ...$this->comes(
                    '(string) '.$this->context->data->add($this->crew->roster->listed).'[$j]',
                    '$j',
                    -1,
                    static fn (): string => '',
                ),
                ...["$m++;", '}'],
            );
        }
        foreach ($this->crew->roster->roster->entries as $e => $entry) {
            [$carry, $rate, $next] = [$this->crew->carry($e), $this->crew->rate($e), $this->crew->roster->variable('serial')];
            $over = $this->shaped->extent($entry['of']);
            $at = $over === [] ? '' : '[$a]';
            $named =
                var_export("$entry[id].", true).
                ' . '.
                ($over === [] ? '' : $this->context->data->add($this->elements($over[0]))."[\$a] . '.' . ");
            $own = [
                // What falls short of a whole one by rounding is one.
                "\$due = {$carry}{$at} + ({$rate}{$at} > 0.0 ? {$rate}{$at} : 0.0) * \$step; \$k = (int) \\floor(\$due + 1e-9); {$carry}{$at} = \$due - \$k;",
                "if ($m + \$k$crowded",
                'for ($b = 0; $b < $k; $b++) {',
                ...$this->comes("$named(\$i + 1) . '.' . \$b", $next, $e, function (string $mapping) use ($entry, $over): string {
                    $to = $this->crew->roster->belongs[$mapping]->to;

                    return $over === [$to]
                        ? '$a'
                        : (string) ($this->shaped->extents->dimensions->place($to, $entry['joins'][$mapping] ?? '') ?? -1);
                }),
                "$m++; $next++;",
                '}',
            ];
            array_push($lines, ...$over === [] ? $own : ["for (\$a = 0; \$a < {$this->shaped->sizeOver($over)}; \$a++) {", ...$own, '}']);
        }

        return $lines;
    }

    /**
     * @param  int  $entry  −1 for one of the list
     * @param  \Closure(string): string  $joins  code for where it belongs by a mapping
     * @return list<string> one more at the place `$there`
     */
    private function comes(string $name, string $who, int $entry, \Closure $joins): array
    {
        $m = $this->crew->roster->count();
        $starts = array_column($this->crew->roster->roster->entries[$entry]['starts'] ?? [], 'from', 'of');
        $lines = [
            "{$this->crew->roster->variable('name')}[$m] = $name; {$this->crew->roster->variable(
                'who',
            )}[$m] = $who; {$this->crew->roster->variable('gone')}[$m] = 0;",
        ];
        if ($this->logged) {
            $lines[] = "{$this->crew->roster->variable('came')}[] = [$who, {$this->crew->roster->variable(
                'name',
            )}[$m], \$i + 1, $entry];";
        }
        foreach ($this->crew->parameters() as $id) {
            [$p, $given, $each] = [$this->frame->whole('p', $id), $this->frame->whole('given', $id), $this->crew->each($id)];
            $value = match (true) {
                isset($starts[$id]) => $this->context->whole($starts[$id], 'y'),
                $entry < 0 => "(float) {$given}[\$j * $each + \$n]",
                // Behind the list stands what one has who is not on it.
                default => "(float) {$given}[".count($this->crew->roster->listed) * $each.']',
            };
            $lines[] =
                $each === 1
                    ? "{$p}[$m] = ".str_replace(' * 1 + $n', '', $value).';'
                    : "for (\$n = 0; \$n < $each; \$n++) { {$p}[$m * $each + \$n] = $value; }";
        }
        foreach ($this->crew->roster->belongs as $id => $mapping) {
            $in = $this->crew->roster->of('in', (string) $id);
            $places = array_fill_keys($this->crew->roster->listed, -1);
            foreach ($entry < 0 ? $mapping->pairs : [] as [$one, $to]) {
                $places[$one] = $this->shaped->extents->dimensions->place($mapping->to, $to) ?? -1;
            }
            $lines[] =
                "{$in}[$m] = ".
                ($entry < 0 ? '(int) '.$this->context->data->add(array_values($places)).'[$j]' : $joins((string) $id)).
                ';';
        }
        foreach ($this->context->masses->counted() as $flow) {
            if ($this->crew->isOf($flow)) {
                $each = $this->crew->each($flow);
                $lines[] = "for (\$n = 0; \$n < $each; \$n++) { {$this->frame->whole('z', $flow)}[$m * $each + \$n] = 0.0; }";
            }
        }

        return $lines;
    }

    /** @return list<string> what those start with who are behind `$from` */
    public function bornLines(): array
    {
        $start = new LoopStart($this->context);
        $lines = [];
        foreach ($this->plan->starts as $key => $node) {
            if ($this->crew->isOf((string) $key)) {
                array_push($lines, ...$start->from((string) $key, $node, $this->crew->roster->variable('from')));
            }
        }
        foreach ($this->plan->cells as $key => $cell) {
            $key = (string) $key;
            if ($this->crew->isOf($key)) {
                $v = $this->frame->whole('v', $key);
                $first = match ($cell->kind) {
                    'highest' => "{$v}h[\$n] = -\\INF;",
                    'lowest' => "{$v}h[\$n] = \\INF;",
                    'times' => "{$v}[\$n] = 0.0; {$v}h[\$n] = 0.0;",
                    'previous' => '',
                    default => "{$v}[\$n] = 0.0;",
                };
                array_push($lines, ...$first === '' ? [] : $this->crew->eachFrom($key, [$first]));
            }
        }

        return $lines;
    }

    /** @return list<string> what is counted and kept of those behind `$from`, or at the start of all */
    public function noted(bool $entered): array
    {
        $lines = [];
        foreach ($entered ? $this->crew->stocks() : [] as $stock) {
            $y = $this->frame->whole('y', $stock);
            array_push(
                $lines,
                ...$this->crew->eachFrom($stock, ["{$this->frame->whole('brought', $stock)} += {$y}[\$n]; \$check += {$y}[\$n];"]),
            );
        }
        foreach ($this->logged ? $this->crew->attributes() : [] as $key => $list) {
            $lines[] =
                "for (\$n = {$this->crew->roster->variable('from')}; \$n < {$this->crew->roster->count()}; \$n++) { ".
                "{$this->frame->whole('has', (string) $key)}[{$this->crew->roster->variable('who')}[\$n]] = {$list}[\$n]; }";
        }
        foreach ($this->logged ? $this->crew->roster->belongs : [] as $id => $_) {
            $lines[] =
                "for (\$n = {$this->crew->roster->variable('from')}; \$n < {$this->crew->roster->count()}; \$n++) { ".
                "{$this->crew->roster->of('ins', (string) $id)}[{$this->crew->roster->variable('who')}[\$n]] = {$this->crew->roster->of(
                    'in',
                    (string) $id,
                )}[\$n]; }";
        }

        return $lines;
    }

    /** @return list<string> */
    private function elements(string $dimension): array
    {
        return $this->shaped->extents->dimensions->elements($dimension);
    }
}
