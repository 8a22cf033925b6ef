<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\Expectation;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Problem\Shown;

/** An expectation as a sentence: "When boats is halved, visitors must never be more than without it." */
final readonly class ExpectationWords
{
    private const FACTORS = ['0' => 'is 0', '0.5' => 'is halved', '2' => 'is doubled', '10' => 'is ten times as much'];

    public static function of(Analysis $analysis, Expectation $e): string
    {
        $conditions = self::conditions($analysis, $e);
        $subject = $e->of->text($analysis->model->nameOf(...));
        $n = Shown::brief(...);
        $unit = $analysis->model->time->unit;
        $time = static fn (?float $t): string => trim("$unit ".Shown::number($t ?? 0.0));
        $percent = $n(100.0 * $e->share).' %';
        $off = $e->share > 0.0 ? " by more than $percent" : '';
        $shape = match ($e->shape) {
            'never-below' => "$subject must never be below {$n($e->value)}",
            'never-above' => "$subject must never be above {$n($e->value)}",
            'within' => "$subject must stay within {$n($e->value)} and {$n($e->high)}",
            'near' => "$subject must stay within $percent of {$e->other->text($analysis->model->nameOf(...))}",
            'always' => "$subject must always hold",
            'never' => "$subject must never hold",
            'reaches' => "$subject must reach {$n($e->value)}",
            'rises' => "$subject must rise and never go down again$off",
            'falls' => "$subject must fall and never go up again$off",
            'swings' => "$subject must turn round at least {$n($e->value)} times",
            'rests' => "$subject must come to rest within $percent by ".($e->until === null ? 'the end' : $time($e->until)),
            'peaks' => "$subject must be greatest ".self::span($e, $time).($e->share > 0.0 ? " and fall by at least $percent" : ''),
            'never-more' => "$subject must never be more than without that$off",
            'never-less' => "$subject must never be less than without that$off",
            default => 'the run must come to its end, and no stock fall below 0',
        };
        $span =
            in_array($e->shape, ['rests', 'peaks', 'sound'], true) || ($e->from === null && $e->until === null)
                ? ''
                : ' '.self::span($e, $time);

        $when = $conditions === [] ? '' : 'when '.implode(' and ', $conditions).', ';

        return ucfirst(self::runs($e).$when.$shape.$span).'.';
    }

    private static function runs(Expectation $e): string
    {
        $part = Shown::brief(100.0 * $e->part);

        return match (true) {
            $e->runs === 0 => '',
            $e->part >= 1.0 => 'in each of '.number_format($e->runs).' runs under uncertainty, ',
            default => "in $part % of ".number_format($e->runs).' runs under uncertainty, ',
        };
    }

    /** @param  \Closure(?float): string  $time */
    private static function span(Expectation $e, \Closure $time): string
    {
        return match (true) {
            $e->from !== null && $e->until !== null => "between {$time($e->from)} and {$time($e->until)}",
            $e->from !== null => "from {$time($e->from)} on",
            $e->until !== null => "until {$time($e->until)}",
            default => 'somewhere',
        };
    }

    /** @return list<string> */
    private static function conditions(Analysis $analysis, Expectation $e): array
    {
        $name = static fn (string $key): string => $analysis->model->element(Key::ownerOf($key)) === null
            ? 'something that is gone'
            : $analysis->nameOf($key);
        $said = [];
        foreach ($e->when->parameters as $key => $value) {
            $said[] = "{$name((string) $key)} is ".Shown::brief($value);
        }
        foreach ($e->factors as $key => $factor) {
            $said[] =
                "{$name((string) $key)} ".(self::FACTORS[Shown::number($factor)] ?? 'is '.Shown::brief($factor).' times as much');
        }
        foreach ($e->starts as $key => $value) {
            $said[] = "{$name((string) $key)} starts at ".Shown::brief($value);
        }
        foreach ($e->when->grips as $key => $grip) {
            $said[] =
                "{$name((string) $key)} is ".
                (isset($grip->values['value']) && $grip->signal->value === 'constant'
                    ? 'held at '.Shown::brief($grip->values['value'])
                    : "taken by hand ({$grip->signal->value})");
        }
        if ($e->when->time !== [] || $e->when->curves !== [] || $e->when->limits !== []) {
            $said[] = 'the time settings, curves or limits are others';
        }

        return $said;
    }
}
