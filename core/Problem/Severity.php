<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Problem;

enum Severity: string
{
    /** Something is still to be given. What depends on it waits. */
    case Missing = 'missing';
    /** Something is given that cannot be computed. What depends on it waits. */
    case Wrong = 'wrong';
    /** Worth a look; nothing waits for it. */
    case Remark = 'remark';
}
