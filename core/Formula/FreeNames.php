<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

/** Gives out names that nothing has yet. Very many of one wish take no longer, each, than few. */
final class FreeNames
{
    /** Room for a blank and a number. */
    private const NUMBER = 6;

    /** @var array<string, true> by key */
    private array $given = [];

    /** @var array<string, int> the number to try next, by key of the wish */
    private array $next = [];

    /** @param  ?\Closure(string): bool  $isTaken  whether something else has a name, by its key */
    public function __construct(private readonly ?\Closure $isTaken = null)
    {
    }

    /** The name itself, if nothing has it; else with a number. */
    public function of(string $name): string
    {
        return $this->isFree($name) ? $this->give($name) : $this->numbered($name);
    }

    /** The name, cut if need be, with the first number from 2 on that is free. */
    public function numbered(string $name): string
    {
        $name = mb_substr($name, 0, Name::LONGEST - self::NUMBER);
        $key = Name::key($name);
        $number = $this->next[$key] ?? 2;
        while (! $this->isFree("$name $number")) {
            $number++;
        }
        $this->next[$key] = $number + 1;

        return $this->give("$name $number");
    }

    public function isFree(string $name): bool
    {
        $key = Name::key($name);

        return ! isset($this->given[$key]) && ($this->isTaken === null || ! ($this->isTaken)($key));
    }

    private function give(string $name): string
    {
        $this->given[Name::key($name)] = true;

        return $name;
    }
}
