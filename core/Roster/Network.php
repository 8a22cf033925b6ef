<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Roster;

/**
 * Who is related to whom: pairs of numbers of members (from whom, to whom, and the weight), and the same in rows by place.
 *
 * @phpstan-type Pairs array{list<int>, list<int>, list<float>}
 */
final class Network
{
    /**
     * Without the pairs of those who are gone.
     *
     * @param  list<int>  $who  the number of the member at each place
     * @param  int  $count  how many of these are there
     * @param  Pairs  $pairs
     * @param  array<int, float>  $waiting  by number, who is still to come
     * @return Pairs
     */
    public static function among(array $who, int $count, array $pairs, array $waiting): array
    {
        $there = $waiting;
        for ($n = 0; $n < $count; $n++) {
            $there[$who[$n]] = 0.0;
        }
        [$ones, $twos, $weights] = $pairs;
        $kept = [[], [], []];
        foreach ($ones as $k => $one) {
            if (isset($there[$one], $there[$twos[$k]])) {
                $kept[0][] = $one;
                $kept[1][] = $twos[$k];
                $kept[2][] = $weights[$k];
            }
        }

        return $kept;
    }

    /**
     * For the member at each place, where its row begins; then the places of those that lead to it, row by row; and the weights.
     *
     * @param  list<int>  $who
     * @param  Pairs  $pairs
     * @return array{list<int>, list<int>, list<float>}
     */
    public static function rows(array $who, int $count, array $pairs): array
    {
        $place = [];
        for ($n = 0; $n < $count; $n++) {
            $place[$who[$n]] = $n;
        }
        [$ones, $twos, $weights] = $pairs;
        $begins = array_fill(0, $count + 1, 0);
        foreach ($twos as $k => $two) {
            if (isset($place[$two], $place[$ones[$k]])) {
                $begins[$place[$two] + 1]++;
            }
        }
        for ($n = 1; $n <= $count; $n++) {
            $begins[$n] += $begins[$n - 1];
        }
        $next = $begins;
        $with = $begins[$count] === 0 ? [] : array_fill(0, $begins[$count], 0);
        $weight = $with === [] ? [] : array_fill(0, $begins[$count], 0.0);
        foreach ($twos as $k => $two) {
            if (isset($place[$two], $place[$ones[$k]])) {
                $at = $next[$place[$two]]++;
                $with[$at] = $place[$ones[$k]];
                $weight[$at] = $weights[$k];
            }
        }

        return [array_values($begins), array_values($with), array_values($weight)];
    }
}
