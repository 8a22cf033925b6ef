<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Experiment;

use MerryOrbit\Core\Model\Mapping;

/**
 * What a picture of the members of a roster shows: how many there were, one variable of each as a thin line and as percentiles of all who
 * were there, who came and who left; and, at one moment, what each has.
 */
final readonly class MusterView
{
    /** Moments along a screen. */
    private const MOMENTS = 240;

    /** Lines that can still be told apart. */
    private const LIVES = 250;

    /** So many who keep others waiting are told at a moment. */
    private const HOLDING = 3;

    /** Numbers of one variable that a browser is sent. */
    private const MOST_VALUES = 1_000_000;

    public function __construct(private Muster $muster)
    {
    }

    /**
     * @param  string  $key  of a variable of each member
     * @return array<string, mixed>
     */
    public function over(string $key): array
    {
        $all = $this->muster->moments($key);
        $stride = max(1, (int) ceil(count($all) / self::MOMENTS));
        $moments = array_values(array_filter($all, static fn (int $i): bool => $i % $stride === 0, ARRAY_FILTER_USE_KEY));
        $times = $this->muster->run->times();
        $members = $this->muster->members();
        // Of very many the first are drawn: a line more than these would not be seen.
        $drawn = array_slice(array_keys($members), 0, self::LIVES);
        $lives = array_fill_keys($drawn, []);
        $count = $low = $middle = $high = [];
        foreach ($moments as $i => $moment) {
            $values = array_filter($this->muster->at($key, $moment), is_finite(...));
            $count[] = count($this->muster->present($moment));
            foreach (array_intersect_key($values, $lives) as $number => $value) {
                $lives[$number][$i] = $value;
            }
            sort($values);
            $low[] = self::quantile($values, 0.1);
            $middle[] = self::quantile($values, 0.5);
            $high[] = self::quantile($values, 0.9);
        }
        $came = array_count_values(array_filter(array_column($members, 'how'), static fn (string $w): bool => $w !== ''));
        $left = array_count_values(array_filter(array_column($members, 'why'), static fn (string $w): bool => $w !== ''));

        return [
            'roster' => $this->muster->of->id,
            'name' => $this->muster->of->name,
            'columns' => $this->columns(),
            'belongs' => array_map(
                static fn (Mapping $m): array => ['id' => $m->id, 'name' => $m->name],
                array_values($this->muster->belongs()),
            ),
            'of' => $key,
            'times' => array_map(static fn (int $m): float => $times[$m], $moments),
            'kept' => ['saved' => count($times), 'whole' => count($this->muster->moments())],
            'count' => $count,
            'low' => $low,
            'middle' => $middle,
            'high' => $high,
            'members' => array_map(
                static fn (int $number, array $m): array => ['number' => $number, ...$m],
                array_keys($members),
                array_values($members),
            ),
            'lives' => array_map(
                static fn (int $number, array $life): array => [
                    'number' => $number,
                    'first' => (int) (array_key_first($life) ?? 0),
                    'values' => array_values($life),
                ],
                array_keys($lives),
                array_values($lives),
            ),
            'waits' => $this->waits($lives, array_map(static fn (int $m): float => $times[$m], $moments)),
            'came' => (object) $came,
            'left' => (object) $left,
            'fault' => $this->muster->run->fault?->sentence(),
        ];
    }

    /**
     * Of what holds or does not hold, where some wait for others: the chain that decides, when each was through, and at each moment who
     * keeps others waiting.
     *
     * @param  array<int, array<int, float>>  $lives
     * @param  list<float>  $times
     * @return ?array<string, mixed>
     */
    private function waits(array $lives, array $times): ?array
    {
        $of = $this->muster->of->id;
        $relations = array_filter(
            $this->muster->analysis->model->mappings(),
            static fn (Mapping $m): bool => $m->from === $of && $m->to === $of,
        );
        $relation = array_values($relations)[0] ?? null;
        foreach ($lives as $life) {
            if (array_filter($life, static fn (float $v): bool => $v !== 0.0 && $v !== 1.0) !== []) {
                return null;
            }
        }
        $number = array_flip(array_column($this->muster->members(), 'id'));
        $pairs = [];
        foreach ($relation->pairs ?? [] as [$one, $then]) {
            if (isset($number[$one], $number[$then])) {
                $pairs[] = [$number[$one], $number[$then]];
            }
        }
        $waiting = Waiting::of($lives, $times, $pairs);
        $through = [];
        foreach ($waiting->through as $who => $when) {
            $through[] = ['number' => $who, 'time' => $when];
        }

        return [
            'by' => $relation->name ?? '',
            'chain' => $waiting->chain(),
            'through' => $through,
            'holding' => array_map(static fn (float $t): array => array_slice($waiting->at($t), 0, self::HOLDING), $times),
        ];
    }

    /** @return list<array{key: string, name: string, unit: string, steady: bool}> */
    private function columns(): array
    {
        $model = $this->muster->analysis->model;
        $columns = [];
        foreach ($this->muster->columns() as $key => $name) {
            $isSteady = isset($this->muster->analysis->parameters[$key]);
            $columns[] = ['key' => $key, 'name' => $name, 'unit' => trim($model->element($key)->unit ?? ''), 'steady' => $isSteady];
        }

        return $columns;
    }

    /** @return array<string, mixed> */
    public function at(float $time): array
    {
        $moment = $this->muster->momentAt($time);
        $finite = static fn (?float $v): ?float => $v !== null && is_finite($v) ? $v : null;

        return [
            'time' => $this->muster->run->times()[$moment] ?? $time,
            'rows' => array_map(
                static fn (array $row): array => [
                    'number' => $row['number'],
                    'name' => $row['name'],
                    'from' => $row['from'],
                    'how' => $row['how'],
                    'belongs' => (object) $row['belongs'],
                    'values' => (object) array_map($finite, $row['values']),
                ],
                $this->muster->rows($moment),
            ),
        ];
    }

    /**
     * Some variables of all members at all moments, for a picture in which they move. What a member does not have, or not then, is NaN.
     * Numbers come as 32-bit floats, the first byte the least, in base 64: by moment, and within it by member.
     *
     * @param  list<string>  $keys  variables of each member
     * @return array<string, mixed>
     */
    public function moving(array $keys): array
    {
        $members = $this->muster->members();
        $all = array_values(array_intersect(...array_map($this->muster->moments(...), $keys)));
        $most = max(2, min(self::MOMENTS, intdiv(self::MOST_VALUES, max(1, count($members)))));
        $stride = max(1, (int) ceil(count($all) / $most));
        $moments = array_values(array_filter($all, static fn (int $i): bool => $i % $stride === 0, ARRAY_FILTER_USE_KEY));
        $times = $this->muster->run->times();
        $nothing = array_fill_keys(array_keys($members), NAN);
        $belonging = array_map($this->muster->belonging(...), $this->muster->belongs());

        return [
            'roster' => $this->muster->of->id,
            'times' => array_map(static fn (int $m): float => $times[$m], $moments),
            'names' => array_column($members, 'name'),
            'from' => array_column($members, 'from'),
            'to' => array_column($members, 'to'),
            'belongs' => (object) array_map(
                static fn (array $of): array => array_values(array_replace(array_map(static fn (): string => '', $members), $of)),
                $belonging,
            ),
            'values' => (object) array_map(
                fn (string $key): string => base64_encode(
                    implode(
                        '',
                        array_map(
                            fn (int $m): string => pack('g*', ...array_values(array_replace($nothing, $this->muster->at($key, $m)))),
                            $moments,
                        ),
                    ),
                ),
                array_combine($keys, $keys),
            ),
        ];
    }

    /** @param  list<float>  $sorted */
    private static function quantile(array $sorted, float $share): ?float
    {
        if ($sorted === []) {
            return null;
        }
        $at = $share * (count($sorted) - 1);
        $below = (int) floor($at);

        return $sorted[$below] + ($at - $below) * ($sorted[min($below + 1, count($sorted) - 1)] - $sorted[$below]);
    }
}
