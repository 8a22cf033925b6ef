<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Reference;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Expectation;
use MerryOrbit\Core\Model\Model;

/** What expectations speak of: variables, and formulas, which become auxiliaries of a model that comes to the same. */
final readonly class Subjects
{
    /** @param  array<string, string>  $ids  by expectation and field, the id of what is looked at */
    private function __construct(public Model $model, private array $ids)
    {
    }

    /** @param  list<Expectation>  $all */
    public static function of(Model $own, array $all): self
    {
        $elements = $own->elements;
        $ids = [];
        foreach ($all as $e) {
            foreach (['of' => $e->of, 'other' => $e->other] as $field => $formula) {
                if ($formula->isEmpty()) {
                    continue;
                }
                $name = count($formula->pieces) === 1 ? $formula->pieces[0] : null;
                if ($name instanceof Reference && $name->id !== null && isset($elements[$name->id])) {
                    $ids["$e->id $field"] = $name->id;

                    continue;
                }
                $id = "$field-expected-of-$e->id";
                $elements[$id] = new Auxiliary($id, self::free($own, "expected of $e->id, $field"), $formula);
                $ids["$e->id $field"] = $id;
            }
        }

        return new self($elements === $own->elements ? $own : $own->with(['elements' => $elements]), $ids);
    }

    private static function free(Model $own, string $name): string
    {
        while ($own->idOf(Name::key($name)) !== null) {
            $name .= ' x';
        }

        return $name;
    }

    /** @param  'of'|'other'  $field */
    public function id(Expectation $e, string $field): ?string
    {
        return $this->ids["$e->id $field"] ?? null;
    }

    /** @return list<string> */
    public function all(): array
    {
        return array_values($this->ids);
    }
}
