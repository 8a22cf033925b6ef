<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Law\Special;
use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * How the ranks of several inputs are to go together. Each input keeps its draws; only which run gets which of them changes.
 *
 * Source: R. L. Iman, W. J. Conover, "A distribution-free approach to inducing rank correlation among input variables",
 * Communications in Statistics B 11 (1982), with van der Waerden scores.
 */
final readonly class Ranks
{
    /** So often the ranks themselves are brought nearer, after their scores were. */
    private const ROUNDS = 2;

    /**
     * @param  list<string>  $inputs
     * @param  list<list<float>>  $ofScores  lower triangle: the correlation of normal scores is this times its transpose
     * @param  list<list<float>>  $ofRanks  the same of ranks
     */
    private function __construct(private array $inputs, private array $ofScores, private array $ofRanks)
    {
    }

    /**
     * @param  list<string>  $inputs
     * @param  list<array{string, string, float}>  $pairs  two inputs, and the rank correlation (Spearman's) between −1 and 1
     *
     * @throws NotUnderstood when they cannot hold together
     */
    public static function of(array $inputs, array $pairs): self
    {
        $at = array_flip($inputs);
        $wanted = array_map(
            static fn (int $i): array => array_map(static fn (int $j): float => $i === $j ? 1.0 : 0.0, array_values($at)),
            array_values($at),
        );
        foreach ($pairs as [$one, $other, $rank]) {
            if (! isset($at[$one], $at[$other])) {
                continue;
            }
            if ($one === $other || abs($rank) >= 1.0) {
                throw NotUnderstood::because('Two inputs go together by a number between −1 and 1, and neither with itself.');
            }
            $wanted[$at[$one]][$at[$other]] = $wanted[$at[$other]][$at[$one]] = $rank;
        }
        // Of two normal numbers with this correlation, the ranks have that one.
        $scores = array_map(
            static fn (array $row): array => array_map(static fn (float $r): float => 2.0 * sin((M_PI * $r) / 6.0), $row),
            $wanted,
        );
        [$ofScores, $ofRanks] = [self::root($scores), self::root($wanted)];
        if ($ofScores === null || $ofRanks === null) {
            throw NotUnderstood::because(
                'These inputs cannot all go together as said: what goes with one goes in part with the others. '.
                    'Bring the numbers nearer to 0, or leave one pair out.',
            );
        }

        return new self($inputs, $ofScores, $ofRanks);
    }

    /**
     * @param  list<string>  $names  of the columns
     * @param  list<list<float>>  $columns  the draws of each input
     * @return list<list<float>> the same draws of each, in another order where they go together
     */
    public function ordered(array $names, array $columns): array
    {
        $at = array_map(static fn (string $input): int => (int) array_search($input, $names, true), $this->inputs);
        $n = count($columns[0]);
        $ranks = array_map(static fn (int $column): array => self::ranks($columns[$column]), $at);
        $scores = self::sized(array_map(static fn (int $k): float => Special::normalQuantile(($k + 1) / ($n + 1)), range(0, $n - 1)));
        $ranks = self::nearer($ranks, $scores, $this->ofScores);
        $scores = self::sized(array_map(static fn (int $k): float => $k - ($n - 1) / 2.0, range(0, $n - 1)));
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $ranks = self::nearer($ranks, $scores, $this->ofRanks);
        }
        foreach ($at as $i => $column) {
            $sorted = $columns[$column];
            sort($sorted);
            $columns[$column] = array_map(static fn (int $rank): float => $sorted[$rank], $ranks[$i]);
        }

        return $columns;
    }

    /**
     * @param  list<float>  $scores
     * @return list<float> whose squares come to 1
     */
    private static function sized(array $scores): array
    {
        $size = sqrt(array_sum(array_map(static fn (float $s): float => $s * $s, $scores)));

        return array_map(static fn (float $s): float => $size > 0.0 ? $s / $size : $s, $scores);
    }

    /**
     * @param  list<list<int>>  $ranks  of each input that goes together with others
     * @param  list<float>  $scores  by rank
     * @param  list<list<float>>  $root  of how they are to go together
     * @return list<list<int>>
     */
    private static function nearer(array $ranks, array $scores, array $root): array
    {
        $n = count($scores);
        $columns = array_map(static fn (array $one): array => array_map(static fn (int $rank): float => $scores[$rank], $one), $ranks);
        $own = [];
        foreach ($columns as $i => $one) {
            for ($j = 0; $j < $i; $j++) {
                $sum = 0.0;
                foreach ($columns[$j] as $k => $other) {
                    $sum += $one[$k] * $other;
                }
                $own[$i][$j] = $sum;
            }
            $own[$i][$i] = 1.0;
        }
        // Of too few runs the correlation that is there cannot be taken out.
        $theirs = $n > 2 * count($ranks) ? self::root($own) : null;
        $mix = $theirs === null ? $root : self::times($root, self::inverse($theirs));

        return array_map(static function (array $weights) use ($columns, $n): array {
            $wished = array_fill(0, $n, 0.0);
            foreach ($weights as $j => $weight) {
                if ($weight !== 0.0) {
                    foreach ($columns[$j] as $k => $score) {
                        $wished[$k] += $weight * $score;
                    }
                }
            }

            return self::ranks(array_values($wished));
        }, $mix);
    }

    /**
     * Spearman's rank correlation of two columns of the same length; equals share the mean of their ranks.
     *
     * @param  list<float>  $one
     * @param  list<float>  $other
     * @return ?float null where one of them stays the same
     */
    public static function correlation(array $one, array $other): ?float
    {
        [$a, $b] = [self::shared($one), self::shared($other)];
        $middle = (count($a) - 1) / 2.0;
        $both = $squareA = $squareB = 0.0;
        foreach ($a as $i => $rank) {
            $both += ($rank - $middle) * ($b[$i] - $middle);
            $squareA += ($rank - $middle) ** 2;
            $squareB += ($b[$i] - $middle) ** 2;
        }

        return $squareA > 0.0 && $squareB > 0.0 ? $both / sqrt($squareA * $squareB) : null;
    }

    /**
     * @param  list<float>  $values
     * @return list<int> from 0; of equals the first one comes first
     */
    private static function ranks(array $values): array
    {
        asort($values);
        $ranks = array_fill(0, count($values), 0);
        foreach (array_keys($values) as $rank => $at) {
            $ranks[$at] = $rank;
        }

        return array_values($ranks);
    }

    /**
     * @param  list<float>  $values
     * @return list<float> from 0; equals share the mean of their ranks
     */
    public static function shared(array $values): array
    {
        asort($values);
        $order = array_keys($values);
        $ranks = array_fill(0, count($values), 0.0);
        for ($i = 0, $n = count($order); $i < $n; $i = $end) {
            for ($end = $i + 1; $end < $n && $values[$order[$end]] === $values[$order[$i]]; $end++);
            for ($k = $i; $k < $end; $k++) {
                $ranks[$order[$k]] = ($i + $end - 1) / 2.0;
            }
        }

        return array_values($ranks);
    }

    /**
     * Cholesky's: a lower triangle that times its transpose is the matrix.
     *
     * @param  array<int, array<int, float>>  $matrix
     * @return list<list<float>>|null null where it is not positive definite
     */
    private static function root(array $matrix): ?array
    {
        $n = count($matrix);
        $root = array_fill(0, $n, array_fill(0, $n, 0.0));
        for ($i = 0; $i < $n; $i++) {
            for ($j = 0; $j <= $i; $j++) {
                $rest = $matrix[$i][$j];
                for ($k = 0; $k < $j; $k++) {
                    $rest -= $root[$i][$k] * $root[$j][$k];
                }
                if ($i === $j && $rest < 1e-10) {
                    return null;
                }
                $root[$i][$j] = $i === $j ? sqrt($rest) : $rest / $root[$j][$j];
            }
        }

        return array_map(array_values(...), $root);
    }

    /**
     * @param  list<list<float>>  $lower  a lower triangle
     * @return list<list<float>>
     */
    private static function inverse(array $lower): array
    {
        $n = count($lower);
        $inverse = array_fill(0, $n, array_fill(0, $n, 0.0));
        for ($column = 0; $column < $n; $column++) {
            for ($i = $column; $i < $n; $i++) {
                $rest = $i === $column ? 1.0 : 0.0;
                for ($k = $column; $k < $i; $k++) {
                    $rest -= $lower[$i][$k] * $inverse[$k][$column];
                }
                $inverse[$i][$column] = $rest / $lower[$i][$i];
            }
        }

        return array_map(array_values(...), $inverse);
    }

    /**
     * @param  list<list<float>>  $a
     * @param  list<list<float>>  $b
     * @return list<list<float>>
     */
    private static function times(array $a, array $b): array
    {
        return array_map(
            static fn (array $row): array => array_map(
                static fn (int $j): float => array_sum(array_map(static fn (int $k): float => $row[$k] * $b[$k][$j], array_keys($row))),
                array_keys($row),
            ),
            $a,
        );
    }
}
