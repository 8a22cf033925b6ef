<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Experiment;

/**
 * Things of which some wait for others, such as works: when each was through, which of them decided when all is, and who keeps how many
 * waiting at a time. Each is told by its number.
 *
 * Through is who first ceased to be under way, or, where something holds of most in the end (such as `done`), of whom it first held. What
 * comes back later, as faults do, is through no later for that.
 */
final readonly class Waiting
{
    /**
     * @param  list<int>  $all
     * @param  array<int, float>  $through  when each was through, of those who were
     * @param  array<int, list<int>>  $before  for whom each waits
     */
    private function __construct(private array $all, public array $through, private array $before)
    {
    }

    /**
     * @param  array<int, array<int, float>>  $lives  by number and moment, whether it holds: 0 or not
     * @param  list<float>  $times  of the moments
     * @param  list<array{int, int}>  $pairs  who comes first, and who waits for it
     */
    public static function of(array $lives, array $times, array $pairs): self
    {
        $first = $ceased = [];
        $lasting = 0;
        foreach ($lives as $number => $life) {
            $holding = array_keys(array_filter($life, static fn (float $v): bool => $v !== 0.0));
            if ($holding === []) {
                continue;
            }
            $lasting += end($holding) === array_key_last($life) ? 1 : 0;
            $first[$number] = $times[$holding[0]];
            for ($i = $holding[0]; ($life[$i] ?? 0.0) !== 0.0; $i++);
            if (isset($life[$i])) {
                $ceased[$number] = $times[$i];
            }
        }
        $before = [];
        foreach ($pairs as [$one, $then]) {
            $before[$then][] = $one;
        }

        return new self(array_keys($lives), 2 * $lasting > count($first) ? $first : $ceased, $before);
    }

    /** @return list<int> from the first to the last that was through: each with the one of those it waited for that was through last */
    public function chain(): array
    {
        $chain = [];
        $at = $this->latest(array_keys($this->through));
        while ($at !== null && ! in_array($at, $chain, true)) {
            array_unshift($chain, $at);
            $at = $this->latest(array_filter($this->before[$at] ?? [], fn (int $b): bool => isset($this->through[$b])));
        }

        return $chain;
    }

    /** @param  array<int>  $of */
    private function latest(array $of): ?int
    {
        $latest = null;
        foreach ($of as $number) {
            $latest = $latest === null || $this->through[$number] > $this->through[$latest] ? $number : $latest;
        }

        return $latest;
    }

    /**
     * Who could be through at a time as far as others go, and is not; and how many wait for it, directly or not. Most waited for first.
     *
     * @return list<array{number: int, waiting: int}>
     */
    public function at(float $time): array
    {
        $isOpen = fn (int $n): bool => ($this->through[$n] ?? INF) > $time;
        $after = [];
        foreach ($this->before as $then => $list) {
            foreach ($isOpen($then) ? $list : [] as $one) {
                $after[$one][] = $then;
            }
        }
        $found = [];
        foreach ($this->all as $number) {
            if (! $isOpen($number) || array_filter($this->before[$number] ?? [], $isOpen) !== []) {
                continue;
            }
            $seen = [];
            $next = [$number];
            while (($one = array_pop($next)) !== null) {
                foreach ($after[$one] ?? [] as $then) {
                    if (! isset($seen[$then])) {
                        $seen[$then] = true;
                        $next[] = $then;
                    }
                }
            }
            unset($seen[$number]);
            if ($seen !== []) {
                $found[] = ['number' => $number, 'waiting' => count($seen)];
            }
        }
        usort($found, static fn (array $a, array $b): int => [$b['waiting'], $a['number']] <=> [$a['waiting'], $b['number']]);

        return $found;
    }
}
