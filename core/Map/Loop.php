<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

/** A feedback loop: each factor acts on the next, the last on the first. */
final readonly class Loop
{
    /**
     * @param  string  $name  R1, B1 or U1, by its sign and its place among all of that sign
     * @param  string  $sign  `+` reinforcing, `-` balancing, `?` where the sign of a link is open
     * @param  bool  $delayed  whether a link in it is late
     * @param  non-empty-list<string>  $path  ids of factors, each once
     */
    public function __construct(public string $name, public string $sign, public bool $delayed, public array $path)
    {
    }

    /** Whether the link from one factor to another is part of it. */
    public function passes(string $from, string $to): bool
    {
        $at = array_search($from, $this->path, true);

        return $at !== false && $this->path[($at + 1) % count($this->path)] === $to;
    }
}
