<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

/** A change that is not made. The message is a sentence for the modeller. */
final class EditRefused extends \RuntimeException
{
    private function __construct(string $sentence, public readonly string $refusalCode, public readonly ?string $field = null)
    {
        parent::__construct($sentence);
    }

    public static function because(string $code, string $sentence, ?string $field = null): self
    {
        return new self($sentence, $code, $field);
    }

    public static function gone(): self
    {
        return new self('This thing is not in the model any more. It was deleted in the meantime; undo brings it back.', 'element.gone');
    }
}
