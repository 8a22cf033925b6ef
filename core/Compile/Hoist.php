<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

/** Sub-expressions that stay the same during a run: computed once, before the loop, each kept in a variable. */
final class Hoist
{
    /** @var array<string, string> from code to its variable */
    private array $variables = [];

    /** @var list<string> */
    public array $lines = [];

    /** @param  list<string>  $lines as Emitter::assign() gives them for no variable */
    public function variable(array $lines): string
    {
        $code = $lines[0];
        if (! isset($this->variables[$code])) {
            $variable = '$c'.count($this->variables);
            $this->variables[$code] = $variable;
            array_push($this->lines, $variable.$code, ...array_slice($lines, 1));
        }

        return $this->variables[$code];
    }

    /** @return list<string> */
    public function variables(): array
    {
        return array_values($this->variables);
    }
}
