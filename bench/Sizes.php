<?php

declare(strict_types=1);

use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Edit\SetCurve;
use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;

/**
 * Three models to measure with. Their formulas use a few forms that read the same, or nearly so, in the formula language, PHP and
 * C: products and sums of names, `min(a, b)`, `max(a, b)`, `pick(a, b, x, y)` (x where a > b, else y), curves `k1(a)`, and delays.
 */
final class Sizes
{
    /** What is wanted of many runs. */
    public const WATCHED = ['s1', 's2', 'a7', 'a12', 'f3'];

    /** @var array<string, float> */
    public array $parameters = [];

    /** @var array<string, float> */
    public array $stocks = [];

    /** @var array<string, string> */
    public array $auxiliaries = [];

    /** @var array<string, array{string, ?string, ?string}> formula and ends */
    public array $flows = [];

    /** @var array<string, list<array{float, float}>> */
    public array $curves = [];

    /** @var array<string, array{string, string}> by auxiliary, input and time of a third-order delay */
    public array $delays = [];

    private function __construct(public readonly string $name, public readonly int $steps, public readonly float $step)
    {
    }

    public static function of(string $name): self
    {
        return match ($name) {
            'small' => self::small(),
            'medium' => self::generated($name, 20_000, 12, 30, 18, 6, 1),
            'large' => self::generated($name, 2_000, 300, 700, 500, 0, 0),
            default => throw new InvalidArgumentException("There is no size $name."),
        };
    }

    private static function small(): self
    {
        $m = new self('small', 200_000, 0.25);
        $m->parameters = ['p1' => 0.4, 'p2' => 6.0, 'p3' => 0.01];
        $m->stocks = ['s1' => 4190.0, 's2' => 10.0, 's3' => 0.0];
        $m->auxiliaries = ['a1' => 's1 + s2 + s3'];
        $m->flows = ['f1' => ['s1 * p1 * s2 / a1', 's1', 's2'], 'f2' => ['s2 / p2', 's2', 's3'], 'f3' => ['s3 * p3', 's3', 's1']];

        return $m;
    }

    /** A web of stocks that feed and drain each other; every fourth auxiliary has a choice in it. */
    private static function generated(string $name, int $steps, int $stocks, int $auxiliaries, int $flows, int $curves, int $delays): self
    {
        $m = new self($name, $steps, 0.05);
        mt_srand(12);
        for ($i = 1; $i <= 6; $i++) {
            $m->parameters["p$i"] = 0.02 * $i + 0.03;
        }
        for ($i = 1; $i <= $stocks; $i++) {
            $m->stocks["s$i"] = 50.0 + $i % 17;
        }
        for ($k = 1; $k <= $curves; $k++) {
            for ($i = 0; $i < 8; $i++) {
                $m->curves["k$k"][] = [20.0 * $i, round(0.4 + 0.15 * $k + 0.6 * sin($i / 2 + $k), 3)];
            }
        }
        $any = static fn (string $letter, int $most): string => $letter.mt_rand(1, $most);
        for ($i = 1; $i <= $auxiliaries; $i++) {
            // Auxiliaries build on a few of those before, as in models that people make.
            $earlier = static fn (): string => $i > 4 && mt_rand(0, 1) === 1 ? 'a'.mt_rand(max(1, $i - 40), $i - 1) : $any('s', $stocks);
            $m->auxiliaries["a$i"] = match (true) {
                $curves > 0 && $i % 5 === 0 => $any('k', $curves).'('.$any('s', $stocks).')',
                $delays > 0 && $i === $auxiliaries => 'delay',
                $i % 12 === 4 => "min({$earlier()}, {$earlier()})",
                $i % 12 === 8 => "max({$earlier()}, {$earlier()})",
                $i % 12 === 11 => "pick({$any('s', $stocks)}, {$any('s', $stocks)}, p1, p2) * {$earlier()}",
                $i % 3 === 0 => "{$earlier()} * {$any('s', $stocks)} / ({$any('s', $stocks)} + 40.0)",
                $i % 3 === 1 => "0.5 * {$earlier()} + p3 * {$any('s', $stocks)} + 0.001 * {$any('s', $stocks)} * {$any('s', $stocks)}",
                default => "({$earlier()} + {$any('s', $stocks)}) * p4",
            };
            if ($m->auxiliaries["a$i"] === 'delay') {
                $m->delays["a$i"] = ['s1', 'p7'];
                $m->parameters['p7'] = 6.0;
            }
        }
        for ($i = 1; $i <= $flows; $i++) {
            $from = 1 + ($i - 1) % $stocks;
            $to = 1 + ($i * 7) % $stocks;
            $a = $any('a', $auxiliaries);
            $m->flows["f$i"] = ["s$from * p5 * $a / ($a + 60.0)", "s$from", $from === $to ? null : "s$to"];
        }

        return $m;
    }

    public function model(): Model
    {
        $end = $this->steps * $this->step;
        $model = new Model($this->name, time: new TimeSettings(0.0, $end, $this->step, 'day', Method::RungeKutta4, $end / 20));
        $edits = [];
        foreach ($this->stocks as $id => $value) {
            $edits[] = new AddElement($id, Kind::Stock, $id, (string) $value);
        }
        foreach ($this->parameters as $id => $value) {
            $edits[] = new AddElement($id, Kind::Parameter, $id, (string) $value);
        }
        foreach ($this->curves as $id => $points) {
            $edits[] = new AddElement($id, Kind::Curve, $id);
            $edits[] = new SetCurve($id, $points, Between::Straight, Beyond::Held, '');
        }
        foreach ($this->auxiliaries as $id => $formula) {
            $delay = $this->delays[$id] ?? null;
            $edits[] = new AddElement($id, Kind::Auxiliary, $id, $delay === null ? (string) preg_replace('/pick\((\w+), (\w+), /', 'if($1 > $2, ', $formula) : "delay($delay[0], $delay[1], 3)");
        }
        foreach ($this->flows as $id => [$formula, $from, $to]) {
            $edits[] = new AddElement($id, Kind::Flow, $id, $formula, from: $from, to: $to);
        }
        foreach ($edits as $edit) {
            $model = $edit->apply($model);
        }

        return $model;
    }

    /**
     * As a person would write it for speed: local variables, choices as ternaries, curves as trees of literals.
     *
     * @param  'php'|'c'|'euler'  $language  the last is PHP, too, with Euler's method
     */
    public function source(string $language): string
    {
        $stocks = $this->stocks;
        foreach ($this->delays as [$input, $time]) {
            for ($i = 1; $i <= 3; $i++) {
                $stocks["l$i"] = $this->stocks[$input] * $this->parameters[$time] / 3.0;
            }
        }

        return match ($language) {
            'php' => $this->phpSource($stocks),
            'euler' => $this->eulerSource($stocks),
            default => $this->cSource($stocks),
        };
    }

    /** @param  list<array{float, float}>  $points */
    private static function tree(array $points, string $x): string
    {
        $last = count($points) - 1;
        $piece = static fn (int $i): string => sprintf('(%s + (%s - %s) * %s)', var_export($points[$i][1], true), $x, var_export($points[$i][0], true), var_export(($points[$i + 1][1] - $points[$i][1]) / ($points[$i + 1][0] - $points[$i][0]), true));
        $part = static function (int $low, int $high) use (&$part, $piece, $points, $x): string {
            if ($low === $high) {
                return $piece($low);
            }
            $middle = intdiv($low + $high + 1, 2);

            return "($x < ".var_export($points[$middle][0], true).' ? '.$part($low, $middle - 1).' : '.$part($middle, $high).')';
        };

        return "($x <= ".var_export($points[0][0], true).' ? '.var_export($points[0][1], true)." : ($x >= ".var_export($points[$last][0], true).' ? '.var_export($points[$last][1], true).' : '.$part(0, $last - 1).'))';
    }

    /** @return array<string, string> the rate of every stock as a formula */
    private function rates(): array
    {
        $rates = array_fill_keys(array_keys($this->stocks), '');
        foreach ($this->flows as $id => [, $from, $to]) {
            if ($to !== null) {
                $rates[$to] .= " + $id";
            }
        }
        foreach ($this->flows as $id => [, $from]) {
            $rates[(string) $from] .= " - $id";
        }
        foreach ($this->delays as [$input, $time]) {
            $rates += ['l1' => "$input - l1 * 3.0 / $time", 'l2' => "l1 * 3.0 / $time - l2 * 3.0 / $time", 'l3' => "l2 * 3.0 / $time - l3 * 3.0 / $time"];
        }

        return array_map(static fn (string $r): string => $r === '' ? '0.0' : (str_starts_with($r, ' + ') ? substr($r, 3) : (str_starts_with($r, ' - ') ? '0.0'.$r : $r)), $rates);
    }

    /** @param  array<string, float>  $stocks */
    private function phpSource(array $stocks): string
    {
        $staged = static fn (string $code): string => (string) preg_replace('/\b([sl]\d+)\b/', 'x$1', $code);
        $dollar = static fn (string $code): string => (string) preg_replace('/\b(x?[aflps]\d+)\b(?!\()/', '$$1', $code);
        $equations = $this->equations();
        $rates = $this->rates();
        $out = "<?php\n\ndeclare(strict_types=1);\n\nfunction by_hand_{$this->name}(int \$steps, float \$h, ".implode(', ', array_map(static fn (string $p): string => "float \$$p", array_keys($this->parameters)))."): array\n{\n";
        foreach ($stocks as $id => $value) {
            $out .= "\$$id = ".var_export($value, true).";\n";
        }
        $out .= "\$half = \$h / 2.0; \$sixth = \$h / 6.0;\nfor (\$n = 0; \$n < \$steps; \$n++) {\n";
        if (count($equations) < 250) {
            for ($s = 0; $s < 4; $s++) {
                foreach ($equations as $id => $code) {
                    $out .= "\$$id = ".$dollar($s === 0 ? $code : $staged($code)).";\n";
                }
                foreach ($rates as $id => $code) {
                    $out .= "\$k{$s}$id = ".$dollar($s === 0 ? $code : $staged($code)).";\n";
                }
                foreach ($s < 3 ? $rates : [] as $id => $_) {
                    $out .= "\$x$id = \$$id + ".($s === 2 ? '$h' : '$half')." * \$k{$s}$id;\n";
                }
            }
            foreach ($rates as $id => $_) {
                $out .= "\$$id += \$sixth * (\$k0$id + 2.0 * \$k1$id + 2.0 * \$k2$id + \$k3$id);\n";
            }
        } else {
            foreach ($rates as $id => $_) {
                $out .= "\$x$id = \$$id; \$w$id = 0.0;\n";
            }
            $out .= "for (\$stage = 0; \$stage < 4; \$stage++) {\n\$weight = \$stage === 1 || \$stage === 2 ? 2.0 : 1.0; \$reach = \$stage === 2 ? \$h : \$half;\n";
            foreach ($equations as $id => $code) {
                $out .= "\$$id = ".$dollar($staged($code)).";\n";
            }
            foreach ($rates as $id => $code) {
                $out .= '$k = '.$dollar($staged($code))."; \$w$id += \$weight * \$k; \$x$id = \$$id + \$reach * \$k;\n";
            }
            $out .= "}\n";
            foreach ($rates as $id => $_) {
                $out .= "\$$id += \$sixth * \$w$id;\n";
            }
        }

        return $out."}\n\nreturn [".implode(', ', array_map(static fn (string $s): string => "\$$s", array_keys($stocks)))."];\n}\n";
    }

    /**
     * A function that gives the last values of five variables.
     *
     * @param  array<string, float>  $stocks
     */
    private function eulerSource(array $stocks): string
    {
        $dollar = static fn (string $code): string => (string) preg_replace('/\b([aflps]\d+)\b(?!\()/', '$$1', $code);
        $look = '';
        foreach ($this->equations() as $id => $code) {
            $look .= "\$$id = ".$dollar($code).";\n";
        }
        $step = '';
        foreach ($this->rates() as $id => $code) {
            $step .= "\$k$id = ".$dollar($code).";\n";
        }
        foreach (array_keys($stocks) as $id) {
            $step .= "\$$id += \$h * \$k$id;\n";
        }
        $start = implode('', array_map(static fn (string $id, float $value): string => "\$$id = ".var_export($value, true).";\n", array_keys($stocks), $stocks));
        $arguments = implode(', ', array_map(static fn (string $p): string => "float \$$p", array_keys($this->parameters)));

        return "<?php\n\ndeclare(strict_types=1);\n\nfunction euler_{$this->name}(int \$steps, float \$h, $arguments): array\n{\n{$start}for (\$n = 0; \$n < \$steps; \$n++) {\n$look$step}\n{$look}return ["
            .implode(', ', array_map(static fn (string $v): string => "\$$v", self::WATCHED))."];\n}\n";
    }

    /** @return array<string, string> */
    private function equations(): array
    {
        $equations = [];
        foreach ([...$this->auxiliaries, ...array_map(static fn (array $f): string => $f[0], $this->flows)] as $id => $formula) {
            $formula = isset($this->delays[$id]) ? 'l3 * 3.0 / '.$this->delays[$id][1] : $formula;
            $formula = (string) preg_replace(['/min\((\w+), (\w+)\)/', '/max\((\w+), (\w+)\)/', '/pick\((\w+), (\w+), (\w+), (\w+)\)/'], ['($1 < $2 ? $1 : $2)', '($1 > $2 ? $1 : $2)', '($1 > $2 ? $3 : $4)'], $formula);
            $equations[$id] = (string) preg_replace_callback('/(k\d+)\((\w+)\)/', fn (array $m): string => self::tree($this->curves[$m[1]], $m[2]), $formula);
        }

        return $equations;
    }

    /** @param  array<string, float>  $stocks */
    private function cSource(array $stocks): string
    {
        $equations = $this->equations();
        $rates = $this->rates();
        $n = count($stocks);
        $at = array_flip(array_keys($stocks));
        $p = array_flip(array_keys($this->parameters));
        $code = static fn (string $c): string => (string) preg_replace_callback('/\b([slp]\d+)\b/', static fn (array $m): string => $m[1][0] === 'p' ? 'p['.$p[$m[1]].']' : 'y['.$at[$m[1]].']', $c);
        $out = "#include <stdio.h>\n#include <stdlib.h>\n#include <time.h>\nstatic double now_ms(void) { struct timespec t; clock_gettime(CLOCK_MONOTONIC, &t); return t.tv_sec * 1e3 + t.tv_nsec / 1e6; }\n";
        $out .= "static void rates(const double *restrict p, const double *restrict y, double *restrict d) {\n";
        foreach ($equations as $id => $c) {
            $out .= "double $id = ".$code($c).";\n";
        }
        foreach ($rates as $id => $c) {
            $out .= "d[{$at[$id]}] = ".$code($c).";\n";
        }
        $out .= "}\nint main(int argc, char **argv) {\nlong steps = atol(argv[1]); double h = atof(argv[2]);\ndouble p[] = {".implode(', ', array_map(static fn (float $v): string => var_export($v, true), $this->parameters))."};\n";
        $out .= 'double y[] = {'.implode(', ', array_map(static fn (float $v): string => var_export($v, true), $stocks))."};\ndouble x[$n], a[$n], b[$n], c[$n], d[$n];\ndouble begun = now_ms();\nfor (long i = 0; i < steps; i++) {\n";
        foreach ([['y', 'a', 'h / 2'], ['x', 'b', 'h / 2'], ['x', 'c', 'h']] as [$from, $to, $reach]) {
            $out .= "rates(p, $from, $to); for (int j = 0; j < $n; j++) x[j] = y[j] + $reach * {$to}[j];\n";
        }

        return $out."rates(p, x, d); for (int j = 0; j < $n; j++) y[j] += h / 6 * (a[j] + 2 * b[j] + 2 * c[j] + d[j]);\n}\nprintf(\"%.6f %.17g\\n\", now_ms() - begun, y[1]);\nreturn 0;\n}\n";
    }
}
