<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

/** Searches side by side: what all of them ask for next is one batch. */
final class Together
{
    /**
     * @param  list<Search>  $searches
     * @param  list<list<float>>  $starts
     * @param  callable(list<list<float>>): list<?list<float>>  $answer
     * @return list<Found>
     */
    public static function searched(array $searches, array $starts, callable $answer): array
    {
        return self::searchedEach(
            $searches,
            $starts,
            static fn (array $asked): array => $answer(array_map(static fn (array $one): array => $one[1], $asked)),
        );
    }

    /**
     * The same where the answer depends on who asks.
     *
     * @param  list<Search>  $searches
     * @param  list<list<float>>  $starts
     * @param  callable(list<array{int, list<float>}>): list<?list<float>>  $answer  of which search, and where
     * @return list<Found>
     */
    public static function searchedEach(array $searches, array $starts, callable $answer): array
    {
        $walks = [];
        foreach ($searches as $i => $search) {
            $walks[] = $search->from($starts[$i]);
        }
        $walk = self::walk($walks);
        while ($walk->valid()) {
            $walk->send($answer($walk->current()));
        }
        /** @var list<Found> $found */
        $found = $walk->getReturn();

        return $found;
    }

    /**
     * Walks side by side as one.
     *
     * @param  list<\Generator<int, list<list<float>>, list<?list<float>>, mixed>>  $walks
     * @return \Generator<int, list<array{int, list<float>}>, list<?list<float>>, list<mixed>> asks for points, each with the number of the
     *   walk that asks; gives what each came to
     */
    public static function walk(array $walks): \Generator
    {
        $going = $walks;
        while (($going = array_filter($going, static fn (\Generator $w): bool => $w->valid())) !== []) {
            $asked = $counts = [];
            foreach ($going as $i => $walk) {
                $counts[$i] = count($walk->current());
                foreach ($walk->current() as $point) {
                    $asked[] = [$i, $point];
                }
            }
            $told = (yield $asked);
            foreach ($going as $i => $walk) {
                $walk->send(array_splice($told, 0, $counts[$i]));
            }
        }

        return array_map(static fn (\Generator $w): mixed => $w->getReturn(), $walks);
    }
}
