<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Plan\Key;

/** Which series of a table is which variable of a model: by name, whatever case, order of the words, and number (one or many). */
final readonly class Matching
{
    /** @var array<string, string> ids by likeness */
    private array $alike;

    public function __construct(private Analysis $analysis)
    {
        $alike = [];
        foreach ($analysis->model->elements as $id => $element) {
            if ($analysis->canCompute((string) $id)) {
                $alike[self::likeness($element->name)] ??= (string) $id;
            }
        }
        $this->alike = $alike;
    }

    /** The words of a name, in one order, each as one of it. */
    public static function likeness(string $name): string
    {
        $words = preg_split('/[\s_\-.,\/]+/u', mb_strtolower(Heads::apart($name)[0])) ?: [];
        $words = array_values(
            array_filter($words, static fn (string $w): bool => ! in_array($w, ['', 'of', 'the', 'a', 'an', 'in', 'per', 'by'], true)),
        );
        $words = array_map(
            static fn (string $w): string => match (true) {
                mb_strlen($w) > 4 && str_ends_with($w, 'ies') => substr($w, 0, -3).'y',
                mb_strlen($w) > 4 && preg_match('/(?:s|x|ch|sh)es$/', $w) === 1 => substr($w, 0, -2),
                mb_strlen($w) > 3 && str_ends_with($w, 's') && ! str_ends_with($w, 'ss') => substr($w, 0, -1),
                default => $w,
            },
            $words,
        );
        sort($words);

        return implode(' ', $words);
    }

    /** The key of the variable, or of one element of it; null where nothing is called so. */
    public function find(DataSeries $series): ?string
    {
        [$name, $at] = self::parts($series->name);
        $id = $this->analysis->model->idOf(Name::key($name)) ?? ($this->alike[self::likeness($name)] ?? null);

        return $id === null || ! $this->analysis->canCompute($id)
            ? null
            : $this->keyOf($id, $at === [] ? array_values($series->elements) : $at);
    }

    /** What is called so in full, `name` or `name[element]`; null where nothing is. */
    public function named(string $written): ?string
    {
        [$name, $at] = self::parts($written);
        $id = $this->analysis->model->idOf(Name::key($name));

        return $id === null || ! $this->analysis->canCompute($id) ? null : $this->keyOf($id, $at);
    }

    /** @return array{string, list<string>} */
    private static function parts(string $written): array
    {
        return preg_match('/^(.*\S)\s*\[([^\[\]]*)\]\s*$/su', $written, $m) === 1
            ? [trim($m[1], ' "'), array_map(static fn (string $w): string => trim($w, ' "'), explode(',', $m[2]))]
            : [trim($written, ' "'), []];
    }

    /**
     * The elements may come in any order: each dimension takes the one that it knows.
     *
     * @param  list<string>  $at  names of elements
     */
    private function keyOf(string $id, array $at): ?string
    {
        $over = $this->analysis->extents[$id] ?? [];
        if (count($over) !== count($at)) {
            return null;
        }
        $dimensions = $this->analysis->model->dimensions();
        $ids = [];
        foreach ($over as $dimension) {
            foreach ($at as $i => $name) {
                $element = $dimensions->elementOf($dimension, $name);
                if ($element !== null) {
                    $ids[] = $element;
                    unset($at[$i]);
                    break;
                }
            }
        }
        $key = (new Key($id, '', $ids))->text();

        return count($ids) === count($over) && ($ids === [] || $this->analysis->positions->place($key) !== null) ? $key : null;
    }
}
