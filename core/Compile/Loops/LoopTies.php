<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Roster\OpenRoster;

/**
 * Relations between members that change while a run goes on. At the start of a step it is found whose ties end and who gets one more
 * partner; at its end, when the leaving have gone and the new are there, ties end and then new ones are made. A tie ends by a draw of its
 * own. Of all who could be a new partner it is the one with the least draw of its own for the one who looks for it: another member more
 * or less changes nobody's choice, unless it is that one.
 */
final readonly class LoopTies
{
    private const NETWORK = '\\MerryOrbit\\Core\\Roster\\Network::';

    private const UNIFORM = '\\MerryOrbit\\Core\\Library\\Chance::uniform($seed, ';

    public function __construct(private LoopContext $context, private OpenRoster $roster)
    {
    }

    /** @return list<string> at the start of a step: `$seek` the numbers of those who get a partner, `$cut` the pairs that end */
    public function lookLines(): array
    {
        $lines = [];
        [$name, $who, $m] = [$this->roster->variable('name'), $this->roster->variable('who'), $this->roster->count()];
        foreach ($this->roster->roster->ties as $tie) {
            [$seek, $cut] = [$this->roster->of('seek', $tie['of']), $this->roster->of('cut', $tie['of'])];
            $lines[] = "$seek = []; $cut = [];";
            $inner = [];
            if ($tie['made'] !== '') {
                $value = $this->context->whole($tie['made'], 'y').'[$n]';
                $draw = $this->salt($tie['of'], 'made')." . {$name}[\$n]";
                $inner[] = "\$check += $value < 0.0 ? \\NAN : 0.0;";
                $inner[] = "if ($value > 0.0 && {$this->happens($value, $draw)}) { {$seek}[] = {$who}[\$n]; }";
            }
            if ($tie['ended'] !== '') {
                $value = $this->context->whole($tie['ended'], 'y').'[$n]';
                [$begin, $with] = [$this->roster->of('begin', $tie['of']), $this->roster->of('with', $tie['of'])];
                $draw = $this->salt($tie['of'], 'ended')." . {$name}[\$n] . '|' . {$name}[{$with}[\$j]]";
                array_push(
                    $inner,
                    "\$check += $value < 0.0 ? \\NAN : 0.0;",
                    "if ($value > 0.0) {",
                    "for (\$j = {$begin}[\$n]; \$j < {$begin}[\$n + 1]; \$j++) {",
                    "if ({$this->happens($value, $draw)}) { {$cut}[] = [{$who}[{$with}[\$j]], {$who}[\$n]]; }",
                    '}',
                    '}',
                );
            }
            array_push($lines, ...['if ($i % $grain === 0) {', "for (\$n = 0; \$n < $m; \$n++) {", ...$inner, '}', '}']);
        }

        return $lines;
    }

    /** @return list<string> at the end of a step */
    public function advanceLines(): array
    {
        $lines = [];
        [$name, $who, $m] = [$this->roster->variable('name'), $this->roster->variable('who'), $this->roster->count()];
        foreach ($this->roster->roster->ties as $tie) {
            [$seek, $cut, $pairs] = array_map(fn (string $what): string => $this->roster->of($what, $tie['of']), ['seek', 'cut', 'pairs']);
            $within = $tie['within'] === '' ? '[]' : $this->roster->of('in', $tie['within']);
            $both = $tie['both'] ? 'true' : 'false';
            $salt = $this->salt($tie['of'], 'with');
            $ties = "$seek, $who, $name, $m, $within, $both, \$seed, $salt, \\intdiv(\$i, \$grain)";
            $lines = [
                ...$lines,
                "if ($seek !== [] || $cut !== []) {",
                "$pairs = ".self::NETWORK."without($pairs, $cut, $both);",
                "$pairs = ".self::NETWORK."tied($pairs, $ties);",
                ...LoopMembers::rowLines($this->roster, $this->roster, $tie['of']),
                '}',
            ];
        }

        return $lines;
    }

    /** Whether a hazard strikes within the step, or within as many as share a draw. */
    private function happens(string $hazard, string $draw): string
    {
        return self::UNIFORM."$draw, \\intdiv(\$i, \$grain)) < 1.0 - \\exp(-$hazard * \$step * \$grain)";
    }

    private function salt(string $relation, string $what): string
    {
        return var_export("$what $relation#{$this->roster->roster->id} ", true);
    }
}
