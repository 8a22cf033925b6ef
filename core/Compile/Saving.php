<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Plan\Plan;

/** What a compiled function saves, keeps between steps, tests where it saves, and returns at each of its ends. */
class Saving
{
    /** @var array<string, int>|null */
    private ?array $isSaved = null;

    /**
     * @param  list<string>  $columns  the keys that are saved, in their order
     * @param  bool  $byMoment  whether the values of a moment are one list, rather than those of a variable
     */
    public function __construct(
        protected readonly Plan $plan,
        protected readonly Frame $frame,
        private readonly Masses $masses,
        public array $columns,
        private readonly bool $byMoment,
    ) {
    }

    /** @return list<string> what is done at the start of a step if it is to be saved or may end the run */
    public function savingLines(Emitter $emitter): array
    {
        $last = $this->masses->closingLines($this->reported(...));
        $save = $this->savedLine($emitter);
        $test = $this->testing('return '.$this->ending(Program::FAULT).';');
        $stop = '$watch !== null && $watch->stops($i / $steps)) { return '.$this->ending(Program::STOPPED).'; }';
        $lines = [
            'if ($i === $next) {',
            $test,
            '$check = 0.0;',
            "$save \$last = \$saved = \$i; \$count++;",
            "if ($stop",
            'if ($i === $steps) {',
            ...$last,
            'return '.$this->ending(Program::DONE).';',
            '}',
            '$next = $i + $every < $steps ? $i + $every : $steps;',
            '}',
            // A run that saves seldom is looked at between, too.
            "if ((\$i & 4095) === 4095 && $stop",
        ];
        if ($this->plan->endWhen !== null) {
            $lines = [
                ...$lines,
                'if ('.$this->endCondition($emitter, $this->plan->endWhen).') {',
                $test,
                "if (\$last !== \$i) { $save \$count++; }",
                ...$last,
                'return '.$this->ending(Program::ENDED).';',
                '}',
            ];
        }

        return $lines;
    }

    protected function endCondition(Emitter $emitter, Node $endWhen): string
    {
        return $emitter->guardedCondition($endWhen);
    }

    /** @return array<string, string> by key, where its values are kept: a list of its own, or a place in that of the last moment */
    private function outputs(string $moment): array
    {
        $outputs = [];
        foreach ($this->columns as $k => $key) {
            $outputs[$key] = $this->place($k, $moment);
        }

        return $outputs;
    }

    private function place(int $k, string $moment): string
    {
        return $this->byMoment ? "\$rows[$moment][$k]" : "\$o{$k}[$moment]";
    }

    /** @return list<string> what a limited flow truly was at the moment `$at`, where that is kept */
    public function reported(string $flow): array
    {
        $k = ($this->isSaved ??= array_flip($this->columns))[$flow] ?? null;

        return $k === null ? [] : [$this->place($k, '$at')." = {$this->frame->variable('g', $flow)} / \$step;"];
    }

    public function noOutputs(): string
    {
        return $this->byMoment
            ? '$rows = [];'
            : implode(' ', array_map(static fn (int $k): string => "\$o$k = [];", array_keys($this->columns)));
    }

    /**
     * Where equations share variables the values of a moment are gathered in portions.
     *
     * @param  list<string>  $keys
     */
    public function portion(array $keys, Emitter $emitter): string
    {
        // Looked up, not searched: there may be as many portions as there are columns.
        $this->isSaved ??= array_flip($this->columns);
        $saves = array_map(
            static fn (string $k): string => '$row[] = '.$emitter->variable($k).';',
            array_values(array_filter($keys, fn (string $k): bool => isset($this->isSaved[$k]))),
        );

        return $saves === [] ? '' : 'if ($saving) { '.implode(' ', $saves).' }';
    }

    protected function savedLine(Emitter $emitter): string
    {
        return $this->byMoment
            ? '$rows[] = $row;'
            : implode(
                ' ',
                array_map(
                    static fn (string $k, string $o): string => "$o = ".$emitter->variable($k).';',
                    $this->columns,
                    $this->outputs(''),
                ),
            );
    }

    /**
     * A number that is not finite stays so, in a state and in the sum of what would vanish unseen: it is enough to look now and then.
     */
    public function testing(string $otherwise): string
    {
        $sum = ['$check'];
        foreach ($this->plan->states as $key => $_) {
            $sum[] = $this->sumOf((string) $key);
        }
        foreach ($this->plan->cells as $key => $cell) {
            if ($cell->kind === 'previous') {
                $sum[] = $this->frame->sum('v', $key);
            }
        }

        return '$test = '.implode(' + ', $sum).'; if ($test - $test !== 0.0) { '.$otherwise.' }';
    }

    protected function sumOf(string $state): string
    {
        return $this->frame->sum('y', $state);
    }

    /** @return list<string> what cells keep of the start of a step */
    public function cellLines(Emitter $emitter): array
    {
        $lines = [];
        foreach ($this->plan->cells as $key => $cell) {
            $n = $this->frame->number($key);
            if ($cell->watched === null) {
                continue;
            }
            array_push(
                $lines,
                ...match ($cell->kind) {
                    'previous' => $emitter->assign('$next'.$n, $cell->watched),
                    'shift' => [...$emitter->assign('$next'.$n, $cell->watched), "\$q{$n}->put(\$i, \$next$n);"],
                    default => $emitter->assign('$v'.$n.'h', $cell->watched),
                },
            );
        }

        return $lines;
    }

    public function ending(int $how): string
    {
        $names = $this->frame->names('$y');

        return Emitter::listing([
            (string) $how,
            '$i',
            Emitter::listing(array_map(static fn (string $k): string => $names[$k], $this->frame->constants())),
            Emitter::listing($how === Program::HALTED ? $this->carried() : []),
            $how === Program::HALTED ? '[]' : '%watches%',
            Emitter::listing($this->masses->counters()),
            $this->byMoment ? '$rows' : Emitter::listing(array_map(static fn (int $k): string => "\$o$k", array_keys($this->columns))),
            '$count',
        ]);
    }

    /** @return array<string, string> by key, the variables that go from step to step */
    public function carried(): array
    {
        $names = $this->frame->names('$y');
        $carried = [];
        foreach ($this->plan->states as $key => $_) {
            $carried[$key] = $names[$key];
        }
        foreach ($this->plan->cells as $key => $cell) {
            foreach (
                match ($cell->kind) {
                    'shift' => ['q'],
                    'highest', 'lowest' => ['h'],
                    'times' => ['', 'h'],
                    default => [''],
                } as $letter
            ) {
                $carried[$key.$letter] = $names[$key.$letter];
            }
        }
        foreach ($this->plan->transits as $stock => $_) {
            $carried[$stock.'q'] = '$q'.$this->frame->number($stock);
        }

        return $carried;
    }
}
