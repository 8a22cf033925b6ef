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

    /**
     * Whether a thing of this name can be mentioned in quotes only. Functions along dimensions are told from things by the bracket
     * behind them: many a thing is called `share` or `number`.
     */
    public static function isTaken(string $name): bool
    {
        $function = self::find($name);

        return $function !== null && $function->nature !== Nature::Along;
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
        /** @var list<FunctionSpec> $specs */
        $specs = [...self::plain(), ...self::signals(), ...self::memory(), ...self::along(), ...self::chance()];
        foreach ($specs as $spec) {
            $all[$spec->name] = $spec;
        }

        return $all;
    }

    /** @return list<FunctionSpec> what depends on its arguments alone */
    private static function plain(): array
    {
        $a = static fn (string $call, string $units, string $sentence, string $example): FunctionSpec => FunctionSpec::of(
            'arithmetic',
            $call,
            $units,
            $sentence,
            $example,
        );
        $r = static fn (string $call, string $units, string $sentence, string $example): FunctionSpec => FunctionSpec::of(
            'angle',
            $call,
            $units,
            $sentence,
            $example,
        );
        $c = static fn (string $call, string $units, string $sentence, string $example): FunctionSpec => FunctionSpec::of(
            'choice',
            $call,
            $units,
            $sentence,
            $example,
        );

        return [
            $a('abs(x)', 'u -> u', 'x without its sign.', 'abs(-3) = 3'),
            $a('sign(x)', '* -> 1', '1 for a positive x, -1 for a negative one, 0 for zero.', 'sign(-3) = -1'),
            $a('sqrt(x)', 'u -> u^0.5', 'The square root. A negative x stops the run.', 'sqrt(9) = 3'),
            $a('exp(x)', '1 -> 1', 'e to the power of x.', 'exp(0) = 1'),
            $a('ln(x)', '1 -> 1', 'The natural logarithm. x must be above zero.', 'ln(exp(2)) = 2'),
            $a('log10(x)', '1 -> 1', 'The logarithm to base 10. x must be above zero.', 'log10(1000) = 3'),
            $a('floor(x)', 'u -> u', 'The nearest whole number below.', 'floor(-1.5) = -2'),
            $a('ceil(x)', 'u -> u', 'The nearest whole number above.', 'ceil(-1.5) = -1'),
            $a('trunc(x)', 'u -> u', 'x without what stands behind the point.', 'trunc(-1.5) = -1'),
            $a(
                'round(x, [digits])',
                'u, 1 -> u',
                'x rounded, halves away from zero; to whole numbers unless digits are given.',
                'round(2.567, 1) = 2.6',
            ),
            $a('min(a, b, …)', 'u, u -> u', 'The smallest of the arguments.', 'min(3, 1, 2) = 1'),
            $a('max(a, b, …)', 'u, u -> u', 'The largest of the arguments.', 'max(3, 1, 2) = 3'),
            $a('mod(x, y)', 'u, u -> u', 'What remains of x after taking out whole y; it has the sign of y.', 'mod(-1, 12) = 11'),
            $a('clamp(x, low, high)', 'u, u, u -> u', 'x, but not below low and not above high.', 'clamp(15, 0, 10) = 10'),
            $a('divide(a, b, otherwise)', 'u, v, u/v -> u/v', 'a ÷ b, and the last argument where b is zero.', 'divide(1, 0, 5) = 5'),
            $r('sin(x)', '1 -> 1', 'The sine of an angle in radians.', 'sin(pi / 2) = 1'),
            $r('cos(x)', '1 -> 1', 'The cosine of an angle in radians.', 'cos(0) = 1'),
            $r('tan(x)', '1 -> 1', 'The tangent of an angle in radians.', 'tan(0) = 0'),
            $r('asin(x)', '1 -> 1', 'The angle whose sine is x; x lies from -1 to 1.', 'asin(0) = 0'),
            $r('acos(x)', '1 -> 1', 'The angle whose cosine is x; x lies from -1 to 1.', 'acos(1) = 0'),
            $r('atan(x)', '1 -> 1', 'The angle whose tangent is x.', 'atan(0) = 0'),
            $r('sinh(x)', '1 -> 1', 'The hyperbolic sine.', 'sinh(0) = 0'),
            $r('cosh(x)', '1 -> 1', 'The hyperbolic cosine.', 'cosh(0) = 1'),
            $r('tanh(x)', '1 -> 1', 'The hyperbolic tangent.', 'tanh(0) = 0'),
            $r('atan2(y, x)', 'u, u -> 1', 'The angle of the point (x, y) as seen from the origin.', 'atan2(0, 1) = 0'),
            $c(
                'if(condition, then, otherwise)',
                '*, u, u -> u',
                'The second argument where the condition holds (is not 0), else the third.',
                'if(2 > 1, 10, 20) = 10',
            ),
            $c(
                'choose(n, first, second, …)',
                '1, u, u -> u',
                'The first argument behind n where n is 1, the next where it is 2, and so on.',
                'choose(2, 10, 20) = 20',
            ),
            $c(
                'between(x, low, high)',
                'u, u, u -> 1',
                '1 where x lies from low to high, the ends included, else 0.',
                'between(5, 0, 10) = 1',
            ),
            FunctionSpec::of(
                'series',
                'at(series, when)',
                'u, t -> u',
                'A series of the model at another time than now. Its name alone is its value now.',
                'at(rainfall, time - 52)',
            ),
        ];
    }

    /** @return list<FunctionSpec> what follows time */
    private static function signals(): array
    {
        $add = static fn (string $call, string $units, string $sentence, string $example): FunctionSpec => FunctionSpec::of(
            'signals',
            $call,
            $units,
            $sentence,
            $example,
            Nature::Signal,
        );

        return [
            $add('step(height, at)', 'u, t -> u', 'Zero before the given time, height from then on.', 'step(5, 20)'),
            $add(
                'ramp(slope, from, [until])',
                'u, t, t -> u*t',
                'Zero until the first time, then rising by slope per time unit, and level after the second.',
                'ramp(2, 10, 20)',
            ),
            $add(
                'window(height, from, until, [every])',
                'u, t, t, t -> u',
                'Height from the first time until just before the second, else zero; again and again if a time between repetitions is given.',
                'window(5, 10, 20)',
            ),
            $add(
                'wave(amplitude, period, [shift])',
                'u, t, t -> u',
                'A sine that swings by the amplitude around zero; it crosses zero upward at the shift.',
                'wave(3, 12)',
            ),
            $add(
                'pulse(amount, at, [every], [until])',
                'u, t, t, t -> u/t',
                'Delivers exactly the amount within one time step: once, or again and again until just before the last time.',
                'pulse(100, 5, 10)',
            ),
        ];
    }

    /** @return list<FunctionSpec> what remembers */
    private static function memory(): array
    {
        $add = static fn (string $call, string $units, string $sentence, string $example): FunctionSpec => FunctionSpec::of(
            'memory',
            $call,
            $units,
            $sentence,
            $example,
            Nature::Memory,
        );

        return [
            $add('initial(x)', 'u -> u', 'What x was at the start of the run.', 'initial(10 + time)'),
            $add(
                'previous(x, [first])',
                'u, u -> u',
                'What x was at the start of the step before; in the first step the second argument, or x itself.',
                'previous(step(5, 20))',
            ),
            $add(
                'smooth(x, over, [order], [first])',
                'u, t, 1, u -> u',
                'An information delay: follows x, an exponential average over the given time, in 1 to 12 stages.',
                'smooth(step(5, 10), 8, 3)',
            ),
            $add(
                'delay(x, over, [order], [first])',
                'u, t, 1, u -> u',
                'A material delay: what enters as x leaves later, on average after the given time, in 1 to 12 stages; nothing is lost when that time changes.',
                'delay(pulse(100, 5), 10, 3)',
            ),
            $add(
                'shift(x, over, [first])',
                'u, t, u -> u',
                'What x was exactly so long ago; before that the third argument, or x at the start.',
                'shift(ramp(1, 10, 20), 8)',
            ),
            $add(
                'hold(x, every)',
                'u, t -> u',
                'x as it was when it was last looked at; a look is taken at the start and every so often.',
                'hold(wave(3, 20), 4)',
            ),
            $add(
                'trend(x, over, [first])',
                'u, t, 1/t -> 1/t',
                'How fast x grows, as a share per time unit, judged against its average over the given time.',
                'trend(10 + ramp(1, 10), 5)',
            ),
            $add(
                'forecast(x, over, horizon, [first])',
                'u, t, t, 1/t -> u',
                'x carried on by its trend for the time of the horizon.',
                'forecast(10 + ramp(1, 10, 30), 5, 4)',
            ),
            $add('total(x)', 'u -> u*t', 'The running integral of x since the start.', 'total(window(2, 10, 25))'),
            $add('highest(x)', 'u -> u', 'The largest value of x so far.', 'highest(wave(3, 20))'),
            $add('lowest(x)', 'u -> u', 'The smallest value of x so far.', 'lowest(wave(3, 20))'),
            $add(
                'latch(on, off)',
                '*, * -> 1',
                '1 once the first condition holds, until the second holds; the second is stronger.',
                'latch(wave(1, 20) > 0.8, wave(1, 20) < -0.8)',
            ),
            $add(
                'times(condition)',
                '* -> 1',
                'How often the condition came to hold; holding at the start counts.',
                'times(wave(1, 12) > 0.5)',
            ),
        ];
    }

    /** @return list<FunctionSpec> what looks along dimensions */
    private static function along(): array
    {
        $add = static fn (string $call, string $units, string $sentence, string $example): FunctionSpec => FunctionSpec::of(
            'dimensions',
            $call,
            $units,
            $sentence,
            $example,
            Nature::Along,
        );
        $over = ' over the dimensions named, or over all that x extends over';

        return [
            $add('sum(x, [dimension], …)', 'u, d -> u', "The sum of x$over.", 'sum(harvest, terrace)'),
            $add('mean(x, [dimension], …)', 'u, d -> u', "The mean of x$over.", 'mean(water level, pool)'),
            $add(
                'sd(x, [dimension], …)',
                'u, d -> u',
                "The standard deviation of x (divided by how many there are)$over.",
                'sd(size, age)',
            ),
            $add('product(x, [dimension], …)', '1, d -> 1', "The product of x$over.", 'product(survival, age)'),
            $add('least(x, [dimension], …)', 'u, d -> u', "The smallest x$over.", 'least(water level, pool)'),
            $add('greatest(x, [dimension], …)', 'u, d -> u', "The largest x$over.", 'greatest(water level, pool)'),
            $add('any(x, [dimension], …)', '*, d -> 1', "1 if x holds for one at least$over, else 0.", 'any(oysters < 10, terrace)'),
            $add('all(x, [dimension], …)', '*, d -> 1', "1 if x holds for every one$over, else 0.", 'all(oysters > 10, terrace)'),
            $add(
                'count(dimension, [condition])',
                'd, * -> 1',
                'How many elements the dimension has, or for how many of them the condition holds.',
                'count(terrace, oysters > 10)',
            ),
            $add('position(dimension)', 'd -> 1', 'The place of the element in its dimension, from 1.', 'position(age)'),
            $add('number(dimension)', 'd -> 1', 'The number that the element of a counted dimension is.', 'number(year)'),
            $add('is(dimension, element)', 'd, e -> 1', '1 for that element, 0 for all others.', 'is(terrace, north)'),
            $add(
                'rank(x, dimension)',
                '*, d -> 1',
                '1 for the largest x along the dimension, 2 for the next; of equals the first.',
                'rank(catch, boat)',
            ),
            $add('share(x, dimension)', 'u, d -> 1', 'x as a share of its sum along the dimension.', 'share(catch, boat)'),
            $add('cumulate(x, dimension)', 'u, d -> u', 'The sum of x up to and with the element.', 'cumulate(oysters, age)'),
            $add(
                'allocate(supply, demand, priority, dimension)',
                'u, u, *, d -> u',
                'What each gets of a scarce supply: higher priorities in full first, equals in proportion to their demand, nobody more than it.',
                'allocate(water, wanted, rank of need, pool)',
            ),
        ];
    }

    /** @return list<FunctionSpec> what differs from seed to seed */
    private static function chance(): array
    {
        $add = static fn (string $call, string $units, string $sentence, string $example): FunctionSpec => FunctionSpec::of(
            'chance',
            $call,
            $units,
            $sentence,
            $example,
            Nature::Chance,
        );

        return [
            $add(
                'random(low, high)',
                'u, u -> u',
                'A number between the two, all equally likely, drawn anew in each step.',
                'random(0, 10)',
            ),
            $add('gaussian(mean, sd)', 'u, u -> u', 'A normally distributed number, drawn anew in each step.', 'gaussian(10, 2)'),
            $add(
                'lognormal(mean, sd)',
                'u, u -> u',
                'A lognormally distributed number with this mean and standard deviation of its own.',
                'lognormal(10, 5)',
            ),
            $add('exponential(mean)', 'u -> u', 'An exponentially distributed number.', 'exponential(10)'),
            $add(
                'poisson(rate)',
                'u -> u',
                'How many events come per time unit, if they come independently at this rate; scaled by the step, so that its integral counts them.',
                'poisson(3)',
            ),
            $add('binomial(n, p)', 'u, 1 -> u', 'How many of n succeed if each does with probability p.', 'binomial(20, 25%)'),
            $add(
                'drift(mean, sd, correlation time)',
                'u, u, t -> u',
                'Noise that remembers: it wanders around the mean with this standard deviation and forgets over the correlation time.',
                'drift(10, 2, 8)',
            ),
        ];
    }
}
