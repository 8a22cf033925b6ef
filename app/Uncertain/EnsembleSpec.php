<?php

declare(strict_types=1);

namespace App\Uncertain;

use App\Runs\Results;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Reduce\ColumnsAt;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Reduce\Outcome;
use MerryOrbit\Core\Reduce\Outcomes;
use MerryOrbit\Core\Reduce\Several;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\EnsemblePlan;

/**
 * All that decides what an ensemble comes to: a model, a setting, what is drawn, what is wanted of each run. Its folder is named by that;
 * only how many runs there are is left out, so that more can be added.
 *
 * @phpstan-type Wanted array{id: string, key: string, kind: 'last'|'at'|'min'|'max'|'total'|'mean'|'peak', time: float, unit: string}
 * @phpstan-type Part array{name: string, first: int, runs: int}
 * @phpstan-type Plan array{laws: array<string, string>, together: list<array{string, string, float}>, sample: 'random'|'latin'|'sobol',
 *     blocks: list<int>, seed: int, purpose?: 'spread'|'indices'|'morris'}
 * @phpstan-type Written array{document: string, setting: array<string, mixed>, plan: Plan, outcomes: list<Wanted>, columns: list<string>,
 *     moments: list<float>, parts: list<array{int, int}>}
 */
final readonly class EnsembleSpec
{
    /** The name of the run with every input at its median, among the parts. */
    public const CENTRAL = 'central';

    /** Runs whose courses are kept; of more of them bands say nothing else. Of all the numbers are. */
    public const COURSES = 100_000;

    /**
     * @param  string  $document  blob of the model
     * @param  array<string, mixed>  $setting  as Setting::toRecord() gives it
     * @param  list<Wanted>  $outcomes
     * @param  list<string>  $columns  keys of what is kept over time
     * @param  list<float>  $moments  when
     * @param  list<array{int, int}>  $parts  how many runs the first part of each block has, and how many each other
     */
    public function __construct(
        public string $document,
        public array $setting,
        public EnsemblePlan $plan,
        public array $outcomes,
        public array $columns,
        public array $moments,
        public array $parts,
    ) {
    }

    public static function read(string $text): self
    {
        /** @var Written $record */
        $record = json_decode($text, true, flags: JSON_THROW_ON_ERROR);

        return new self(
            $record['document'],
            $record['setting'],
            EnsemblePlan::fromRecord($record['plan']),
            $record['outcomes'],
            $record['columns'],
            $record['moments'],
            $record['parts'],
        );
    }

    public function written(): string
    {
        return json_encode([...$this->decisive(), 'plan' => $this->plan->toRecord(), 'parts' => $this->parts], self::JSON);
    }

    private const JSON = JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION;

    /** @return array<string, mixed> */
    private function decisive(): array
    {
        $plan = $this->plan->toRecord();
        // More runs behind those of a spread change nothing of them.
        if ($this->plan->purpose === 'spread') {
            unset($plan['blocks']);
        }

        return [
            'document' => $this->document,
            'setting' => $this->setting,
            'plan' => $plan,
            'outcomes' => $this->outcomes,
            'columns' => $this->columns,
            'moments' => $this->moments,
        ];
    }

    public function folder(): string
    {
        $hash = hash('sha256', Results::EDITION."\n".json_encode($this->decisive(), self::JSON));

        return 'ensembles/'.substr($hash, 0, 2)."/$hash";
    }

    /** The same with more runs behind. */
    public function with(int $more, int $chunk): self
    {
        $plan = $this->plan->with($more);
        $new = count($plan->blocks) - count($this->plan->blocks);

        return new self($this->document, $this->setting, $plan, $this->outcomes, $this->columns, $this->moments, [
            ...$this->parts,
            ...array_fill(0, $new, [$chunk, $chunk]),
        ]);
    }

    /**
     * No part has runs of two blocks; what a block is stands in the names of its parts, because it decides what is drawn.
     *
     * @return list<Part> the central run first
     */
    public function parts(): array
    {
        $parts = [['name' => self::CENTRAL, 'first' => 0, 'runs' => 0]];
        $begin = 0;
        foreach ($this->plan->blocks as $block => $size) {
            [$first, $chunk] = $this->parts[$block];
            for ($at = 0, $runs = min($first, $size); $at < $size; $at += $runs, $runs = min($chunk, $size - $at)) {
                $parts[] = ['name' => "$block-$begin-$size-".($begin + $at)."-$runs", 'first' => $begin + $at, 'runs' => $runs];
            }
            $begin += $size;
        }

        return $parts;
    }

    /** How many numbers stand before the columns of a run: its inputs and outcomes. */
    public function numbers(): int
    {
        return count($this->plan->laws) + count($this->outcomes);
    }

    /**
     * @param  bool  $isNumbers  whether no courses are wanted
     *
     * @throws RunRefused
     */
    public function prepared(Simulator $simulator, bool $isNumbers = false): ManyRuns
    {
        $outcomes = array_map(static fn (array $o): Outcome => new Outcome($o['id'], $o['key'], $o['kind'], $o['time']), $this->outcomes);
        $columns = new ColumnsAt($isNumbers ? [] : $this->columns, $this->moments);

        return ManyRuns::of(
            $simulator,
            Results::model($this->document),
            Setting::read($this->setting),
            $outcomes === [] ? $columns : new Several([new Outcomes($outcomes), $columns]),
            $this->plan->runs(),
        );
    }
}
