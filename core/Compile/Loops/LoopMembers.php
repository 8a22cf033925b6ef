<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Compile\Frame;
use MerryOrbit\Core\Model\Mapping;
use MerryOrbit\Core\Roster\OpenRoster;
use MerryOrbit\Core\Shape\ShapedPlan;

/**
 * Members that come and go. What happens within a step, the same for every method: at its start it is found who leaves and how many
 * enter; the step is made with all that are there; at its end the leaving go, the last one taking the place of each, and then the new
 * enter behind the others. What they start with is computed from what stocks are at that moment, and from what else was computed last.
 *
 * Variables, each with the number of the roster: `$there` how many there are, `$name` what each is known by, `$who` its number among all
 * there ever were, `$gone` whether and why it leaves; `$in` where it belongs; of a relation `$begin`, `$with`, `$weight` in rows.
 */
final class LoopMembers
{
    private const NETWORK = '\\MerryOrbit\\Core\\Roster\\Network::';

    private readonly ShapedPlan $shaped;

    private readonly Frame $frame;

    /** @var array<string, LoopCrew>|null by dimension */
    private ?array $crews = null;

    /** @param  bool  $logged  whether is kept what members there were, and what each had */
    public function __construct(private readonly LoopContext $context, private readonly bool $logged)
    {
        $this->shaped = $context->shaped;
        $this->frame = $context->frame;
    }

    /** @return array<string, LoopCrew> */
    private function all(): array
    {
        return $this->crews ??= array_map(
            fn (OpenRoster $r): LoopCrew => new LoopCrew($this->context, $r),
            $this->shaped->extents->rosters->all,
        );
    }

    /** What is read at the start of a step beyond the loops that compute it. */
    public function keep(): void
    {
        foreach ($this->all() as $crew) {
            $roster = $crew->roster;
            foreach ($roster->roster->exits as $exit) {
                $this->context->kept[$exit['of']] = true;
            }
            foreach ($roster->roster->entries as $entry) {
                $this->context->kept[$entry['of']] = true;
            }
            foreach ($roster->roster->ties as $tie) {
                $this->context->kept += array_fill_keys(array_filter([$tie['made'], $tie['ended']]), true);
            }
        }
    }

    /** @return list<string> before parameters are taken: who is there */
    public function startLines(): array
    {
        $lines = [];
        foreach ($this->all() as $crew) {
            $roster = $crew->roster;
            [$first, $wait, $name, $who, $m] = [...array_map($roster->variable(...), ['first', 'wait', 'name', 'who']), $roster->count()];
            $listed = $this->context->data->add($roster->listed);
            $count = count($roster->listed);
            $since = $roster->roster->since;
            $lines[] = "$first = []; $wait = []; $name = []; $who = []; {$roster->variable('gone')} = [];";
            $lines[] = "for (\$n = 0; \$n < $count; \$n++) {";
            $lines[] =
                $since === ''
                    ? "{$first}[] = \$n;"
                    : "if ({$this->frame->whole('given', $since)}[\$n] > \$start) { {$wait}[\$n] = {$this->frame->whole(
                        'given',
                        $since,
                    )}[\$n]; } else { {$first}[] = \$n; }";
            $lines[] = '}';
            $lines[] = "if ($wait !== []) { \\asort($wait); }";
            $lines[] = "foreach ($first as \$j) { {$name}[] = (string) {$listed}[\$j]; {$who}[] = (int) \$j; }";
            $lines[] = "$m = \\count($first); {$roster->variable('serial')} = $count; {$roster->variable('from')} = 0;";
            $lines[] = "{$roster->variable('came')} = []; {$roster->variable('left')} = []; {$roster->variable('crew')} = [];";
            foreach ($roster->belongs as $mapping) {
                $places = array_fill_keys($roster->listed, -1);
                foreach ($mapping->pairs as [$one, $to]) {
                    $places[$one] = $this->shaped->extents->dimensions->place($mapping->to, $to) ?? -1;
                }
                $list = $this->context->data->add(array_values($places));
                $lines[] = "{$roster->of('in', $mapping->id)} = []; foreach ($first as \$j) { {$roster->of(
                    'in',
                    $mapping->id,
                )}[] = (int) {$list}[\$j]; }";
            }
            foreach ($this->logged ? $roster->belongs : [] as $id => $_) {
                $lines[] = $roster->of('ins', (string) $id).' = [];';
            }
            foreach ([...$roster->roster->entries] as $e => $_) {
                $lines[] = "{$crew->carry($e)} = {$crew->nothing($e)}; {$crew->rate($e)} = {$crew->nothing($e)};";
            }
            foreach ($crew->stocks() as $stock) {
                $lines[] = "{$this->frame->whole('brought', $stock)} = 0.0; {$this->frame->whole('took', $stock)} = 0.0;";
            }
            foreach ($crew->attributes() as $key => $_) {
                $lines[] = "{$this->frame->whole('has', (string) $key)} = [];";
            }
        }
        // They may lead to members of any.
        foreach ($this->all() as $crew) {
            array_push($lines, ...$this->relationsAtStart($crew->roster));
        }

        return $lines;
    }

    /** Whose members look through a relation: of the roster itself, or of another. */
    private function target(Mapping $relation): OpenRoster
    {
        return $this->shaped->extents->rosters->find($relation->to) ?? throw new \LogicException('A relation leads to members.');
    }

    /** @return list<string> */
    private function relationsAtStart(OpenRoster $roster): array
    {
        $lines = [];
        $from = array_flip($roster->listed);
        foreach ($roster->relations as $mapping) {
            $to = array_flip($this->target($mapping)->listed);
            $pairs = array_values(
                array_filter($mapping->pairs, static fn (array $p): bool => isset($from[$p[0]], $to[$p[1]]) && $p[2] !== 0.0),
            );
            usort($pairs, static fn (array $a, array $b): int => [$to[$a[1]], $from[$a[0]]] <=> [$to[$b[1]], $from[$b[0]]]);
            $data = $this->context->data;
            $one = $data->add(array_map(static fn (array $p): int => $from[$p[0]], $pairs));
            $two = $data->add(array_map(static fn (array $p): int => $to[$p[1]], $pairs));
            $weight = $data->add(array_map(static fn (array $p): float => $p[2], $pairs));
            $pairs = $roster->of('pairs', $mapping->id);
            $lines[] = "$pairs = [$one, $two, $weight];";
        }

        foreach ($roster->relations as $mapping) {
            array_push($lines, ...$this->relationLines($roster, $mapping));
        }

        return $lines;
    }

    /** @return list<string> the rows of a relation anew, without those who are gone */
    private function relationLines(OpenRoster $roster, Mapping $relation): array
    {
        $known = static fn (OpenRoster $r): string => self::NETWORK.
            "known({$r->variable('who')}, {$r->count()}, {$r->variable('wait')})";
        $target = $this->target($relation);
        $pairs = $roster->of('pairs', $relation->id);

        return [
            "$pairs = ".self::NETWORK."among({$known($roster)}, {$known($target)}, $pairs);",
            ...self::rowLines($roster, $target, $relation->id),
        ];
    }

    /** @return list<string> the rows of a relation from its pairs */
    public static function rowLines(OpenRoster $roster, OpenRoster $target, string $mapping): array
    {
        $names = array_map(static fn (string $what): string => $roster->of($what, $mapping), ['begin', 'with', 'weight', 'pairs']);
        [$begin, $with, $weight, $pairs] = $names;
        $ones = "{$roster->variable('who')}, {$roster->count()}";

        return [
            '$rows = '.self::NETWORK."rows($ones, {$target->variable('who')}, {$target->count()}, $pairs);",
            "$begin = []; foreach (\$rows[0] as \$one) { {$begin}[] = (int) \$one; }",
            "$with = []; foreach (\$rows[1] as \$one) { {$with}[] = (int) \$one; }",
            "$weight = []; foreach (\$rows[2] as \$one) { {$weight}[] = (float) \$one; }",
        ];
    }

    /** @return list<string> a parameter of each member, of those who are there */
    public function taken(string $parameter): array
    {
        $crew = $this->all()[$this->shaped->roster($parameter)->dimension ?? ''] ?? throw new \LogicException('Only what members have.');
        $roster = $crew->roster;
        [$given, $p] = [$this->frame->whole('given', $parameter), $this->frame->whole('p', $parameter)];
        $each = $crew->each($parameter);

        return [
            "$p = []; foreach ({$roster->variable(
                'first',
            )} as \$j) { for (\$n = 0; \$n < $each; \$n++) { {$p}[] = (float) {$given}[\$j * $each + \$n]; } }",
        ];
    }

    /** @return list<string> when all is known that members start with */
    public function startedLines(): array
    {
        $lines = [];
        foreach ($this->all() as $crew) {
            $roster = $crew->roster;
            array_push($lines, ...(new LoopEntering($this->context, $crew, $this->logged))->noted(false));
        }

        return $lines;
    }

    /** @return list<string> at the start of a step: who leaves at its end, and how many enter then */
    public function lookLines(): array
    {
        $lines = [];
        foreach ($this->all() as $crew) {
            $roster = $crew->roster;
            $gone = $roster->variable('gone');
            $tests = [];
            foreach ($roster->roster->exits as $e => $exit) {
                $value = $this->context->whole($exit['of'], 'y').'[$n]';
                $why = $e + 1;
                if ($exit['kind'] === 'when') {
                    $tests[] = "if ($value != 0.0) { {$gone}[\$n] = $why; continue; }";

                    continue;
                }
                $draw = var_export("$exit[id]#{$roster->roster->id}[", true)." . {$roster->variable('name')}[\$n] . ']'";
                $tests[] = "\$check += $value < 0.0 ? \\NAN : 0.0;";
                $tests[] =
                    "if (\$i % \$grain === 0 && $value > 0.0 && \\MerryOrbit\\Core\\Library\\Chance::uniform(\$seed, $draw, \\intdiv(\$i, \$grain)) ".
                    "< 1.0 - \\exp(-$value * \$step * \$grain)) { {$gone}[\$n] = $why; continue; }";
            }
            if ($tests !== []) {
                array_push($lines, ...["for (\$n = 0; \$n < {$roster->count()}; \$n++) {", "{$gone}[\$n] = 0;", ...$tests, '}']);
            }
            array_push($lines, ...(new LoopTies($this->context, $roster))->lookLines());
            foreach ($roster->roster->entries as $e => $entry) {
                $lines[] = $crew->rate($e).' = '.$this->context->whole($entry['of'], 'y').';';
            }
        }

        return $lines;
    }

    /** @return list<string> at the end of a step */
    public function advanceLines(): array
    {
        $lines = [];
        foreach ($this->all() as $crew) {
            $roster = $crew->roster;
            $entering = new LoopEntering($this->context, $crew, $this->logged);
            [$m, $from, $moved] = [$roster->count(), $roster->variable('from'), $roster->variable('moved')];
            $enter = $entering->enterLines();
            $lines = [
                ...$lines,
                "$moved = false;",
                ...$this->leaveLines($crew),
                ...$enter === [] ? [] : ["$from = $m;", ...$enter, "if ($from < $m) {", "$moved = true;", '$t = $now + $step;'],
                ...$enter === [] ? [] : [...$entering->bornLines(), ...$entering->noted(true), '}'],
            ];
        }
        foreach ($this->all() as $crew) {
            $roster = $crew->roster;
            foreach ($roster->relations as $relation) {
                $moved = array_unique([$roster->variable('moved'), $this->target($relation)->variable('moved')]);
                $lines = [...$lines, 'if ('.implode(' || ', $moved).') {', ...$this->relationLines($roster, $relation), '}'];
            }
            array_push($lines, ...(new LoopTies($this->context, $roster))->advanceLines());
        }

        return $lines;
    }

    /** @return list<string> */
    private function leaveLines(LoopCrew $crew): array
    {
        $roster = $crew->roster;
        if ($roster->roster->exits === []) {
            return [];
        }
        [$m, $gone] = [$roster->count(), $roster->variable('gone')];
        $books = $moves = [];
        $hands = array_column($roster->roster->hands, 'to', 'of');
        foreach ($crew->stocks() as $stock) {
            [$y, $took, $each] = [$this->frame->whole('y', $stock), $this->frame->whole('took', $stock), $crew->each($stock)];
            $to = isset($hands[$stock]) ? " {$this->frame->whole('y', $hands[$stock])} += {$y}[\$j];" : '';
            $books[] =
                $each === 1
                    ? str_replace('$j', '$n', "$took += {$y}[\$j];$to")
                    : "for (\$j = \$n * $each; \$j < (\$n + 1) * $each; \$j++) { $took += {$y}[\$j];$to }";
        }
        foreach ($crew->carried() as $list => $each) {
            $moves[] =
                $each === 1
                    ? "{$list}[\$n] = {$list}[$m];"
                    : "for (\$j = 0; \$j < $each; \$j++) { {$list}[\$n * $each + \$j] = {$list}[$m * $each + \$j]; }";
        }

        return [
            "for (\$n = $m - 1; \$n >= 0; \$n--) {",
            "if ({$gone}[\$n] === 0) { continue; }",
            "{$roster->variable('moved')} = true;",
            ...$this->logged ? ["{$roster->variable('left')}[] = [{$roster->variable('who')}[\$n], \$i + 1, {$gone}[\$n]];"] : [],
            ...$books,
            "$m--;",
            "if (\$n < $m) {",
            ...$moves,
            '}',
            '}',
        ];
    }

    /** @return string what of it a run gives back, as code */
    public function told(): string
    {
        $all = [];
        foreach ($this->all() as $dimension => $crew) {
            $roster = $crew->roster;
            $sums = [];
            foreach ($crew->stocks() as $stock) {
                $sums[] =
                    var_export($stock, true)." => [{$this->frame->whole('brought', $stock)}, {$this->frame->whole('took', $stock)}]";
            }
            $has = [];
            foreach ($this->logged ? $crew->attributes() : [] as $key => $_) {
                $has[] = var_export((string) $key, true)." => {$this->frame->whole('has', (string) $key)}";
            }
            $ins = [];
            foreach ($this->logged ? $roster->belongs : [] as $id => $_) {
                $ins[] = var_export((string) $id, true)." => {$roster->of('ins', (string) $id)}";
            }
            $all[] =
                var_export((string) $dimension, true).
                " => [{$roster->variable('came')}, {$roster->variable('left')}, {$roster->variable('crew')}, [".
                implode(', ', $sums).
                '], ['.
                implode(', ', $has).
                '], ['.
                implode(', ', $ins).
                "], {$roster->count()}]";
        }

        return '['.implode(', ', $all).']';
    }
}
