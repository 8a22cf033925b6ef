<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

use MerryOrbit\Core\Problem\Problem;

/** A formula that cannot be read. The message is a sentence for the modeller. */
final class FormulaError extends \RuntimeException
{
    private function __construct(
        string $sentence,
        public readonly string $problemCode,
        public readonly int $from,
        public readonly int $length,
    ) {
        parent::__construct($sentence);
    }

    /** @param  int  $from in bytes of $text */
    public static function at(string $code, string $sentence, string $text, int $from, int $length): self
    {
        return new self($sentence, $code, mb_strlen(substr($text, 0, $from)), max(1, mb_strlen(substr($text, $from, $length))));
    }

    public function problem(): Problem
    {
        return new Problem($this->problemCode, $this->getMessage(), from: $this->from, length: $this->length);
    }
}
