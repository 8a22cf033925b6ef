<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** One of a part of the document that holds formulas, in which names come and go. */
interface Formulated
{
    /** @param  \Closure(\MerryOrbit\Core\Formula\FormulaText): \MerryOrbit\Core\Formula\FormulaText  $change  gives the same object where nothing changes */
    public function withFormulas(\Closure $change): static;
}
