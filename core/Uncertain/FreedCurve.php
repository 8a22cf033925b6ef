<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Reference;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Curve;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;

/**
 * A model in which some points of a curve are parameters: every call of the curve becomes a formula that comes to the same.
 *
 * Where points are joined by straight lines or steps, a curve is the sum of its points, each times a curve that is 1 there and 0 at all
 * others. Smooth ones are cubics whose slopes follow from the points as Library\CurveShape has them; these are worked out once in a run.
 */
final class FreedCurve
{
    /** @var array<string, Element> */
    private array $elements;

    /** @var array<string, string> ids of what is added, by the key of its name */
    private array $added = [];

    private int $inputs = 0;

    /** @var list<string> of each point its value, as it stands in a formula */
    private array $values = [];

    /** @param  list<int>  $free  places of points */
    public function __construct(private readonly Model $own, private readonly Curve $curve, private readonly array $free)
    {
        $this->elements = $own->elements;
        foreach ($curve->points as $i => [, $y]) {
            $this->values[] = in_array($i, $free, true)
                ? $this->add(
                    CurvePoints::parameter($curve->id, $i),
                    static fn (string $id, string $name): Parameter => new Parameter($id, $name, new FormulaText([self::literal($y)])),
                )
                : '('.self::literal($y).')';
        }
    }

    public function model(): Model
    {
        $put = $this->curve->between === Between::Smooth ? $this->smooth() : $this->linear();
        $change = fn (FormulaText $f): FormulaText => $f->mentions($this->curve->id) ? $this->typed($this->called($f->pieces, $put)) : $f;
        foreach ($this->elements as $id => $element) {
            $this->elements[$id] = $element->withFormulas($change);
        }

        return $this->own->with(['elements' => $this->elements, 'endWhen' => $change($this->own->endWhen)]);
    }

    /**
     * @param  \Closure(string, string): Element  $make  of its id and name
     * @return string what it is called in a formula
     */
    private function add(string $id, \Closure $make): string
    {
        $name = str_replace('-', ' ', $id);
        while ($this->own->idOf(Name::key($name)) !== null) {
            $name .= ' x';
        }
        $this->elements[$id] = $make($id, $name);
        $this->added[Name::key($name)] = $id;

        return Name::quoted($name);
    }

    private function typed(string $formula): FormulaText
    {
        return FormulaText::typed($formula, fn (string $key): ?string => $this->added[$key] ?? $this->own->idOf($key));
    }

    private function aux(string $word, string $formula): string
    {
        $typed = $this->typed($formula);

        return $this->add(
            "$word-of-{$this->curve->id}",
            static fn (string $id, string $name): Auxiliary => new Auxiliary($id, $name, $typed),
        );
    }

    private static function literal(float $value): string
    {
        return sprintf('%.17g', $value);
    }

    /**
     * A formula with other calls in place of those of the curve, also within their own arguments.
     *
     * @param  list<string|Reference>  $pieces
     * @param  \Closure(string): string  $put  what stands for a call with this argument
     */
    private function called(array $pieces, \Closure $put): string
    {
        $text = '';
        foreach ($pieces as $i => $piece) {
            if (is_string($piece)) {
                $text .= $piece;

                continue;
            }
            $next = $pieces[$i + 1] ?? '';
            $isCall = $piece->id === $this->curve->id && is_string($next) && str_starts_with(ltrim($next), '(');
            if ($isCall) {
                [$argument, $rest] = self::bracket([substr(ltrim($next), 1), ...array_slice($pieces, $i + 2)]);

                return "$text(".$put($this->input($argument, $put)).')'.$this->called($rest, $put);
            }
            $name = $piece->id === null ? null : $this->own->nameOf($piece->id);
            $text .= $name === null ? $piece->written : Name::quoted($name);
        }

        return $text;
    }

    /**
     * An argument of the curve. Unless it is along dimensions it is an auxiliary: it stands in a formula more than once, and may hold
     * chance.
     *
     * @param  list<string|Reference>  $argument
     * @param  \Closure(string): string  $put
     */
    private function input(array $argument, \Closure $put): string
    {
        $text = $this->called($argument, $put);
        $shapes = array_map(fn (string $id): array => $this->own->shapes[$id] ?? [], (new FormulaText($argument))->ids());

        return array_filter($shapes) === [] && count($argument) > 1 ? $this->aux('input-'.++$this->inputs, $text) : $text;
    }

    /**
     * What stands in a bracket that was opened before, and what comes behind it.
     *
     * @param  list<string|Reference>  $pieces
     * @return array{list<string|Reference>, list<string|Reference>}
     */
    private static function bracket(array $pieces): array
    {
        $depth = 1;
        foreach ($pieces as $i => $piece) {
            for ($c = 0; is_string($piece) && $c < strlen($piece); $c++) {
                $depth += ['(' => 1, ')' => -1][$piece[$c]] ?? 0;
                if ($depth === 0) {
                    return [
                        [...array_slice($pieces, 0, $i), substr($piece, 0, $c)],
                        [substr($piece, $c + 1), ...array_slice($pieces, $i + 1)],
                    ];
                }
            }
        }

        return [$pieces, []];
    }

    /** @return \Closure(string): string */
    private function linear(): \Closure
    {
        $parts = ['1' => $this->other('rest', array_fill_keys($this->free, 0.0))];
        $zeros = array_fill(0, count($this->curve->points), 0.0);
        foreach ($this->free as $i) {
            $parts[$this->values[$i]] = $this->other("hat-$i", [$i => 1.0] + $zeros);
        }

        return static function (string $x) use ($parts): string {
            $terms = [];
            foreach ($parts as $value => $curve) {
                $terms[] = "$value * $curve($x)";
            }

            return implode(' + ', $terms);
        };
    }

    /** @param  array<int, float>  $values  other values of some points */
    private function other(string $word, array $values): string
    {
        $curve = $this->curve;
        $points = [];
        foreach ($curve->points as $i => [$x, $y]) {
            $points[] = [$x, $values[$i] ?? $y];
        }

        return $this->add(
            "$word-of-$curve->id",
            static fn (string $id, string $name): Curve => new Curve(
                $id,
                $name,
                $curve->formula,
                points: $points,
                between: $curve->between,
                beyond: $curve->beyond,
            ),
        );
    }

    /** @return \Closure(string): string */
    private function smooth(): \Closure
    {
        $xs = array_column($this->curve->points, 0);
        $last = count($xs) - 1;
        [$h, $slopes] = [[], []];
        for ($i = 0; $i < $last; $i++) {
            $h[] = $xs[$i + 1] - $xs[$i];
            $slopes[] = $this->aux("slope-$i", "({$this->values[$i + 1]} - {$this->values[$i]}) / ".self::literal($h[$i]));
        }
        $tangents = $this->tangents($h, $slopes);
        $cubics = [];
        for ($i = 0; $i < $last; $i++) {
            [$s, $t, $n, $w] = [$slopes[$i], $tangents[$i], $tangents[$i + 1], self::literal($h[$i])];
            $bend = $this->aux("bend-$i", "(3 * $s - 2 * $t - $n) / $w");
            $twist = $this->aux("twist-$i", "($t + $n - 2 * $s) / $w / $w");
            $cubics[] = [$this->values[$i], $t, $bend, $twist];
        }
        $goesOn = $this->curve->beyond === Beyond::Extended;
        $end = fn (int $i, string $u): string => $this->values[$i].($goesOn ? " + $u * $tangents[$i]" : '');

        return static function (string $x) use ($xs, $last, $cubics, $end): string {
            $u = static fn (int $i): string => "(($x) - (".self::literal($xs[$i]).'))';
            $text = "if(($x) < ".self::literal($xs[0]).', '.$end(0, $u(0));
            foreach ($cubics as $i => [$c0, $c1, $c2, $c3]) {
                $text .= ", if(($x) < ".self::literal($xs[$i + 1]).", $c0 + {$u($i)} * ($c1 + {$u($i)} * ($c2 + {$u($i)} * $c3))";
            }

            return "$text, {$end($last, $u($last))}".str_repeat(')', $last + 1);
        };
    }

    /**
     * Slopes at the points.
     *
     * @param  list<float>  $h  widths
     * @param  list<string>  $slopes  of the straight lines between
     * @return list<string>
     */
    private function tangents(array $h, array $slopes): array
    {
        $last = count($slopes);
        if ($last < 2) {
            return [$slopes[0], $slopes[0]];
        }
        $tangents = [$this->endTangent(0, $h[0], $h[1], $slopes[0], $slopes[1])];
        for ($i = 1; $i < $last; $i++) {
            [$a, $b] = [$slopes[$i - 1], $slopes[$i]];
            [$wa, $wb] = [2.0 * $h[$i] + $h[$i - 1], $h[$i] + 2.0 * $h[$i - 1]];
            $mean = self::literal($wa + $wb).' / ('.self::literal($wa)." / $a + ".self::literal($wb)." / $b)";
            $tangents[] = $this->aux("tangent-$i", "if($a * $b > 0, $mean, 0)");
        }
        $tangents[] = $this->endTangent($last, $h[$last - 1], $h[$last - 2], $slopes[$last - 1], $slopes[$last - 2]);

        return $tangents;
    }

    private function endTangent(int $i, float $near, float $far, string $slope, string $next): string
    {
        [$own, $other] = [self::literal((2.0 * $near + $far) / ($near + $far)), self::literal($near / ($near + $far))];
        $plain = $this->aux("plain-$i", "$own * $slope - $other * $next");
        $steep = "if($slope * $next <= 0 and abs($plain) > 3 * abs($slope), 3 * $slope, $plain)";

        return $this->aux("tangent-$i", "if($plain * $slope <= 0, 0, $steep)");
    }
}
