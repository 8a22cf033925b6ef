<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Parser;

/**
 * The macros of a file, and how much was written out of them: one that uses another twice doubles what comes out, so a file of
 * twenty lines could ask for a million parts. What comes out has the bounds that formulas and files have.
 */
final class MacroExpansion
{
    /** Parts that macros may come to in a whole file. */
    private const MOST = 300_000;

    /** @var object{parts: int, self: string, bodies: array<string, array{Node, list<string>, list<string>}>} */
    private readonly object $shared;

    private readonly bool $usesSelf;

    /** @var array<string, true> macros that are being written out: none uses itself */
    private array $open = [];

    /** @param  array<string, array{list<string>, string}>  $macros  by key: parameters and equation */
    public function __construct(private readonly array $macros)
    {
        $this->shared = new class
        {
            public int $parts = 0;

            public string $self = '';

            /** @var array<string, array{Node, list<string>, list<string>}> */
            public array $bodies = [];
        };
        $this->usesSelf = stripos(implode(' ', array_column($macros, 1)), 'self') !== false;
    }

    /** @return ?array{list<string>, string} parameters and equation */
    public function of(string $key): ?array
    {
        return isset($this->open[$key]) ? null : $this->macros[$key] ?? null;
    }

    /**
     * What a macro says, read once: one that uses another twice, which uses another twice, reads each of them.
     *
     * @param  string  $self  the variable whose equation it is written into
     * @param  \Closure(self): array{Node, list<string>, list<string>}  $read  with the macros that it may use itself
     * @return array{Node, list<string>, list<string>} the equation, and what was lost and changed in it
     */
    public function body(string $key, string $self, \Closure $read): array
    {
        if ($this->usesSelf && $this->shared->self !== $self) {
            $this->shared->bodies = [];
            $this->shared->self = $self;
        }
        $inner = clone $this;
        $inner->open[$key] = true;

        return $this->shared->bodies[implode(' ', array_keys($inner->open))] ??= $read($inner);
    }

    /** @throws EquationRefused when too much came out of a macro, or of all */
    public function spend(Node $written): void
    {
        $parts = 0;
        $open = [$written];
        while (($node = array_pop($open)) !== null && $parts <= Parser::MOST_TOKENS) {
            $parts++;
            array_push($open, ...$node->parts());
        }
        $this->shared->parts += $parts;
        if ($parts > Parser::MOST_TOKENS || $this->shared->parts > self::MOST) {
            throw new EquationRefused(
                'written out, its macros come to more parts than '.
                    ($parts > Parser::MOST_TOKENS ? 'one formula' : 'the formulas of one file').
                    ' may have',
            );
        }
    }
}
