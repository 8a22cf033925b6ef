<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\FormulaText;

/** What has a formula, which may have exceptions for some elements of its dimensions. Those of a stock are of its initial value. */
abstract readonly class Computed extends Element
{
    /** @param  list<SpecialCase>  $exceptions */
    public function __construct(
        string $id,
        string $name,
        FormulaText $formula,
        string $unit = '',
        string $note = '',
        string $symbol = '',
        public array $exceptions = [],
    ) {
        parent::__construct($id, $name, $formula, $unit, $note, $symbol);
    }

    public function formulas(): array
    {
        $all = parent::formulas();
        foreach ($this->exceptions as $i => $exception) {
            $all["exceptions.$i"] = $exception->formula;
        }

        return $all;
    }

    public function withFormulas(\Closure $change): static
    {
        $new = parent::withFormulas($change);
        $exceptions = array_map(static fn (SpecialCase $c): SpecialCase => $c->withFormula($change($c->formula)), $this->exceptions);

        return $exceptions === $this->exceptions ? $new : $new->with(['exceptions' => $exceptions]);
    }
}
