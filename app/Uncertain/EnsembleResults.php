<?php

declare(strict_types=1);

namespace App\Uncertain;

use App\Models\Ensemble;
use App\Models\EnsemblePart;
use App\Runs\Results;
use Illuminate\Support\Collection;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Uncertain\PackedRuns;

/** What is made of an ensemble up to now, read from its parts: one column, or all numbers, and nothing else. */
final class EnsembleResults
{
    public readonly EnsembleSpec $spec;

    /** @var Collection<int, EnsemblePart> all that there are to be, by their first run */
    public readonly Collection $parts;

    public function __construct(private readonly Ensemble $ensemble)
    {
        $this->spec = EnsembleSpec::read($ensemble->spec);
        $names = array_flip(array_column($this->spec->parts(), 'name'));
        $this->parts = EnsemblePart::query()
            ->where('folder', $ensemble->folder)
            ->orderBy('first')
            ->orderBy('id')
            ->get()
            ->filter(static fn (EnsemblePart $p): bool => isset($names[$p->name]))
            ->values();
    }

    /** @return Collection<int, EnsemblePart> those that are made, without the central run */
    private function made(): Collection
    {
        return $this->parts->filter(static fn (EnsemblePart $p): bool => $p->made && $p->name !== EnsembleSpec::CENTRAL)->values();
    }

    /** @return int how many runs are made */
    public function count(): int
    {
        return (int) $this->made()->sum('runs');
    }

    /**
     * @param  int  $most  parts are read as long as there are not so many runs
     * @return array<int, list<float>> by run: the values of its inputs, then its outcomes
     */
    public function numbers(int $most = EnsembleSpec::COURSES): array
    {
        $all = [];
        foreach ($this->made() as $part) {
            if (count($all) >= $most) {
                break;
            }
            $rows = $this->read($part->name, static fn (PackedRuns $h, \Closure $bytes): array => $h->numbers($bytes(...$h->atNumbers())));
            foreach ($rows as $i => $row) {
                $all[$part->first + $i] = $row;
            }
        }

        return $all;
    }

    /**
     * Some of the numbers of all runs.
     *
     * @param  list<int>  $positions  among the inputs and outcomes of a run
     * @return list<list<float>> of each position, by the order of the runs
     */
    public function values(array $positions): array
    {
        $all = array_fill(0, count($positions), []);
        foreach ($this->made() as $part) {
            $some = $this->read(
                $part->name,
                static fn (PackedRuns $h, \Closure $bytes): array => $h->some($bytes(...$h->atNumbers()), $positions),
            );
            foreach ($some as $k => $values) {
                array_push($all[$k], ...$values);
            }
        }

        return $all;
    }

    /** @return list<int> which run each of the values is of */
    public function runs(): array
    {
        $runs = [];
        foreach ($this->made() as $part) {
            array_push($runs, ...range($part->first, $part->first + $part->runs - 1));
        }

        return $runs;
    }

    /** @return list<float> the numbers of a run that is made */
    public function row(int $run): array
    {
        $part = $this->made()->first(static fn (EnsemblePart $p): bool => $p->first <= $run && $run < $p->first + $p->runs);
        $i = $run - ($part->first ?? 0);

        return $part === null
            ? []
            : $this->read(
                $part->name,
                static fn (PackedRuns $h, \Closure $bytes): array => $h->numbers($bytes(...$h->atRun($i)))[0] ?? [],
            );
    }

    /**
     * @return array<int, list<float>> by run, the values at the kept moments; NAN where it failed
     *
     * @throws NotUnderstood
     */
    public function column(string $key, int $most = EnsembleSpec::COURSES): array
    {
        $column = $this->at($key);
        $all = [];
        foreach ($this->made() as $part) {
            // Of runs behind the first many no courses are kept.
            if (count($all) >= $most || $part->first >= EnsembleSpec::COURSES) {
                break;
            }
            foreach ($this->course($part->name, $column) as $i => $values) {
                $all[$part->first + $i] = $values;
            }
        }

        return $all;
    }

    /** @return list<float>|null of the run with every input at its median; null before it is made */
    public function centralColumn(string $key): ?array
    {
        return $this->isCentralMade() ? $this->course(EnsembleSpec::CENTRAL, $this->at($key))[0] ?? null : null;
    }

    /** @return list<float>|null its numbers */
    public function centralNumbers(): ?array
    {
        $read = static fn (PackedRuns $h, \Closure $bytes): array => $h->numbers($bytes(...$h->atNumbers()));

        return $this->isCentralMade() ? $this->read(EnsembleSpec::CENTRAL, $read)[0] ?? null : null;
    }

    private function isCentralMade(): bool
    {
        return $this->parts->contains(static fn (EnsemblePart $p): bool => $p->made && $p->name === EnsembleSpec::CENTRAL);
    }

    /**
     * Where an outcome stands among the numbers of a run.
     *
     * @throws NotUnderstood
     */
    public function positionOf(string $outcome): int
    {
        $at = array_search($outcome, array_column($this->spec->outcomes, 'id'), true);

        return $at === false
            ? throw NotUnderstood::because('This outcome was not looked at in these runs. Run them again.')
            : count($this->spec->plan->laws) + $at;
    }

    /** @throws NotUnderstood */
    private function at(string $key): int
    {
        $at = array_search($key, $this->spec->columns, true);

        return $at === false
            ? throw NotUnderstood::because(
                'The courses of this one were not kept in these runs. Make it an outcome, or put it into a track, and run again.',
            )
            : $at;
    }

    /** @return list<list<float>> a column of each run of a part */
    private function course(string $name, int $column): array
    {
        return $this->read($name, static fn (PackedRuns $h, \Closure $bytes): array => $h->column($bytes(...$h->atColumn($column))));
    }

    /**
     * @template T of array
     *
     * @param  \Closure(PackedRuns, \Closure(int, int): string): T  $read  from the head of a part and what lies where
     * @return T
     */
    private function read(string $name, \Closure $read): array
    {
        $stream = Results::disk()->readStream("{$this->ensemble->folder}/$name.runs");
        if (! is_resource($stream)) {
            throw NotUnderstood::because('The results of these runs are not there any more. Run them again.');
        }
        $bytes = static fn (int $from, int $size): string => $size > 0 && fseek($stream, $from) === 0
            ? (string) stream_get_contents($stream, $size)
            : '';
        try {
            return $read(PackedRuns::head($bytes(0, PackedRuns::HEAD_BYTES)), $bytes);
        } finally {
            fclose($stream);
        }
    }
}
