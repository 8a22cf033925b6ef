<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** How a curve runs between its points. */
enum Between: string
{
    case Straight = 'straight';
    /** A monotone cubic: it never overshoots the points. */
    case Smooth = 'smooth';
    /** It keeps the value of the point before. */
    case Stepped = 'stepped';
}
