<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Expand;

/**
 * The pure steps by which what is no ordinary element becomes such, in their order: each takes what is expanded so far and adds to
 * it by Expanded::with().
 */
final class Expansions
{
    /** @var list<\Closure(Expanded): Expanded> */
    private static array $tried = [];

    /** @return list<\Closure(Expanded): Expanded> */
    public static function all(): array
    {
        return [LedgerExpansion::expand(...), ...self::$tried];
    }

    /**
     * Tries an expansion out while something is done, as tests do.
     *
     * @template T
     *
     * @param  \Closure(Expanded): Expanded  $expansion
     * @param  callable(): T  $work
     * @return T
     */
    public static function with(\Closure $expansion, callable $work): mixed
    {
        self::$tried[] = $expansion;
        try {
            return $work();
        } finally {
            array_pop(self::$tried);
        }
    }
}
