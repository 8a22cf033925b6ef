<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

/** Over which dimensions a value extends; a single number over none. Equal dimensions pair by name, others cross. */
final readonly class Shape
{
    /** @param  list<string>  $dimensions  names, each once */
    private function __construct(public array $dimensions)
    {
    }

    /** @param  list<string>  $dimensions */
    public static function of(array $dimensions): self
    {
        return new self(array_values(array_unique($dimensions)));
    }

    public function union(self $other): self
    {
        return self::of([...$this->dimensions, ...$other->dimensions]);
    }

    public function isNumber(): bool
    {
        return $this->dimensions === [];
    }
}
