<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

/** What a function's value depends on besides its arguments. */
enum Nature
{
    /** Nothing: the same arguments give the same value. */
    case Plain;
    /** Time. */
    case Signal;
    /** What was before. */
    case Memory;
    /** Along the dimensions of its arguments. */
    case Along;
    /** The run's seed. */
    case Chance;
}
