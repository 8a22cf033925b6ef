<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** How a curve goes on outside its points. */
enum Beyond: string
{
    /** At the value of its end. */
    case Held = 'held';
    /** Along the straight line of its end. */
    case Extended = 'extended';
}
