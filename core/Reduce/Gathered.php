<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Reduce;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\Dimension;
use MerryOrbit\Core\Model\Dimensions;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Simulate\Trajectory;

/**
 * Columns of a thing that extends over dimensions as somebody looks at it: along each of its dimensions one element, or the sum, mean,
 * least or greatest over all. Such a column is called by the thing's id and, in brackets, for each of its dimensions in order the id of
 * an element or a word with a star: `oysters[*sum,seed]`.
 */
final readonly class Gathered
{
    private Dimensions $dimensions;

    private function __construct(private Trajectory $run, private Analysis $analysis)
    {
        $this->dimensions = $analysis->model->dimensions();
    }

    /**
     * A run with columns besides its own.
     *
     * @param  list<string>  $keys
     * @return array{Trajectory, array<string, string>} and, by key, why something cannot be told
     */
    public static function added(Trajectory $run, Analysis $analysis, array $keys): array
    {
        $self = new self($run, $analysis);
        $columns = $steady = $untold = [];
        foreach (array_unique($keys) as $key) {
            if ($run->has($key)) {
                continue;
            }
            $made = $self->made($key);
            if (is_string($made)) {
                $untold[$key] = $made;
            } elseif (is_float($made)) {
                $steady[$key] = $made;
            } else {
                $columns[$key] = $made;
            }
        }

        return [$columns === [] && $steady === [] ? $run : $run->with($columns, $steady), $untold];
    }

    /** @return list<float>|float|string the column, the number that stays, or why there is none */
    private function made(string $key): array|float|string
    {
        if (preg_match('/^([^\[]+)\[([^\]]*)\]$/D', $key, $parts) !== 1 || ! isset($this->analysis->model->elements[$parts[1]])) {
            return 'There is no such thing any more.';
        }
        [, $id, $at] = $parts;
        $name = $this->analysis->model->elements[$id]->name;
        $over = $this->analysis->extents[$id] ?? [];
        $looks = explode(',', $at);
        if (count($over) !== count($looks)) {
            return "`$name` extends over other dimensions by now.";
        }
        $words = array_values(array_unique(array_filter($looks, static fn (string $l): bool => str_starts_with($l, '*'))));
        $refusal = self::refusal($words) ?? $this->missing($name, $over, $looks);
        if ($refusal !== null) {
            return $refusal;
        }
        $keys = $this->keys($id, $over, $looks);
        if ($keys === [] || array_filter($keys, $this->run->has(...)) !== $keys) {
            return "`$name` has no numbers there in this run.";
        }

        return $this->gather($keys, $words, $over, $looks);
    }

    /**
     * Sums and means can be taken in any order, as can the least of the least; other pairs cannot.
     *
     * @param  list<string>  $words
     */
    private static function refusal(array $words): ?string
    {
        foreach ($words as $word) {
            if (! in_array(substr($word, 1), Dimension::GATHERED, true)) {
                return 'A dimension is looked at by one of its elements, or by '.implode(', ', Dimension::GATHERED).'.';
            }
        }
        $isLinear = array_diff($words, ['*sum', '*mean']) === [];

        return $isLinear || count($words) === 1
            ? null
            : 'The '.
                    implode(' and the ', array_map(static fn (string $w): string => substr($w, 1), $words)).
                    ' over different dimensions would be another number in another order. Look at one element of one of them.';
    }

    /**
     * @param  list<string>  $over
     * @param  list<string>  $looks
     */
    private function missing(string $name, array $over, array $looks): ?string
    {
        foreach ($looks as $i => $look) {
            if (str_starts_with($look, '*') || $this->dimensions->place($over[$i], $look) !== null) {
                continue;
            }
            $element = $this->dimensions->elementName($over[$i], $look);

            return "`$name` has nothing for `$element`, which does not belong to `{$this->dimensions->nameOf($over[$i])}`".
                ($this->dimensions->isLimited($over[$i]) ? ' as it is limited.' : '.');
        }

        return null;
    }

    /**
     * The keys of all elements that are looked at, in their order.
     *
     * @param  list<string>  $over
     * @param  list<string>  $looks
     * @return list<string>
     */
    private function keys(string $id, array $over, array $looks): array
    {
        $all = $this->analysis->positions->of($id);
        $places = [0];
        foreach ($over as $i => $dimension) {
            $size = $this->dimensions->size($dimension);
            $own = str_starts_with($looks[$i], '*') ? range(0, $size - 1) : [(int) $this->dimensions->place($dimension, $looks[$i])];
            $next = [];
            foreach ($places as $place) {
                foreach ($own as $one) {
                    $next[] = $place * $size + $one;
                }
            }
            $places = $next;
        }

        return array_values(array_filter(array_map(static fn (int $p): ?string => $all[$p] ?? null, $places), is_string(...)));
    }

    /**
     * Over all elements at once, where a run keeps them so.
     *
     * @param  non-empty-list<string>  $keys
     * @param  list<string>  $words
     * @return list<float>|null null where they are not, or not all are meant
     */
    private function whole(array $keys, array $words, int $divisor): ?array
    {
        $id = Key::ownerOf($keys[0]);
        $moments = $words === [] || count($keys) !== $this->analysis->positions->count($id) ? null : $this->run->moments($id);
        if ($moments === null) {
            return null;
        }

        return match ($words[0]) {
            '*least' => array_map(static fn (array $all): float => $all === [] ? INF : min($all), $moments),
            '*greatest' => array_map(static fn (array $all): float => $all === [] ? -INF : max($all), $moments),
            default => array_map(static fn (array $all): float => array_sum($all) / $divisor, $moments),
        };
    }

    /**
     * @param  non-empty-list<string>  $keys
     * @param  list<string>  $words
     * @param  list<string>  $over
     * @param  list<string>  $looks
     * @return list<float>|float
     */
    private function gather(array $keys, array $words, array $over, array $looks): array|float
    {
        $divisor = 1;
        foreach ($looks as $i => $look) {
            $divisor *= $look === '*mean' ? $this->dimensions->size($over[$i]) : 1;
        }
        $whole = $this->whole($keys, $words, $divisor);
        if ($whole !== null) {
            return $whole;
        }
        $isSteady = array_filter($keys, fn (string $k): bool => $this->run->steadyOf($k) === null) === [];
        $columns = array_map(fn (string $k): array => $isSteady ? [(float) $this->run->steadyOf($k)] : $this->run->column($k), $keys);
        $column = array_shift($columns);
        $join = match ($words[0] ?? '*sum') {
            '*least' => static fn (float $a, float $b): float => $b < $a ? $b : $a,
            '*greatest' => static fn (float $a, float $b): float => $b > $a ? $b : $a,
            default => static fn (float $a, float $b): float => $a + $b,
        };
        foreach ($columns as $other) {
            $column = array_map($join, $column, $other);
        }
        if ($divisor > 1) {
            $column = array_map(static fn (float $v): float => $v / $divisor, $column);
        }

        return $isSteady ? $column[0] : $column;
    }
}
