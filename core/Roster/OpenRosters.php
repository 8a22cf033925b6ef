<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Roster;

use MerryOrbit\Core\Model\Mapping;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Roster;

/** The rosters of a model whose members come and go. */
final readonly class OpenRosters
{
    /** @param  array<string, OpenRoster>  $all  by id of the dimension */
    private function __construct(public array $all)
    {
    }

    public static function of(Model $model): self
    {
        $all = [];
        $dimensions = $model->dimensions();
        $open = array_filter($model->part('rosters'), static fn (mixed $r): bool => $r instanceof Roster && $r->isOpen());
        $targets = array_map(static fn (Roster $r): string => $dimensions->find($r->of)->id ?? '', $open);
        foreach ($model->part('rosters') as $roster) {
            $dimension = $roster instanceof Roster && $roster->isOpen() ? $dimensions->find($roster->of) : null;
            if ($dimension === null) {
                continue;
            }
            $own = array_filter($model->mappings(), static fn (Mapping $m): bool => $m->from === $dimension->id);
            $byId = array_combine(array_map(static fn (Mapping $m): string => $m->id, $own), $own);
            // To members of this roster, or of another one.
            $isInner = static fn (Mapping $m): bool => in_array($m->to, $targets, true);
            $all[$dimension->id] = new OpenRoster(
                count($all),
                $dimension->id,
                $dimension->name,
                $roster,
                $dimensions->elements($dimension->id),
                array_filter($byId, static fn (Mapping $m): bool => ! $isInner($m)),
                array_filter($byId, $isInner),
            );
        }

        return new self($all);
    }

    public function isAny(): bool
    {
        return $this->all !== [];
    }

    public function find(string $dimension): ?OpenRoster
    {
        return $this->all[$dimension] ?? null;
    }

    /**
     * The roster over whose members a value extends.
     *
     * @param  list<string>  $extent
     */
    public function in(array $extent): ?OpenRoster
    {
        foreach ($extent as $dimension) {
            if (isset($this->all[$dimension])) {
                return $this->all[$dimension];
            }
        }

        return null;
    }

    /**
     * Members first: their lists grow and shrink at the end.
     *
     * @param  list<string>  $extent
     * @return list<string>
     */
    public function sorted(array $extent): array
    {
        $first = array_filter($extent, fn (string $d): bool => isset($this->all[$d]));

        return $first === [] || array_keys($first) === [0] ? $extent : [...$first, ...array_values(array_diff($extent, $first))];
    }
}
