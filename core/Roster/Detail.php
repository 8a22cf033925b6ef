<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Roster;

/**
 * At which of the saved moments of a run it is kept who is there and what each has: of all every so many, of what is chosen more closely.
 * Sums and means of all are kept at every saved moment in any case.
 */
final readonly class Detail
{
    /** So many values are kept of one run. */
    private const MOST = 4_000_000.0;

    /** Members that there may come to be of a roster that begins with fewer. */
    private const FEW = 100;

    /**
     * @param  array<string, int>  $every  by roster, as the id of its dimension: every so many moments
     * @param  array<string, int>  $closely  by key, what of it is kept more closely than the rest: every so many
     */
    private function __construct(public array $every, public array $closely)
    {
    }

    /**
     * @param  array<string, array<string, int>>  $sizes  by roster and key, how many values there are at the start of what each has
     * @param  int  $saved  how many moments are saved
     */
    public static function of(OpenRosters $open, array $sizes, int $saved): ?self
    {
        $rosters = $open->all;
        if ($rosters === []) {
            return null;
        }
        // Who is there is kept in any case.
        $near = $all = (float) (count($rosters) * 2 * self::FEW);
        $chosen = [];
        foreach ($sizes as $of => $own) {
            foreach ($own as $key => $size) {
                // There may well become twice as many.
                $values = 2.0 * max(self::FEW, $size);
                $all += $values;
                if (in_array((string) $key, $rosters[$of]->roster->kept['of'] ?? [], true)) {
                    $chosen[] = (string) $key;
                    $near += $values;
                }
            }
        }
        $step = static fn (float $values): int => max(1, (int) ceil(((float) $saved * $values) / self::MOST));
        $close = $chosen === [] ? 1 : $step($near);
        $every = [];
        foreach ($rosters as $id => $roster) {
            $moments = $roster->roster->kept['moments'] ?? 0;
            $wanted = max($step($all), $moments > 0 ? (int) ceil($saved / $moments) : 1);
            // All moments of the rest are moments of what is kept closely, too.
            $every[(string) $id] = $close * (int) ceil($wanted / $close);
        }

        return new self($every, array_fill_keys($chosen, $close));
    }

    /** @param  string  $roster  the id of its dimension */
    public function each(string $key, string $roster): int
    {
        return $this->closely[$key] ?? $this->every[$roster];
    }

    /** Who is there is kept as closely as anything that they have. */
    public function present(OpenRoster $roster): int
    {
        $own = array_intersect_key($this->closely, array_flip($roster->roster->kept['of'] ?? []));

        return $own === [] ? $this->every[$roster->dimension] : min($own);
    }

    /** Two that are called alike keep the same. */
    public function name(): string
    {
        return implode(' ', $this->every).
            ' '.
            implode(' ', array_map(static fn (string $k, int $n): string => "$k:$n", array_keys($this->closely), $this->closely));
    }
}
