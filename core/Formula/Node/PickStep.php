<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula\Node;

/**
 * One pick of a bracket: along which dimension, and what. As written; what the words mean is found where the model is analysed.
 * `from` and `length` are bytes of the text.
 */
final readonly class PickStep
{
    /**
     * @param  ?string  $dimension  the key of a dimension; null where only an element, or a mapping, is named
     * @param  string  $what  the key of an element, a dimension or a mapping; of a move `previous`, `next`, `first` or `last`
     * @param  ?int  $by  of `previous` and `next`, how far; null for what is no move
     */
    public function __construct(
        public ?string $dimension,
        public string $what,
        public string $written,
        public bool $isMove,
        public ?int $by,
        public int $from,
        public int $length,
    ) {
    }
}
