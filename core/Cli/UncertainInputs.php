<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Analysis\KeyReading;
use MerryOrbit\Core\Data\CsvReader;
use MerryOrbit\Core\Data\Grid;
use MerryOrbit\Core\Law\Distribution;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Problem\Nearest;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Uncertain\Design;
use MerryOrbit\Core\Uncertain\EnsemblePlan;
use MerryOrbit\Core\Uncertain\Summary;

/** Which parameters the command line says are uncertain, and how: by distributions, or by the draws themselves. */
final readonly class UncertainInputs
{
    /**
     * @param  array<string, string>  $names  of parameters by id, or by the key of an element
     * @param  array<string, float>  $medians
     * @param  array<string, Distribution>  $laws  none where the draws are given
     * @param  list<array<string, float>>  $rows  the draws that are given
     */
    private function __construct(public array $names, public array $medians, public array $laws = [], public array $rows = [])
    {
    }

    /** @throws UsageError|NotUnderstood */
    public static function said(Arguments $arguments, Analysis $analysis): self
    {
        $laws = $names = [];
        foreach ($arguments->all('uncertain') as $said) {
            [$name, $written] = [...array_map(trim(...), explode('=', $said, 2)), ''];
            $key = self::parameter($analysis, $name);
            $laws[$key] = Distribution::read($written);
            $names[$key] = $analysis->nameOf($key);
        }

        return $laws === []
            ? throw new UsageError('Say what is uncertain: --uncertain "NAME=normal(3.5, 1.3)".')
            : new self($names, array_map(static fn (Distribution $d): float => $d->median(), $laws), $laws);
    }

    /** @throws UsageError */
    public static function given(string $file, Analysis $analysis): self
    {
        $text =
            is_readable($file) && ! is_dir($file) ? (string) file_get_contents($file) : throw new UsageError("There is no file $file.");
        $grid = CsvReader::grid($text, basename($file));
        $names = $columns = $rows = [];
        foreach ($grid->rows[0] ?? [] as $column => $cell) {
            $key = self::parameter($analysis, Grid::text($cell));
            $names[$key] = $analysis->nameOf($key);
            $columns[$key] = $column;
        }
        for ($row = 1; $row < count($grid->rows); $row++) {
            foreach ($grid->filled($row) > 0 ? $columns : [] as $key => $column) {
                $cell = Grid::text($grid->cell($row, $column));
                $rows[$row - 1][$key] = is_numeric($cell)
                    ? (float) $cell
                    : throw new UsageError('Row '.($row + 1)." of the draws has no number for `{$names[$key]}`.");
            }
        }
        $rows = array_values($rows);
        if ($rows === []) {
            throw new UsageError('The draws hold no rows: a head with names of parameters, and a row for each run.');
        }
        $medians = [];
        foreach (array_keys($names) as $key) {
            $medians[(string) $key] = Summary::of(array_column($rows, $key), [50.0])->percentiles['50'] ?? 0.0;
        }

        return new self($names, $medians, [], $rows);
    }

    /**
     * Draws as a file that given() reads: a column for each parameter, a row for each run.
     *
     * @param  list<string>  $names
     * @param  list<list<float>>  $rows
     *
     * @throws UsageError
     */
    public static function write(string $file, array $names, array $rows): void
    {
        $head = static fn (string $name): string => preg_match('/[",]/', $name) === 1 ? '"'.str_replace('"', '""', $name).'"' : $name;
        $lines = implode(',', array_map($head, $names))."\n";
        foreach ($rows as $row) {
            $lines .= implode(',', array_map(static fn (float $v): string => (string) json_encode($v), $row))."\n";
        }
        if (@file_put_contents($file, $lines) === false) {
            throw new UsageError("The draws cannot be written to $file.");
        }
    }

    /** @return string the id of a parameter, or the key of an element of one; one that has elements is drawn as a whole, the same for all */
    private static function parameter(Analysis $analysis, string $name): string
    {
        $key = KeyReading::key($analysis, $name);
        $names = array_map(
            static fn (Parameter $p): string => $p->name,
            array_values(array_filter($analysis->model->elements, static fn ($e): bool => $e instanceof Parameter)),
        );

        return $key !== null && $analysis->model->elements[Key::ownerOf($key)] instanceof Parameter
            ? $key
            : throw new UsageError("The model has no parameter `$name`.".Nearest::question($name, $names));
    }

    /**
     * @param  list<string>  $all  --together as it was said
     * @return list<array{string, string, float}>
     *
     * @throws UsageError
     */
    public function together(array $all, Analysis $analysis): array
    {
        $read = [];
        foreach ($all as $said) {
            // Names may hold a comma where they stand in quotes.
            $parts = preg_match('/^(.+)=([^=]*)$/Ds', $said, $m) === 1 ? str_getcsv($m[1], escape: '') : [];
            $keys = array_map(fn (?string $name): ?string => KeyReading::key($analysis, (string) $name), $parts);
            if (count($keys) !== 2 || ! isset($m[2]) || ! is_numeric(trim($m[2]))) {
                throw new UsageError(
                    "--together takes two inputs and the correlation of their ranks, as in --together \"a, b=0.6\", not `$said`.",
                );
            }
            foreach ($keys as $i => $key) {
                if ($key === null || ! isset($this->laws[$key])) {
                    throw new UsageError('--together speaks of `'.trim((string) $parts[$i]).'`, which is not said to be uncertain.');
                }
            }
            $read[] = [(string) $keys[0], (string) $keys[1], (float) $m[2]];
        }

        return $read;
    }

    /**
     * @param  list<float>  $draws  from 0 to 1
     * @return array<string, float> values of parameters
     */
    public function values(array $draws): array
    {
        $values = [];
        foreach (array_keys($this->laws) as $i => $key) {
            $values[(string) $key] = $this->laws[$key]->quantile($draws[$i]);
        }

        return $values;
    }

    /** @return list<string> */
    public function keys(): array
    {
        return array_map(strval(...), array_keys($this->names));
    }

    /**
     * @param  list<array{string, string, float}>  $together
     * @return \Closure(int): array<string, float>
     *
     * @throws UsageError|NotUnderstood
     */
    public function drawn(?string $sample, int $runs, int $seed, array $together): \Closure
    {
        if ($this->rows !== []) {
            return fn (int $run): array => $this->rows[$run];
        }
        $kind = $sample ?? 'random';
        $at = array_search($kind, Design::KINDS, true);
        if ($at === false) {
            throw new UsageError('--sample is one of '.implode(', ', Design::KINDS).", not `$kind`.");
        }
        $plan = new EnsemblePlan($this->laws, $together, Design::KINDS[$at], Design::blocks($runs), $seed);

        return $plan->values(...);
    }
}
