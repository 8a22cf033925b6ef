<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

/**
 * The part of a step that keeps limited stocks from going below zero: after the stages each flow's mass is cut, by priority, to
 * what was there plus what truly came in, upstream stocks first. What comes in from a limited stock of the same circle counts
 * as nothing, and so does what may flow back. A negative inflow is the last to be served. Both ends book the same mass.
 *
 * Variables: `$g` the mass of a flow, `$room` what a stock can still give, `$z` in how many steps a flow was cut.
 */
final readonly class Masses
{
    /** @var list<string> flows whose mass is needed: all that touch a stock that a limited flow touches */
    private array $flows;

    /** @var array<string, true> states that are advanced by masses */
    private array $states;

    /** @var list<string> flows that may be cut */
    private array $limited;

    public function __construct(private Frame $frame)
    {
        $plan = $frame->plan;
        $this->limited = array_values(array_filter(array_keys($plan->flows), $plan->isLimited(...)));
        $states = [];
        foreach ($this->limited as $flow) {
            foreach (array_filter([$plan->flows[$flow]['from'], $plan->flows[$flow]['to']]) as $stock) {
                $states[$stock] = true;
            }
        }
        $this->states = $states;
        $this->flows = array_values(
            array_filter(
                array_keys($plan->flows),
                static fn (string $f): bool => isset($states[$plan->flows[$f]['from'] ?? '']) ||
                    isset($states[$plan->flows[$f]['to'] ?? '']),
            ),
        );
    }

    /** @return list<string> */
    public function flows(): array
    {
        return $this->flows;
    }

    public function owns(string $state): bool
    {
        return isset($this->states[$state]);
    }

    /** @return list<string> the flows of counters() */
    public function counted(): array
    {
        return array_values(array_filter($this->limited, fn (string $f): bool => ! $this->frame->isArrival($f)));
    }

    /** @return list<string> over elements, that of the one that was cut most often */
    public function counters(): array
    {
        return array_map(
            fn (string $f): string => $this->frame->isIndexed($f)
                ? "(float) \\max({$this->frame->whole('z', $f)})"
                : $this->frame->whole('z', $f),
            $this->counted(),
        );
    }

    public function startLine(): string
    {
        return implode(
            '',
            array_map(fn (string $f): string => $this->frame->whole('z', $f)." = {$this->frame->zeros($f)}; ", $this->counted()),
        );
    }

    /** @return list<string> */
    public function clearLines(): array
    {
        return array_map(fn (string $f): string => $this->frame->whole('g', $f)." = {$this->frame->zeros($f)};", $this->flows);
    }

    /** @return list<string> */
    public function gatherLines(Emitter $emitter, string $operator, string $weight): array
    {
        $gather = fn (string $f): array => $this->gatherOne($emitter, $f, $operator, $weight);

        return array_merge(...array_map($gather, $this->flows), ...[[]]);
    }

    /** @return list<string> */
    public function gatherOne(Emitter $emitter, string $flow, string $operator, string $weight): array
    {
        return in_array($flow, $this->flows, true)
            ? [$this->frame->variable('g', $flow)." $operator $weight".$emitter->variable($flow).';']
            : [];
    }

    /**
     * At the end no step follows: the limits act on what would flow in one more.
     *
     * @param  \Closure(string): list<string>  $report  lines that keep what a flow was at the moment `$at`
     * @return list<string>
     */
    public function closingLines(\Closure $report): array
    {
        if ($this->limited === []) {
            return [];
        }
        $lines = [];
        foreach ($this->flows as $flow) {
            $g = $this->frame->variable('g', $flow);
            array_push($lines, ...$this->frame->each($flow, ["$g = {$this->frame->variable('v', $flow)} * \$step;"]));
        }

        return [...$lines, ...$this->cutLines(false), ...$this->reportLines($report, '')];
    }

    /**
     * @param  \Closure(string): list<string>  $report  lines that keep what a flow was at the moment `$at`
     * @return list<string>
     */
    public function advanceLines(\Closure $report): array
    {
        if ($this->limited === []) {
            return [];
        }
        $lines = [];
        foreach ($this->flows as $flow) {
            $g = $this->frame->variable('g', $flow);
            $lines = [
                ...$lines,
                ...$this->frame->each($flow, [
                    $this->frame->isArrival($flow)
                        ? "$g = (float) \$q".$this->frame->number((string) $this->frame->plan->flows[$flow]['from']).'->arriving($i);'
                        : "$g *= \$part;",
                ]),
            ];
        }
        array_push($lines, ...$this->cutLines(true), ...$this->reportLines($report, 'if ($last === $i) '));
        foreach ($this->states as $stock => $_) {
            $y = $this->frame->variable('y', $stock);
            array_push(
                $lines,
                ...$this->frame->each($stock, [
                    isset($this->frame->plan->limited[$stock])
                        ? "$y = ".$this->frame->variable('room', $stock).$this->uncounted($stock).';'
                        : "$y += ".$this->net($stock).';',
                ]),
            );
        }

        return $lines;
    }

    /** @return list<string> */
    private function cutLines(bool $counting): array
    {
        $lines = [];
        foreach ($this->frame->plan->limited as $stock => $_) {
            array_push($lines, ...$this->frame->each($stock, $this->cutsOf($stock, $counting)));
        }

        return $lines;
    }

    /** @return list<string> what leaves one stock, cut to what it can give */
    private function cutsOf(string $stock, bool $counting): array
    {
        $plan = $this->frame->plan;
        [$y, $room] = [$this->frame->variable('y', $stock), $this->frame->variable('room', $stock)];
        $lines = ["$room = $y > 0.0 ? $y : 0.0;"];
        foreach ($this->attached($stock, 'to') as $flow) {
            if ($this->countsAtOnce($flow, $stock)) {
                $g = $this->frame->variable('g', $flow);
                $lines[] = "$room += ".($plan->flows[$flow]['oneWay'] ? $g : "($g > 0.0 ? $g : 0.0)").';';
            }
        }
        foreach ($this->attached($stock, 'from') as $flow) {
            $other = $plan->flows[$flow]['to'];
            if (! $plan->flows[$flow]['oneWay'] && ($other === null || ! isset($plan->limited[$other]))) {
                $g = $this->frame->variable('g', $flow);
                $lines[] = "$room += ($g < 0.0 ? -$g : 0.0);";
            }
        }
        foreach ($this->attached($stock, 'from') as $flow) {
            $g = $this->frame->variable('g', $flow);
            $lines[] = "\$cut = $g < $room ? $g : $room;";
            array_push($lines, ...$counting ? $this->noticeLines($flow, "\$cut < $g", $this->frame->variable('u', $flow)) : []);
            $lines[] = "$g = \$cut; $room -= (\$cut > 0.0 ? \$cut : 0.0);";
        }
        foreach ($this->attached($stock, 'to') as $flow) {
            if ($plan->flows[$flow]['oneWay']) {
                continue;
            }
            $g = $this->frame->variable('g', $flow);
            $isNoticed = $counting && ! isset($plan->limited[$plan->flows[$flow]['from'] ?? '']);
            $lines[] = "\$cut = $g > -$room ? $g : -$room;";
            array_push($lines, ...$isNoticed ? $this->noticeLines($flow, "\$cut > $g", '0.0') : []);
            $lines[] = "$g = \$cut; $room += (\$cut < 0.0 ? \$cut : 0.0);";
        }
        if ($counting && isset($plan->transits[$stock])) {
            array_push($lines, ...$this->passageLines($stock));
        }

        return $lines;
    }

    /** @return list<string> */
    private function noticeLines(string $flow, string $condition, string $already): array
    {
        if ($this->frame->isArrival($flow)) {
            return [];
        }
        $z = $this->frame->variable('z', $flow);
        $w = $this->frame->watches->variable('limit', $flow);

        return ["$z += $condition ? 1.0 : $already;", "$w = $condition && \$now < $w ? \$now : $w;"];
    }

    /** @return list<string> what enters a transit stock sets out, and leaks take from all that is on the way */
    private function passageLines(string $stock): array
    {
        $plan = $this->frame->plan;
        $n = $this->frame->number($stock);
        // What flows backward enters by an outflow, or is taken along the way by an inflow.
        $entered = $leak = $arrived = '0.0';
        foreach (['to', 'from'] as $end) {
            foreach ($this->attached($stock, $end) as $flow) {
                $g = $this->frame->variable('g', $flow);
                if ($this->frame->isArrival($flow) && $end === 'from') {
                    $arrived = $g;

                    continue;
                }
                $forth = " + ($g > 0.0 ? $g : 0.0)";
                $back = $plan->flows[$flow]['oneWay'] ? '' : " - ($g < 0.0 ? $g : 0.0)";
                $entered .= $end === 'to' ? $forth : $back;
                $leak .= $end === 'to' ? $back : $forth;
            }
        }
        $travel = $this->frame->emitter('$y', false)->assign('$travel'.$n, $plan->transits[$stock]->travel);

        return [...$travel, "\$check += \$travel$n;", "\$q{$n}->close(\$i, $leak, \$y$n - $arrived, $entered, \$travel$n);"];
    }

    /**
     * Limited flows report what truly flowed.
     *
     * @param  \Closure(string): list<string>  $report
     * @return list<string>
     */
    private function reportLines(\Closure $report, string $when): array
    {
        $sets = array_merge(...array_map($report, $this->limited), ...[[]]);

        return $sets === [] ? [] : [$when.'{ $at = $count - 1; '.implode(' ', $sets).' }'];
    }

    /** Whether what a flow brings is certain when its target is served. */
    private function countsAtOnce(string $flow, string $target): bool
    {
        $limited = $this->frame->plan->limited;
        $source = $this->frame->plan->flows[$flow]['from'];

        return $source === null ||
            ! isset($limited[$source]) ||
            ($limited[$source] !== $limited[$target] &&
                array_search($source, array_keys($limited), true) < array_search($target, array_keys($limited), true));
    }

    /** What came in but could not be given away within the step. */
    private function uncounted(string $stock): string
    {
        $plan = $this->frame->plan;
        $code = '';
        foreach ($this->attached($stock, 'to') as $flow) {
            if (! $this->countsAtOnce($flow, $stock)) {
                $g = $this->frame->variable('g', $flow);
                $code .= " + ($g > 0.0 ? $g : 0.0)";
            }
        }
        foreach ($this->attached($stock, 'from') as $flow) {
            $other = $plan->flows[$flow]['to'];
            if (! $plan->flows[$flow]['oneWay'] && $other !== null && isset($plan->limited[$other])) {
                $g = $this->frame->variable('g', $flow);
                $code .= " - ($g < 0.0 ? $g : 0.0)";
            }
        }

        return $code;
    }

    private function net(string $stock): string
    {
        $code = '';
        foreach ($this->frame->plan->states[$stock]->rates as [$flow, $sign]) {
            $code .= ($sign > 0 ? ($code === '' ? '' : ' + ') : ($code === '' ? '-' : ' - ')).$this->frame->variable('g', $flow);
        }

        return $code === '' ? '0.0' : $code;
    }

    /**
     * @param  'from'|'to'  $end
     * @return list<string> flows at this end of the stock, by priority
     */
    private function attached(string $stock, string $end): array
    {
        $flows = [];
        foreach ($this->frame->plan->states[$stock]->rates as [$flow, $sign]) {
            if (($end === 'to') === $sign > 0) {
                $flows[] = $flow;
            }
        }

        return $flows;
    }
}
