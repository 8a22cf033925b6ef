<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Problem\NotUnderstood;

/** An exception of a formula: what holds instead for some elements of its dimensions. */
final readonly class SpecialCase
{
    /** Of one thing. */
    public const MOST = 200;

    /** Instead of a list of elements: the first or the last one, or all (of a dimension that is a part of another). */
    public const WORDS = ['first', 'last', 'all'];

    /** @param  array<string, list<string>|string>  $for  by id of the dimension, ids of elements or one of WORDS */
    public function __construct(public array $for, public FormulaText $formula)
    {
    }

    public function withFormula(FormulaText $formula): self
    {
        return $formula === $this->formula ? $this : new self($this->for, $formula);
    }

    /**
     * Whom it is for: ids of elements by dimension. Null where a dimension or all of its elements are gone.
     *
     * @return ?array<string, list<string>>
     */
    public function region(Dimensions $dimensions): ?array
    {
        $region = [];
        foreach ($this->for as $dimension => $elements) {
            $here = $dimensions->elements($dimension);
            $all = $dimensions->allElements($dimension);
            $region[$dimension] = match ($elements) {
                'first' => array_slice($here, 0, 1),
                'last' => array_slice($here, -1),
                'all' => $all,
                default => array_values(array_intersect($all, (array) $elements)),
            };
            if ($region[$dimension] === []) {
                return null;
            }
        }

        return $region === [] ? null : $region;
    }

    /** As people say it: "terrace north, age first". */
    public function words(Dimensions $dimensions): string
    {
        $words = [];
        foreach ($this->for as $dimension => $elements) {
            $which = is_string($elements)
                ? $elements
                : implode(' or ', array_map(static fn (string $e): string => $dimensions->elementName($dimension, $e), $elements));
            $words[] = $dimensions->nameOf($dimension).($which === 'all' ? '' : ' '.$which);
        }

        return implode(', ', $words);
    }

    /**
     * @param  mixed  $for  by name or id of the dimension, one of WORDS, an element's name or id, or a list of such
     * @return array<string, list<string>|string> with ids
     *
     * @throws NotUnderstood
     */
    public static function readFor(mixed $for, Dimensions $dimensions): array
    {
        $found = [];
        foreach (is_array($for) ? $for : [] as $called => $elements) {
            $dimension =
                $dimensions->find((string) $called)->id ??
                throw NotUnderstood::because("An exception is for elements of `$called`, but there is no dimension of that name.");
            foreach (array_keys($found) as $other) {
                if ($dimensions->pair($dimension, $other)) {
                    throw NotUnderstood::because(
                        "An exception names elements of `{$dimensions->nameOf($dimension)}` twice. Name them once.",
                    );
                }
            }
            if (is_string($elements) && in_array($elements, self::WORDS, true)) {
                $found[$dimension] = $elements;

                continue;
            }
            $ids = [];
            foreach (array_values((array) $elements) as $one) {
                $id = is_string($one) ? $dimensions->elementOf($dimension, $one) : null;
                $ids[] =
                    $id ??
                    throw NotUnderstood::because(
                        'An exception is for `'.
                            (is_scalar($one) ? $one : '?').
                            '`, '.
                            "which is no element of the dimension `{$dimensions->nameOf($dimension)}`.",
                    );
            }
            $found[$dimension] = array_values(array_unique($ids));
        }
        if ($found === [] || in_array([], $found, true)) {
            throw NotUnderstood::because(
                'An exception says for which elements it is, such as `{"terrace": ["north"]}` or `{"age": "first"}`.',
            );
        }

        return $found;
    }

    /** @return array{for: array<string, list<string>|string>, formula: list<string|array{name: string, id?: string}>} */
    public function toRecord(): array
    {
        return ['for' => $this->for, 'formula' => $this->formula->toRecord()];
    }

    /** @param  array{for: array<string, list<string>|string>, formula: list<string|array{name: string, id?: string}>}  $record */
    public static function fromRecord(array $record): self
    {
        return new self($record['for'], FormulaText::fromRecord($record['formula']));
    }
}
