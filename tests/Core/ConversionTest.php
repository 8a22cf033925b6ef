<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Data\Conversion;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class ConversionTest extends TestCase
{
    /** @return iterable<string, array{string, string, ?float}> */
    public static function units(): iterable
    {
        yield 'the same' => ['t', 't', 1.0];
        yield 'not said' => ['', 't', 1.0];
        yield 'said of a plain number' => ['t', '', 1.0];
        yield 'kilograms' => ['kg', 't', 1e-3];
        yield 'a rate' => ['kg/day', 't/year', 0.36525];
        yield 'the other way' => ['t/year', 'kg/day', 1.0 / 0.36525];
        yield 'months' => ['1/month', '1/year', 12.0];
        yield 'weeks' => ['m/week', 'm/day', 1.0 / 7.0];
        yield 'litres' => ['l', 'm^3', 1e-3];
        yield 'hectares' => ['ha', 'km^2', 0.01];
        yield 'a yield' => ['kg/ha', 't/km^2', 0.1];
        yield 'energy' => ['kWh', 'MJ', 3.6];
        yield 'hundreds' => ['hundred', 'thousand', 0.1];
        yield 'thousands of something' => ['thousand people', 'people', 1000.0];
        yield 'per cent' => ['%', '1', 0.01];
        yield 'per cent that stays' => ['%', '%', 1.0];
        yield 'per cent where nothing is said' => ['%', '', 0.01];
        yield 'per cent of no share' => ['%', 't', null];
        yield 'other things' => ['m', 't', null];
        yield 'a rate for an amount' => ['t', 't/year', null];
        yield 'no unit at all' => ['(((', 't', null];
        yield 'another word of the study' => ['islander', 'person', 1.0];
    }

    #[DataProvider('units')]
    public function test_numbers_are_multiplied_with(string $from, string $to, ?float $factor): void
    {
        $found = (new Conversion(['person = people = islander']))->factor($from, $to);
        $factor === null ? self::assertNull($found) : self::assertEqualsWithDelta($factor, $found, 1e-12 * $factor);
    }

    public function test_there_and_back_is_one(): void
    {
        $conversion = new Conversion();
        foreach ([['kg', 't'], ['m/s', 'km/day'], ['kWh/week', 'GJ/year'], ['hl', 'm^3'], ['dozen', 'million']] as [$a, $b]) {
            self::assertEqualsWithDelta(1.0, $conversion->factor($a, $b) * $conversion->factor($b, $a), 1e-12);
        }
    }
}
