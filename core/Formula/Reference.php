<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

/** A mention of a name within a formula's text: of the element with that id, or of something not there (yet). */
final readonly class Reference
{
    public function __construct(
        /** How it was typed, without quotes; shown while no element has this name. */
        public string $written,
        public ?string $id = null,
    ) {
    }
}
