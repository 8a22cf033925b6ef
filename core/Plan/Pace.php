<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Plan;

/** How often an equation is computed. */
enum Pace
{
    /** At every look at the equations. */
    case Stage;
    /** At the start of a step; later looks within the step keep the value. */
    case Step;
    /** At the start of the run. */
    case Once;
}
