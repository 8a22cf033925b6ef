<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Library\Chance;
use MerryOrbit\Core\Problem\NotUnderstood;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/**
 * Which part of each distribution a run draws from: a number between 0 and 1 for each input, which depends on the seed, the run, the
 * inputs and the block it is in alone. So any split of the runs over any processes gives the same, and more blocks can be added.
 */
final class Design
{
    public const KINDS = ['random', 'latin', 'sobol'];

    /** Runs of a block at the most: of a Latin hypercube, and of ranks that go together. */
    public const BLOCK = 1_000;

    private const BITS = 32;

    /** @var array<string, list<int>> of an input, which share of the block each run draws from; of the last block that was asked for */
    private array $orders = [];

    /** Which block they are of. */
    private int $ordersOf = -1;

    /** @var array{int, int, int} the last block that was asked for: which, where it begins, its size */
    private array $last = [0, 0, 0];

    /** @var array<int, list<list<float>>> of a block, the draws of each input; the last block that was asked for */
    private array $ordered = [];

    /** @var list<list<int>> direction numbers by input */
    private array $directions = [];

    /**
     * @param  value-of<self::KINDS>  $kind
     * @param  list<string>  $inputs  what is drawn, by a name each
     * @param  list<int>  $blocks  how many runs each has
     * @param  ?Ranks  $together  of all inputs, or of some of them
     */
    private function __construct(
        private readonly string $kind,
        private readonly array $inputs,
        private readonly array $blocks,
        private readonly int $seed,
        private readonly ?Ranks $together,
    ) {
    }

    /**
     * @param  value-of<self::KINDS>  $kind
     * @param  list<string>  $inputs
     * @param  int|list<int>  $runs  in all, or those of each block
     * @param  list<array{string, string, float}>  $together  two inputs, and the rank correlation of their draws
     *
     * @throws NotUnderstood
     */
    public static function of(string $kind, array $inputs, int|array $runs, int $seed, array $together = []): self
    {
        $blocks = is_array($runs) ? $runs : self::blocks($runs);
        // The columns of a Latin hypercube are kept from going together by chance, too.
        $of =
            $kind === 'latin'
                ? $inputs
                : array_values(
                    array_filter(
                        $inputs,
                        static fn (string $i): bool => array_filter(
                            $together,
                            static fn (array $pair): bool => in_array($i, [$pair[0], $pair[1]], true),
                        ) !== [],
                    ),
                );
        $ranks = count($of) > 1 ? Ranks::of(self::sorted($of), $together) : null;
        $design = new self($kind, $inputs, $blocks, $seed, $ranks);
        if ($kind === 'sobol') {
            $known = array_slice(file(__DIR__.'/sobol.csv', FILE_IGNORE_NEW_LINES) ?: [], 1);
            if (count($inputs) > count($known)) {
                throw NotUnderstood::because(
                    'A Sobol sequence is known for '.
                        count($known).
                        ' inputs; there are '.
                        count($inputs).
                        '. Take a Latin hypercube.',
                );
            }
            $design->directions = array_map(self::direction(...), array_slice($known, 0, count($inputs)));
        }

        return $design;
    }

    /**
     * So that it does not matter in which order inputs are named.
     *
     * @param  list<string>  $names
     * @return list<string>
     */
    private static function sorted(array $names): array
    {
        sort($names);

        return $names;
    }

    /** @return list<int> blocks for so many runs */
    public static function blocks(int $runs): array
    {
        $blocks = array_fill(0, intdiv($runs, self::BLOCK), self::BLOCK);

        return $runs % self::BLOCK === 0 ? $blocks : [...$blocks, $runs % self::BLOCK];
    }

    /** @return list<float> of the open interval from 0 to 1, one for each input */
    public function draws(int $run): array
    {
        if ($this->together === null) {
            return array_map(fn (int $i): float => $this->draw($run, $i), array_keys($this->inputs));
        }
        [$block, $begin, $size] = $this->blockOf($run);
        $this->ordered = [
            $block => $this->ordered[$block] ?? $this->together->ordered($this->inputs, $this->drawsOf($begin, $size)),
        ];

        return array_map(static fn (array $column): float => $column[$run - $begin], $this->ordered[$block]);
    }

    /** @return list<list<float>> of each input, those of a block as they come */
    private function drawsOf(int $begin, int $size): array
    {
        return array_map(
            fn (int $input): array => array_map(fn (int $run): float => $this->draw($run, $input), range($begin, $begin + $size - 1)),
            array_keys($this->inputs),
        );
    }

    /** @return array{int, int, int} which block a run is in, where that begins, and its size */
    private function blockOf(int $run): array
    {
        // Runs are asked for one after the other: it is the same block again, or one soon behind it.
        [$block, $begin] = $run < $this->last[1] ? [0, 0] : $this->last;
        for (; isset($this->blocks[$block]); $block++) {
            $size = $this->blocks[$block];
            if ($run < $begin + $size) {
                return $this->last = [$block, $begin, $size];
            }
            $begin += $size;
        }
        throw new \OutOfRangeException("There is no run $run.");
    }

    private function draw(int $run, int $input): float
    {
        $name = $this->inputs[$input];

        return match ($this->kind) {
            'random' => Chance::uniform($this->seed, "draw $name", $run),
            'latin' => $this->latin($run, $name),
            default => ($this->scrambled(self::point($this->directions[$input], $run), "$this->seed/sobol $name") + 0.5) /
                2 ** self::BITS,
        };
    }

    /** One draw from each of as many equal shares as the block has runs, in an order of its own for each input. */
    private function latin(int $run, string $name): float
    {
        [$block, $begin, $size] = $this->blockOf($run);
        if ($this->ordersOf !== $block) {
            [$this->ordersOf, $this->orders] = [$block, []];
        }
        if (! isset($this->orders[$name])) {
            $seed = hash('sha256', "$this->seed/latin $name/$block", true);
            $this->orders[$name] = (new Randomizer(new Xoshiro256StarStar($seed)))->shuffleArray(range(0, $size - 1));
        }
        $share = $this->orders[$name][$run - $begin];

        return ($share + Chance::uniform($this->seed, "within $name", $run)) / $size;
    }

    /**
     * The direction numbers of an input. Source: S. Joe, F. Y. Kuo, "Constructing Sobol sequences with better two-dimensional
     * projections", SIAM Journal on Scientific Computing 30 (2008), set D6.
     *
     * @return list<int>
     */
    private static function direction(string $line): array
    {
        [, $polynomial, $initial] = explode(',', $line);
        $degree = strlen(decbin((int) $polynomial)) - 1;
        $m = array_map(intval(...), explode(' ', $initial));
        $v = [];
        for ($k = 0; $k < self::BITS; $k++) {
            if ($degree === 0 || $k < $degree) {
                $v[] = ($degree === 0 ? 1 : $m[$k]) << (self::BITS - 1 - $k);

                continue;
            }
            $new = $v[$k - $degree] ^ ($v[$k - $degree] >> $degree);
            for ($j = 1; $j < $degree; $j++) {
                $new ^= (((int) $polynomial >> ($degree - $j)) & 1) * $v[$k - $j];
            }
            $v[] = $new;
        }

        return $v;
    }

    /**
     * Whole numbers of 32 bits, in the order of the Gray code.
     *
     * @param  list<int>  $v
     */
    private static function point(array $v, int $i): int
    {
        $x = 0;
        for ($gray = $i ^ ($i >> 1), $k = 0; $gray > 0; $gray >>= 1, $k++) {
            $x ^= ($gray & 1) * ($v[$k] ?? 0);
        }

        return $x;
    }

    /**
     * The plain sequence of an input, unscrambled: for checks.
     *
     * @return list<float>
     */
    public static function plainSobol(int $input, int $count): array
    {
        $lines = file(__DIR__.'/sobol.csv', FILE_IGNORE_NEW_LINES) ?: [];
        $v = self::direction($lines[$input + 1]);

        return array_map(static fn (int $i): float => self::point($v, $i) / 2 ** self::BITS, range(0, $count - 1));
    }

    /** Each bit turned or not, by what stands before it. Source: A. B. Owen, "Randomly permuted (t,m,s)-nets and (t,s)-sequences" (1995). */
    private function scrambled(int $x, string $seed): int
    {
        $result = 0;
        for ($k = self::BITS - 1; $k >= 0; $k--) {
            $before = $x >> ($k + 1);
            $turn = ord(hash('xxh3', "$seed/$k/$before", true)[0]) & 1;
            $result |= ((($x >> $k) & 1) ^ $turn) << $k;
        }

        return $result;
    }
}
