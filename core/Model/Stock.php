<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\FormulaText;

/** What accumulates. Its formula is its initial value; its equation follows from its flows. */
final readonly class Stock extends Computed
{
    /** @param  list<SpecialCase>  $exceptions */
    public function __construct(
        string $id,
        string $name,
        FormulaText $formula,
        string $unit = '',
        string $note = '',
        /** Never below zero: outflows take no more than there is. */
        public bool $neverNegative = false,
        /** For a transit stock how long its content travels; empty for an ordinary one. */
        public FormulaText $travel = new FormulaText(),
        string $symbol = '',
        array $exceptions = [],
    ) {
        parent::__construct($id, $name, $formula, $unit, $note, $symbol, $exceptions);
    }

    public function kind(): Kind
    {
        return Kind::Stock;
    }

    /** What enters leaves after its travel time, by the outflow of highest priority; other outflows leak along the way. */
    public function isTransit(): bool
    {
        return ! $this->travel->isEmpty();
    }

    public function formulas(): array
    {
        return [...parent::formulas(), 'travel' => $this->travel];
    }

    public function withFormulas(\Closure $change): static
    {
        $new = parent::withFormulas($change);
        $travel = $change($this->travel);

        return $travel === $this->travel ? $new : $new->with(['travel' => $travel]);
    }
}
