<?php

declare(strict_types=1);

namespace App\Tell;

use App\Models\Study;
use App\Studies\Versions;
use MerryOrbit\Core\Edit\TakeOver;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Structure\Comparison;

/** A copy beside the study it was made of. */
final readonly class Sent
{
    private function __construct(public Study $original, private Model $copied, private Model $copy)
    {
    }

    /** @return ?self null where the original is gone */
    public static function of(Study $copy): ?self
    {
        $original = Study::query()
            ->with('model')
            ->find($copy->origin['study'] ?? '');
        if ($original === null) {
            return null;
        }

        return new self($original, (new Versions($copy->model))->at(0), $copy->model->core());
    }

    /**
     * What was changed in the copy, in words.
     *
     * @return list<array<string, mixed>> as Structure\Comparison tells it; `taken` where it is so in the original by now, `both` where
     *                                    that was changed here as well since the copy was made
     */
    public function changes(): array
    {
        $now = $this->original->model->core();
        $differ = array_column(Comparison::between($now, $this->copy), null, 'key');
        $here = array_column(Comparison::between($this->copied, $now), null, 'key');
        $list = [];
        foreach (Comparison::between($this->copied, $this->copy) as $change) {
            // Where things stand on a sheet, and what a study is called, is each one's own.
            $fields = array_values(
                array_filter($change['fields'], static fn (array $f): bool => $change['key'] !== 'model' || $f['field'] !== 'name'),
            );
            if ($change['what'] === 'moved' || ($fields === [] && $change['key'] === 'model')) {
                continue;
            }
            $left = array_column($differ[$change['key']]['fields'] ?? [], 'field');
            $taken = ! isset($differ[$change['key']]) || (array_intersect(array_column($fields, 'field'), $left) === [] && $left !== []);
            $list[] = [...$change, 'fields' => $fields, 'taken' => $taken, 'both' => isset($here[$change['key']]) && ! $taken];
        }

        return $list;
    }

    public function edit(string $key): TakeOver
    {
        return new TakeOver($this->copied, $this->copy, $key, $this->original->name);
    }
}
