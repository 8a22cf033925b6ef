<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

/** A mention of a name within a formula's text: of the element with that id, or of something not there (yet). */
final readonly class Reference
{
    public function __construct(
        /** As it was typed, with its quotes; shown while no element has this name. */
        public string $written,
        public ?string $id = null,
    ) {
    }

    /** The key of the name that was typed. */
    public function key(): string
    {
        return Name::key(str_starts_with($this->written, '"') ? str_replace('""', '"', substr($this->written, 1, -1)) : $this->written);
    }
}
