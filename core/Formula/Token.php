<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

/** A piece of formula text. `from` and `length` are in bytes of the text. */
final readonly class Token
{
    public function __construct(
        public TokenKind $kind,
        /** The text; for a name without its quotes; for a reserved word and an operator in lower case. */
        public string $text,
        public int $from,
        public int $length,
        public float $value = 0.0,
        /** For Stray: the sentence that says what is wrong. */
        public string $sentence = '',
        /** For a name: whether an opening bracket follows. */
        public bool $called = false,
        /** For a name in a formula of a model: the id of its element, empty where nothing is called so; null where that is not known. */
        public ?string $id = null,
    ) {
    }
}
