<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Problem\Shown;

/**
 * A variable taken by hand: its formula is set aside for a signal, always or between two times. What the numbers mean:
 *   before  the value until `at`, and between pulses      value  the value held, reached or swung around
 *   at      when it begins (the shift of a wave)          to     when it ends
 *   amplitude, period of a wave                           width, every  of repeated pulses
 */
final readonly class Grip
{
    public const MOST_POINTS = 500;

    /**
     * @param  string  $element  id, or of one element along dimensions its key `id[north,old]`
     * @param  array<string, float>  $values  by the fields of the signal
     * @param  list<array{float, float}>  $points  of what is drawn, with increasing times
     * @param  ?string  $series  id of the series that is followed
     * @param  ?float  $from  when it takes hold; null from the start on
     * @param  ?float  $until  when it lets go; null for never
     */
    public function __construct(
        public string $element,
        public Signal $signal,
        public array $values = [],
        public array $points = [],
        public ?string $series = null,
        public ?float $from = null,
        public ?float $until = null,
        public bool $on = true,
    ) {
    }

    /**
     * Reads a record such as `{"signal": "step", "values": {"before": 1, "value": 2, "at": 10}, "from": 5}`.
     *
     * @throws NotUnderstood
     */
    public static function read(string $element, mixed $record): self
    {
        $signal = is_array($record) && is_string($record['signal'] ?? null) ? Signal::tryFrom($record['signal']) : null;
        if (! is_array($record) || $signal === null) {
            throw NotUnderstood::because('A grip needs `signal`: one of '.implode(', ', array_column(Signal::cases(), 'value')).'.');
        }
        $given = is_array($record['values'] ?? null) ? $record['values'] : [];
        $values = [];
        foreach ($signal->fields() as $field) {
            $values[$field] = self::number($given[$field] ?? null, "A {$signal->value} needs `$field` as a number.");
        }
        $from = isset($record['from']) ? self::number($record['from'], 'A grip takes hold `from` a time.') : null;
        $until = isset($record['until']) ? self::number($record['until'], 'A grip holds `until` a time.') : null;
        $series = $record['series'] ?? null;
        $grip = new self(
            $element,
            $signal,
            $values,
            self::points($signal, $record['points'] ?? null),
            $signal === Signal::Series && is_string($series) ? $series : null,
            $from,
            $until,
            ($record['on'] ?? true) !== false,
        );
        $refusal = $grip->refusal();

        return $refusal === null ? $grip : throw NotUnderstood::because($refusal);
    }

    private static function number(mixed $value, string $sentence): float
    {
        if ((! is_int($value) && ! is_float($value)) || abs($value) > 1e300) {
            throw NotUnderstood::because($sentence);
        }

        return (float) $value;
    }

    /** @return list<array{float, float}> */
    private static function points(Signal $signal, mixed $points): array
    {
        if ($signal !== Signal::Drawn) {
            return [];
        }
        $sentence = 'A drawn grip needs `points`: pairs of a time and a value, with increasing times.';

        return is_array($points)
            ? array_map(
                static fn (mixed $pair): array => [
                    self::number(is_array($pair) ? $pair[0] ?? null : null, $sentence),
                    self::number(is_array($pair) ? $pair[1] ?? null : null, $sentence),
                ],
                array_values($points),
            )
            : throw NotUnderstood::because($sentence);
    }

    /** Why this is no course, as a sentence; null if it is one. */
    private function refusal(): ?string
    {
        $v = $this->values;

        $overlap = ($v['width'] ?? 1.0) <= 0.0 || ($v['every'] ?? 1.0) < ($v['width'] ?? 1.0);

        return match (true) {
            $this->from !== null && $this->until !== null && $this->until <= $this->from => 'A grip has to let go after it takes hold: '.
                Shown::number($this->until).
                ' is not after '.
                Shown::number($this->from).
                '.',
            $this->signal === Signal::Drawn => count($this->points) > self::MOST_POINTS
                ? 'What is drawn by hand has at most '.self::MOST_POINTS.' points.'
                : (count($this->points) < 2
                    ? 'What is drawn by hand needs at least two points.'
                    : Relation::refusal($this->points)),
            $this->signal === Signal::Series && $this->series === null => 'Choose the series to follow.',
            in_array($this->signal, [Signal::Ramp, Signal::Window], true) && $v['to'] <= $v['at'] => 'It has to end after it begins: '.
                Shown::number($v['to']).
                ' is not after '.
                Shown::number($v['at']).
                '.',
            $this->signal === Signal::Wave && $v['period'] <= 0.0 => 'The period of a wave is larger than zero.',
            $this->signal === Signal::Pulses && $overlap => 'Pulses are wider than nothing and come no closer than they are wide.',
            default => null,
        };
    }

    /** @return array<string, mixed> */
    public function toRecord(): array
    {
        return [
            'signal' => $this->signal->value,
            ...array_filter(
                [
                    'values' => $this->values,
                    'points' => $this->points,
                    'series' => $this->series,
                    'from' => $this->from,
                    'until' => $this->until,
                ],
                static fn (mixed $v): bool => $v !== null && $v !== [],
            ),
            ...$this->on ? [] : ['on' => false],
        ];
    }
}
