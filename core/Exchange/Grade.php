<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

/** How much it matters that something of a file was not carried over as it stood. */
enum Grade: string
{
    /** It was guessed or left out, and numbers or structure may be others than those of the file. */
    case Numbers = 'numbers';

    /** It concerns the drawing alone. */
    case Drawing = 'drawing';

    /** It is carried over in other words, or has no meaning here. */
    case Information = 'information';
}
