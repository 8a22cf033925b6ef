<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Roster;

/**
 * What became of the members of a roster during a run. Each has a number: those of the list by their place in it, then those who came,
 * in the order in which they did.
 *
 * From when and until when one was there is null for the start and the end of the run; how it came and why it left stands in the words of
 * the roster.
 *
 * @phpstan-type Member array{id: string, name: string, from: ?float, to: ?float, how: string, why: string}
 */
final readonly class Crew
{
    /**
     * @param  string  $of  the id of the dimension
     * @param  array<int, Member>  $members  by number
     * @param  array<int, list<int>>  $present  by saved moment that is kept, the numbers of those who are there, in the order of values
     * @param  array<string, array<int, list<float>>>  $values  by key and saved moment, what each of them has
     * @param  array<string, array<int, float>>  $attributes  by key and number, what each has for good
     * @param  array<string, array<int, string>>  $belongs  by mapping and number, the id of the element that each belongs to
     * @param  array<string, array{float, float}>  $sums  by stock, what those who came brought along, and what those who left took
     */
    public function __construct(
        public string $of,
        public array $members,
        public array $present,
        public array $values,
        public array $attributes,
        public array $belongs,
        public array $sums,
    ) {
    }

    /**
     * The saved moments at which it is known who is there and what each of them has.
     *
     * @param  ?string  $key  of what; null for all that they have
     * @return list<int>
     */
    public function moments(?string $key = null): array
    {
        $known = array_keys($this->present);
        foreach ($key === null ? $this->values : array_intersect_key($this->values, [$key => true]) as $own) {
            $known = array_intersect($known, array_keys($own));
        }

        return array_values($known);
    }

    /** @return array<int, float> by number, what those have who are there at a saved moment that is kept */
    public function at(string $key, int $moment): array
    {
        $there = $this->present[$moment] ?? [];
        $values = $this->values[$key][$moment] ?? null;
        if ($values !== null && count($values) === count($there)) {
            return $there === [] ? [] : array_combine($there, $values);
        }

        return array_intersect_key($this->attributes[$key] ?? [], array_flip($there));
    }

    /**
     * What one had while it was there.
     *
     * @return array<int, float> by saved moment
     */
    public function lifeOf(int $number, string $key): array
    {
        $life = [];
        foreach ($this->present as $moment => $there) {
            $place = array_search($number, $there, true);
            $value = $place === false ? null : $this->values[$key][$moment][$place] ?? ($this->attributes[$key][$number] ?? null);
            if ($value !== null) {
                $life[$moment] = $value;
            }
        }

        return $life;
    }
}
