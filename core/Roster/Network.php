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

    /**
     * Without ties that have ended.
     *
     * @param  Pairs  $pairs
     * @param  list<array{int, int}>  $ended  from whom, to whom
     * @param  bool  $both  whether a tie ends both ways
     * @return Pairs
     */
    public static function without(array $pairs, array $ended, bool $both): array
    {
        if ($ended === []) {
            return $pairs;
        }
        $gone = [];
        foreach ($ended as [$one, $two]) {
            $gone["$one $two"] = true;
            if ($both) {
                $gone["$two $one"] = true;
            }
        }
        $kept = [[], [], []];
        foreach ($pairs[0] as $k => $one) {
            if (! isset($gone["$one {$pairs[1][$k]}"])) {
                $kept[0][] = $one;
                $kept[1][] = $pairs[1][$k];
                $kept[2][] = $pairs[2][$k];
            }
        }

        return $kept;
    }

    /**
     * With one more tie for each who seeks one: to whoever of those there, not yet tied to it, has the least draw for it.
     *
     * @param  Pairs  $pairs
     * @param  list<int>  $seeking  numbers
     * @param  list<int>  $who  the number of the member at each place
     * @param  list<string>  $names  what each is known by
     * @param  int  $count  how many of these are there
     * @param  list<int>  $within  where each belongs; empty where it does not matter
     * @param  bool  $both  whether each becomes the other's partner
     * @return Pairs
     */
    public static function tied(
        array $pairs,
        array $seeking,
        array $who,
        array $names,
        int $count,
        array $within,
        bool $both,
        int $seed,
        string $salt,
        int $turn,
    ): array {
        $place = [];
        for ($n = 0; $n < $count; $n++) {
            $place[$who[$n]] = $n;
        }
        $known = [];
        foreach ($pairs[0] as $k => $one) {
            $known["$one {$pairs[1][$k]}"] = true;
        }
        foreach ($seeking as $two) {
            $own = $place[$two] ?? null;
            if ($own === null) {
                continue;
            }
            $chosen = $least = null;
            $begins = "$seed/$salt$names[$own]|";
            for ($n = 0; $n < $count; $n++) {
                if ($n === $own || isset($known["$who[$n] $two"]) || ($within !== [] && $within[$n] !== $within[$own])) {
                    continue;
                }
                // Of bytes that are drawn alike the first decide; as numbers they would take twice as long.
                $draw = hash('xxh3', "$begins$names[$n]/$turn", true);
                if ($least === null || $draw < $least) {
                    [$chosen, $least] = [$who[$n], $draw];
                }
            }
            foreach ($chosen === null ? [] : [[$chosen, $two], ...$both ? [[$two, $chosen]] : []] as [$a, $b]) {
                if (! isset($known["$a $b"])) {
                    $known["$a $b"] = true;
                    $pairs[0][] = $a;
                    $pairs[1][] = $b;
                    $pairs[2][] = 1.0;
                }
            }
        }

        return $pairs;
    }
}
