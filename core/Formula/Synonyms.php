<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

/** Other words of the trade under which people look for a function. */
final class Synonyms
{
    private const WORDS = [
        'abs' => ['absolute value', 'size', 'magnitude'],
        'sign' => ['signum', 'plus or minus'],
        'sqrt' => ['square root'],
        'exp' => ['exponential function', 'e to the power'],
        'ln' => ['natural logarithm', 'log'],
        'log10' => ['logarithm', 'decadic', 'log'],
        'floor' => ['round down', 'integer part'],
        'ceil' => ['round up'],
        'trunc' => ['cut off', 'integer part'],
        'round' => ['nearest whole number'],
        'min' => ['least', 'smallest', 'lower of', 'limit', 'bottleneck', 'at most'],
        'max' => ['largest', 'greater of', 'at least', 'not below'],
        'mod' => ['remainder', 'modulo', 'rest'],
        'clamp' => ['limit', 'bound', 'keep between'],
        'divide' => ['safe division', 'ratio', 'division by zero', 'share'],
        'if' => ['condition', 'when', 'then', 'else', 'choice', 'switch'],
        'choose' => ['select', 'case', 'option'],
        'between' => ['range', 'within', 'in the interval'],
        'sum' => ['add up', 'total over', 'all together'],
        'mean' => ['average'],
        'sd' => ['standard deviation', 'spread'],
        'product' => ['multiply all'],
        'least' => ['smallest', 'minimum over'],
        'greatest' => ['largest', 'maximum over'],
        'any' => ['some', 'at least one'],
        'all' => ['every', 'each'],
        'count' => ['how many', 'size of a dimension'],
        'position' => ['index', 'place', 'which one'],
        'number' => ['value of an element', 'year', 'age'],
        'is' => ['this element', 'only for'],
        'rank' => ['order', 'sort', 'largest first'],
        'share' => ['fraction', 'part of the whole', 'proportion'],
        'cumulate' => ['running sum', 'up to'],
        'allocate' => ['ration', 'distribute', 'scarce', 'priority'],
        'at' => ['value of a series', 'data at a time', 'look up'],
        'step' => ['jump', 'sudden change', 'switch on'],
        'ramp' => ['steady rise', 'slope', 'linear increase'],
        'window' => ['interval', 'season', 'temporary', 'during'],
        'wave' => ['sine', 'oscillation', 'cycle', 'seasonal'],
        'pulse' => ['impulse', 'single event', 'delivery', 'shock'],
        'initial' => ['start value', 'at the beginning'],
        'previous' => ['last value', 'one step ago', 'lag'],
        'smooth' => ['average', 'exponential average', 'information delay', 'perception', 'expectation', 'moving average', 'lag'],
        'delay' => ['material delay', 'pipeline', 'lag', 'later', 'travel time'],
        'shift' => ['exact delay', 'dead time', 'time lag', 'fixed delay'],
        'hold' => ['sample', 'every so often', 'review period'],
        'trend' => ['growth rate', 'relative change'],
        'forecast' => ['prediction', 'extrapolate', 'expect'],
        'total' => ['cumulative', 'sum over time', 'integral', 'accumulate', 'running total'],
        'highest' => ['maximum so far', 'peak', 'record'],
        'lowest' => ['minimum so far', 'trough'],
        'latch' => ['memory', 'once triggered', 'flip', 'remember'],
        'times' => ['count events', 'how often', 'counter'],
        'random' => ['uniform', 'chance', 'noise'],
        'gaussian' => ['normal distribution', 'noise', 'bell curve'],
        'lognormal' => ['skewed distribution', 'noise'],
        'exponential' => ['waiting time', 'chance'],
        'poisson' => ['arrivals', 'rare events', 'counts'],
        'binomial' => ['successes', 'trials', 'chance'],
        'drift' => ['coloured noise', 'autocorrelated', 'wandering'],
        'sin' => ['sine', 'angle'],
        'cos' => ['cosine', 'angle'],
        'tan' => ['tangent', 'angle'],
    ];

    /** @return list<string> */
    public static function of(string $function): array
    {
        return self::WORDS[$function] ?? [];
    }
}
