<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Shape;

use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\PickStep;

/** A formula that does not fit the dimensions of the model, with the place in its text in bytes. */
final class ExtentError extends \RuntimeException
{
    private function __construct(
        public readonly string $reason,
        string $sentence,
        public readonly int $from,
        public readonly int $length,
        /** In which of the thing's formulas: `exceptions.0` is its first exception. */
        public readonly string $field = 'formula',
    ) {
        parent::__construct($sentence);
    }

    public static function at(Node $node, string $code, string $sentence): self
    {
        return new self($code, $sentence, $node->from, $node->length);
    }

    public static function within(PickStep $step, string $code, string $sentence): self
    {
        return new self($code, $sentence, $step->from, $step->length);
    }

    public function in(string $field): self
    {
        return new self($this->reason, $this->getMessage(), $this->from, $this->length, $field);
    }
}
