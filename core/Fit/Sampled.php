<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

use MerryOrbit\Core\Uncertain\Summary;

/** Draws of a posterior, and how far they can be trusted. */
final readonly class Sampled
{
    public const PERCENTS = [2.5, 5.0, 25.0, 50.0, 75.0, 95.0, 97.5];

    /** Above it chains are not of one mind. */
    private const APART = 1.01;

    /** Effective draws for each chain below which percentiles are rough. */
    private const FEW = 100;

    /**
     * @param  non-empty-list<Freed>  $freed
     * @param  array<int, array{draws: list<list<float>>, sds: list<list<float>>, accepted: int}>  $chains
     */
    public function __construct(public array $freed, public array $chains, public int $each)
    {
    }

    /** @return list<array<string, mixed>> of each freed number */
    public function parameters(): array
    {
        return array_map(
            fn (Freed $f, int $j): array => [
                'name' => $f->name,
                ...$this->summed(array_map(static fn (array $c): array => array_column($c['draws'], $j), array_values($this->chains))),
            ],
            $this->freed,
            array_keys($this->freed),
        );
    }

    /** @return list<array<string, mixed>> of the standard deviation of each series, where those are not known */
    public function sds(): array
    {
        $first = array_values($this->chains)[0]['sds'][0] ?? [];

        return array_map(
            fn (int $s): array => $this->summed(
                array_map(static fn (array $c): array => array_column($c['sds'], $s), array_values($this->chains)),
            ),
            array_keys($first),
        );
    }

    /**
     * @param  list<list<float>>  $chains
     * @return array<string, mixed>
     */
    private function summed(array $chains): array
    {
        $s = Summary::of(array_merge(...$chains), self::PERCENTS);

        $told = Chains::told($chains);

        return [
            'mean' => $s?->mean,
            'sd' => $s?->sd,
            'percentiles' => (object) ($s->percentiles ?? []),
            ...$told,
            'agrees' => is_float($told['rhat']) && $told['rhat'] <= self::APART,
        ];
    }

    /** The part of steps that were taken. */
    public function acceptance(): float
    {
        return array_sum(array_column($this->chains, 'accepted')) / max(1, $this->each * count($this->chains));
    }

    /** @return list<list<float>> all draws, chain by chain */
    public function draws(): array
    {
        return array_merge(...array_column($this->chains, 'draws'));
    }

    /** @return list<string> what one should know before one trusts them */
    public function sentences(): array
    {
        $told = $apart = $few = [];
        foreach ($this->parameters() as $p) {
            $name = is_string($p['name']) ? "`{$p['name']}`" : '';
            if (! is_float($p['rhat']) || ! is_float($p['ess'])) {
                $told[] = "$name never moved: no step of these chains was taken. Look at its bounds and at what was measured.";
            } elseif ($p['agrees'] !== true) {
                $apart[$name] = $p['rhat'];
            } elseif ($p['ess'] < self::FEW * count($this->chains)) {
                $few[$name] = $p['ess'];
            }
        }
        if ($apart !== []) {
            $names = implode(', ', array_keys($apart));
            $told[] = "The chains do not agree on $names yet (R̂ up to ".round(max($apart), 3).'): take more draws.';
        }
        if ($few !== []) {
            $names = implode(', ', array_keys($few));
            $told[] =
                "The draws of $names are worth few independent ones (".round(min($few)).' at least): outer percentiles are rough.';
        }

        return $told;
    }
}
