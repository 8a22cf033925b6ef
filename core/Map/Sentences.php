<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

/**
 * Links and loops in ordinary words. They have no verb that would have to agree with a name, since nothing says yet whether a
 * factor is one thing or many.
 */
final readonly class Sentences
{
    public function __construct(private CausalGraph $graph)
    {
    }

    /** A link read both ways. */
    public function ofLink(GraphLink $link): string
    {
        [$cause, $effect] = [$this->name($link->from), $this->name($link->to)];
        if ($link->sign === '?') {
            return "More or less $cause changes $effect; which way is open.";
        }
        $late = $link->late ? ' after a while' : '';
        [$up, $down] = $link->sign === '+' ? ['more', 'less'] : ['less', 'more'];

        return "With more $cause,$late $up $effect than there otherwise would be; with less, $down.";
    }

    /**
     * A loop told step by step, from the first of its path that becomes more until it comes back there.
     *
     * @return non-empty-list<string>
     */
    public function ofLoop(Loop $loop): array
    {
        $story = ['Begin with more '.$this->name($loop->path[0]).'.'];
        $direction = '+';
        foreach ($loop->path as $i => $from) {
            $link = $this->graph->link($from, $loop->path[($i + 1) % count($loop->path)]);
            if ($link === null) {
                continue;
            }
            $that = $link->late ? 'After a while that' : 'That';
            $effect = $this->name($link->to);
            if ($direction === '?') {
                $story[] = "$that changes $effect, too.";
            } elseif ($link->sign === '?') {
                $story[] = "$that changes $effect; which way is open.";
                $direction = '?';
            } else {
                $direction = $direction === $link->sign ? '+' : '-';
                $story[] = "$that makes for ".($direction === '+' ? 'more' : 'less')." $effect than there otherwise would be.";
            }
        }
        $story[] = match ($loop->sign) {
            '+' => 'This adds to what began it: the loop is reinforcing.',
            '-' => 'This works against what began it: the loop is balancing.',
            default => 'As long as that is open, so is whether the loop is reinforcing or balancing.',
        };

        return $story;
    }

    /**
     * A loop as it is handed out.
     *
     * @return array{name: string, polarity: string, delayed: bool, path: non-empty-list<string>, story: non-empty-list<string>} the
     *   path as ids
     */
    public function record(Loop $loop): array
    {
        return [
            'name' => $loop->name,
            'polarity' => $loop->sign,
            'delayed' => $loop->delayed,
            'path' => $loop->path,
            'story' => $this->ofLoop($loop),
        ];
    }

    private function name(string $id): string
    {
        return '`'.$this->graph->names[$id].'`';
    }
}
