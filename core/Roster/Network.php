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
     * @param  array<int, float>  $ones  by number, who is there or still to come of those who are looked at
     * @param  array<int, float>  $twos  of those who look
     * @param  Pairs  $pairs
     * @return Pairs
     */
    public static function among(array $ones, array $twos, array $pairs): array
    {
        $kept = [[], [], []];
        foreach ($pairs[0] as $k => $one) {
            if (isset($ones[$one], $twos[$pairs[1][$k]])) {
                $kept[0][] = $one;
                $kept[1][] = $pairs[1][$k];
                $kept[2][] = $pairs[2][$k];
            }
        }

        return $kept;
    }

    /**
     * By number, those of a roster who are there or still to come.
     *
     * @param  list<int>  $who  the number of the member at each place
     * @param  int  $count  how many of these are there
     * @param  array<int, float>  $waiting  by number, who is still to come
     * @return array<int, float>
     */
    public static function known(array $who, int $count, array $waiting): array
    {
        for ($n = 0; $n < $count; $n++) {
            $waiting[$who[$n]] = 0.0;
        }

        return $waiting;
    }

    /**
     * For each who looks, at its place, where its row begins; then the places of those it looks at, row by row; and the weights.
     *
     * @param  list<int>  $ones  the numbers of those who are looked at, by place
     * @param  int  $all  how many of these are there
     * @param  list<int>  $twos  of those who look
     * @param  Pairs  $pairs
     * @return array{list<int>, list<int>, list<float>}
     */
    public static function rows(array $ones, int $all, array $twos, int $count, array $pairs): array
    {
        [$from, $to] = [self::places($ones, $all), self::places($twos, $count)];
        $begins = array_fill(0, $count + 1, 0);
        foreach ($pairs[1] as $k => $two) {
            if (isset($to[$two], $from[$pairs[0][$k]])) {
                $begins[$to[$two] + 1]++;
            }
        }
        for ($n = 1; $n <= $count; $n++) {
            $begins[$n] += $begins[$n - 1];
        }
        $next = $begins;
        $with = $begins[$count] === 0 ? [] : array_fill(0, $begins[$count], 0);
        $weight = $with === [] ? [] : array_fill(0, $begins[$count], 0.0);
        foreach ($pairs[1] as $k => $two) {
            if (isset($to[$two], $from[$pairs[0][$k]])) {
                $at = $next[$to[$two]]++;
                $with[$at] = $from[$pairs[0][$k]];
                $weight[$at] = $pairs[2][$k];
            }
        }

        return [array_values($begins), array_values($with), array_values($weight)];
    }

    /**
     * @param  list<int>  $who
     * @return array<int, int> by number
     */
    private static function places(array $who, int $count): array
    {
        $place = [];
        for ($n = 0; $n < $count; $n++) {
            $place[$who[$n]] = $n;
        }

        return $place;
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
        $place = self::places($who, $count);
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
