<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

use MerryOrbit\Core\Model\ActionIdea;
use MerryOrbit\Core\Model\Boundary;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\LoopName;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Pair;
use MerryOrbit\Core\Model\Parked;
use MerryOrbit\Core\Model\Question;

/** What was asked, said and found, as Markdown (CommonMark): to be read, printed, and put on file. */
final class Record
{
    /** So many loops are told. */
    private const LOOPS = 25;

    private const MARKS = ['+' => 'the same way', '-' => 'turned over', '?' => 'open which way'];

    public static function markdown(Model $model): string
    {
        $graph = CausalGraph::ofMap($model);
        $name = static fn (string $id): string => self::plain((string) $model->nameOf($id));
        $parts = [
            self::head($model),
            self::boundary($model),
            self::factors($model, $graph),
            self::votes($model, $name),
            self::links($model, $graph),
        ];
        $parts = [...$parts, self::loops($model, $graph), self::open($model, $graph), self::parked($model), self::actions($model, $name)];

        return implode("\n\n", array_filter($parts))."\n";
    }

    /** What is said of the map alone, as part of something larger: its headings are of the third level. */
    public static function ofMap(Model $model): string
    {
        $graph = CausalGraph::ofMap($model);
        $name = static fn (string $id): string => self::plain((string) $model->nameOf($id));
        $parts = [
            self::factors($model, $graph),
            self::links($model, $graph),
            self::loops($model, $graph),
            self::open($model, $graph),
            self::actions($model, $name),
        ];

        return (string) preg_replace('/^(#{2,3}) /m', '#$1 ', implode("\n\n", array_filter($parts)));
    }

    private static function head(Model $model): string
    {
        $lines = ['# '.self::plain($model->name)];
        foreach ($model->part('questions') as $question) {
            if ($question instanceof Question) {
                $lines[] = $question->text === '' ? '' : '**'.self::plain($question->text).'**';
                $lines[] = $question->who === '' ? '' : 'Who asks: '.self::plain($question->who);
                $lines[] = $question->decision === '' ? '' : 'What will be decided: '.self::plain($question->decision);
                $lines[] =
                    $question->answers === []
                        ? ''
                        : "What would count as an answer:\n\n".
                            implode("\n", array_map(static fn (string $a): string => '1. '.self::plain($a), $question->answers));
            }
        }

        return implode("\n\n", array_filter($lines));
    }

    private static function boundary(Model $model): string
    {
        $sides = array_fill_keys(Boundary::SIDES, []);
        $lines = array_filter($model->part('boundary'), static fn (mixed $l): bool => $l instanceof Boundary);
        usort($lines, static fn (Boundary $a, Boundary $b): int => $a->place <=> $b->place);
        foreach ($lines as $line) {
            $sides[$line->side][] = self::plain($line->name).($line->why === '' ? '' : ' ('.self::plain($line->why).')');
        }
        $words = ['inside' => 'Inside', 'given' => 'Given from outside', 'left' => 'Left out'];
        $told = [];
        foreach (array_filter($sides) as $side => $names) {
            $told[] = "- {$words[$side]}: ".implode(', ', $names);
        }

        return $told === [] ? '' : "## Boundary\n\n".implode("\n", $told);
    }

    private static function factors(Model $model, CausalGraph $graph): string
    {
        $groups = [];
        foreach ($graph->names as $id => $name) {
            $own = '';
            foreach ($model->groups as $group) {
                $own = in_array((string) $id, $group->members, true) ? $group->name : $own;
            }
            $groups[$own][] = self::plain($name);
        }
        ksort($groups);
        $lines = [];
        foreach ($groups as $group => $names) {
            sort($names);
            $lines[] = '- '.($group === '' ? '' : '**'.self::plain((string) $group).'**: ').implode(', ', $names);
        }

        return $lines === [] ? '' : '## '.count($graph->names)." factors\n\n".implode("\n", $lines);
    }

    /** @param  \Closure(string): string  $name */
    private static function votes(Model $model, \Closure $name): string
    {
        $pairs = array_filter($model->part('pairs'), static fn (mixed $p): bool => $p instanceof Pair);
        usort($pairs, static fn (Pair $a, Pair $b): int => $b->votes <=> $a->votes);
        $lines = array_map(static fn (Pair $p): string => "| {$name($p->one)}, {$name($p->other)} | $p->votes |", $pairs);

        return $lines === [] ? '' : "## Votes for pairs\n\n| pair | votes |\n|---|---:|\n".implode("\n", $lines);
    }

    private static function links(Model $model, CausalGraph $graph): string
    {
        $sentences = new Sentences($graph);
        $lines = [];
        foreach ($model->part('causalLinks') as $link) {
            if ($link instanceof CausalLink) {
                $own = new GraphLink($link->from, $link->to, $link->sign, $link->late, $link->strength);
                $read = array_map(self::spoken(...), array_filter($sentences->bothWays($own)));
                $lines[] =
                    '- '.
                    implode(' ', $read).
                    " *$link->standing".
                    ($link->strength === 'usual' ? '' : ", $link->strength").
                    '*'.
                    ($link->mechanism === '' ? '' : "\n  - Why: ".self::plain($link->mechanism)).
                    ($link->grounds === '' ? '' : "\n  - Grounds: ".self::plain($link->grounds));
            }
        }
        sort($lines);

        return $lines === [] ? '' : '## '.count($lines)." links\n\n".implode("\n", $lines);
    }

    private static function loops(Model $model, CausalGraph $graph): string
    {
        $called = [];
        foreach ($model->part('loopNames') as $one) {
            $called += $one instanceof LoopName ? [LoopName::keyOf(...$one->path) => ' '.self::plain($one->name)] : [];
        }
        $loops = Loops::of($graph);
        if ($loops->loops === []) {
            return '';
        }
        $sentences = new Sentences($graph);
        $told = array_map(
            static fn (Loop $l): string => "### $l->name".
                ($called[LoopName::keyOf(...$l->path)] ?? '').
                "\n\n".
                implode(' ', array_map(self::spoken(...), $sentences->ofLoop($l))),
            array_slice($loops->loops, 0, self::LOOPS),
        );
        $count = count($loops->loops);
        $head = '## '.($loops->isComplete ? '' : 'More than ')."$count feedback loop".($count === 1 ? '' : 's');
        $rest = $count > self::LOOPS ? ['The '.($count - self::LOOPS).' longer ones are not told here.'] : [];

        return implode("\n\n", [$head, ...$told, ...$rest]);
    }

    private static function open(Model $model, CausalGraph $graph): string
    {
        $lines = [];
        foreach ($model->part('causalLinks') as $link) {
            if ($link instanceof CausalLink && ($link->standing === 'disputed' || $link->sign === '?')) {
                $lines[] =
                    '- '.
                    self::plain($graph->names[$link->from]).
                    ' → '.
                    self::plain($graph->names[$link->to]).
                    ': '.
                    ($link->sign === '?' ? self::MARKS['?'] : "$link->standing, said to act ".self::MARKS[$link->sign]);
            }
        }
        sort($lines);

        return $lines === [] ? '' : "## Open points\n\n".implode("\n", $lines);
    }

    private static function parked(Model $model): string
    {
        $lines = [];
        foreach ($model->part('parked') as $one) {
            $lines[] = $one instanceof Parked ? '- ['.($one->done ? 'x' : ' ').'] '.self::plain($one->text) : '';
        }

        return $lines === [] ? '' : "## For later\n\n".implode("\n", $lines);
    }

    /** @param  \Closure(string): string  $name */
    private static function actions(Model $model, \Closure $name): string
    {
        $lines = [];
        foreach (ActionIdea::ranked($model) as $idea) {
            $link = $model->part('causalLinks')[$idea->link] ?? null;
            $at = match (true) {
                $link instanceof CausalLink => $name($link->from).' → '.$name($link->to),
                default => $name($idea->of),
            };
            $lines[] = '| '.self::plain($idea->text)." | $at | $idea->effect | $idea->effort |";
        }

        return $lines === [] ? '' : "## Action ideas\n\n| idea | at | effect | effort |\n|---|---|---|---|\n".implode("\n", $lines);
    }

    /** A sentence with its names in bold instead of backticks. */
    private static function spoken(string $sentence): string
    {
        return (string) preg_replace_callback('/`([^`]*)`/', static fn (array $m): string => '**'.self::plain($m[1]).'**', $sentence);
    }

    /** Text of people that means nothing in Markdown. */
    private static function plain(string $text): string
    {
        return (string) preg_replace(['/\s+/u', '/([\\\\`*_\[\]<>|#])/'], [' ', '\\\\$1'], trim($text));
    }
}
