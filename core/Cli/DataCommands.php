<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Data\Comparison;
use MerryOrbit\Core\Data\DataSeries;
use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\Evidence;
use MerryOrbit\Core\Data\Matching;
use MerryOrbit\Core\Data\Reading;
use MerryOrbit\Core\Data\Steps\Steps;
use MerryOrbit\Core\Data\StudyTimes;
use MerryOrbit\Core\Data\TableFile;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Data\Tie;
use MerryOrbit\Core\Data\Wishes;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\CleaningStep;
use MerryOrbit\Core\Problem\Nearest;
use MerryOrbit\Core\Problem\NotUnderstood;

/** What the command line does with tables of data: read them, and compare a run with them. */
final readonly class DataCommands
{
    public const READING = ['sheet', 'layout', 'decimal', 'dates', 'names', 'time', 'steps', 'with'];

    private const SAID = ['sheet', 'layout', 'decimal', 'dates', 'names', 'time'];

    /** @throws UsageError|TableRefused */
    public static function table(Arguments $arguments, string $file, bool $isTraced = false): DataTable
    {
        $said = [];
        foreach (self::SAID as $option) {
            $said[$option] = $arguments->last($option);
        }
        try {
            $wishes = Wishes::read($said);
        } catch (NotUnderstood $e) {
            throw new UsageError('--'.ltrim($e->getMessage(), '`'));
        }
        $table = Reading::of(TableFile::open($file)->grid($wishes->sheet), $wishes, $isTraced);
        $steps = $arguments->last('steps');

        return $steps === null ? $table : Steps::of($table, self::steps($steps), OtherFiles::of($arguments->all('with')));
    }

    /**
     * @param  string  $file  a list of steps, or a source with its `steps`, as a study keeps it
     * @return list<CleaningStep>
     *
     * @throws UsageError
     */
    private static function steps(string $file): array
    {
        $read =
            is_readable($file) && ! is_dir($file)
                ? json_decode((string) file_get_contents($file), true)
                : throw new UsageError("There is no file $file.");
        try {
            return CleaningStep::list(is_array($read) && ! array_is_list($read) ? $read['steps'] ?? [] : $read ?? '');
        } catch (NotUnderstood $e) {
            throw new UsageError("--steps: {$e->getMessage()}");
        }
    }

    /**
     * A table as one JSON document, written in parts: it may be large.
     *
     * @return \Generator<int, string>
     */
    public static function document(DataTable $table): \Generator
    {
        $flags = JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES;
        $record = $table->toRecord();
        yield '{"layout":'.json_encode($table->layout, $flags).',"time":'.json_encode($record['time'], $flags).",\"series\":[\n";
        foreach ($table->series as $i => $s) {
            yield ($i === 0 ? '' : ",\n").json_encode($s->toRecord(), $flags);
        }
        yield "\n],\"remarks\":".
            json_encode($table->remarks, $flags).
            ',"guesses":'.
            json_encode($table->understood->guesses, $flags).
            "}\n";
    }

    /** @return \Generator<int, string> */
    public static function lines(DataTable $table): \Generator
    {
        yield "layout: $table->layout\n";
        yield 'time: '.$table->timeName.', '.count($table->times).' of them, '.self::span($table)."\n";
        foreach ($table->series as $s) {
            yield '  '.$s->label().($s->unit === '' ? '' : " [$s->unit]").": {$s->count()} values\n";
        }
        foreach ($table->remarks as $r) {
            $where = implode(', ', array_filter([$r->row === null ? '' : "row $r->row", $r->column === null ? '' : "column $r->column"]));
            yield ($where === '' ? '' : "$where: ").$r->sentence."\n";
        }
    }

    private static function span(DataTable $table): string
    {
        $words =
            $table->timeKind === 'date'
                ? $table->timeWords
                : array_map(static fn (float $t): string => (string) json_encode($t), $table->times);

        return 'from '.($words[0] ?? '?').' to '.($words[count($words) - 1] ?? '?');
    }

    /**
     * @param  resource  $err  where it is said what is not compared
     * @return list<Evidence>
     *
     * @throws UsageError|ModelRefused|TableRefused
     */
    public static function evidence(Arguments $arguments, Analysis $analysis, mixed $err): array
    {
        $file = $arguments->last('data') ?? throw new UsageError('Say what it is compared with: --data=FILE');
        $table = self::table($arguments, $file);
        $times = StudyTimes::of($table, $analysis->model->time);
        $ends = StudyTimes::ends($table, $analysis->model->time);
        foreach ($table->remarks as $r) {
            fwrite($err, ($r->row === null ? '' : "row $r->row: ").$r->sentence."\n");
        }
        $evidence = [];
        foreach (self::tied($arguments, $analysis, $table, $err) as [$series, $key]) {
            $tie = Tie::to($analysis, $key, $series, $times, $ends);
            if ($tie->factor === null) {
                fwrite($err, "{$series->label()}: $tie->said.\n");
            }
            $evidence[] = $tie->evidence();
        }

        return $evidence !== []
            ? $evidence
            : throw new ModelRefused([
                'No column of the data is called like a variable of the model. Say which is which: --match "column=variable". The columns are '.
                implode(
                    ', ',
                    array_map(static fn (DataSeries $s): string => '`'.$s->label().'`', array_slice($table->series, 0, 20)),
                ).
                '.',
            ]);
    }

    /**
     * @param  resource  $err
     * @return list<array{DataSeries, string}> series and keys
     */
    private static function tied(Arguments $arguments, Analysis $analysis, DataTable $table, mixed $err): array
    {
        $matching = new Matching($analysis);
        $said = self::said($arguments, $analysis, $table, $matching);
        $tied = [];
        foreach ($table->series as $i => $series) {
            $key = $said[$i] ?? $matching->find($series);
            if ($key === null) {
                fwrite($err, "Nothing in the model is called `{$series->label()}`; it is not compared.\n");
            } else {
                $tied[] = [$series, $key];
            }
        }

        return $tied;
    }

    /** @return array<int, string> keys by number of the series */
    private static function said(Arguments $arguments, Analysis $analysis, DataTable $table, Matching $matching): array
    {
        $said = [];
        $labels = array_map(static fn (DataSeries $s): string => $s->label(), $table->series);
        foreach ($arguments->all('match') as $match) {
            $at = strpos($match, '=');
            if ($at === false) {
                throw new UsageError("--match takes \"column=variable\", not `$match`.");
            }
            [$column, $variable] = [trim(substr($match, 0, $at)), trim(substr($match, $at + 1))];
            $key =
                $matching->named($variable) ??
                throw new UsageError("The model has no variable `$variable`.".Nearest::question($variable, $analysis->model->names()));
            $found = array_filter(
                $table->series,
                static fn (DataSeries $s): bool => in_array(Name::key($column), [Name::key($s->label()), Name::key($s->name)], true),
            );
            if ($found === []) {
                throw new UsageError("The data have no column `$column`.".Nearest::question($column, $labels));
            }
            $said += array_fill_keys(array_keys($found), $key);
        }

        return $said;
    }

    /**
     * @param  list<Evidence>  $evidence
     * @param  array<list<float|null>>  $simulated  at its times
     * @return list<array<string, string|int|float|null>>
     */
    public static function compared(array $evidence, Analysis $analysis, array $simulated): array
    {
        return array_map(
            static fn (Evidence $e, array $at): array => [
                'column' => $e->label,
                'variable' => $analysis->nameOf($e->key),
                ...Comparison::of($e->values, $at)->toRecord(),
            ],
            $evidence,
            $simulated,
        );
    }

    /**
     * @param  list<array<string, string|int|float|null>>  $series
     * @return \Generator<int, string>
     */
    public static function comparedLines(array $series): \Generator
    {
        $shown = static fn (mixed $v): string => is_float($v) ? sprintf('%.4g', $v) : (is_int($v) ? (string) $v : '–');
        foreach ($series as $s) {
            yield "{$s['column']} and {$s['variable']}: ";
            $words = [
                'n' => 'n',
                'r2' => 'R²',
                'rmse' => 'RMSE',
                'mae' => 'MAE',
                'mape' => 'MAPE %',
                'mean_error' => 'mean error',
                'bias' => 'bias',
                'variation' => 'variation',
                'covariation' => 'covariation',
            ];
            yield implode(', ', array_map(static fn (string $k, string $w): string => "$w {$shown($s[$k])}", array_keys($words), $words)).
                "\n";
        }
    }
}
