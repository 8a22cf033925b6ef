<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Plan;

/** What a computed thing is known by: the element it belongs to, which hidden part of it, and its position along the dimensions. */
final readonly class Key
{
    /** Where a parameter that is held by hand keeps its own value. */
    public const BASE = 'base';

    /**
     * @param  string  $part  empty for the element itself
     * @param  list<string>  $at  ids of the elements of its dimensions; empty for a single number
     * @param  string  $shown  the same as people read it: `[north, old]`
     */
    public function __construct(public string $owner, public string $part = '', public array $at = [], public string $shown = '')
    {
    }

    /** The id of the element to which a text belongs that stands for a key, or for one of the elements of it along dimensions. */
    public static function ownerOf(string $text): string
    {
        return strstr($text, '[', true) ?: $text;
    }

    public function isHidden(): bool
    {
        return $this->part !== '';
    }

    /** A text that no other key has, for lists: it is looked up in Keys, never taken apart. */
    public function text(): string
    {
        return $this->owner.($this->part === '' ? '' : "#$this->part").($this->at === [] ? '' : '['.implode(',', $this->at).']');
    }
}
