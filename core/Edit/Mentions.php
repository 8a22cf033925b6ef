<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Formulated;
use MerryOrbit\Core\Model\Model;

/** Keeps the mentions in all formulas right while names come and go. */
final class Mentions
{
    /** Formulas that waited for the name of this element now mean it. */
    public static function bind(Model $model, Element $element): Model
    {
        $key = Name::key($element->name);

        return self::mapFormulas($model, static fn (FormulaText $f): FormulaText => $f->bound($key, $element->id));
    }

    /** The same for what parts make: new names are what was waited for, and what is made no more is waited for. */
    public static function follow(Model $before, Model $after): Model
    {
        foreach (array_diff_key($before->made(), $after->made()) as $id => $name) {
            $after = self::mapFormulas($after, static fn (FormulaText $f): FormulaText => $f->unbound((string) $id, $name));
        }
        foreach (array_diff_key($after->made(), $before->made()) as $id => $name) {
            $after = self::mapFormulas($after, static fn (FormulaText $f): FormulaText => $f->bound(Name::key($name), (string) $id));
        }

        return $after;
    }

    /** Formulas that mention this element keep its name and wait for a new one. */
    public static function unbind(Model $model, Element $element): Model
    {
        return self::mapFormulas($model, static fn (FormulaText $f): FormulaText => $f->unbound($element->id, $element->name));
    }

    /** Links that waited to be used and are used now wait no longer. */
    public static function dropUsedLinks(Model $model, Element $user): Model
    {
        $links = $model->links;
        foreach ($links as $key => $link) {
            if ($link->to === $user->id && $user->mentions($link->from)) {
                unset($links[$key]);
            }
        }

        return count($links) === count($model->links) ? $model : $model->with(['links' => $links]);
    }

    /** @param  \Closure(FormulaText): FormulaText  $change  gives the same object where nothing changes */
    private static function mapFormulas(Model $model, \Closure $change): Model
    {
        $elements = $model->elements;
        $changed = [];
        foreach ($model->elements as $id => $element) {
            $new = $element->withFormulas($change);
            if ($new !== $element) {
                $elements[$id] = $new;
                $changed[] = $new;
            }
        }
        foreach ($model->more as $part => $all) {
            $new = array_map(static fn (mixed $one): mixed => $one instanceof Formulated ? $one->withFormulas($change) : $one, $all);
            $model = $new === $all ? $model : $model->with([$part => $new]);
        }
        $endWhen = $change($model->endWhen);
        if ($endWhen !== $model->endWhen) {
            $model = $model->with(['endWhen' => $endWhen]);
        }
        if ($changed === []) {
            return $model;
        }
        $model = $model->with(['elements' => $elements]);
        foreach ($changed as $element) {
            $model = self::dropUsedLinks($model, $element);
        }

        return $model;
    }
}
