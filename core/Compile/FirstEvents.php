<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

/**
 * Notes, while a run goes on, when something worth telling first happened: a curve left, a limit that acted. Each has a variable
 * with the time of the first case, infinite while there is none; some count the steps too.
 */
final class FirstEvents
{
    /** @var array<string, string> from "kind subject" to the variable */
    private array $variables = [];

    /** @var array<string, string> bodies of functions that look up curves, by name */
    private array $looks = [];

    /** An expression that is zero and notes the time. */
    public function leaf(string $kind, string $subject): string
    {
        $w = $this->variable($kind, $subject);

        return "0.0 * ($w = $w < \$t ? $w : \$t)";
    }

    public function variable(string $kind, string $subject): string
    {
        return $this->variables["$kind $subject"] ??= '$w'.count($this->variables);
    }

    /** @return list<array{string, string}> kind and subject, in the order of variables() */
    public function subjects(): array
    {
        return array_map(
            static fn (string $key): array => [explode(' ', $key, 2)[0], explode(' ', $key, 2)[1]],
            array_keys($this->variables),
        );
    }

    /** @return list<string> */
    public function variables(): array
    {
        return array_values($this->variables);
    }

    /** The name of a function of `$x` with this body. */
    public function look(string $body): string
    {
        $name = 'look_'.hash('xxh128', $body);
        $this->looks[$name] = $body;

        return $name;
    }

    /** @return list<string> PHP functions */
    public function functions(): array
    {
        $code = [];
        foreach ($this->looks as $name => $body) {
            $code[] = "if (! \\function_exists(__NAMESPACE__.'\\\\$name')) { function $name(float \$x): float { return $body; } }";
        }

        return $code;
    }
}
