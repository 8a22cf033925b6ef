<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

/** What is known of one function, wherever it is needed: parser, completion, hover help, documentation. */
final readonly class FunctionSpec
{
    /** @param  list<string>  $parameters their names, in order */
    public function __construct(
        public string $name,
        public string $group,
        public array $parameters,
        /** How many of the parameters, from the end, may be left out. */
        public int $optional,
        /** Whether the last parameter may be repeated. */
        public bool $repeats,
        public string $sentence,
        public string $example,
        /** Whether the same arguments give the same value at every moment of a run. */
        public bool $timeless = true,
    ) {
    }

    public function fewest(): int
    {
        return count($this->parameters) - $this->optional;
    }

    public function most(): int
    {
        return $this->repeats ? 100 : count($this->parameters);
    }

    /** The call as it is explained: `pulse(amount, at, [every], [until])`. */
    public function signature(): string
    {
        $shown = [];
        foreach ($this->parameters as $i => $parameter) {
            $shown[] = $i < $this->fewest() ? $parameter : "[$parameter]";
        }
        if ($this->repeats) {
            $shown[] = '…';
        }

        return $this->name.'('.implode(', ', $shown).')';
    }
}
