<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

/** Every function of the formula language, in one place. */
final class Catalogue
{
    /** @var array<string, FunctionSpec>|null */
    private static ?array $all = null;

    public static function find(string $name): ?FunctionSpec
    {
        return self::all()[$name] ?? null;
    }

    /** @return array<string, FunctionSpec> by name */
    public static function all(): array
    {
        return self::$all ??= self::build();
    }

    /** @return array<string, FunctionSpec> */
    private static function build(): array
    {
        $all = [];
        $add = static function (string $group, string $call, string $sentence, string $example, bool $timeless = true) use (&$all): void {
            preg_match('/^(\w+)\((.*)\)$/', $call, $m);
            $parameters = explode(', ', $m[2] ?? '');
            $repeats = end($parameters) === '…';
            if ($repeats) {
                array_pop($parameters);
            }
            $optional = count(array_filter($parameters, static fn (string $p): bool => str_starts_with($p, '[')));
            $name = $m[1] ?? '';
            $all[$name] = new FunctionSpec($name, $group, array_map(static fn (string $p): string => trim($p, '[]'), $parameters), $optional, $repeats, $sentence, $example, $timeless);
        };

        $add('arithmetic', 'abs(x)', 'x without its sign.', 'abs(-3) = 3');
        $add('arithmetic', 'sign(x)', '1 for a positive x, -1 for a negative one, 0 for zero.', 'sign(-3) = -1');
        $add('arithmetic', 'sqrt(x)', 'The square root. A negative x stops the run.', 'sqrt(9) = 3');
        $add('arithmetic', 'exp(x)', 'e to the power of x.', 'exp(0) = 1');
        $add('arithmetic', 'ln(x)', 'The natural logarithm. x must be above zero.', 'ln(exp(2)) = 2');
        $add('arithmetic', 'log10(x)', 'The logarithm to base 10. x must be above zero.', 'log10(1000) = 3');
        $add('arithmetic', 'floor(x)', 'The nearest whole number below.', 'floor(-1.5) = -2');
        $add('arithmetic', 'ceil(x)', 'The nearest whole number above.', 'ceil(-1.5) = -1');
        $add('arithmetic', 'trunc(x)', 'x without what stands behind the point.', 'trunc(-1.5) = -1');
        $add('arithmetic', 'round(x, [digits])', 'x rounded, halves away from zero; to whole numbers unless digits are given.', 'round(2.567, 1) = 2.6');
        $add('arithmetic', 'min(a, b, …)', 'The smallest of the arguments.', 'min(3, 1, 2) = 1');
        $add('arithmetic', 'max(a, b, …)', 'The largest of the arguments.', 'max(3, 1, 2) = 3');
        $add('arithmetic', 'mod(x, y)', 'What remains of x after taking out whole y; it has the sign of y.', 'mod(-1, 12) = 11');
        $add('arithmetic', 'clamp(x, low, high)', 'x, but not below low and not above high.', 'clamp(15, 0, 10) = 10');
        $add('arithmetic', 'divide(a, b, otherwise)', 'a ÷ b, and the last argument where b is zero.', 'divide(1, 0, 5) = 5');

        $add('angle', 'sin(x)', 'The sine of an angle in radians.', 'sin(pi / 2) = 1');
        $add('angle', 'cos(x)', 'The cosine of an angle in radians.', 'cos(0) = 1');
        $add('angle', 'tan(x)', 'The tangent of an angle in radians.', 'tan(0) = 0');
        $add('angle', 'asin(x)', 'The angle whose sine is x; x lies from -1 to 1.', 'asin(0) = 0');
        $add('angle', 'acos(x)', 'The angle whose cosine is x; x lies from -1 to 1.', 'acos(1) = 0');
        $add('angle', 'atan(x)', 'The angle whose tangent is x.', 'atan(0) = 0');
        $add('angle', 'sinh(x)', 'The hyperbolic sine.', 'sinh(0) = 0');
        $add('angle', 'cosh(x)', 'The hyperbolic cosine.', 'cosh(0) = 1');
        $add('angle', 'tanh(x)', 'The hyperbolic tangent.', 'tanh(0) = 0');
        $add('angle', 'atan2(y, x)', 'The angle of the point (x, y) as seen from the origin.', 'atan2(0, 1) = 0');

        $add('choice', 'if(condition, then, otherwise)', 'The second argument where the condition holds (is not 0), else the third.', 'if(2 > 1, 10, 20) = 10');
        $add('choice', 'choose(n, first, second, …)', 'The first argument behind n where n is 1, the next where it is 2, and so on.', 'choose(2, 10, 20) = 20');
        $add('choice', 'between(x, low, high)', '1 where x lies from low to high, the ends included, else 0.', 'between(5, 0, 10) = 1');

        $add('signals', 'step(height, at)', 'Zero before the given time, height from then on.', 'step(5, 20)', false);
        $add('signals', 'ramp(slope, from, [until])', 'Zero until the first time, then rising by slope per time unit, and level after the second.', 'ramp(2, 10, 20)', false);
        $add('signals', 'window(height, from, until)', 'Height from the first time until just before the second, else zero.', 'window(5, 10, 20)', false);
        $add('signals', 'wave(amplitude, period, [shift])', 'A sine that swings by the amplitude around zero; it crosses zero upward at the shift.', 'wave(3, 12)', false);
        $add('signals', 'pulse(amount, at, [every], [until])', 'Delivers exactly the amount within one time step: once, or again and again until just before the last time.', 'pulse(100, 5, 10)', false);

        return $all;
    }
}
