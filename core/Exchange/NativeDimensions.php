<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Parser;
use MerryOrbit\Core\Model\Dimension;
use MerryOrbit\Core\Model\Dimensions;
use MerryOrbit\Core\Model\SpecialCase;
use MerryOrbit\Core\Problem\NotUnderstood;

/** The dimensions of a native file. */
final class NativeDimensions
{
    /**
     * @param  list<mixed>  $lines
     * @return list<Dimension>
     *
     * @throws FileRefused
     */
    public static function read(array $lines): array
    {
        try {
            $read = Dimension::readAll($lines);
        } catch (NotUnderstood $e) {
            throw FileRefused::asModel('A dimension of the file does not fit: '.$e->getMessage());
        }
        $dimensions = [];
        foreach ($read as $one) {
            if (isset($dimensions[$one->id])) {
                throw FileRefused::asModel("Two dimensions have the id or the name of `$one->name`. Rename one of them.");
            }
            $dimensions[$one->id] = $one;
        }
        $all = new Dimensions(array_values($dimensions));

        return array_map(static fn (Dimension $d): Dimension => self::settled($d, $all), array_values($dimensions));
    }

    /** Names of other dimensions, and of elements of a whole, become their ids. */
    private static function settled(Dimension $dimension, Dimensions $all): Dimension
    {
        foreach (['partOf' => $dimension->partOf, 'sameAs' => $dimension->sameAs] as $field => $other) {
            $found = $other === null ? null : $all->find($other);
            $roots = $found === null ? [$dimension->id] : [$all->root($dimension->id), $all->root($found->id)];
            if ($other !== null && in_array($dimension->id, $roots, true)) {
                throw FileRefused::asModel(
                    "The dimension `$dimension->name` has \"$field\": `$other`, which is no other dimension of the file.",
                );
            }
        }
        $whole = $dimension->partOf === null ? null : $all->find($dimension->partOf)?->id;
        $ids = [];
        foreach ($dimension->ids as $id) {
            $ids[] =
                $whole === null
                    ? $id
                    : $all->elementOf($whole, $id) ??
                        throw FileRefused::asModel("The dimension `$dimension->name` names `$id`, which is no element of its whole.");
        }

        return new Dimension(
            $dimension->id,
            $dimension->name,
            $ids,
            $dimension->names,
            $dimension->isCounted,
            $whole,
            $dimension->sameAs === null ? null : $all->find($dimension->sameAs)?->id,
            $dimension->limit,
            $dimension->words,
        );
    }

    /**
     * The exceptions of a thing's formula.
     *
     * @param  callable(string): ?string  $idOf
     * @return list<SpecialCase>
     *
     * @throws FileRefused
     */
    public static function exceptions(mixed $lines, string $where, Dimensions $dimensions, callable $idOf): array
    {
        if (! is_array($lines) || ! array_is_list($lines) || count($lines) > SpecialCase::MOST) {
            throw FileRefused::asModel("The exceptions of $where are no list of at most ".SpecialCase::MOST.'.');
        }
        $cases = [];
        foreach ($lines as $line) {
            $text = is_array($line) && is_string($line['formula'] ?? null) ? $line['formula'] : '';
            if ($text === '' || strlen($text) > Parser::LONGEST) {
                throw FileRefused::asModel("An exception of $where has no formula, or one that is too long.");
            }
            try {
                $cases[] = new SpecialCase(SpecialCase::readFor($line['for'] ?? null, $dimensions), FormulaText::typed($text, $idOf));
            } catch (NotUnderstood $e) {
                throw FileRefused::asModel("An exception of $where does not fit: {$e->getMessage()}");
            }
        }

        return $cases;
    }
}
