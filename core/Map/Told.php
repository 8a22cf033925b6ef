<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

/** What moves when a map is pushed, in words: what first, which way, because of what, and which loops close. */
final readonly class Told
{
    /** So many beats on, hardly anybody follows. */
    private const MOST_CLOSES = 2_000;

    public function __construct(private CausalGraph $graph, private Arrivals $arrivals, private Loops $loops)
    {
    }

    /**
     * @param  \Closure(string): string  $shown  what stands for a factor: its name, or its id
     * @return array{
     *     arrivals: list<array{beat: int, name: string, direction: string, because: list<string>}>,
     *     closes: list<array{beat: int, loop: string}>,
     * }
     */
    public function record(\Closure $shown): array
    {
        return [
            'arrivals' => array_map(
                static fn (array $a): array => [
                    'beat' => $a['beat'],
                    'name' => $shown($a['id']),
                    'direction' => $a['direction'],
                    'because' => array_map($shown, $a['because']),
                ],
                $this->arrivals->all(),
            ),
            'closes' => array_map(
                static fn (array $c): array => ['beat' => $c['beat'], 'loop' => $c['loop']->name],
                array_slice($this->arrivals->closes($this->loops), 0, self::MOST_CLOSES),
            ),
        ];
    }

    /**
     * The same as sentences, beat by beat.
     *
     * @return list<array{beat: int, sentence: string, factor: ?string, loop: ?string}> ids of factors, names of loops
     */
    public function sentences(): array
    {
        $told = [];
        $sentences = new Sentences($this->graph);
        $known = [];
        foreach ($this->arrivals->all() as $a) {
            $open = array_filter($a['because'], static fn (string $id): bool => ($known[$id] ?? '') === '?');
            if (isset($known[$a['id']]) && count($open) === count($a['because'])) {
                // What hangs on something open is open itself: that is said where it begins.
                $known[$a['id']] = '?';

                continue;
            }
            $because = self::listed(array_map($this->name(...), $a['because']));
            $name = $this->name($a['id']);
            $told[] = [
                'beat' => $a['beat'],
                'sentence' => match (true) {
                    $a['direction'] !== '?' => ucfirst($sentences->clause($a['id'], $a['direction']))." than usual, because of $because.",
                    isset($known[$a['id']]) => "$name is now moved by $because, too: how it ends depends on which is stronger.",
                    count($a['because']) > 1 => "$name is moved both ways, by $because: it depends on which is stronger.",
                    default => "$name changes, because of $because; which way is open.",
                },
                'factor' => $a['id'],
                'loop' => null,
            ];
            $known[$a['id']] = $a['direction'];
        }
        foreach ($this->arrivals->closes($this->loops) as $i => ['beat' => $beat, 'loop' => $loop, 'at' => $at]) {
            if ($i < self::MOST_CLOSES) {
                $told[] = ['beat' => $beat, 'sentence' => $this->closing($loop, $at), 'factor' => null, 'loop' => $loop->name];
            }
        }
        usort($told, static fn (array $a, array $b): int => $a['beat'] <=> $b['beat']);

        return $told;
    }

    /** @return list<string> lines that end with a line break */
    public function lines(): array
    {
        $lines = array_map(static fn (array $t): string => sprintf("%5d  %s\n", $t['beat'], $t['sentence']), $this->sentences());

        return $lines === [] ? ["Nothing else moves: no link leads on from there.\n"] : [" beat\n", ...$lines];
    }

    private function closing(Loop $loop, string $at): string
    {
        $way = count($loop->path) > 1 ? ', by way of '.$this->name($loop->path[count($loop->path) - 1]) : '';
        foreach ($loop->path as $i => $id) {
            $way = count($loop->path) > 1 && $id === $at && $i > 0 ? ', by way of '.$this->name($loop->path[$i - 1]) : $way;
        }
        $does = match ($loop->sign) {
            '+' => ', and adds to what happened there.',
            '-' => ', and works against what happened there.',
            default => '; which way is open.',
        };

        return "Loop $loop->name comes back to {$this->name($at)}$way$does";
    }

    private function name(string $id): string
    {
        return '`'.$this->graph->names[$id].'`';
    }

    /** @param  list<string>  $words */
    private static function listed(array $words): string
    {
        $last = array_pop($words);

        return $words === [] ? (string) $last : implode(', ', $words)." and $last";
    }
}
