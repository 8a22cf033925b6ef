<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Experiment;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Not;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Printer;
use MerryOrbit\Core\Library\CurveShape;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Simulate\Trajectory;
use MerryOrbit\Core\Structure\FormulaInRun;
use MerryOrbit\Core\Structure\Polarity;

/**
 * What keeps a variable where it is although its inputs move: the argument of a `min` or `max` that counts, a bound of `clamp`,
 * the branch of an `if`, a curve where it is flat, a stock that is empty, a flow that goes one way only; and since when.
 */
final class Holds
{
    /** Saved moments that are looked back at. */
    private const MOST = 20_000;

    /** Differences below this part of the values are rounding. */
    private const SAME = 1e-9;

    private readonly FormulaInRun $formulas;

    /** @var list<array{sentence: string, since: ?float, element: ?string}> */
    private array $found = [];

    private function __construct(
        private readonly Analysis $analysis,
        private readonly Trajectory $run,
        private readonly string $id,
        private readonly int $index,
    ) {
        $this->formulas = new FormulaInRun($analysis, $run);
    }

    /**
     * @return list<array{sentence: string, since: ?float, element: ?string}> since: null for the whole run so far; element: what holds it, if that is one variable
     */
    public static function of(Analysis $analysis, Trajectory $run, string $id, float $time): array
    {
        if ($run->length() === 0) {
            return [];
        }
        $formulas = new FormulaInRun($analysis, $run);
        $holds = new self($analysis, $run, $id, $formulas->indexAt($time));
        $element = $analysis->model->element($id);
        if ($element instanceof Stock) {
            $holds->ofStock($element);
        } elseif (isset($analysis->nodes[$id]) && Polarity::isMomentary($analysis->nodes[$id])) {
            $holds->walk($analysis->nodes[$id]);
            if ($element instanceof Flow) {
                $holds->ofFlow($element);
            }
        }

        return $holds->found;
    }

    private function walk(Node $node): void
    {
        if ($node instanceof CurveCall) {
            $this->ofCurve($node);
        }
        $parts = $node->parts();
        if ($node instanceof Call) {
            $parts = match ($node->function->name) {
                'min', 'max' => $this->ofExtreme($node),
                'clamp' => $this->ofClamp($node),
                'if' => $this->ofChoice($node),
                'divide' => $this->ofDivision($node),
                default => $parts,
            };
        }
        foreach ($parts as $part) {
            $this->walk($part);
        }
    }

    /** @return list<Node> the argument that counts */
    private function ofExtreme(Call $node): array
    {
        $least = $node->function->name === 'min';
        $count = fn (int $index): ?int => $this->extreme($node, $index);
        $at = $count($this->index);
        if ($at === null) {
            return [];
        }
        $value = (float) $this->value($node->arguments[$at], $this->index);
        $others = [];
        foreach ($node->arguments as $i => $argument) {
            $by = abs((float) $this->value($argument, $this->index) - $value);
            if ($i !== $at) {
                $others[] =
                    self::text($argument).
                    ' is '.
                    ($by <= self::SAME * max(1.0, abs($value)) ? 'the same' : Shown::brief($by).($least ? ' more' : ' less'));
            }
        }
        $which = ($least ? 'The least' : 'The largest').' of '.self::list(array_map(self::text(...), $node->arguments));
        $this->tell(
            "$which counts. That is ".
                self::text($node->arguments[$at]).
                self::worth($node->arguments[$at], $value).
                ': '.
                self::list($others),
            $count,
            $node->arguments[$at],
        );

        return [$node->arguments[$at]];
    }

    /** Which argument counts; of equal ones the first. */
    private function extreme(Call $node, int $index): ?int
    {
        $best = null;
        $value = 0.0;
        foreach ($node->arguments as $i => $argument) {
            $x = $this->value($argument, $index);
            if ($x === null) {
                return null;
            }
            if ($best === null || ($node->function->name === 'min' ? $x < $value : $x > $value)) {
                [$best, $value] = [$i, $x];
            }
        }

        return $best;
    }

    /** @return list<Node> */
    private function ofClamp(Call $node): array
    {
        [$x, $low, $high] = $node->arguments;
        $which = function (int $index) use ($x, $low, $high): ?int {
            [$v, $l, $h] = [$this->value($x, $index), $this->value($low, $index), $this->value($high, $index)];

            return $v === null || $l === null || $h === null ? null : ($v < $l ? 1 : ($v > $h ? 2 : 0));
        };
        $at = $which($this->index);
        if ($at === 1 || $at === 2) {
            $bound = $node->arguments[$at];
            $by = Shown::brief(abs((float) $this->value($x, $this->index) - (float) $this->value($bound, $this->index)));
            $this->tell(
                self::text($x).
                    " is $by ".
                    ($at === 1 ? 'below' : 'above').
                    ' its bound, so '.
                    self::text($bound).
                    self::worth($bound, (float) $this->value($bound, $this->index)).
                    ' counts',
                $which,
                $bound,
            );
        }

        return $at === null ? [] : [$node->arguments[$at]];
    }

    /** @return list<Node> */
    private function ofChoice(Call $node): array
    {
        $which = function (int $index) use ($node): ?int {
            $value = $this->value($node->arguments[0], $index);

            return $value === null ? null : ($value != 0.0 ? 1 : 2);
        };
        $at = $which($this->index);
        if ($at === null) {
            return [];
        }
        $branch = $node->arguments[$at];
        $condition = $node->arguments[0] instanceof Not && $at === 2 ? $node->arguments[0]->operand : $node->arguments[0];
        $holds = $at === 1 || $condition !== $node->arguments[0];
        $this->tell(
            'The condition '.
                self::text($condition).
                ($holds ? ' holds' : ' does not hold').
                ', so '.
                self::text($branch).
                self::worth($branch, $this->value($branch, $this->index)).
                ' counts',
            $which,
            $branch,
        );

        return [$branch];
    }

    /** @return list<Node> */
    private function ofDivision(Call $node): array
    {
        $which = fn (int $index): ?int => ($x = $this->value($node->arguments[1], $index)) === null ? null : ($x == 0.0 ? 1 : 0);
        if ($which($this->index) === 1) {
            $this->tell(
                self::text($node->arguments[1]).' is 0, so '.self::text($node->arguments[2]).' counts',
                $which,
                $node->arguments[2],
            );

            return [$node->arguments[2]];
        }

        return array_slice($node->arguments, 0, 2);
    }

    private function ofCurve(CurveCall $node): void
    {
        $curve = $this->analysis->model->element($node->key);
        if (! ($curve instanceof Relation) || count($curve->points) < 2) {
            return;
        }
        $shape = CurveShape::of($curve);
        $points = $curve->points;
        $last = count($points) - 1;
        // 0 before the first point, then 1 + the stretch that the input lies in, then one more beyond the last.
        $stretch = function (float $x) use ($points, $last): int {
            $i = 0;
            while ($i <= $last && $x >= $points[$i][0]) {
                $i++;
            }

            return $i;
        };
        $flat = static fn (int $i): bool => isset($points[$i - 1], $points[$i])
            ? $points[$i - 1][1] === $points[$i][1]
            : $curve->beyond === Beyond::Held;
        $which = function (int $index) use ($node, $stretch, $flat): int {
            $x = $this->value($node->argument, $index);
            $i = $x === null ? null : $stretch($x);

            return $i !== null && $flat($i) ? $i : -1;
        };
        $i = $which($this->index);
        $x = $this->value($node->argument, $this->index);
        if ($i < 0 || $x === null) {
            return;
        }
        $where = match (true) {
            $i === 0 => 'lies before the first point of `'.$curve->name.'` ('.Shown::brief($points[0][0]).')',
            isset($points[$i]) => 'lies where `'.
                $curve->name.
                '` is flat, from '.
                Shown::brief($points[$i - 1][0] ?? 0.0).
                ' to '.
                Shown::brief($points[$i][0]),
            default => 'lies beyond the last point of `'.$curve->name.'` ('.Shown::brief($points[$last][0]).')',
        };
        $this->tell(
            self::text($node->argument).
                self::worth($node->argument, $x).
                " $where; there the curve stays at ".
                Shown::brief($shape->value($x)),
            $which,
        );
    }

    /** What a flow would be by its formula, and what of that it may be. */
    private function ofFlow(Flow $flow): void
    {
        $node = $this->analysis->nodes[$flow->id];
        $which = function (int $index) use ($node, $flow): ?int {
            $wanted = $this->value($node, $index);
            $is = $this->formulas->saved($flow->id, $index);
            if ($wanted === null || $is === null || abs($wanted - $is) <= self::SAME * max(abs($wanted), abs($is))) {
                return null;
            }

            return $wanted < 0.0 && $is === 0.0 ? 1 : 2;
        };
        $at = $which($this->index);
        if ($at === null) {
            return;
        }
        $wanted = Shown::brief((float) $this->value($node, $this->index));
        $stock = $this->analysis->model->element($flow->from ?? '') ?? $this->analysis->model->element($flow->to ?? '');
        if ($at === 1 && $flow->oneWay) {
            $this->tell("By its formula it would be $wanted, but it flows one way only, so nothing flows", $which);
        } elseif ($stock instanceof Stock) {
            $is = Shown::brief((float) $this->formulas->saved($flow->id, $this->index));
            $this->tell(
                "By its formula it would be $wanted, but `$stock->name` never goes below zero and gives no more than it has: $is",
                $which,
                element: $stock->id,
            );
        }
    }

    private function ofStock(Stock $stock): void
    {
        if (! $stock->neverNegative) {
            return;
        }
        $cut = [];
        foreach ($this->analysis->model->outflows($stock->id) as $flow) {
            $of = new self($this->analysis, $this->run, $flow->id, $this->index);
            if (isset($this->analysis->nodes[$flow->id]) && Polarity::isMomentary($this->analysis->nodes[$flow->id])) {
                $of->ofFlow($flow);
            }
            foreach ($of->found as $one) {
                if ($one['element'] === $stock->id) {
                    $cut[] = [
                        'sentence' => "`$flow->name` takes all there is. ".$one['sentence'],
                        'since' => $one['since'],
                        'element' => $flow->id,
                    ];
                }
            }
        }
        array_push($this->found, ...$cut);
    }

    private function value(Node $part, int $index): ?float
    {
        return $this->formulas->value($this->id, $part, $index);
    }

    /** @param  \Closure(int): ?int  $which  what counts at a saved moment; it is told since when that is so */
    private function tell(string $words, \Closure $which, ?Node $holder = null, ?string $element = null): void
    {
        $now = $which($this->index);
        $first = $this->index;
        while ($first > 0 && $this->index - $first < self::MOST && $which($first - 1) === $now) {
            $first--;
        }
        $since = $first === 0 ? null : $this->run->times()[$first] ?? null;
        $model = $this->analysis->model;
        $element ??= $holder instanceof NameUse && $holder->key !== '' ? $holder->key : null;
        $this->found[] = [
            'sentence' => $words.
                ($since === null ? '. So it is from the start on.' : ", since {$model->time->unit} ".Shown::brief($since).'.'),
            'since' => $since,
            'element' => $element,
        ];
    }

    private static function text(Node $node): string
    {
        return '`'.trim(Printer::print($node), '"').'`';
    }

    /** The number behind words; a number needs none. */
    private static function worth(Node $node, ?float $value): string
    {
        return $node instanceof NumberLiteral || $value === null ? '' : ' ('.Shown::brief($value).')';
    }

    /** @param  list<string>  $words */
    private static function list(array $words): string
    {
        $last = array_pop($words);

        return $words === [] ? (string) $last : implode(', ', $words)." and $last";
    }
}
