<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\FormulaText;

/** What moves from one stock to another, or from or to the outside, per time unit. */
final readonly class Flow extends Computed
{
    /** @param  list<SpecialCase>  $exceptions */
    public function __construct(
        string $id,
        string $name,
        FormulaText $formula,
        string $unit = '',
        string $note = '',
        /** The id of the stock it leaves; null means outside. */
        public ?string $from = null,
        /** The id of the stock it enters; null means outside. */
        public ?string $to = null,
        /** Never negative: what would flow backward does not flow. */
        public bool $oneWay = false,
        /** Its place among the outflows of a stock that has too little for all: smaller takes first; equal ones by their order in the model. */
        public ?float $priority = null,
        string $symbol = '',
        array $exceptions = [],
    ) {
        parent::__construct($id, $name, $formula, $unit, $note, $symbol, $exceptions);
    }

    public function kind(): Kind
    {
        return Kind::Flow;
    }
}
