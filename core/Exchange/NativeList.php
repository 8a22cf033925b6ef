<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\Plot;

/** Lists of a native file, each with as many lines as a model may have of its kind. */
final class NativeList
{
    private const MOST = [
        'elements' => Model::MOST_ELEMENTS,
        'tracks' => Plot::MOST,
        'sheets' => 200,
        'groups' => 2_000,
        'sameUnits' => 200,
        'dimensions' => 200,
    ];

    /** Of all others, which belong to elements. */
    private const OTHERS = 10 * Model::MOST_ELEMENTS;

    /**
     * @param  array<mixed>  $file
     * @return list<mixed>
     *
     * @throws FileRefused when it is no list, or too long
     */
    public static function of(array $file, string $part): array
    {
        $lines = $file[$part] ?? [];
        if (! is_array($lines) || ! array_is_list($lines)) {
            throw FileRefused::asModel("\"$part\" must be a list.");
        }
        $most = self::MOST[$part] ?? (Parts::filed()[$part]->most ?? self::OTHERS);
        if (count($lines) > $most) {
            throw FileRefused::asModel(
                'The file holds '.number_format(count($lines))." $part; a model has at most ".number_format($most).'.',
            );
        }

        return $lines;
    }
}
