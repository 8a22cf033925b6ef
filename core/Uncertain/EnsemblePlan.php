<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Law\Distribution;
use MerryOrbit\Core\Model\RankPair;
use MerryOrbit\Core\Model\UncertainInput;
use MerryOrbit\Core\Problem\NotUnderstood;

/** What is drawn for each of many runs: all that decides it, as a value that can be written down and read back. */
final class EnsemblePlan
{
    /** What the runs are for: to see the spread, or to see which inputs matter, by shares of variance or by steps. */
    public const PURPOSES = ['spread', 'indices', 'morris'];

    private Design|Indices|Morris|null $design = null;

    /**
     * @param  array<string, Distribution>  $laws  by id of a parameter, or key of one of its elements
     * @param  list<array{string, string, float}>  $together  two of them, and the correlation of their ranks
     * @param  value-of<Design::KINDS>  $sample
     * @param  list<int>  $blocks  how many runs each has; of what is not for the spread there is one
     * @param  value-of<self::PURPOSES>  $purpose
     */
    public function __construct(
        public readonly array $laws,
        public readonly array $together,
        public readonly string $sample,
        public readonly array $blocks,
        public readonly int $seed,
        public readonly string $purpose = 'spread',
    ) {
    }

    /**
     * What a study says is uncertain.
     *
     * @param  array<mixed>  $inputs  UncertainInput
     * @param  array<mixed>  $pairs  RankPair
     * @param  list<string>  $decided  keys that a setting decides, and that are not drawn therefore
     * @param  value-of<Design::KINDS>  $sample
     * @param  value-of<self::PURPOSES>  $purpose
     *
     * @throws NotUnderstood where so few runs are not enough for what they are for
     */
    public static function ofStudy(
        array $inputs,
        array $pairs,
        array $decided,
        string $sample,
        int $runs,
        int $seed,
        string $purpose = 'spread',
    ): self {
        $laws = $together = [];
        foreach ($inputs as $input) {
            if ($input instanceof UncertainInput && ! $input->off && ! in_array($input->key(), $decided, true)) {
                $laws[$input->key()] = Distribution::read($input->law);
            }
        }
        // Shares and steps are of inputs that are drawn apart.
        foreach ($purpose === 'spread' ? $pairs : [] as $pair) {
            if ($pair instanceof RankPair && isset($laws[$pair->one], $laws[$pair->other])) {
                $together[] = [$pair->one, $pair->other, $pair->rank];
            }
        }

        $keys = array_map(strval(...), array_keys($laws));
        $blocks = match (true) {
            $keys === [] || $purpose === 'spread' => Design::blocks($runs),
            $purpose === 'indices' => [Indices::of($keys, $runs, $seed)->runs()],
            default => [Morris::of(count($keys), $runs, $seed)->runs()],
        };

        return new self($laws, $together, $sample, $blocks, $seed, $purpose);
    }

    /** The same with more runs behind those that it has. */
    public function with(int $more): self
    {
        $blocks = [...$this->blocks, ...Design::blocks($more)];

        return new self($this->laws, $this->together, $this->sample, $blocks, $this->seed, $this->purpose);
    }

    public function runs(): int
    {
        return array_sum($this->blocks);
    }

    /** @return list<string> */
    public function keys(): array
    {
        return array_map(strval(...), array_keys($this->laws));
    }

    /**
     * @return array<string, float> values of parameters in a run
     *
     * @throws NotUnderstood
     */
    public function values(int $run): array
    {
        $draws = $this->design()->draws($run);
        $values = [];
        foreach ($this->keys() as $i => $key) {
            $values[$key] = $this->laws[$key]->quantile($draws[$i]);
        }

        return $values;
    }

    /** @throws NotUnderstood */
    public function design(): Design|Indices|Morris
    {
        return $this->design ??= match ($this->purpose) {
            'indices' => Indices::of($this->keys(), $this->runs(), $this->seed),
            'morris' => Morris::of(count($this->laws), $this->runs(), $this->seed),
            default => Design::of($this->sample, $this->keys(), $this->blocks, $this->seed, $this->together),
        };
    }

    /** Chance within a run: another one in each, but the same in all where it is asked what an input does. */
    public function seedOf(int $run): int
    {
        return $this->purpose === 'spread' ? Ensemble::seedOf($this->seed, $run) : $this->seed;
    }

    /** @return array<string, float> of the run with every input at its middle */
    public function medians(): array
    {
        return array_map(static fn (Distribution $d): float => $d->median(), $this->laws);
    }

    /** @return array<string, mixed> */
    public function toRecord(): array
    {
        return [
            'laws' => array_map(static fn (Distribution $d): string => $d->written, $this->laws),
            'together' => $this->together,
            'sample' => $this->sample,
            'blocks' => $this->blocks,
            'seed' => $this->seed,
            ...$this->purpose === 'spread' ? [] : ['purpose' => $this->purpose],
        ];
    }

    /** @param  array{laws: array<string, string>, together: list<array{string, string, float}>, sample: value-of<Design::KINDS>, blocks: list<int>, seed: int, purpose?: value-of<self::PURPOSES>}  $record  as toRecord() gives it */
    public static function fromRecord(array $record): self
    {
        return new self(
            array_map(Distribution::read(...), $record['laws']),
            $record['together'],
            $record['sample'],
            $record['blocks'],
            $record['seed'],
            $record['purpose'] ?? 'spread',
        );
    }
}
