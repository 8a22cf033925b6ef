<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Compile\Frame;
use MerryOrbit\Core\Plan\Pace;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Roster\OpenRoster;
use MerryOrbit\Core\Shape\ShapedPlan;

/** One roster in a function of loops: the variables of what its members have, and how much of it there is. */
final readonly class LoopCrew
{
    public OpenRoster $roster;

    private Plan $plan;

    private ShapedPlan $shaped;

    private Frame $frame;

    public function __construct(private LoopContext $context, OpenRoster $roster)
    {
        $this->plan = $context->plan;
        $this->shaped = $context->shaped;
        $this->frame = $context->frame;
        $this->roster = $this->sound($roster);
    }

    /** The roster with the rules that can be followed. */
    private function sound(OpenRoster $roster): OpenRoster
    {
        $is = fn (string $key): bool => isset($this->plan->equations[$key]) ||
            isset($this->plan->states[$key]) ||
            in_array($key, $this->plan->parameters, true);
        $own = $roster->roster;
        $entries = array_filter($own->entries, static fn (array $e): bool => $is($e['of']));
        $start = static fn (string $of, string $from): bool => $is($of) && $is($from);

        return new OpenRoster(
            $roster->number,
            $roster->dimension,
            $roster->name,
            $own->changed([
                'entries' => array_map(
                    static fn (array $e): array => [
                        ...$e,
                        'starts' => array_values(array_filter($e['starts'], static fn (array $s): bool => $start($s['of'], $s['from']))),
                    ],
                    $entries,
                ),
                'exits' => array_filter($own->exits, static fn (array $e): bool => $is($e['of'])),
                'ties' => array_map(
                    static fn (array $t): array => [
                        ...$t,
                        'made' => $is($t['made']) ? $t['made'] : '',
                        'ended' => $is($t['ended']) ? $t['ended'] : '',
                    ],
                    $own->ties,
                ),
                'hands' => array_filter($own->hands, static fn (array $h): bool => $is($h['of']) && $is($h['to'])),
                'since' => $is($own->since) ? $own->since : '',
            ]),
            $roster->listed,
            $roster->belongs,
            $roster->relations,
        );
    }

    /** @return list<string> */
    public function stocks(): array
    {
        return array_values(
            array_filter(
                array_map(strval(...), array_keys($this->plan->states)),
                fn (string $k): bool => ! $this->plan->keys->isHidden($k) && $this->isOf($k),
            ),
        );
    }

    /** @return list<string> */
    public function parameters(): array
    {
        return array_values(array_filter($this->plan->parameters, fn (string $id): bool => $this->isOf($id)));
    }

    /** @return array<string, string> by key, the list with what each member has for good */
    public function attributes(): array
    {
        $all = [];
        foreach ([...$this->plan->parameters, ...$this->frame->constants()] as $key) {
            if ($this->shaped->extent((string) $key) === [$this->roster->dimension] && ! $this->plan->keys->isHidden((string) $key)) {
                $all[(string) $key] = $this->context->whole((string) $key, 'y');
            }
        }

        return $all;
    }

    /** @return array<string, int> variables with what goes from step to step with each member, and how many values each has */
    public function carried(): array
    {
        $lists = [$this->roster->variable('name') => 1, $this->roster->variable('who') => 1];
        foreach ($this->roster->belongs as $id => $_) {
            $lists[$this->roster->of('in', (string) $id)] = 1;
        }
        $add = function (string $letter, string $key, string $ending = '') use (&$lists): void {
            if ($this->isOf($key)) {
                $lists[$this->frame->whole($letter, $key).$ending] = $this->each($key);
            }
        };
        foreach ($this->plan->parameters as $id) {
            $add('p', $id);
        }
        foreach (array_keys($this->plan->states) as $key) {
            $add('y', (string) $key);
        }
        foreach ($this->frame->constants() as $key) {
            $add('v', (string) $key);
        }
        foreach ($this->plan->equations as $key => $equation) {
            if ($equation->pace === Pace::Step) {
                $add('v', (string) $key);
            }
        }
        foreach ($this->plan->cells as $key => $cell) {
            $key = (string) $key;
            foreach (
                match ($cell->kind) {
                    'highest', 'lowest' => ['h'],
                    'times' => ['', 'h'],
                    default => [''],
                } as $ending
            ) {
                $add('v', $key, $ending);
            }
        }

        return $lists;
    }

    public function isOf(string $key): bool
    {
        return $this->shaped->roster($key)?->dimension === $this->roster->dimension;
    }

    public function each(string $key): int
    {
        return $this->shaped->sizeOver(array_values(array_diff($this->shaped->extent($key), [$this->roster->dimension])));
    }

    /**
     * @param  list<string>  $lines
     * @return list<string>
     */
    public function eachFrom(string $key, array $lines): array
    {
        $nest = $this->context->nest($this->shaped->extent($key));
        $nest->first = $this->roster->variable('from');

        return $nest->around($lines);
    }

    public function carry(int $entry): string
    {
        return $this->roster->variable('carry').'_'.$entry;
    }

    public function rate(int $entry): string
    {
        return $this->roster->variable('rate').'_'.$entry;
    }

    public function nothing(int $entry): string
    {
        $over = $this->shaped->extent($this->roster->roster->entries[$entry]['of']);

        return $over === [] ? '0.0' : "\\array_fill(0, {$this->shaped->sizeOver($over)}, 0.0)";
    }
}
