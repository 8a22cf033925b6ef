<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\FormulaText;

/** A number that stays the same during a run and that people turn a dial on. */
final readonly class Parameter extends Element
{
    /** @param  list<array{name: string, value: float}>  $choices */
    public function __construct(
        string $id,
        string $name,
        FormulaText $formula,
        string $unit = '',
        string $note = '',
        /** The range of the dial and its step; null means chosen from the value. */
        public ?float $low = null,
        public ?float $high = null,
        public ?float $step = null,
        /** Values with names, to choose from; none for a slider. */
        public array $choices = [],
        string $symbol = '',
    ) {
        parent::__construct($id, $name, $formula, $unit, $note, $symbol);
    }

    public function kind(): Kind
    {
        return Kind::Parameter;
    }
}
