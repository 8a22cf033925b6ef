<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Problem\Shown;

/** When a run starts and ends, how it steps, and which moments it keeps. All times in `unit`. */
final readonly class TimeSettings
{
    /** Largest deviation from a whole number of steps that is taken for rounding, in steps. */
    private const TOLERANCE = 1e-6;

    public const MOST_STEPS = 50_000_000;

    public const MOST_SAVED = 200_000;

    public function __construct(
        public float $start = 0.0,
        public float $end = 100.0,
        public float $step = 0.25,
        public string $unit = 'year',
        public Method $method = Method::RungeKutta4,
        /** Time between saved moments; null means every step. */
        public ?float $saveEvery = null,
        /** The calendar date of the start, as YYYY-MM-DD; plots then show dates. */
        public ?string $startDate = null,
        /** For methods that choose their steps: the largest error of a step, as a share of a stock's value. */
        public float $tolerance = 1e-6,
        /** The same in units of the stocks, which matters where they are near zero. */
        public float $absoluteTolerance = 1e-9,
    ) {
    }

    /** How many steps lead from start to end; 0 where there is no such step. */
    public function steps(): int
    {
        return $this->step <= 0.0 || ! is_finite($this->step) ? 0 : (int) round(($this->end - $this->start) / $this->step);
    }

    /** How many steps lie between two saved moments. */
    public function stepsPerSave(): int
    {
        return $this->saveEvery === null || $this->step <= 0.0 ? 1 : max(1, (int) round($this->saveEvery / $this->step));
    }

    /** How many moments are kept, start and end included. */
    public function savedCount(): int
    {
        return (int) ceil($this->steps() / $this->stepsPerSave()) + 1;
    }

    /** The moment after so many steps: never added up, and exactly the end at the last. */
    public function timeAt(int $step): float
    {
        return $step === $this->steps() ? $this->end : $this->start + $step * $this->step;
    }

    /** @return list<float> the saved moments */
    public function savedTimes(): array
    {
        $steps = $this->steps();
        $times = [];
        for ($i = 0; $i < $steps; $i += $this->stepsPerSave()) {
            $times[] = $this->timeAt($i);
        }
        $times[] = $this->end;

        return $times;
    }

    /** @param  array<string, mixed>  $fields */
    public function with(array $fields): self
    {
        return (new \ReflectionClass($this))->newInstanceArgs([...get_object_vars($this), ...$fields]);
    }

    /** @return list<Problem> empty when a run can be made */
    public function problems(): array
    {
        $say = static fn (string $field, string $sentence): array => [new Problem('time.'.$field, $sentence, null, $field)];
        foreach (
            [
                'start' => $this->start,
                'end' => $this->end,
                'step' => $this->step,
                'saveEvery' => $this->saveEvery ?? 1.0,
            ] as $field => $value
        ) {
            if (! is_finite($value) || abs($value) > 1e15) {
                return $say($field, 'Times are numbers of at most fifteen digits.');
            }
        }
        if (trim($this->unit) === '' || mb_strlen($this->unit) > 40) {
            return $say('unit', 'Give the time unit as a word, such as year, month, week or day.');
        }
        if ($this->end <= $this->start) {
            return $say(
                'end',
                'The run has to end after it starts: the end, '.
                    Shown::number($this->end).
                    ', must be larger than the start, '.
                    Shown::number($this->start).
                    '.',
            );
        }
        if ($this->step <= 0) {
            return $say('step', 'The time step must be larger than zero.');
        }
        if (
            ! ($this->tolerance >= 1e-13 && $this->tolerance <= 0.1) ||
            ! ($this->absoluteTolerance >= 0.0 && $this->absoluteTolerance < INF)
        ) {
            return $say(
                'tolerance',
                'The tolerance is a share from 1e-13 to 0.1, such as 1e-6; the absolute one is a number from 0 up, such as 1e-9.',
            );
        }
        if ($this->startDate !== null && ! self::isDate($this->startDate)) {
            return $say('startDate', 'Give the date of the start as year, month and day: 2031-04-01.');
        }
        $span = $this->end - $this->start;
        $ratio = $span / $this->step;
        if ($ratio > self::MOST_STEPS) {
            return $say(
                'step',
                'From '.
                    Shown::number($this->start).
                    ' to '.
                    Shown::number($this->end).
                    ' this step makes more than '.
                    number_format(self::MOST_STEPS).
                    ' steps. Choose a longer step or a shorter span.',
            );
        }
        if ($ratio < 0.5 || abs($ratio - round($ratio)) > self::TOLERANCE) {
            $nearest = $span / max(1.0, round($ratio));

            return $say(
                'step',
                'The span of '.
                    Shown::number($span).
                    ' is no whole number of steps of '.
                    Shown::number($this->step).
                    '. The nearest step that fits is '.
                    Shown::number($nearest).
                    '.',
            );
        }
        if ($this->start + $this->step === $this->start || $this->end - $this->step === $this->end) {
            return $say(
                'step',
                'This step is too small beside the times themselves to be told apart. Start nearer to zero or choose a longer step.',
            );
        }
        if ($this->saveEvery !== null) {
            $saves = $this->saveEvery / $this->step;
            if ($saves < 1 - self::TOLERANCE || abs($saves - round($saves)) > self::TOLERANCE * max(1.0, $saves)) {
                $nearest = $this->step * max(1.0, round($saves));

                return $say(
                    'saveEvery',
                    'Values can be saved only where a step ends: save every '.
                        Shown::number($nearest).
                        ' instead of '.
                        Shown::number($this->saveEvery).
                        '.',
                );
            }
            if ($this->saveEvery > $span) {
                return $say('saveEvery', 'Save at least once in the span of '.Shown::number($span).'.');
            }
        }
        if ($this->savedCount() > self::MOST_SAVED) {
            return $say(
                'saveEvery',
                'These settings keep '.
                    number_format($this->savedCount()).
                    ' moments; at most '.
                    number_format(self::MOST_SAVED).
                    ' can be kept. Save less often.',
            );
        }

        return [];
    }

    private static function isDate(string $text): bool
    {
        return preg_match('/^(\d{4})-(\d\d)-(\d\d)$/D', $text, $m) === 1 && checkdate((int) $m[2], (int) $m[3], (int) $m[1]);
    }

    /** @return array<string, mixed> */
    public function toRecord(): array
    {
        $record = [
            'start' => $this->start,
            'end' => $this->end,
            'step' => $this->step,
            'unit' => $this->unit,
            'method' => $this->method->value,
        ];

        $default = new self();
        foreach (['saveEvery', 'startDate', 'tolerance', 'absoluteTolerance'] as $field) {
            if ($this->$field !== $default->$field) {
                $record[$field] = $this->$field;
            }
        }

        return $record;
    }

    /** @param  array<string, mixed>  $record with the types that toRecord gives */
    public static function fromRecord(array $record): self
    {
        $given = array_intersect_key(
            $record,
            array_flip(['start', 'end', 'step', 'unit', 'saveEvery', 'startDate', 'tolerance', 'absoluteTolerance']),
        );
        if (isset($record['method']) && is_string($record['method'])) {
            $given['method'] = Method::from($record['method']);
        }

        return (new self())->with(array_map(static fn (mixed $v): mixed => is_int($v) ? (float) $v : $v, $given));
    }
}
