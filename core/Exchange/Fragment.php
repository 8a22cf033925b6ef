<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Group;
use MerryOrbit\Core\Model\Link;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\Recorded;

/** Some things of a model as a file of their own, for the clipboard. What they mention and is not among them stays as a name. */
final class Fragment
{
    /**
     * Of the other parts, what lies wholly between things that are copied.
     *
     * @param  array<string, Element>  $elements
     * @return array<string, array<string, Recorded>>
     */
    private static function between(Model $model, array $elements): array
    {
        $more = [];
        foreach ($model->more as $name => $all) {
            $fields = array_flip(Parts::find($name)->belongs ?? []);
            $more[$name] = array_filter($all, static function (Recorded $one) use ($fields, $elements): bool {
                $ends = array_filter(array_intersect_key($one->toRecord(), $fields), is_string(...));

                return $ends !== [] && array_diff($ends, array_keys($elements)) === [];
            });
        }

        return array_filter($more);
    }

    /**
     * @param  list<string>  $ids
     *
     * @throws EditRefused when none of them is in the model
     */
    public static function of(Model $model, array $ids): string
    {
        $keep = array_flip($ids);
        $elements = array_intersect_key($model->elements, $keep);
        if ($elements === []) {
            throw EditRefused::gone();
        }
        // The names are written out before what bears them is left behind.
        $names = $model->nameOf(...);
        $written = static fn (FormulaText $f): FormulaText => FormulaText::typed($f->text($names), static fn (): ?string => null);
        foreach ($elements as $id => $element) {
            $fields = [];
            if ($element instanceof Flow) {
                $fields['from'] = isset($elements[$element->from ?? '']) ? $element->from : null;
                $fields['to'] = isset($elements[$element->to ?? '']) ? $element->to : null;
            }
            $elements[$id] = $element->with($fields)->withFormulas($written);
        }

        return NativeFile::export(
            $model->with([
                'note' => '',
                'elements' => $elements,
                'links' => array_filter($model->links, static fn (Link $l): bool => isset($elements[$l->from], $elements[$l->to])),
                'placements' => array_intersect_key($model->placements, $elements),
                'tracks' => [],
                'scenarios' => [],
                'plots' => [],
                'findings' => [],
                'more' => self::between($model, $elements),
                'shapes' => array_intersect_key($model->shapes, $elements),
                'echoes' => [],
                'bends' => array_filter(
                    $model->bends,
                    static fn (string $key): bool => count(array_intersect_key(array_flip(explode('>', $key)), $elements)) === 2,
                    ARRAY_FILTER_USE_KEY,
                ),
                'groups' => array_values(
                    array_filter(
                        array_map(
                            static fn (Group $g): Group => new Group(
                                $g->name,
                                $g->tint,
                                array_values(array_intersect($g->members, array_keys($elements))),
                            ),
                            $model->groups,
                        ),
                        static fn (Group $g): bool => $g->members !== [],
                    ),
                ),
                'endWhen' => new FormulaText(),
            ]),
        );
    }
}
