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
        $names = array_column($this->spec->parts(), 'name');
        $this->parts = EnsemblePart::query()
            ->where('folder', $ensemble->folder)
            ->orderBy('first')
            ->orderBy('id')
            ->get()
            ->filter(static fn (EnsemblePart $p): bool => in_array($p->name, $names, true))
            ->values();
    }

    /** @return Collection<int, EnsemblePart> those that are made, without the central run */
    private function made(): Collection
    {
        return $this->parts->filter(static fn (EnsemblePart $p): bool => $p->made && $p->name !== EnsembleSpec::CENTRAL)->values();
    }

    /** @return array<int, list<float>> by run: the values of its inputs, then its outcomes */
    public function numbers(): array
    {
        $all = [];
        foreach ($this->made() as $part) {
            foreach ($this->read($part->name, null) as $i => $row) {
                $all[$part->first + $i] = $row;
            }
        }

        return $all;
    }

    /**
     * @return array<int, list<float>> by run, the values at the kept moments; NAN where it failed
     *
     * @throws NotUnderstood
     */
    public function column(string $key): array
    {
        $column = $this->at($key);
        $all = [];
        foreach ($this->made() as $part) {
            foreach ($this->read($part->name, $column) as $i => $values) {
                $all[$part->first + $i] = $values;
            }
        }

        return $all;
    }

    /** @return list<float>|null of the run with every input at its median; null before it is made */
    public function centralColumn(string $key): ?array
    {
        return $this->isCentralMade() ? $this->read(EnsembleSpec::CENTRAL, $this->at($key))[0] ?? null : null;
    }

    /** @return list<float>|null its numbers */
    public function centralNumbers(): ?array
    {
        return $this->isCentralMade() ? $this->read(EnsembleSpec::CENTRAL, null)[0] ?? null : null;
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

    /** @return list<list<float>> numbers, or a column, of each run of a part */
    private function read(string $name, ?int $column): array
    {
        $stream = Results::disk()->readStream("{$this->ensemble->folder}/$name.runs");
        if (! is_resource($stream)) {
            throw NotUnderstood::because('The results of these runs are not there any more. Run them again.');
        }
        $bytes = static fn (int $from, int $size): string => $size > 0 && fseek($stream, $from) === 0
            ? (string) stream_get_contents($stream, $size)
            : '';
        try {
            $head = PackedRuns::head($bytes(0, PackedRuns::HEAD_BYTES));

            return $column === null ? $head->numbers($bytes(...$head->atNumbers())) : $head->column($bytes(...$head->atColumn($column)));
        } finally {
            fclose($stream);
        }
    }
}
