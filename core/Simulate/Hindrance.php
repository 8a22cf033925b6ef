<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

/** Why a method that chooses its own steps did not come to the end. */
enum Hindrance
{
    /** No step, however short, meets the tolerance. */
    case Abrupt;

    /** Stability keeps the steps so short that the end is out of reach. */
    case Stiff;

    /** It has taken more work than one run may take. */
    case Long;
}
