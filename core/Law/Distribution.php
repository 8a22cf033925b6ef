<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Law;

use MerryOrbit\Core\Problem\Nearest;
use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * What is known of an uncertain number, as it is written: `normal(3.5, 1.3) within 0..10`. It is drawn by its quantiles, so that a
 * draw from 0 to 1 says which part of the distribution it comes from, whatever that is.
 */
final readonly class Distribution
{
    private const NUMBER = '[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?';

    /**
     * @param  list<float>  $numbers  as they stand in its brackets; of `discrete` values and weights in turn
     * @param  float  $low  what is below does not happen; −INF for no limit
     * @param  array{float, float}  $from  how likely it would be, not cut off, to be below the low limit, and not to be
     * @param  array{float, float}  $to  to be below the high limit, and above it
     */
    private function __construct(
        public string $written,
        /** Its name: one of Family::TAKES, or `discrete`, or `empirical`. */ public string $family,
        public array $numbers,
        private Law $law,
        public float $low,
        public float $high,
        private array $from,
        private array $to,
    ) {
    }

    /** @throws NotUnderstood with a sentence */
    public static function read(string $text): self
    {
        $written = trim((string) preg_replace('/\s+/', ' ', $text));
        if (preg_match('/^([a-z]+)\s*\(([^()]*)\)(?:\s*within\s*(.*))?$/i', $written, $m) !== 1) {
            throw NotUnderstood::because(
                "`$written` is no distribution. Write one like normal(3.5, 1.3), or uniform(0, 1), or normal(3.5, 1.3) within 0..10.",
            );
        }
        $name = strtolower($m[1]);
        $known = [...array_keys(Family::TAKES), 'discrete', 'empirical'];
        $law = match (true) {
            $name === 'discrete' => Discrete::of(self::weights($m[2])),
            $name === 'empirical' => Empirical::of(self::numbers($m[2])),
            isset(Family::TAKES[$name]) => Family::of($name, self::numbers($m[2])),
            default => throw NotUnderstood::because(
                "There is no distribution `$name`.".(Nearest::question($name, $known) ?: ' There are '.implode(', ', $known).'.'),
            ),
        };
        [$low, $high] = isset($m[3]) ? self::limits($m[3]) : [-INF, INF];
        // Of single values the low limit itself is within.
        $at = $law instanceof Discrete && is_finite($low) ? $law->density($low) : 0.0;
        $from = is_finite($low) ? [$law->until($low) - $at, $law->beyond($low) + $at] : [0.0, 1.0];
        $to = is_finite($high) ? [$law->until($high), $law->beyond($high)] : [1.0, 0.0];
        if (max($to[0] - $from[0], $from[1] - $to[1]) < 1e-250) {
            throw NotUnderstood::because("Of `$written`, next to nothing lies within these limits.");
        }

        $numbers = array_map(floatval(...), preg_split('/[,:]/', $m[2]) ?: []);

        return new self($written, $name, $numbers, $law, $low, $high, $from, $to);
    }

    /** @return list<float> */
    private static function numbers(string $list): array
    {
        return array_map(self::number(...), trim($list) === '' ? [] : explode(',', $list));
    }

    private static function number(string $word): float
    {
        $word = trim($word);

        return preg_match('/^'.self::NUMBER.'$/', $word) === 1 && is_finite((float) $word)
            ? (float) $word
            : throw NotUnderstood::because("`$word` is no number.");
    }

    /** @return list<array{float, float}> */
    private static function weights(string $list): array
    {
        return array_map(
            static function (string $one): array {
                $parts = explode(':', $one);

                return count($parts) === 2
                    ? [self::number($parts[0]), self::number($parts[1])]
                    : throw NotUnderstood::because('`discrete` takes values with weights, as in `discrete(1: 3, 2: 1)`.');
            },
            trim($list) === '' ? [] : explode(',', $list),
        );
    }

    /** @return array{float, float} */
    private static function limits(string $words): array
    {
        if (preg_match('/^\s*('.self::NUMBER.')?\s*\.\.\s*('.self::NUMBER.')?\s*$/', $words, $m, PREG_UNMATCHED_AS_NULL) !== 1) {
            throw NotUnderstood::because("Behind `within` stands a range, as in `within 0..10`, not `$words`.");
        }
        $low = isset($m[1]) ? (float) $m[1] : -INF;
        $high = isset($m[2]) ? (float) $m[2] : INF;

        return $low < $high
            ? [$low, $high]
            : throw NotUnderstood::because("The range $words is empty: its first number is the smaller one.");
    }

    /**
     * The value that it is not above with a probability.
     *
     * @param  float  $u  of the open interval from 0 to 1
     */
    public function quantile(float $u): float
    {
        $p = $this->from[0] + $u * $this->mass();
        $rest = $this->to[1] + (1.0 - $u) * $this->mass();

        return max($this->low, min($this->high, $this->law->quantile($p, $rest)));
    }

    /** How likely it is to lie within the limits, were it not cut off. */
    private function mass(): float
    {
        // From the side where it is the smaller number.
        return $this->from[0] > 0.5 ? $this->from[1] - $this->to[1] : $this->to[0] - $this->from[0];
    }

    /** How likely it is not to be above x. */
    public function until(float $x): float
    {
        return match (true) {
            $x < $this->low => 0.0,
            $x >= $this->high => 1.0,
            default => min(1.0, max(0.0, ($this->law->until($x) - $this->from[0]) / $this->mass())),
        };
    }

    /** How densely it lies at x; of single values how likely each is. */
    public function density(float $x): float
    {
        return $x < $this->low || $x > $this->high ? 0.0 : $this->law->density($x) / $this->mass();
    }

    public function median(): float
    {
        return $this->quantile(0.5);
    }
}
