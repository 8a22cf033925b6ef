<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Exchange\ImportLog;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\Shown;

/** Reads when a model of the standard starts and stops, in which steps and by which method. */
final readonly class TimeReader
{
    public function __construct(private XmlNode $root, private ImportLog $log)
    {
    }

    /** @return array<string, mixed> */
    public function read(): array
    {
        $specs = $this->root->child('sim_specs');
        if ($specs === null) {
            $this->log->guessed('sim_specs', 'The file does not say when to start and stop: 0 to 100 in steps of 1 was taken, by Euler.');
            $specs = new XmlNode('sim_specs', '', []);
        } else {
            foreach (['start' => '0', 'stop' => '100'] as $tag => $default) {
                if ($specs->textOf($tag) === null) {
                    $this->log->guessed('sim_specs', "<$tag> is missing; $default was taken.");
                }
            }
        }
        $step = $this->step($specs);
        $start = $this->timeOf($specs, 'start', 0.0);
        $end = $this->timeOf($specs, 'stop', 100.0);
        if ($end <= $start) {
            $this->log->guessed(
                'sim_specs',
                'The file stops at '.
                    Shown::number($end).
                    ', not after its start at '.
                    Shown::number($start).
                    '; it was made to run for 100 steps.',
            );
            $end = $start + 100 * $step;
        }
        if (! is_finite($step) || ! is_finite($end) || ! is_finite($end - $start)) {
            // Each can be a number, and what comes of them none.
            $this->log->guessed('sim_specs', 'Its times reach beyond what numbers hold: 0 to 100 in steps of 1 was taken.');
            [$start, $end, $step] = [0.0, 100.0, 1.0];
        }
        $unit = mb_substr(XmileName::tidy($specs->attribute('time_units') ?? 'month'), 0, 40) ?: 'month';
        $time = [
            'start' => $start,
            'end' => $end,
            'step' => $step,
            'unit' => $unit,
            'method' => $this->method($specs->attribute('method') ?? 'euler'),
        ];
        $save =
            $specs->textOf('savestep') ??
            ($specs->textOf('save_interval') ?? ($specs->attribute('savestep') ?? $specs->attribute('save_interval')));
        $every = Numeral::read($save);
        if ($every !== null && $every > 0.0 && abs($every - $step) > 1e-9 * $step) {
            $time['saveEvery'] = $every;
        }
        $specs->noteForeign($this->log, 'sim_specs');
        if ($specs->attribute('pause') !== null || $specs->child('run') !== null) {
            $this->log->noted('sim_specs', 'Pauses and partial runs are not carried over; the whole model runs from start to end.');
        }
        $steps = ($end - $start) / $step;
        if (abs($steps - round($steps)) > 1e-6 && $steps < TimeSettings::MOST_STEPS) {
            $time['end'] = $start + (int) ceil($steps - 1e-6) * $step;
            $this->log->guessed('sim_specs', "The span is no whole number of steps; the run ends at {$time['end']} instead of $end.");
        }

        return $time;
    }

    /** The time step: a number above zero, or its reciprocal. */
    private function step(XmlNode $specs): float
    {
        $step = $this->timeOf($specs, 'dt', 1.0);
        if ($step <= 0.0) {
            $this->log->guessed(
                'sim_specs',
                '<dt> is '.Shown::number($step).', which is no time step: it must be larger than zero. 1 was taken.',
            );

            return 1.0;
        }

        return $specs->child('dt')?->attribute('reciprocal') === 'true' ? 1.0 / $step : $step;
    }

    private function timeOf(XmlNode $specs, string $tag, float $default): float
    {
        $text = $specs->textOf($tag);
        if ($text === null) {
            return $default;
        }
        $number = Numeral::read($text);
        if ($number === null) {
            $this->log->guessed('sim_specs', "<$tag> is `$text`, which is no number; ".Shown::number($default).' was taken.');

            return $default;
        }

        return $number;
    }

    private function method(string $written): string
    {
        $known = Functions::METHODS;
        foreach (array_map(trim(...), explode(',', strtolower($written))) as $i => $name) {
            if (isset($known[$name])) {
                $notes = [
                    'rk2' => 'Runge–Kutta 2 became Heun, one method of that order.',
                    'rk45' => 'The adaptive method became Dormand–Prince 5(4).',
                    'gear' => 'Gear’s method became Rosenbrock 4(3), another one for stiff models.',
                ];
                if (isset($notes[$name]) || $i > 0) {
                    $this->log->noted('sim_specs', $notes[$name] ?? "Of the methods `$written` the first known one was taken, $name.");
                }

                return $known[$name]->value;
            }
        }
        $this->log->guessed('sim_specs', "The method `$written` is not known; Euler was taken.");

        return 'euler';
    }
}
