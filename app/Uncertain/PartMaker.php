<?php

declare(strict_types=1);

namespace App\Uncertain;

use App\Database\Locked;
use App\Models\Ensemble;
use App\Models\EnsemblePart;
use App\Runs\Claim;
use App\Runs\Results;
use Illuminate\Database\Eloquent\Builder;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\PackedRuns;

/**
 * Makes parts of an ensemble, one after the other, each whole before it is told. What a part comes to follows from the spec alone: whoever
 * makes it, and how often, writes the same bytes.
 */
final class PartMaker
{
    /** Seconds to wait for the database where something must be written. */
    private const PATIENCE = 75.0;

    /** @var array<int, ManyRuns> with their courses, and without */
    private array $many = [];

    public function __construct(
        private readonly EnsembleSpec $spec,
        private readonly string $folder,
        private readonly Simulator $simulator,
    ) {
    }

    public static function of(Ensemble $ensemble, Simulator $simulator): self
    {
        return new self(EnsembleSpec::read($ensemble->spec), $ensemble->folder, $simulator);
    }

    /** @return Builder<EnsemblePart> */
    public static function left(string $folder): Builder
    {
        return EnsemblePart::query()->where('folder', $folder)->where('made', false);
    }

    /**
     * Makes the next part that nobody makes.
     *
     * @param  string  $who  whose claims are one's own
     * @return bool whether there was one
     *
     * @throws RunRefused
     */
    public function next(string $who): bool
    {
        $left = fn (): Builder => self::left($this->folder)->orderBy('id');
        $part = Locked::waitOut(fn (): ?EnsemblePart => Claim::next($left, $who), self::PATIENCE);
        if ($part === null) {
            return false;
        }
        $made = $this->make($part->name, $part->first, $part->runs);
        Locked::waitOut(static fn (): bool => $part->update($made), self::PATIENCE);

        return true;
    }

    /**
     * Makes a part, and writes its file.
     *
     * @return array{made: true, failed: int, seconds: float} what is told of it
     *
     * @throws RunRefused
     */
    public function make(string $name, int $first, int $runs): array
    {
        $begun = hrtime(true);
        [$rows, $failed] = $name === EnsembleSpec::CENTRAL ? $this->central() : $this->rows($first, $runs);
        Results::write(
            "$this->folder/$name.runs",
            PackedRuns::pack(
                $rows,
                $this->spec->numbers(),
                self::isNumbers($first) ? 0 : count($this->spec->columns),
                count($this->spec->moments),
            ),
        );

        return ['made' => true, 'failed' => $failed, 'seconds' => (hrtime(true) - $begun) / 1e9];
    }

    /** @return array{list<list<float>>, int} */
    private function central(): array
    {
        $medians = $this->spec->plan->medians();
        $one = $this->many(false)->one($medians, $this->spec->plan->seed);

        return [[[...array_values($medians), ...$one ?? $this->unknown(false)]], $one === null ? 1 : 0];
    }

    /** @return array{list<list<float>>, int} rows, and how many of them failed */
    private function rows(int $first, int $runs): array
    {
        $rows = [];
        $failed = 0;
        $isNumbers = self::isNumbers($first);
        for ($run = $first; $run < $first + $runs; $run++) {
            $values = $this->spec->plan->values($run);
            $one = $this->many($isNumbers)->one($values, $this->spec->plan->seedOf($run));
            $failed += $one === null ? 1 : 0;
            $rows[] = [...array_values($values), ...$one ?? $this->unknown($isNumbers)];
        }

        return [$rows, $failed];
    }

    /** @return list<float> */
    private function unknown(bool $isNumbers): array
    {
        $courses = $isNumbers ? 0 : count($this->spec->columns) * count($this->spec->moments);

        return array_fill(0, count($this->spec->outcomes) + $courses, NAN);
    }

    /** Whether nothing but the numbers is kept of runs from one on. */
    private static function isNumbers(int $first): bool
    {
        return $first >= EnsembleSpec::COURSES;
    }

    private function many(bool $isNumbers): ManyRuns
    {
        return $this->many[(int) $isNumbers] ??= $this->spec->prepared($this->simulator, $isNumbers);
    }
}
