<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Plan;

use MerryOrbit\Core\Model\Model;

/** The keys of a plan by the texts that stand for them. An element's own key is its id, and need not be entered. */
final class Keys
{
    /** @var array<string, Key> */
    private array $keys = [];

    /** @return string the text that stands for it */
    public function enter(Key $key): string
    {
        $text = $key->text();
        $this->keys[$text] = $key;

        return $text;
    }

    public function of(string $text): Key
    {
        return $this->keys[$text] ?? new Key($text);
    }

    /** The element's id that a key belongs to. */
    public function owner(string $text): string
    {
        return isset($this->keys[$text]) ? $this->keys[$text]->owner : $text;
    }

    /** What a key is called: the name of its element, and behind it where along its dimensions it stands. */
    public function nameOf(string $text, Model $model): string
    {
        $key = $this->of($text);

        return $model->nameOf($key->owner).$key->shown;
    }

    public function isHidden(string $text): bool
    {
        return isset($this->keys[$text]) && $this->keys[$text]->part !== '';
    }
}
