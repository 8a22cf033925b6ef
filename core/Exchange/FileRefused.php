<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

/** A file that cannot be taken in. The message is a sentence that says what, where and how to mend it. */
final class FileRefused extends \RuntimeException
{
    /** @param  bool  $isModel  whether it could be read as a model, and something in that model is wrong */
    private function __construct(string $sentence, public readonly bool $isModel)
    {
        parent::__construct($sentence);
    }

    /** It is no model at all. */
    public static function because(string $sentence): self
    {
        return new self($sentence, false);
    }

    /** It is a model, and something in it contradicts itself or cannot be meant. */
    public static function asModel(string $sentence): self
    {
        return new self($sentence, true);
    }
}
