<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Map\CausalGraph;
use MerryOrbit\Core\Map\Loops;
use MerryOrbit\Core\Map\Sentences;

/** Loops for people to read: one a line, a sentence before them. */
final class LoopTable
{
    private const WORDS = ['+' => 'reinforcing', '-' => 'balancing', '?' => 'of open sign'];

    /**
     * @param  bool  $isTold  whether each loop is also told step by step
     * @return list<string> lines that end with a line break
     */
    public static function lines(Loops $loops, CausalGraph $graph, bool $isTold): array
    {
        $count = count($loops->loops);
        if ($count === 0 && $loops->isComplete) {
            return ["There is no feedback loop.\n"];
        }
        $lines = [
            match (true) {
                ! $loops->isComplete => "There are more loops than $count; these are the shorter ones.\n",
                $count === 1 => "There is one loop.\n",
                default => "There are $count loops.\n",
            },
        ];
        foreach ($loops->loops as $loop) {
            $way = [];
            foreach ($loop->path as $i => $id) {
                $sign = $graph->link($id, $loop->path[($i + 1) % count($loop->path)])->sign ?? '?';
                $way[] = $graph->names[$id]." →$sign ";
            }
            $lines[] =
                sprintf('%-6s', $loop->name).
                sprintf('%-14s', self::WORDS[$loop->sign]).
                sprintf('%-9s', $loop->delayed ? 'delayed' : '').
                implode('', $way).
                $graph->names[$loop->path[0]].
                "\n";
            foreach ($isTold ? (new Sentences($graph))->ofLoop($loop) : [] as $sentence) {
                $lines[] = "      $sentence\n";
            }
        }

        return $lines;
    }
}
