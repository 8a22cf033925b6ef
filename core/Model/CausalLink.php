<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * What people say of a cause and its effect. It lasts beside the formulas: what a formula uses follows from the formula and is
 * not kept.
 */
final readonly class CausalLink implements Readable, Recorded
{
    public const MOST = 5_000;

    /** More of the cause, more of the effect; more, less; not known. */
    public const SIGNS = ['+', '-', '?'];

    public const STRENGTHS = ['weak', 'usual', 'strong'];

    /** Where the people who talk about it stand. */
    public const STANDINGS = ['open', 'agreed', 'disputed'];

    /** What a link is of which nothing more is said: such fields are left out of records. */
    private const USUAL = [
        'sign' => '?',
        'strength' => 'usual',
        'late' => false,
        'mechanism' => '',
        'grounds' => '',
        'standing' => 'open',
    ];

    private const LONGEST = 4_000;

    public const SCHEMA = [
        'type' => 'object',
        'description' => 'What people say of a cause and its effect; it lasts beside the formulas.',
        'required' => ['from', 'id', 'to'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'from' => ['type' => 'string', 'description' => 'the name of the cause'],
            'to' => ['type' => 'string', 'description' => 'the name of the effect'],
            'sign' => ['enum' => self::SIGNS, 'default' => self::USUAL['sign']],
            'strength' => ['enum' => self::STRENGTHS, 'default' => self::USUAL['strength']],
            'late' => ['type' => 'boolean', 'default' => self::USUAL['late'], 'description' => 'whether it acts only after a while'],
            'mechanism' => ['type' => 'string', 'description' => 'why it acts'],
            'grounds' => ['type' => 'string', 'description' => 'what it rests on, with its source'],
            'standing' => ['enum' => self::STANDINGS, 'default' => self::USUAL['standing']],
        ],
        'examples' => [
            [
                'id' => 'l1',
                'from' => 'urchins',
                'to' => 'kelp',
                'sign' => '-',
                'late' => true,
                'mechanism' => 'They graze it.',
                'standing' => 'agreed',
            ],
        ],
    ];

    /**
     * @param  value-of<self::SIGNS>  $sign
     * @param  value-of<self::STRENGTHS>  $strength
     * @param  value-of<self::STANDINGS>  $standing
     */
    public function __construct(
        public string $id,
        public string $from,
        public string $to,
        public string $sign = self::USUAL['sign'],
        public string $strength = self::USUAL['strength'],
        public bool $late = self::USUAL['late'],
        public string $mechanism = self::USUAL['mechanism'],
        public string $grounds = self::USUAL['grounds'],
        public string $standing = self::USUAL['standing'],
    ) {
    }

    public static function read(mixed $record): self
    {
        $given = array_filter(is_array($record) ? $record : [], static fn (mixed $v): bool => $v !== null) + self::USUAL;
        [$id, $from, $to] = [$given['id'] ?? null, $given['from'] ?? null, $given['to'] ?? null];
        if (! is_string($id) || ! Element::isId($id) || ! is_string($from) || ! is_string($to) || $from === '' || $to === '') {
            throw NotUnderstood::because(
                'A causal link has an id of up to 40 small letters, digits and hyphens, and leads `from` one thing `to` another.',
            );
        }
        $words = [];
        foreach (['mechanism', 'grounds'] as $field) {
            $words[$field] = $given[$field];
            if (! is_string($words[$field]) || mb_strlen($words[$field]) > self::LONGEST) {
                throw NotUnderstood::because(
                    "The $field of a causal link is text of at most ".number_format(self::LONGEST).' characters.',
                );
            }
        }
        if (! is_bool($given['late'])) {
            throw NotUnderstood::because('`late` of a causal link is true or false.');
        }

        return new self(
            $id,
            $from,
            $to,
            self::oneOf($given, 'sign', self::SIGNS),
            self::oneOf($given, 'strength', self::STRENGTHS),
            $given['late'],
            $words['mechanism'],
            $words['grounds'],
            self::oneOf($given, 'standing', self::STANDINGS),
        );
    }

    /**
     * @template T of string
     *
     * @param  array<mixed>  $given
     * @param  list<T>  $known
     * @return T
     */
    private static function oneOf(array $given, string $field, array $known): string
    {
        $at = array_search($given[$field], $known, true);

        return $at === false
            ? throw NotUnderstood::because("The $field of a causal link is one of ".implode(', ', $known).'.')
            : $known[$at];
    }

    public function unfit(Model $model): ?string
    {
        foreach ([$this->from, $this->to] as $end) {
            if ($model->element($end) === null) {
                return 'A causal link leads from one thing of the model to another; one of its ends is not there.';
            }
        }
        foreach ($model->part('causalLinks') as $other) {
            if ($other instanceof self && $other->id !== $this->id && $other->from === $this->from && $other->to === $this->to) {
                return "There is a causal link from `{$model->nameOf($this->from)}` to `{$model->nameOf(
                    $this->to,
                )}` already. Change that one.";
            }
        }

        return null;
    }

    public function toRecord(): array
    {
        $said = [
            'sign' => $this->sign,
            'strength' => $this->strength,
            'late' => $this->late,
            'mechanism' => $this->mechanism,
            'grounds' => $this->grounds,
            'standing' => $this->standing,
        ];

        return [
            'id' => $this->id,
            'from' => $this->from,
            'to' => $this->to,
            ...array_filter($said, static fn (mixed $value, string $field): bool => $value !== self::USUAL[$field], ARRAY_FILTER_USE_BOTH),
        ];
    }
}
