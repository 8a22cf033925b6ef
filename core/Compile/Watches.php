<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

/**
 * Notes, while a run goes on, when something worth telling first happened: a curve left, a limit that acted. Each has a variable
 * with the time of the first case, infinite while there is none; some count the steps too.
 */
final class Watches
{
    /** @var array<string, string> from "kind subject" to the variable */
    private array $variables = [];

    /** @var array<string, array{string, CurveShape}> functions that look up long curves, by their code */
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
        return array_map(static fn (string $key): array => [explode(' ', $key, 2)[0], explode(' ', $key, 2)[1]], array_keys($this->variables));
    }

    /** @return list<string> */
    public function variables(): array
    {
        return array_values($this->variables);
    }

    /** The name of a function that looks up a curve inside its range. */
    public function look(CurveShape $shape): string
    {
        $body = self::body($shape, 1, count($shape->pieces) - 2);
        $name = 'look_'.hash('xxh128', $body);
        $this->looks[$name] = [$body, $shape];

        return $name;
    }

    private static function body(CurveShape $shape, int $low, int $high): string
    {
        if ($low === $high) {
            return Emitter::piece($shape->pieces[$low], '$x');
        }
        $middle = intdiv($low + $high + 1, 2);

        return '($x < '.Emitter::literal($shape->pieces[$middle][0]).' ? '.self::body($shape, $low, $middle - 1).' : '.self::body($shape, $middle, $high).')';
    }

    /** @return list<string> PHP functions */
    public function functions(): array
    {
        $code = [];
        foreach ($this->looks as $name => [$body]) {
            $code[] = "if (! \\function_exists(__NAMESPACE__.'\\\\$name')) { function $name(float \$x): float { return $body; } }";
        }

        return $code;
    }
}
