<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Analysis;

use MerryOrbit\Core\Model\Model;

/** Over which dimensions a value extends; a single number over none. Equal dimensions pair by name, others cross. */
final readonly class Shape
{
    /** @param  list<string>  $dimensions  names, each once */
    private function __construct(public array $dimensions)
    {
    }

    /** @param  list<string>  $dimensions */
    public static function of(array $dimensions): self
    {
        return new self(array_values(array_unique($dimensions)));
    }

    /**
     * Of all elements: as declared, else the union of what their formulas use.
     *
     * @param  array<string, list<string>>  $uses  by element id, the ids its formula mentions
     * @return array<string, self> by element id
     */
    public static function ofAll(Model $model, array $uses): array
    {
        $shapes = array_map(self::of(...), array_intersect_key($model->shapes, $model->elements));
        if ($shapes === []) {
            return array_map(static fn (): self => self::of([]), $model->elements);
        }
        $visit = static function (string $id) use (&$visit, &$shapes, $uses): self {
            if (! isset($shapes[$id])) {
                // In a circle the others say.
                $shapes[$id] = $union = self::of([]);
                foreach ($uses[$id] ?? [] as $used) {
                    $union = $union->union($visit($used));
                }
                $shapes[$id] = $union;
            }

            return $shapes[$id];
        };
        foreach (array_keys($model->elements) as $id) {
            $visit($id);
        }

        return $shapes;
    }

    public function union(self $other): self
    {
        return self::of([...$this->dimensions, ...$other->dimensions]);
    }

    public function isNumber(): bool
    {
        return $this->dimensions === [];
    }
}
