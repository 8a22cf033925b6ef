<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

/**
 * A way to look for the least distance. It asks for points and is told what comes out there, batch by batch, so that several searches can
 * be made at once, watched, stopped, and repeated to the bit: what it asks for next follows from what it was told alone.
 */
interface Search
{
    /**
     * @param  list<float>  $start  a value for each freed number
     * @return \Generator<int, list<list<float>>, list<?list<float>>, Found> asks for points; is sent the gaps at each, null where the run
     *   fails; gives the best
     */
    public function from(array $start): \Generator;
}
