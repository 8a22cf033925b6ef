<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Analysis;

use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Quantity;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Problem\Remedy;
use MerryOrbit\Core\Problem\Severity;

/** What is worth saying of a model though it hinders no run. */
final class Remarks
{
    /** @return list<Problem> */
    public static function on(Model $model): array
    {
        $remarks = [];
        foreach ($model->links as $link) {
            $from = $model->nameOf($link->from);
            $to = $model->elements[$link->to];
            $remarks[] = new Problem(
                'link.unused',
                "`$from` is linked to `$to->name` but not used in its {$to->formulaWord()} yet.",
                $to->id,
                'formula',
                severity: Severity::Remark,
                remedy: new Remedy('Remove the link', [['kind' => 'disconnect', 'from' => $link->from, 'to' => $link->to]]),
            );
        }
        foreach ($model->elements as $element) {
            $key = Name::key($element->name);
            if (Catalogue::isTaken($key) || Quantity::tryFrom($key) !== null) {
                $remarks[] = new Problem(
                    'name.quoted',
                    "`$element->name` is also a word of the formula language; formulas mention this thing as \"$element->name\", in quotes.",
                    $element->id,
                    'name',
                    severity: Severity::Remark,
                );
            }
        }

        return $remarks;
    }
}
