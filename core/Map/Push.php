<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

use MerryOrbit\Core\Problem\NotUnderstood;

/** What a hand does to a factor of a map that is played: push it up or down, or hold it at a height, from one beat until another. */
final readonly class Push
{
    public const MOST = 60;

    /**
     * @param  float  $by  of a push: how strongly, and which way, as a cause would; of a hold: the height, from -1 to 1
     * @param  ?float  $until  the beat at which it is let go; null for never
     */
    public function __construct(
        public string $factor,
        public float $by,
        public bool $isHold = false,
        public float $from = 0.0,
        public ?float $until = null,
    ) {
    }

    /** @throws NotUnderstood with a sentence */
    public static function read(mixed $record): self
    {
        $given = is_array($record) ? $record : [];
        $number = static fn (mixed $v): ?float => (is_int($v) || is_float($v)) && is_finite((float) $v) ? (float) $v : null;
        $by = $number($given['by'] ?? null);
        $from = $number($given['from'] ?? 0);
        $until = $number($given['until'] ?? null);
        if (! is_string($given['factor'] ?? null) || $by === null || abs($by) > 1.0) {
            throw NotUnderstood::because('A push names its `factor` and, from -1 to 1, how far it goes `by`.');
        }
        if ($from === null || $from < 0.0 || (isset($given['until']) && ($until === null || $until < $from))) {
            throw NotUnderstood::because(
                'A push begins at the beat `from`, which is not negative, and ends at `until`, which is not before it.',
            );
        }

        return new self($given['factor'], $by, ($given['hold'] ?? false) === true, $from, $until);
    }

    /** @return '+'|'-'|'?' */
    public function direction(): string
    {
        return $this->by > 0.0 ? '+' : ($this->by < 0.0 ? '-' : '?');
    }
}
