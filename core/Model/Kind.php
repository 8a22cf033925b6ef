<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

enum Kind: string
{
    case Stock = 'stock';
    case Flow = 'flow';
    case Auxiliary = 'auxiliary';
    case Parameter = 'parameter';
    case Curve = 'curve';
    case Series = 'series';
    case Factor = 'factor';
}
