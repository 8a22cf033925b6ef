<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

/**
 * Links and loops in ordinary words. Where people have said how they speak of a factor (see Wording), the words are theirs; else a
 * sentence has no verb that would have to agree with the name.
 */
final readonly class Sentences
{
    /** What more and less are called: of one thing, of many, and of what nobody has said that of. */
    private const WORDS = [
        'one' => ['+' => 'there is more %s', '-' => 'there is less %s'],
        'many' => ['+' => 'there are more %s', '-' => 'there are fewer %s'],
    ];

    public function __construct(private CausalGraph $graph)
    {
    }

    /**
     * A link read one way and the other: more of the cause, and less of it.
     *
     * @return array{string, string} the second is empty where the sign is open
     */
    public function bothWays(GraphLink $link): array
    {
        if ($link->sign === '?') {
            return ['More or less '.$this->name($link->from).' changes '.$this->name($link->to).'; which way is open.', ''];
        }
        $late = $link->late ? ', after a while,' : ',';
        $read = function (string $direction) use ($link, $late): string {
            $effect = $direction === $link->sign ? '+' : '-';

            return ucfirst(
                "{$this->condition($link->from, $direction)}$late {$this->clause($link->to, $effect)} {$this->than($link->to)}.",
            );
        };

        return [$read('+'), $read('-')];
    }

    /** "there is more `seagrass`", or the words of the people; without a known number just "more `seagrass`". */
    public function clause(string $id, string $direction): string
    {
        return $this->own($id, $direction) ?? ($direction === '+' ? 'more ' : 'less ').$this->name($id);
    }

    /**
     * A loop told step by step, from the first of its path that becomes more until it comes back there.
     *
     * @return non-empty-list<string>
     */
    public function ofLoop(Loop $loop): array
    {
        $own = $this->own($loop->path[0], '+');
        $story = [$own === null ? 'Begin with more '.$this->name($loop->path[0]).'.' : "Let us say that $own."];
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
                $own = $this->own($link->to, $direction);
                $story[] =
                    $own === null
                        ? "$that makes for ".($direction === '+' ? 'more' : 'less')." $effect than there otherwise would be."
                        : ($link->late ? 'After a while' : 'Then')." $own {$this->than($link->to)}.";
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

    private function condition(string $id, string $direction): string
    {
        $own = $this->own($id, $direction);

        return $own === null ? ($direction === '+' ? 'with more ' : 'with less ').$this->name($id) : "when $own";
    }

    /** What people say; null where they have said nothing of it. */
    private function own(string $id, string $direction): ?string
    {
        $wording = $this->graph->wordings[$id] ?? null;
        $clause = $direction === '+' ? $wording->more ?? '' : $wording->less ?? '';
        if ($clause !== '') {
            return $clause;
        }

        $words = self::WORDS[$wording->number ?? ''][$direction] ?? null;

        return $words === null ? null : sprintf($words, $this->name($id));
    }

    /** A clause of people's own takes no "there". */
    private function than(string $id): string
    {
        $wording = $this->graph->wordings[$id] ?? null;

        return $wording !== null && ($wording->more !== '' || $wording->less !== '') ? 'than otherwise' : 'than there otherwise would be';
    }

    private function name(string $id): string
    {
        return '`'.$this->graph->names[$id].'`';
    }
}
