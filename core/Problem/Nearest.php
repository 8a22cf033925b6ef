<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Problem;

/** Finds the words a person may have meant. */
final class Nearest
{
    /**
     * @param  iterable<string>  $known
     * @return list<string> at most three, nearest first; empty when nothing is near
     */
    public static function names(string $wanted, iterable $known): array
    {
        $wanted = mb_strtolower(mb_substr($wanted, 0, 100));
        $limit = max(1, intdiv(mb_strlen($wanted), 3));
        $found = [];
        foreach ($known as $name) {
            $candidate = mb_strtolower(mb_substr($name, 0, 100));
            $distance = levenshtein($wanted, $candidate);
            if ($distance > $limit && mb_strlen($wanted) > 3 && (str_contains($candidate, $wanted) || str_contains($wanted, $candidate))) {
                $distance = $limit;
            }
            if ($distance <= $limit) {
                $found[$name] = $distance;
            }
        }
        asort($found);

        return array_map(strval(...), array_slice(array_keys($found), 0, 3));
    }

    /**
     * The end of a sentence: " Did you mean `rain`?", or nothing.
     *
     * @param  iterable<string>  $known
     */
    public static function question(string $wanted, iterable $known): string
    {
        $names = self::names($wanted, $known);

        return $names === [] ? '' : ' Did you mean `'.implode('` or `', $names).'`?';
    }
}
