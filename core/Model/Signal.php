<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** The courses that a variable can be given by hand. */
enum Signal: string
{
    case Constant = 'constant';
    case Step = 'step';
    case Ramp = 'ramp';
    case Wave = 'wave';
    case Pulses = 'pulses';
    case Window = 'window';
    case Series = 'series';
    case Drawn = 'drawn';

    /** @return list<string> the numbers that it needs */
    public function fields(): array
    {
        return match ($this) {
            self::Constant => ['value'],
            self::Step => ['before', 'value', 'at'],
            self::Ramp => ['before', 'value', 'at', 'to'],
            self::Wave => ['value', 'amplitude', 'period', 'at'],
            self::Pulses => ['before', 'value', 'at', 'width', 'every'],
            self::Window => ['before', 'value', 'at', 'to'],
            self::Series, self::Drawn => [],
        };
    }
}
