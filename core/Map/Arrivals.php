<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

/**
 * In which order what is pushed reaches the factors of a map, and which way it moves them: a link takes as many beats as in
 * the sketch. A factor that is reached one way first and the other way later depends on which is stronger (`?`). What comes back to a
 * factor that it has come through is no other way but a loop that closes.
 */
final class Arrivals
{
    /** @var list<array{beat: int, id: string, direction: string, because: list<string>}> by beat, then by name; ids of factors */
    private array $all = [];

    /** @var array<string, string> which way each factor goes, as far as it is known */
    private array $directions;

    /** @var array<int, array<string, list<array{string, string, array<string, true>}>>> what is under way: by beat and factor, direction, cause and way */
    private array $coming = [];

    /**
     * @param  array<string, string>  $pushed  `+` or `-` by id of a factor
     * @param  array<string, int>  $since  by id, the beats at which they are pushed, if not from the start on
     */
    public function __construct(private readonly CausalGraph $graph, private readonly array $pushed, private readonly array $since = [])
    {
        $this->directions = $pushed;
        foreach ($pushed as $id => $direction) {
            $this->send((string) $id, $direction, $since[$id] ?? 0, [(string) $id => true]);
        }
        while ($this->coming !== []) {
            $beat = min(array_keys($this->coming));
            $now = $this->coming[$beat];
            unset($this->coming[$beat]);
            uksort($now, fn (string $a, string $b): int => strcmp($this->graph->names[$a], $this->graph->names[$b]));
            foreach ($now as $id => $arriving) {
                $this->arrive((string) $id, $arriving, $beat);
            }
        }
    }

    /**
     * What hands do to a map, and what begins high or low; the first of several hands on one factor counts.
     *
     * @param  list<Push>  $pushes
     * @param  array<string, float>  $starts  heights to begin with, by id of a factor
     */
    public static function ofPlay(CausalGraph $graph, array $pushes, array $starts = []): self
    {
        $pushed = $since = [];
        foreach ($starts as $id => $height) {
            $pushed += isset($graph->names[$id]) && $height != 0.0 ? [$id => $height > 0.0 ? '+' : '-'] : [];
        }
        foreach ($pushes as $push) {
            if (isset($graph->names[$push->factor]) && $push->direction() !== '?' && ! isset($pushed[$push->factor])) {
                $pushed[$push->factor] = $push->direction();
                $since[$push->factor] = (int) floor($push->from);
            }
        }

        return new self($graph, $pushed, $since);
    }

    /** @return list<array{beat: int, id: string, direction: string, because: list<string>}> */
    public function all(): array
    {
        return $this->all;
    }

    /**
     * The loops that are set going, by the beat at which they first come back to where they were entered.
     *
     * @return list<array{beat: int, loop: Loop, at: string}> with the id of that factor
     */
    public function closes(Loops $loops): array
    {
        $reached = array_intersect_key($this->since, $this->pushed) + array_map(static fn (): int => 0, $this->pushed);
        foreach ($this->all as $arrival) {
            $reached[$arrival['id']] ??= $arrival['beat'];
        }
        $closes = [];
        foreach ($loops->loops as $loop) {
            $entered = array_intersect_key($reached, array_flip($loop->path));
            if ($entered !== []) {
                $beat = min($entered);
                $at = (string) array_search($beat, $entered, true);
                foreach ($loop->path as $i => $from) {
                    $beat += $this->graph->link($from, $loop->path[($i + 1) % count($loop->path)])?->beats() ?? 1;
                }
                $closes[] = ['beat' => $beat, 'loop' => $loop, 'at' => $at];
            }
        }
        usort($closes, static fn (array $a, array $b): int => $a['beat'] <=> $b['beat']);

        return $closes;
    }

    /** @param  list<array{string, string, array<string, true>}>  $arriving  at the same beat */
    private function arrive(string $id, array $arriving, int $beat): void
    {
        $known = $this->directions[$id] ?? null;
        $directions = array_unique(array_column($arriving, 0));
        $direction = count($directions) === 1 && ($known === null || $known === $directions[0]) ? $directions[0] : '?';
        if ($direction === $known || isset($this->pushed[$id])) {
            return;
        }
        $this->directions[$id] = $direction;
        $names = array_column($arriving, 1);
        usort($names, fn (string $a, string $b): int => strcmp($this->graph->names[$a], $this->graph->names[$b]));
        $this->all[] = ['beat' => $beat, 'id' => $id, 'direction' => $direction, 'because' => array_values(array_unique($names))];
        // The ways by which it can have come: none of them leads back into itself.
        $this->send($id, $direction, $beat, array_intersect_key(...array_column($arriving, 2)) + [$id => true]);
    }

    /** @param  array<string, true>  $way  ids of the factors that it has come through */
    private function send(string $id, string $direction, int $beat, array $way): void
    {
        foreach ($this->graph->linksFrom($id) as $link) {
            if (! isset($way[$link->to])) {
                $next = $direction === '?' || $link->sign === '?' ? '?' : ($direction === $link->sign ? '+' : '-');
                $this->coming[$beat + $link->beats()][$link->to][] = [$next, $id, $way];
            }
        }
    }
}
