<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\CleaningStep;
use MerryOrbit\Core\Model\Measured;
use MerryOrbit\Core\Plan\Key;

/** A series tied to a variable of a study: its points at times of the study, in the unit of the variable. */
final readonly class Tie
{
    /**
     * @param  ?string  $of  id of the variable; null for a series of its own
     * @param  list<string>  $at  of a variable along dimensions, the element of each
     * @param  ?float  $factor  from the unit of the series to that of the variable; null where it does not lead there
     * @param  list<array{float, float}>  $points
     * @param  string  $said  what became of the unit
     * @param  list<float>  $ends  when the period of each point ends, where they are of periods
     * @param  list<string>  $cells  where each stands
     * @param  ?CleaningStep  $proposal  what would make its unit fit
     * @param  list<float>  $errors  standard deviations of the points, in the unit of the variable; 0: not known; empty: of none
     */
    private function __construct(
        public DataSeries $series,
        public ?string $of,
        public array $at,
        public ?float $factor,
        public array $points,
        public string $said,
        public array $ends = [],
        public array $cells = [],
        public ?CleaningStep $proposal = null,
        public array $errors = [],
    ) {
    }

    /**
     * @param  string  $key  of the variable, or of one element of it
     * @param  list<float>  $times  of the study, one for each value of the series
     * @param  list<float>  $ends  the ends of the periods that begin there, as many; see DataSeries::$over
     * @param  ?DataSeries  $error  another column of the table, which says how exact this one is, in the same unit
     *
     * @throws TableRefused where that variable is not there
     */
    public static function to(
        Analysis $analysis,
        string $key,
        DataSeries $series,
        array $times,
        array $ends = [],
        ?DataSeries $error = null,
    ): self {
        $owner = Key::ownerOf($key);
        $element = $analysis->model->element($owner);
        if ($element === null || $analysis->positions->place($key) === null) {
            throw TableRefused::because('What `'.$series->label().'` was tied to is not there any more. Choose another variable.');
        }
        $conversion = new Conversion($analysis->model->sameUnits);
        $factor = $conversion->factor($series->unit, $element->unit);
        $said = match (true) {
            $factor === null => "`$series->unit` does not lead to `$element->unit` of `$element->name`: the numbers are taken as they are",
            $factor === 1.0 => $series->unit === '' || $element->unit === '' ? 'the numbers are taken as they are' : 'same unit',
            $factor < 1.0 => '÷ '.Grid::text(round(1.0 / $factor, 9)).", in $element->unit",
            default => '× '.Grid::text(round($factor, 9)).", in $element->unit",
        };

        return new self(
            $series,
            $owner,
            $analysis->positions->elements($key),
            $factor,
            self::pointsOf($series, $times, $factor ?? 1.0),
            $said,
            $series->over === '' ? [] : self::where($series, $ends),
            self::where($series, $series->cells),
            proposal: $factor === null ? self::proposal($conversion, $series, $element->unit, $analysis->model->time->unit) : null,
            errors: $error === null
                ? []
                : self::where($series, array_map(static fn (?float $v): float => abs(($v ?? 0.0) * ($factor ?? 1.0)), $error->values)),
        );
    }

    /** Amounts of periods where the variable is a rate, or rates where it is an amount: the step that makes the one the other. */
    private static function proposal(Conversion $conversion, DataSeries $series, string $unit, string $time): ?CleaningStep
    {
        if ($series->unit === '' || trim($time) === '') {
            return null;
        }
        if ($conversion->factor("$series->unit/$time", $unit) !== null) {
            return new CleaningStep('rate', [$series->name], $time);
        }
        foreach ([$time, 'year', 'month', 'week', 'day'] as $per) {
            if (
                str_ends_with($series->unit, "/$per") &&
                $conversion->factor(substr($series->unit, 0, -strlen("/$per")), $unit) !== null
            ) {
                return new CleaningStep('amount', [$series->name], $per);
            }
        }

        return null;
    }

    /**
     * A series of the model for itself.
     *
     * @param  list<float>  $times
     */
    public static function alone(DataSeries $series, array $times): self
    {
        return new self($series, null, [], 1.0, self::pointsOf($series, $times, 1.0), 'to be named in formulas, or to drive a variable');
    }

    /**
     * @param  list<float>  $times
     * @return list<array{float, float}>
     */
    private static function pointsOf(DataSeries $series, array $times, float $factor): array
    {
        $points = [];
        foreach ($series->values as $i => $value) {
            if ($value !== null) {
                $points[] = [$times[$i], $value * $factor];
            }
        }

        return $points;
    }

    /**
     * @template T
     *
     * @param  list<T>  $list  one for each time, or none
     * @return list<T> those where there is a value
     */
    private static function where(DataSeries $series, array $list): array
    {
        return array_values(array_filter($list, static fn (int $i): bool => $series->values[$i] !== null, ARRAY_FILTER_USE_KEY));
    }

    public function evidence(): Evidence
    {
        $key = $this->of === null ? '' : (new Key($this->of, '', $this->at))->text();

        $over = $this->ends === [] ? '' : $this->series->over;

        return new Evidence(
            $this->series->label(),
            $key,
            array_column($this->points, 0),
            array_column($this->points, 1),
            $over,
            $this->ends,
        );
    }

    /** Why it cannot be kept; null if it can. */
    public function refusal(): ?string
    {
        $label = $this->series->label();

        return match (true) {
            $this->points === [] => "`$label` holds no value.",
            count($this->points) > Measured::MOST_POINTS => "`$label` has ".
                number_format(count($this->points)).
                ' values; '.
                number_format(Measured::MOST_POINTS).
                ' can be kept of one series. Take means over longer times first.',
            default => null,
        };
    }

    /**
     * What became of points that were kept before, of the same column and variable.
     *
     * @return array{fresh: int, changed: list<array{float, float, float}>, gone: list<array{float, float}>} how many are new; time, value
     *   before and now of those that changed; time and value of those that are gone
     */
    public function since(Measured $before): array
    {
        $known = array_column(array_map(static fn (array $p): array => [json_encode($p[0]), $p[1]], $before->points), 1, 0);
        $changed = [];
        $fresh = 0;
        foreach ($this->points as [$time, $value]) {
            $at = (string) json_encode($time);
            if (! array_key_exists($at, $known)) {
                $fresh++;
            } elseif (abs($known[$at] - $value) > 1e-12 * max(abs($known[$at]), abs($value))) {
                $changed[] = [$time, $known[$at], $value];
            }
        }
        $there = array_fill_keys(array_map(static fn (array $p): string => (string) json_encode($p[0]), $this->points), true);
        $gone = array_values(array_filter($before->points, static fn (array $p): bool => ! isset($there[(string) json_encode($p[0])])));

        return ['fresh' => $fresh, 'changed' => $changed, 'gone' => $gone];
    }
}
