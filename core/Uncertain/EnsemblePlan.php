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
    private ?Design $design = null;

    /**
     * @param  array<string, Distribution>  $laws  by id of a parameter, or key of one of its elements
     * @param  list<array{string, string, float}>  $together  two of them, and the correlation of their ranks
     * @param  value-of<Design::KINDS>  $sample
     * @param  list<int>  $blocks  how many runs each has
     */
    public function __construct(
        public readonly array $laws,
        public readonly array $together,
        public readonly string $sample,
        public readonly array $blocks,
        public readonly int $seed,
    ) {
    }

    /**
     * What a study says is uncertain.
     *
     * @param  array<mixed>  $inputs  UncertainInput
     * @param  array<mixed>  $pairs  RankPair
     * @param  list<string>  $decided  keys that a setting decides, and that are not drawn therefore
     * @param  value-of<Design::KINDS>  $sample
     */
    public static function ofStudy(array $inputs, array $pairs, array $decided, string $sample, int $runs, int $seed): self
    {
        $laws = $together = [];
        foreach ($inputs as $input) {
            if ($input instanceof UncertainInput && ! $input->off && ! in_array($input->key(), $decided, true)) {
                $laws[$input->key()] = Distribution::read($input->law);
            }
        }
        foreach ($pairs as $pair) {
            if ($pair instanceof RankPair && isset($laws[$pair->one], $laws[$pair->other])) {
                $together[] = [$pair->one, $pair->other, $pair->rank];
            }
        }

        return new self($laws, $together, $sample, Design::blocks($runs), $seed);
    }

    /** The same with more runs behind those that it has. */
    public function with(int $more): self
    {
        return new self($this->laws, $this->together, $this->sample, [...$this->blocks, ...Design::blocks($more)], $this->seed);
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
        $this->design ??= Design::of($this->sample, $this->keys(), $this->blocks, $this->seed, $this->together);
        $draws = $this->design->draws($run);
        $values = [];
        foreach ($this->keys() as $i => $key) {
            $values[$key] = $this->laws[$key]->quantile($draws[$i]);
        }

        return $values;
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
        ];
    }

    /** @param  array{laws: array<string, string>, together: list<array{string, string, float}>, sample: value-of<Design::KINDS>, blocks: list<int>, seed: int}  $record  as toRecord() gives it */
    public static function fromRecord(array $record): self
    {
        return new self(
            array_map(Distribution::read(...), $record['laws']),
            $record['together'],
            $record['sample'],
            $record['blocks'],
            $record['seed'],
        );
    }
}
