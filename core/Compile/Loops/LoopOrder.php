<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Shape\Lifting;

/**
 * Puts items into groups that share one loop over their elements: as many as can be, since what is used where it is computed stays in
 * a local variable. An item comes after what it needs: in the same loop if it reads the same element, behind it if it reads others. A
 * state moves on only when nothing that reads it is left.
 */
final class LoopOrder
{
    /** @var list<non-empty-list<LoopItem>> */
    public array $groups = [];

    /** @var array<string, LoopItem> */
    private array $left = [];

    /** @var array<string, true> items whose loops are closed */
    private array $done = [];

    /** @var array<string, list<array{LoopItem, bool}>> by key of a state, who reads it, and whether the same element */
    private array $readers = [];

    /** @param  list<LoopItem>  $items  each after those it needs */
    public function __construct(array $items)
    {
        foreach ($items as $item) {
            $this->left[$item->name()] = $item;
            if ($item->kind !== 'rate') {
                foreach ($item->near as $key => $_) {
                    $this->readers[$key][] = [$item, true];
                }
                foreach ($item->far + $item->behind as $key => $_) {
                    $this->readers[$key][] = [$item, false];
                }
            }
        }
        while ($this->left !== []) {
            $this->groups[] = $this->next();
        }
    }

    /** @return non-empty-list<LoopItem> */
    private function next(): array
    {
        $first = null;
        foreach ($this->left as $item) {
            // The largest wait: the later their loop comes, the more can join it.
            if (($first === null || $item->size < $first->size) && $this->isReady($item, [])) {
                $first = $item;
            }
        }
        if ($first === null) {
            throw new \LogicException('These need each other: '.implode(', ', array_keys($this->left)));
        }
        $group = [$first->name() => $first];
        do {
            $grown = false;
            foreach ($this->left as $name => $item) {
                if (
                    ! isset($group[$name]) &&
                    $item->early === $first->early &&
                    $item->extent === $first->extent &&
                    ! self::isAlone($first) &&
                    ! self::isAlone($item) &&
                    $this->isReady($item, $group)
                ) {
                    $group[$name] = $item;
                    $grown = true;
                }
            }
        } while ($grown);
        $this->left = array_diff_key($this->left, $group);
        $this->done += array_fill_keys(array_keys($group), true);

        return array_values($group);
    }

    /** What brings loops of its own over all elements. */
    private static function isAlone(LoopItem $item): bool
    {
        return $item->kind === 'lifted' && $item->node instanceof Call && Lifting::isAmong($item->node);
    }

    /** @param  array<string, LoopItem>  $group */
    private function isReady(LoopItem $item, array $group): bool
    {
        foreach ($item->near + $item->behind as $key => $_) {
            if (isset($this->left[$key]) && ! isset($group[$key])) {
                return false;
            }
        }
        foreach ($item->far as $key => $_) {
            if (isset($this->left[$key])) {
                return false;
            }
        }
        foreach ($item->kind === 'rate' ? $this->readers[$item->key] ?? [] : [] as [$reader, $near]) {
            // At the start of a step others read the state as it was.
            if ($reader->early && ! $item->early) {
                continue;
            }
            if (! isset($this->done[$reader->name()]) && ! ($near && isset($group[$reader->name()]))) {
                return false;
            }
        }

        return true;
    }
}
