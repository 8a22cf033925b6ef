<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Library\CurveShape;

/** Writes the look-up of a curve as PHP: a decision tree of literals, in place or as a function of its own. */
final readonly class CurveCode
{
    private const MOST_INLINE = 40;

    /** @param  string  $watch  an expression that is zero and notes that the range was left */
    public function __construct(private CurveShape $shape, private string $watch = '0.0')
    {
    }

    public function fitsInline(): bool
    {
        return count($this->shape->pieces) <= self::MOST_INLINE;
    }

    /** In place; leaving the range costs nothing while it is not left. */
    public function tree(string $first, string $x): string
    {
        $code = $this->branch(0, count($this->shape->pieces) - 1, $x);

        return $first === $x ? $code : substr_replace($code, $first, (int) strpos($code, $x), strlen($x));
    }

    private function branch(int $low, int $high, string $x): string
    {
        if ($low < $high) {
            $middle = intdiv($low + $high + 1, 2);

            return "($x < ".
                Emitter::literal($this->shape->pieces[$middle][0]).
                ' ? '.
                $this->branch($low, $middle - 1, $x).
                ' : '.
                $this->branch($middle, $high, $x).
                ')';
        }

        return match ($low) {
            0 => '('.$this->piece(0, $x)." + $this->watch)",
            count($this->shape->pieces) - 1 => $this->end($x),
            default => $this->piece($low, $x),
        };
    }

    /** Behind the last point, where the curve is not left yet. */
    private function end(string $x): string
    {
        $last = count($this->shape->pieces) - 1;

        return "($x > ".
            Emitter::literal($this->shape->last()).
            ' ? '.
            $this->piece($last, $x).
            " + $this->watch : ".
            Emitter::literal($this->shape->pieces[$last][1]).
            ')';
    }

    /** A call of a function, with the ends in place. */
    public function call(string $first, string $x, FirstEvents $watches): string
    {
        $look = $watches->look($this->inside());

        return "($first < ".
            Emitter::literal($this->shape->first()).
            ' ? '.
            $this->piece(0, $x).
            " + $this->watch : ($x >= ".
            Emitter::literal($this->shape->last()).
            ' ? '.
            $this->end($x).
            " : $look($x)))";
    }

    /** The tree for what lies between the first and the last point, of the variable `$x`. */
    private function inside(): string
    {
        return $this->branch(1, count($this->shape->pieces) - 2, '$x');
    }

    private function piece(int $index, string $x): string
    {
        [$x0, $c0, $c1, $c2, $c3] = array_map(Emitter::literal(...), $this->shape->pieces[$index]);
        [$at, , $slope, $bend, $twist] = $this->shape->pieces[$index];
        $u = $at === 0.0 ? $x : "($x - $x0)";

        return match (true) {
            $slope === 0.0 && $bend === 0.0 && $twist === 0.0 => $c0,
            $bend === 0.0 && $twist === 0.0 => "($c0 + $u * $c1)",
            default => "($c0 + $u * ($c1 + $u * ($c2 + $u * $c3)))",
        };
    }
}
