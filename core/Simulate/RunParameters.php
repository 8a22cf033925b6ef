<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Compile\Program;
use MerryOrbit\Core\Plan\Key;

/** The values of a program's parameters: a number for each, or where it runs in loops a list of numbers for one that has elements. */
final readonly class RunParameters
{
    /**
     * @param  array<string, float|list<float>>  $values  in the order of the program, by key
     * @param  array<string, list<string>>  $keys  by what can be set, the keys that it sets; an element of a list sets that alone
     */
    private function __construct(private Analysis $analysis, public array $values, private array $keys)
    {
    }

    public static function of(Analysis $analysis, Program $program, RunOptions $settings): self
    {
        $values = $keys = [];
        foreach ($program->parameters as $key) {
            $listed = $program->isLooped ? self::ofMembers($analysis, $key) : null;
            if ($listed !== null) {
                [$values[$key], $keys[$key]] = [$listed, [$key]];

                continue;
            }
            if ($program->isLooped && $analysis->positions->isShaped($key)) {
                $values[$key] = self::listed($analysis, $key);
                $keys[$key] = [$key];

                continue;
            }
            // A parameter that is held keeps its own value beside.
            $meant = $analysis->outline()->keys->of($key);
            $own = $meant->part === Key::BASE ? (new Key($meant->owner, '', $meant->at))->text() : $key;
            $values[$key] = (float) $analysis->parameter($key);
            $keys[$own][] = $key;
            // What is set for a thing with dimensions is set for all of its elements.
            if ($meant->at !== [] && $meant->owner !== $own) {
                $keys[$meant->owner][] = $key;
            }
        }

        return (new self($analysis, $values, $keys))->with($settings->parameters);
    }

    /** @return list<float> */
    private static function listed(Analysis $analysis, string $id): array
    {
        $list = array_fill(0, $analysis->positions->count($id), (float) $analysis->parameter($id));
        foreach ($analysis->model->table($id) as $at => $value) {
            $place = $analysis->positions->place("{$id}[$at]");
            if ($place !== null) {
                $list[$place] = $value;
            }
        }

        return array_values($list);
    }

    /**
     * What the members of the list have, and behind it what one has who comes while a run goes on.
     *
     * @return list<float>|null null of what is not over a roster
     */
    private static function ofMembers(Analysis $analysis, string $id): ?array
    {
        $roster = $analysis->shaped?->roster($id);
        if ($roster === null) {
            return null;
        }
        $dimensions = $analysis->shaped->extents->dimensions;
        $each = $analysis->shaped->sizeOf($id) / max(1, count($roster->listed));
        $list = array_fill(0, (int) ($each * count($roster->listed)), (float) $analysis->parameter($id));
        foreach ($analysis->model->table($id) as $at => $value) {
            $place = 0;
            foreach (explode(',', (string) $at) as $k => $element) {
                $over = $analysis->model->shapes[$id][$k] ?? '';
                $own = $dimensions->place($over, $element);
                $place = $own === null || $place === null ? null : $place * $dimensions->size($over) + $own;
            }
            if ($place !== null) {
                $list[$place] = $value;
            }
        }

        return [...array_values($list), (float) $analysis->parameter($id)];
    }

    /** @param  array<string, float>  $given  by id, or for a single element by its key, which then counts more; others are passed over */
    public function with(array $given): self
    {
        if ($given === []) {
            return $this;
        }
        $values = $this->values;
        foreach ([false, true] as $single) {
            foreach ($given as $id => $value) {
                $id = (string) $id;
                if (str_contains($id, '[') !== $single) {
                    continue;
                }
                foreach ($this->keys[$id] ?? [] as $key) {
                    $values[$key] = is_array($values[$key]) ? array_fill(0, count($values[$key]), $value) : $value;
                }
                $owner = Key::ownerOf($id);
                $list = $values[$owner] ?? null;
                $place = $single && is_array($list) ? $this->analysis->positions->place($id) ?? $this->member($owner, $id) : null;
                if (is_array($list) && $place !== null) {
                    $list[$place] = $value;
                    $values[$owner] = array_values($list);
                }
            }
        }

        return new self($this->analysis, $values, $this->keys);
    }

    /** The place of one of the list in what each member of a roster has: `length[kelpie]`. */
    private function member(string $owner, string $id): ?int
    {
        $roster = $this->analysis->shaped?->roster($owner);
        $place = $roster === null ? false : array_search(substr($id, strlen($owner) + 1, -1), $roster->listed, true);

        return $place === false ? null : $place;
    }

    /** @return array<string, float> those that are one number */
    public function single(): array
    {
        return array_filter($this->values, is_float(...));
    }
}
