<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data\Steps;

use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\TableRefused;

/** The other sources that steps of one may ask for. */
interface Others
{
    /**
     * What another source holds, after its own steps.
     *
     * @throws TableRefused
     */
    public function table(string $source): DataTable;

    /**
     * Its rows as words, by the names in its head.
     *
     * @throws TableRefused
     */
    public function words(string $source): WordRows;

    /** What it is called. */
    public function name(string $source): string;
}
