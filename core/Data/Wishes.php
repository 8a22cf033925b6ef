<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

use MerryOrbit\Core\Model\Source;
use MerryOrbit\Core\Problem\NotUnderstood;

/** What a person says of a table; what is left open is recognised. */
final readonly class Wishes
{
    /**
     * @param  value-of<Source::LAYOUTS>  $layout
     * @param  value-of<Source::DECIMALS>  $decimal
     * @param  value-of<Source::DATES>  $dates
     * @param  ?int  $names  the row that holds the names of what runs down (or, across, the times), from 1
     * @param  ?string  $time  the name of the column of times
     */
    public function __construct(
        public ?string $sheet = null,
        public string $layout = 'auto',
        public string $decimal = 'auto',
        public string $dates = 'auto',
        public ?int $names = null,
        public ?string $time = null,
    ) {
    }

    /** As a study keeps them. */
    public static function of(Source $source): self
    {
        $word = static fn (string $w): ?string => $w === '' ? null : $w;

        return new self(
            $word($source->sheet),
            $source->layout,
            $source->decimal,
            $source->dates,
            $source->names === 0 ? null : $source->names,
            $word($source->time),
        );
    }

    /**
     * @param  array<string, mixed>  $said  by the names of the fields; what is empty counts as not said
     *
     * @throws NotUnderstood
     */
    public static function read(array $said): self
    {
        $names = $said['names'] ?? null;
        if ($names !== null && $names !== '' && (! is_numeric($names) || (int) $names != $names || (int) $names < 1)) {
            throw NotUnderstood::because('`names` is the number of a row, counted from 1.');
        }

        return new self(
            is_string($said['sheet'] ?? null) && $said['sheet'] !== '' ? $said['sheet'] : null,
            self::one($said, 'layout', Source::LAYOUTS),
            self::one($said, 'decimal', Source::DECIMALS),
            self::one($said, 'dates', Source::DATES),
            $names === null || $names === '' ? null : (int) $names,
            is_scalar($said['time'] ?? null) && $said['time'] !== '' ? (string) $said['time'] : null,
        );
    }

    /**
     * @template T of string
     *
     * @param  array<string, mixed>  $said
     * @param  list<T>  $choices
     * @return T
     */
    private static function one(array $said, string $field, array $choices): string
    {
        $word = is_scalar($said[$field] ?? null) && $said[$field] !== '' ? (string) $said[$field] : 'auto';
        $at = array_search($word, $choices, true);

        return $at === false
            ? throw NotUnderstood::because("`$field` is one of ".implode(', ', $choices).", not `$word`.")
            : $choices[$at];
    }
}
