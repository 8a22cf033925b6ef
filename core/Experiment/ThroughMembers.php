<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Experiment;

use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Roster\OpenRoster;

/**
 * What moves a value where members come and go: what all of them have together is one cause, and of it each of them is one. A trail so
 * leads to the sum, and from there to a single member.
 */
final readonly class ThroughMembers
{
    /** So many members are told one by one. */
    private const MOST = 60;

    /** Stands for all other members together among the causes. */
    public const OTHERS = 'others';

    /** @param  list<OpenRoster>  $rosters */
    private function __construct(private Instant $instant, private array $rosters)
    {
    }

    /** @param  Trial  $trial  whose moment it is, with members that come and go */
    public static function of(Trial $trial, Instant $instant): self
    {
        return new self($instant, array_values($trial->analysis->shaped->extents->rosters->all ?? []));
    }

    /** Whether it is what each member of a roster has, of all of them. */
    public function isOfAll(string $id): bool
    {
        $over = $this->instant->trial->analysis->extents[$id] ?? [];

        return count($over) === 1 && in_array($over[0], array_column($this->rosters, 'dimension'), true);
    }

    /** The value of one, or the sum of what all members have. */
    public function value(string $id): ?float
    {
        return $this->isOfAll($id) ? $this->sum($id, $this->instant->value(...)) : $this->instant->value($id);
    }

    public function rate(string $id): ?float
    {
        return $this->isOfAll($id) ? $this->sum($id, $this->instant->rate(...)) : $this->instant->rate($id);
    }

    /** @param  \Closure(string): ?float  $of */
    private function sum(string $id, \Closure $of): float
    {
        return array_sum(
            array_map(static fn (string $key): float => $of($key) ?? 0.0, $this->instant->trial->analysis->positions->of($id)),
        );
    }

    /** @return array{causes: list<array{cause: string, change: float}>, rest: float} as Instant::causes() */
    public function causes(string $id): array
    {
        if (! $this->isOfAll($id)) {
            ['causes' => $causes, 'rest' => $rest] = $this->instant->causes($id);
            $all = [];
            foreach ($causes as $one) {
                $key = $this->together($one['cause'], array_column($causes, 'cause'));
                $all[$key] = ['cause' => $key, 'change' => ($all[$key]['change'] ?? 0.0) + $one['change']];
            }

            return ['causes' => self::strongest(array_values($all)), 'rest' => $rest];
        }
        $each = array_map(
            fn (string $key): array => ['cause' => $key, 'change' => $this->instant->rate($key) ?? 0.0],
            $this->instant->trial->analysis->positions->of($id),
        );
        $each = self::strongest($each);
        $others = array_slice($each, self::MOST);

        return [
            'causes' => [
                ...array_slice($each, 0, self::MOST),
                ...$others === [] ? [] : [['cause' => self::OTHERS, 'change' => array_sum(array_column($others, 'change'))]],
            ],
            'rest' => 0.0,
        ];
    }

    /** @return list<array{effect: string, change: float, share: float}> as Instant::effects(); of many members, their sum and mean share */
    public function effects(string $id): array
    {
        $effects = $this->isOfAll($id) ? [] : $this->instant->effects($id);
        $groups = [];
        foreach ($effects as $one) {
            $groups[$this->together($one['effect'], array_column($effects, 'effect'))][] = $one;
        }
        $all = [];
        foreach ($groups as $key => $group) {
            $all[] = [
                'effect' => (string) $key,
                'change' => array_sum(array_column($group, 'change')),
                'share' => array_sum(array_column($group, 'share')) / count($group),
            ];
        }

        return $all;
    }

    /**
     * What has to be said besides.
     *
     * @return list<array{sentence: string, since: ?float, element: ?string}>
     */
    public function remarks(string $id): array
    {
        $causes = array_column($this->causes($id)['causes'], 'cause');
        // It is said once, where all together are a cause.
        $isGathered = $causes === [Instant::TIME] || array_filter($causes, $this->isOfAll(...)) !== [];
        $said = [];
        foreach ($isGathered ? $this->rosters : [] as $roster) {
            if ($roster->roster->entries !== [] || $roster->roster->exits !== [] || $roster->roster->since !== '') {
                $said[] = [
                    'sentence' => "Members of `$roster->name` come and go at the ends of steps. What that changes is not among these causes.",
                    'since' => null,
                    'element' => null,
                ];
            }
        }

        return $said;
    }

    /**
     * What one member has, if others have it beside: what all have.
     *
     * @param  list<string>  $beside
     */
    private function together(string $key, array $beside): string
    {
        $owner = Key::ownerOf($key);
        $isMany = count(array_filter($beside, static fn (string $k): bool => Key::ownerOf($k) === $owner)) > 1;

        return $owner !== $key && $isMany && $this->isOfAll($owner) ? $owner : $key;
    }

    /**
     * @param  list<array{cause: string, change: float}>  $causes
     * @return list<array{cause: string, change: float}>
     */
    private static function strongest(array $causes): array
    {
        usort($causes, static fn (array $a, array $b): int => abs($b['change']) <=> abs($a['change']));

        return $causes;
    }
}
