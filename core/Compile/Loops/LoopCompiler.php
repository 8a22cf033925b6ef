<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Compile\Compiler;
use MerryOrbit\Core\Compile\Emitter;
use MerryOrbit\Core\Compile\Frame;
use MerryOrbit\Core\Compile\Masses;
use MerryOrbit\Core\Compile\Program;
use MerryOrbit\Core\Library\Moment;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Plan\Pace;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Plan\Positions;
use MerryOrbit\Core\Roster\Detail;
use MerryOrbit\Core\Shape\ShapedPlan;

/**
 * Turns a plan that extends over dimensions into the source of one PHP function with loops over packed lists: source and compilation
 * grow with its equations, not with its elements. Equations over the same dimensions share one loop and hand values on in local
 * variables; only what others read elsewhere, or somebody looks at, is written to a list.
 */
final class LoopCompiler
{
    private readonly Plan $plan;

    private readonly Frame $frame;

    private readonly Masses $masses;

    private readonly LoopSaving $saving;

    private readonly LoopContext $context;

    private readonly LoopMembers $members;

    /** @param  ?list<string>  $only */
    private function __construct(ShapedPlan $shaped, Method $method, ?array $only, bool $careful, ?Detail $logged)
    {
        $this->context = new LoopContext($shaped, $method->stages(), $careful);
        $this->plan = $this->context->plan;
        $this->frame = $this->context->frame;
        $this->masses = $this->context->masses;
        $this->members = new LoopMembers($this->context, $logged !== null);
        $this->saving = new LoopSaving($this->plan, $this->frame, $this->masses, [], false);
        $this->saving->logs($shaped, $this->members, $logged);
        $this->save($only);
        $this->remember($logged !== null && $only === null);
    }

    /**
     * @param  ?list<string>  $only  ids, or keys of single elements; null for all that move
     * @param  ?Detail  $logged  at which of the saved moments what each member of a roster has is kept; null for none
     */
    public static function compile(ShapedPlan $shaped, Method $method, ?array $only = null, ?Detail $logged = null): Program
    {
        return self::compiled($shaped, $method, $only, false, $logged);
    }

    /**
     * A slower one that looks for where a fault begins. Then it returns, in place of `constants` all values by key, of
     * `carried` the keys of what was computed when it showed, of the first times the number of the element, or −1, and the stage.
     */
    public static function careful(ShapedPlan $shaped, Method $method): Program
    {
        return self::compiled($shaped, $method, [], true, null);
    }

    /** @param  ?list<string>  $only */
    private static function compiled(ShapedPlan $shaped, Method $method, ?array $only, bool $careful, ?Detail $logged): Program
    {
        $compiler = new self($shaped, $method, $only, $careful, $logged);
        $body = $compiler->body();
        $frame = $compiler->frame;
        $function = 'f'.hash('xxh128', $body.implode('', $frame->watches->functions()));
        $source =
            "<?php\n\ndeclare(strict_types=1);\n\nnamespace MerryOrbit\\Compiled;\n\n".
            implode("\n", $frame->watches->functions()).
            "\n\nfunction $function$body";

        return new Program(
            $function,
            $source,
            $compiler->plan->parameters,
            $compiler->saving->columns,
            $frame->constants(),
            [],
            $frame->watches->subjects(),
            $compiler->masses->counted(),
            Compiler::fill($body),
            isWhole: $only === null,
            lists: $compiler->context->data->lists,
            isLooped: true,
        );
    }

    /** @param  ?list<string>  $only */
    private function save(?array $only): void
    {
        $only ??= $this->frame->columns();
        $columns = array_flip($this->frame->columns());
        $positions = new Positions($this->context->shaped->extents->known, $this->context->shaped->extents->dimensions);
        foreach ($only as $key) {
            $owner = Key::ownerOf($key);
            if (! isset($columns[$owner]) || ($owner !== $key && $positions->place($key) === null)) {
                continue;
            }
            $this->saving->columns[] = $key;
            $this->saving->of[] = [$owner, $owner === $key ? null : $positions->place($key)];
            $this->context->looked[$owner] = true;
        }
        $this->context->looked += array_fill_keys($this->masses->flows(), true);
        foreach ($this->context->looped ? [] : array_keys($this->plan->states) as $key) {
            if (! $this->masses->owns((string) $key)) {
                $this->saving->before[(string) $key] = $this->frame->whole('s', (string) $key);
            }
        }
    }

    /** What delays and averages hold is kept beside what members have: from there it can be told what moves a value. */
    private function remember(bool $isKept): void
    {
        foreach ($isKept && $this->context->shaped->extents->rosters->isAny() ? array_keys($this->plan->states) : [] as $key) {
            if ($this->plan->keys->isHidden((string) $key)) {
                $this->saving->columns[] = (string) $key;
                $this->saving->of[] = [(string) $key, null];
            }
        }
    }

    private function body(): string
    {
        $arguments = [...Compiler::ARGUMENTS, 'array $data'];
        $taken = [];
        foreach ($this->plan->parameters as $id) {
            [$given, $p] = [$this->frame->whole('given', $id), $this->frame->whole('p', $id)];
            $arguments[] = $this->frame->isIndexed($id) ? "array $given" : "float $p";
            // Copied number by number, they are known to be numbers, which makes the loops over them faster.
            array_push(
                $taken,
                ...match (true) {
                    $this->context->shaped->roster($id) !== null => $this->members->taken($id),
                    $this->frame->isIndexed($id) => ["$p = []; foreach ($given as \$one) { {$p}[] = (float) \$one; }"],
                    default => [],
                },
            );
        }
        [$items, $steady] = (new LoopItems($this->context))->items();
        $groups = (new LoopOrder($items))->groups;
        $this->keep($groups);
        $members = $this->members->startLines();
        $entered = $this->members->advanceLines();
        $step = $this->stepLines($groups);
        $advance = $this->advanceLines($groups);
        $start = (new LoopStart($this->context))->startLines($steady);
        $hoisted = $this->frame->hoist;
        $watches = implode('', array_map(static fn (string $w): string => "$w = \\INF; ", $this->frame->watches->variables()));
        $fault = 'if ($test - $test !== 0.0) { return ['.Program::FAULT.', -1, [], [], [], [], [], 0]; }';
        $lines = [
            '('.implode(', ', $arguments).'): array',
            '{',
            ...$this->context->data->lines(),
            ...$members,
            ...$taken,
            '$i = 0; $now = $t = $start; $check = 0.0; $begun = '.
            var_export(Moment::TOLERANCE, true).
            ' * $step; '.
            $watches.
            $this->masses->startLine(),
            $this->saving->noOutputs(),
            ...$this->emptyLists($groups),
            ...$start,
            ...$hoisted->lines,
            '$test = '.implode(' + ', ['$check', ...$hoisted->variables()]).';',
            $fault,
            ...$this->members->startedLines(),
            '$check = 0.0; $next = 0; $last = -1; $count = 0;',
            '$part = $step / '.Emitter::literal(array_sum(array_column($this->context->stages, 1))).'; $half = 0.5 * $step;',
            'for ($i = 0; ; $i++) {',
            '$begun = ($i + '.var_export(Moment::TOLERANCE, true).') * $step;',
            '$now = $i === $steps ? $close : $start + $i * $step;',
            ...$step,
            ...$advance,
            ...$entered,
            '}',
            '}',
            '',
        ];

        $crowded = $this->saving->ending(Program::CROWDED);

        return str_replace(
            ['%crowded%', '%watches%'],
            [$crowded, '['.implode(', ', $this->frame->watches->variables()).']'],
            implode("\n", $lines),
        );
    }

    /** @param  list<non-empty-list<LoopItem>>  $groups */
    private function keep(array $groups): void
    {
        $this->members->keep();
        foreach ($this->plan->cells as $key => $_) {
            $this->context->kept[$key] = true;
        }
        foreach ($this->plan->equations as $equation) {
            if ($equation->pace === Pace::Step) {
                $this->context->kept[$equation->key] = true;
            }
        }
        if ($this->context->careful) {
            $this->context->kept += array_fill_keys(
                [...array_keys($this->plan->equations), ...array_keys($this->context->lifting->lifted)],
                true,
            );
        }
        foreach ($groups as $group) {
            $own = array_flip(array_map(static fn (LoopItem $i): string => $i->name(), $group));
            foreach ($group as $item) {
                // What lies one element behind is handed on in a variable.
                $further = array_filter(
                    $item->behind,
                    static fn (int $back, string $key): bool => $back > 1 || ! isset($own[$key]),
                    ARRAY_FILTER_USE_BOTH,
                );
                $this->context->kept += $item->far + array_fill_keys(array_keys($further), true) + array_diff_key($item->near, $own);
            }
        }
    }

    /**
     * @param  list<non-empty-list<LoopItem>>  $groups
     * @return list<string>
     */
    private function stepLines(array $groups): array
    {
        $saving = $this->saving->savingLines($this->frame->emitter('$y', false));
        $isSaving = $this->plan->endWhen === null ? '$i === $next' : 'true';
        $last = count($this->context->stages) - 1;
        $lines = [];
        foreach ($groups as $group) {
            array_push($lines, ...(new LoopBody($this->context))->groupLines($group));
        }
        $before =
            $this->saving->before === []
                ? ''
                : ' if ($saving) { '.
                    implode(
                        ' ',
                        array_map(
                            fn (string $key, string $before): string => "$before = ".$this->frame->whole('y', $key).';',
                            array_keys($this->saving->before),
                            $this->saving->before,
                        ),
                    ).
                    ' }';
        $forward = $this->forwardLines();
        $held = new LoopStart($this->context);
        if (! $this->context->looped) {
            return [
                ...$held->heldLines('y', '$now'),
                "\$t = \$now; \$saving = $isSaving;$before",
                ...$lines,
                ...$saving,
                ...$this->members->lookLines(),
                ...$forward,
            ];
        }
        $begin = [];
        foreach ($this->plan->states as $key => $_) {
            $key = (string) $key;
            $begin[] =
                $this->frame->whole('x', $key).
                ' = '.
                $this->frame->whole('y', $key).
                '; '.
                $this->frame->whole('a', $key).
                " = {$this->frame->zeros($key)};";
        }
        $heun = $last === 1;

        return [
            ...$held->heldLines('y', '$now'),
            ...$begin,
            ...$this->masses->clearLines(),
            "for (\$stage = 0; \$stage <= $last; \$stage++) {",
            $heun
                ? '$weight = 1.0; $reach = $step; $t = $stage === 0 ? $now : $now + $step;'
                : '$weight = $stage === 1 || $stage === 2 ? 2.0 : 1.0; $reach = $stage === 2 ? $step : $half; '.
                    '$t = $stage === 0 ? $now : ($stage === 3 ? $now + $step : $now + $half);',
            ...$held->heldLines('x', '$t'),
            "\$saving = \$stage === 0 && $isSaving;",
            ...$lines,
            'if ($stage === 0) {',
            ...$saving,
            ...$this->members->lookLines(),
            '}',
            ...$forward,
            '}',
        ];
    }

    /** @return list<string> where states do not go forward in the loops that compute their rates */
    private function forwardLines(): array
    {
        $lines = [];
        foreach ($this->context->careful ? array_keys($this->plan->states) : [] as $key) {
            $key = (string) $key;
            [$y, $x, $a, $d] = array_map(fn (string $letter): string => $this->frame->variable($letter, $key), ['y', 'x', 'a', 'd']);
            if ($this->context->looped || ! $this->masses->owns($key)) {
                $line = $this->context->looped ? "$a += \$weight * $d; $x = $y + \$reach * $d;" : "$y += \$step * $d;";
                array_push(
                    $lines,
                    ...$this->context->watched($this->frame->each($key, [$line]), [$key], $this->context->looped ? 'x' : 'y'),
                );
            }
        }

        return $lines;
    }

    /**
     * @param  list<non-empty-list<LoopItem>>  $groups
     * @return list<string>
     */
    private function advanceLines(array $groups): array
    {
        $lines = $this->masses->advanceLines($this->saving->reported(...));
        foreach ($this->context->looped ? array_keys($this->plan->states) : [] as $key) {
            $key = (string) $key;
            if (! $this->masses->owns($key)) {
                array_push(
                    $lines,
                    ...$this->frame->each($key, [
                        $this->frame->variable('y', $key).' += $part * '.$this->frame->variable('a', $key).';',
                    ]),
                );
            }
        }
        // A hand that lets go leaves the stock where its course has come to.
        array_push($lines, ...(new LoopStart($this->context))->heldLines('y', '$now + $step'));
        foreach ($this->plan->cells as $key => $cell) {
            if ($cell->kind === 'previous') {
                $lines[] = $this->frame->whole('v', (string) $key).' = '.$this->frame->whole('next', (string) $key).';';
            }
        }

        return $lines;
    }

    /**
     * Lists that are filled element by element.
     *
     * @param  list<non-empty-list<LoopItem>>  $groups
     * @return list<string>
     */
    private function emptyLists(array $groups): array
    {
        $lines = [];
        foreach ([...$this->plan->equations, ...$this->plan->starts] as $key => $_) {
            $key = (string) $key;
            if ($this->frame->isIndexed($key) && ! $this->context->isState($key)) {
                $lines[] = $this->frame->whole('v', $key).' = '.$this->frame->zeros($key).';';
            }
        }
        foreach (array_keys($this->plan->states) as $key) {
            $lines[] = $this->frame->whole('y', (string) $key).' = '.$this->frame->zeros((string) $key).';';
            array_push($lines, ...$this->context->careful ? $this->carefulLists((string) $key) : []);
        }
        foreach ($this->context->lifting->lifted as $key => $_) {
            $size = $this->context->shaped->sizeCode($this->context->shaped->extent($key));
            $lines[] =
                $this->context->whole($key, 'y').
                ' = '.
                ($this->context->shaped->extent($key) === [] ? '0.0' : "\\array_fill(0, $size, 0.0)").
                ';';
        }
        foreach ($this->masses->flows() as $flow) {
            $lines[] =
                $this->frame->whole('g', $flow).
                ' = '.
                $this->frame->zeros($flow).
                '; '.
                $this->frame->whole('u', $flow).
                " = {$this->frame->zeros($flow)};";
        }
        foreach (array_keys($this->plan->limited) as $stock) {
            $lines[] = $this->frame->whole('room', (string) $stock)." = {$this->frame->zeros((string) $stock)};";
        }
        foreach ($this->plan->cells as $key => $cell) {
            if ($cell->kind === 'previous') {
                $lines[] = $this->frame->whole('next', (string) $key)." = {$this->frame->zeros((string) $key)};";
            }
        }

        return $lines;
    }

    /** @return list<string> */
    private function carefulLists(string $state): array
    {
        return array_map(
            fn (string $letter): string => $this->frame->whole($letter, $state).' = '.$this->frame->zeros($state).';',
            $this->context->looped ? ['d', 'x', 'a'] : ['d'],
        );
    }
}
