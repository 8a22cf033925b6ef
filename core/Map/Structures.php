<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

use MerryOrbit\Core\Formula\Name;

/** The common structures that Merry Orbit knows, and where a map looks like one. */
final class Structures
{
    /** Places in a map that are told of one structure. */
    private const MOST = 12;

    /** Steps of the search for one structure in one map. */
    private const STEPS = 40_000;

    /** @var array<string, Structure>|null */
    private static ?array $all = null;

    /** @return array<string, Structure> by id */
    public static function all(): array
    {
        return self::$all ??= array_column(self::declared(), null, 'id');
    }

    /**
     * Where a map looks like a structure: each of its roles is played by a factor, and each of its links is there with its sign. Links
     * of open sign do not count; what else the factors do does not matter. Two places with the same factors are told once.
     *
     * @return array<string, array{places: list<array<string, string>>, isComplete: bool}> by structure, ids of factors by role; not
     *   complete where there may be more places
     */
    public static function in(CausalGraph $graph): array
    {
        $found = [];
        foreach (self::all() as $structure) {
            $places = [];
            $steps = self::STEPS;
            foreach (self::places($structure, $graph, $steps) as $roles) {
                $key = $roles;
                sort($key);
                $places[implode("\n", $key)] ??= $roles;
                if (count($places) > self::MOST) {
                    break;
                }
            }
            $isComplete = $steps >= 0 && count($places) <= self::MOST;
            $found[$structure->id] = ['places' => array_slice(array_values($places), 0, self::MOST), 'isComplete' => $isComplete];
        }

        return $found;
    }

    /** @return \Generator<int, array<string, string>> */
    private static function places(Structure $structure, CausalGraph $graph, int &$steps): \Generator
    {
        // Roles in an order in which each is linked to one before it, as far as that goes: few factors can play the next.
        $order = [array_key_first($structure->roles)];
        while (count($order) < count($structure->roles)) {
            $next = null;
            foreach (array_keys($structure->roles) as $role) {
                $touches = array_filter(
                    $structure->links,
                    static fn (GraphLink $l): bool => ($l->from === $role && in_array($l->to, $order, true)) ||
                        ($l->to === $role && in_array($l->from, $order, true)),
                );
                $next ??= ! in_array($role, $order, true) && $touches !== [] ? $role : null;
            }
            $order[] = $next ?? array_values(array_diff(array_keys($structure->roles), $order))[0];
        }
        $factors = array_map(strval(...), array_keys($graph->names));

        yield from self::extended($structure, $graph, array_map(strval(...), $order), $factors, [], $steps);
    }

    /**
     * @param  list<string>  $order
     * @param  list<string>  $factors
     * @param  array<string, string>  $roles  played so far
     * @return \Generator<int, array<string, string>>
     */
    private static function extended(
        Structure $structure,
        CausalGraph $graph,
        array $order,
        array $factors,
        array $roles,
        int &$steps,
    ): \Generator {
        $role = $order[count($roles)] ?? null;
        if ($role === null) {
            yield $roles;

            return;
        }
        foreach ($factors as $factor) {
            if (--$steps < 0) {
                return;
            }
            if (! in_array($factor, $roles, true) && self::fits($structure, $graph, [...$roles, $role => $factor], $role)) {
                yield from self::extended($structure, $graph, $order, $factors, [...$roles, $role => $factor], $steps);
            }
        }
    }

    /** @param  array<string, string>  $roles */
    private static function fits(Structure $structure, CausalGraph $graph, array $roles, string $new): bool
    {
        foreach ($structure->links as $link) {
            if (($link->from === $new || $link->to === $new) && isset($roles[$link->from], $roles[$link->to])) {
                if ($graph->link($roles[$link->from], $roles[$link->to])?->sign !== $link->sign) {
                    return false;
                }
            }
        }

        return true;
    }

    /** @return list<Structure> */
    private static function declared(): array
    {
        return [
            self::made(
                'rivals',
                'Two rivals who outdo each other',
                'Each does a little more than the other did, and calls it an answer. Both say that the other began.',
                'Both efforts grow and grow, while the shares stay where they were: a sketch shows that they go up and stay up.',
                'One of them stops answering for a while, and says so; or both agree on what is enough.',
                ['our effort +> their effort ~', 'their effort +> our effort ~', 'our effort +> our share', 'their effort -> our share'],
                'our effort',
            ),
            self::made(
                'limit',
                'Growth that meets a limit',
                'It went well by itself for a long time. Now more of the same brings less and less.',
                'It grows faster and faster, then slower, and comes to rest near what there is room for.',
                'Look for the limit before it is felt, and widen it; pushing the growth only brings the limit nearer.',
                ['size +> growth', 'growth +> size', 'size +> crowding', 'crowding -> growth'],
                'size',
            ),
            self::made(
                'pool',
                'A shared pool that is drained',
                'Everybody takes from the same thing, and each gains by taking more. Nobody alone can save it.',
                'For a long time all take more. Then there is less for everyone at once.',
                'Let those who take see the whole, and agree on shares; or let what one takes cost what it takes from the others.',
                [
                    'our catch +> our gain',
                    'our gain +> our catch',
                    'their catch +> their gain',
                    'their gain +> their catch',
                    'our catch -> shared pool',
                    'their catch -> shared pool',
                    'shared pool +> our gain',
                    'shared pool +> their gain',
                ],
                'our catch',
            ),
            self::made(
                'backfire',
                'A mend that makes it worse',
                'It helps at once, and the same trouble comes back later, larger. Then more of the same mend is used.',
                'The trouble falls after each mend and rises higher afterwards.',
                'Ask what the mend does later and elsewhere; use it only to win time for what lasts.',
                ['trouble +> quick mend', 'quick mend -> trouble', 'quick mend +> side effect ~', 'side effect +> trouble'],
                'trouble',
            ),
            self::made(
                'relief',
                'Leaning on the quick relief',
                'The quick relief works so well that the lasting one is put off, and in time nobody knows how to do it any more.',
                'The trouble stays away as long as the relief goes on, the need for relief grows, and the power to do without it fades.',
                'Strengthen the lasting cure while the relief still works, and make the relief a little harder to get.',
                [
                    'trouble +> quick relief',
                    'quick relief -> trouble',
                    'trouble +> lasting cure ~',
                    'lasting cure -> trouble',
                    'quick relief -> lasting cure',
                ],
                'trouble',
            ),
            self::made(
                'goal',
                'A goal that gives way',
                'What was too little last year is normal this year. The gap is closed by asking for less.',
                'Both what is reached and what is aimed at sink slowly, and the gap looks small all the time.',
                'Tie the goal to something outside, such as the best there was, or what others reach.',
                ['goal +> gap', 'gap -> goal ~', 'gap +> effort', 'effort +> what is reached ~', 'what is reached -> gap'],
                'gap',
            ),
            self::made(
                'have',
                'Success to who has',
                'Who did well gets more to do well with, and the other gets what is left.',
                'A small lead becomes a large one; the other fades although it was as good.',
                'Give by promise and not by success alone, or let each have something of its own.',
                [
                    'success of one +> share of one',
                    'share of one +> success of one',
                    'share of one -> share of the other',
                    'share of the other +> success of the other',
                    'success of the other -> share of one',
                ],
                'success of one',
            ),
            self::made(
                'capacity',
                'Growth held back by too little capacity',
                'Demand grows until those who wait are many; they turn away, and nobody builds, for demand has fallen.',
                'It grows, stumbles, recovers, and stays below what it could be.',
                'Build ahead of demand, and hold on to a standard of what is good enough when it falls.',
                [
                    'demand +> waiting',
                    'waiting -> demand ~',
                    'waiting +> call for capacity',
                    'call for capacity +> capacity ~',
                    'capacity -> waiting',
                    'success +> demand',
                    'demand +> success',
                ],
                'demand',
            ),
        ];
    }

    /**
     * @param  list<string>  $links  such as `gap -> goal ~`: more of the one, less of the other, late
     */
    private static function made(
        string $id,
        string $title,
        string $recognise,
        string $course,
        string $helps,
        array $links,
        string $pushed,
    ): Structure {
        $roles = $made = [];
        foreach ($links as $line) {
            [$from, $rest] = preg_split('/ [+-]> /', $line, 2) ?: ['', ''];
            $late = str_ends_with((string) $rest, ' ~');
            $to = $late ? substr((string) $rest, 0, -2) : (string) $rest;
            $roles += [self::role((string) $from) => (string) $from, self::role($to) => $to];
            $made[] = new GraphLink(
                self::role((string) $from),
                self::role($to),
                str_contains($line, ' +> ') ? '+' : '-',
                $late,
                'strong',
            );
        }

        return new Structure($id, $title, $recognise, $course, $helps, $roles, $made, [
            new Push(self::role($pushed), 1.0, false, 0.0, 3.0),
        ]);
    }

    private static function role(string $name): string
    {
        return str_replace(' ', '-', Name::key($name));
    }
}
