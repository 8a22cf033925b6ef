<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula\Node;

/**
 * A value looked at elsewhere along its dimensions: `price[terrace: north]`, `oysters[age: previous; else 0]`. Its picks act at
 * once. `otherwise` is what it is where a pick looks over the edge.
 */
final readonly class Pick extends Node
{
    /** @param  non-empty-list<PickStep>  $steps */
    public function __construct(public NameUse $of, public array $steps, public ?Node $otherwise, int $from, int $length)
    {
        parent::__construct($from, $length);
    }

    public function parts(): array
    {
        return $this->otherwise === null ? [$this->of] : [$this->of, $this->otherwise];
    }

    public function with(array $parts): self
    {
        $of = $parts[0];

        return $of instanceof NameUse ? new self($of, $this->steps, $parts[1] ?? null, $this->from, $this->length) : $this;
    }
}
