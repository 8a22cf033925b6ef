<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

/** What is known of one function, wherever it is needed: parser, units, compiler, completion, hover help, documentation. */
final readonly class FunctionSpec
{
    /**
     * @param  list<string>  $parameters  their names, in order
     * @param  list<string>  $unitRules  of each parameter: `u`, `v` (any unit, the same wherever the letter stands), `t` (a time), `1` (a plain number), `*` (anything), or a product of these; `d` and `e` are a dimension and an element of one
     */
    private function __construct(
        public string $name,
        public string $group,
        public array $parameters,
        /** How many of the parameters, from the end, may be left out. */
        public int $optional,
        /** Whether the last parameter may be repeated. */
        public bool $repeats,
        public string $sentence,
        public string $example,
        public Nature $nature,
        public array $unitRules,
        public string $resultUnit,
    ) {
    }

    /**
     * @param  string  $call  such as `pulse(amount, at, [every], [until])`; what stands in square brackets may be left out
     * @param  string  $units  such as `u, t, t, t -> u/t`
     */
    public static function of(
        string $group,
        string $call,
        string $units,
        string $sentence,
        string $example,
        Nature $nature = Nature::Plain,
    ): self {
        preg_match('/^(\w+)\((.*)\)$/D', $call, $m);
        $parameters = explode(', ', $m[2] ?? '');
        $repeats = end($parameters) === '…';
        if ($repeats) {
            array_pop($parameters);
        }
        $optional = count(array_filter($parameters, static fn (string $p): bool => str_starts_with($p, '[')));
        [$rules, $result] = explode(' -> ', $units);

        return new self(
            $m[1] ?? '',
            $group,
            array_map(static fn (string $p): string => trim($p, '[]'), $parameters),
            $optional,
            $repeats,
            $sentence,
            $example,
            $nature,
            explode(', ', $rules),
            $result,
        );
    }

    /** Whether this argument, counted from 0, is no value but a dimension (`d`) or an element of one (`e`). */
    public function takesDimension(int $argument): bool
    {
        $rule = $this->unitRules[min($argument, count($this->unitRules) - 1)];

        return $rule === 'd' || $rule === 'e';
    }

    public function fewest(): int
    {
        return count($this->parameters) - $this->optional;
    }

    public function most(): int
    {
        return $this->repeats ? 100 : count($this->parameters);
    }

    /** Whether the same arguments give the same value at every moment of a run. */
    public function isTimeless(): bool
    {
        return $this->nature === Nature::Plain;
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
