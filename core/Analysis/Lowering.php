<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Analysis;

use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\FormulaError;
use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Nature;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Not;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Library\EvaluationError;
use MerryOrbit\Core\Library\Evaluator;
use MerryOrbit\Core\Library\Moment;
use MerryOrbit\Core\Library\Signals;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Series;
use MerryOrbit\Core\Plan\Cell;
use MerryOrbit\Core\Plan\Equation;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Plan\Keys;
use MerryOrbit\Core\Plan\Pace;
use MerryOrbit\Core\Plan\State;

/**
 * Turns one element's formula into a plain expression, and the functions with a memory in it into hidden states, equations
 * and cells. They stand outside of any `if`, so a memory inside a branch advances whether the branch is chosen or not.
 *
 * Delays of order n are chains of n equal first-order stages (an Erlang-distributed delay); `trend` and `forecast` judge x
 * against its exponential average.
 */
final class Lowering
{
    private const MOST_STAGES = 12;

    /** Signals that keep the value of the step's start; the others follow the time of each look. */
    private const KEPT_SIGNALS = ['step', 'window', 'pulse'];

    /** @var array<string, Equation> */
    public array $equations = [];

    /** @var array<string, State> */
    public array $states = [];

    /** @var array<string, Cell> */
    public array $cells = [];

    /** @var array<string, Node> keys that are computed once, at the start */
    public array $initials = [];

    /** @var list<array{string, Node, int}> element, time and order of each delay */
    public array $delays = [];

    private int $hidden = 0;

    private int $draws = 0;

    /** @param  FormulaText  $formula for the places of errors */
    public function __construct(
        private readonly Model $model,
        private readonly string $owner,
        private FormulaText $formula,
        private readonly Keys $keys,
        /** @var array<string, Holding> by element id */ private readonly array $held = [],
    ) {
    }

    /**
     * @param  ?FormulaText  $formula  for the places of errors, of an exception
     *
     * @throws FormulaError where an order is no constant from 1 to 12
     */
    public function expression(Node $node, ?FormulaText $formula = null): Node
    {
        if ($formula !== null) {
            $this->formula = $formula;
        }

        return $node->map(
            fn (Node $part): ?Node => match (true) {
                $part instanceof CurveCall && isset($this->held[$part->key]) => $this->held[$part->key]->around(
                    $part->with([$this->expression($part->argument)]),
                ),
                $part instanceof Call => $this->call($part),
                default => null,
            },
        );
    }

    private function call(Call $node): Node
    {
        if ($node->function->name === 'at') {
            return $this->at($node);
        }
        $arguments = array_map($this->expression(...), $node->arguments);
        $function = $node->function;
        $call = $arguments === $node->arguments ? $node : new Call($function, $arguments, $node->from, $node->length);
        if (in_array($function->name, self::KEPT_SIGNALS, true)) {
            return $this->equation($call, Pace::Step);
        }

        return match ($function->nature) {
            Nature::Plain, Nature::Signal, Nature::Along => $call,
            Nature::Chance => $this->chance($call),
            Nature::Memory => $this->memory($node, $arguments),
        };
    }

    /** A series looked up at another time. */
    private function at(Call $node): CurveCall
    {
        $series = $node->arguments[0];
        $element = $series instanceof NameUse ? $this->model->element($series->key) : null;
        if (! ($element instanceof Series)) {
            throw FormulaError::at(
                'series.wanted',
                '`at` looks up a series of the model at some time; its first argument is the name of one.',
                $this->formula->text($this->model->nameOf(...)),
                $series->from,
                $series->length,
            );
        }

        return new CurveCall($element->id, $element->name, 0, $this->expression($node->arguments[1]), $node->from, $node->length);
    }

    private function chance(Call $call): NameUse
    {
        $use = $this->equation($call, Pace::Step, $this->owner.'/'.++$this->draws);
        if ($call->function->name === 'drift') {
            $this->cells[$use->key] = new Cell($use->key, $this->owner, 'drift');
        }

        return $use;
    }

    /** @param  list<Node>  $a */
    private function memory(Call $node, array $a): Node
    {
        $name = $node->function->name;
        switch ($name) {
            case 'smooth':
            case 'delay':
                $order = isset($a[2]) ? $this->order($node) : 1;
                $over = $this->named($a[1]);
                $this->delays[] = [$this->owner, $a[1], $order];
                $x = $this->named($a[0]);

                return $name === 'smooth' ? $this->smooth($x, $over, $order, $a[3] ?? $x) : $this->delay($x, $over, $order, $a[3] ?? $x);
            case 'trend':
                return $this->trend($this->named($a[0]), $this->named($a[1]), $a[2] ?? NumberLiteral::of(0.0));
            case 'forecast':
                $x = $this->named($a[0]);

                return self::times(
                    $x,
                    self::plus(
                        NumberLiteral::of(1.0),
                        self::times($this->trend($x, $this->named($a[1]), $a[3] ?? NumberLiteral::of(0.0)), $a[2]),
                    ),
                );
            case 'total':
                return $this->total($this->flowing($a[0]));
            case 'initial':
                $key = $this->key();
                $this->initials[$key] = $a[0];

                return $this->use($key);
            case 'previous':
                return $this->cell('previous', $this->named($a[0]), $a[1] ?? $a[0]);
            case 'shift':
                $this->delays[] = [$this->owner, $a[1], 1];

                return $this->remembering($node, $this->named($a[1]), 'q', $this->named($a[0]), $a[2] ?? $a[0]);
            case 'highest':
            case 'lowest':
                return $this->remembering($node, $this->named($a[0]), 'h');
            default:
                // hold, latch, times
                $use = $this->equation(new Call($node->function, $a, $node->from, $node->length), Pace::Step);
                $this->cells[$use->key] = new Cell($use->key, $this->owner, $name);

                return $use;
        }
    }

    private function smooth(Node $x, Node $over, int $order, Node $first): NameUse
    {
        $stage = $this->stageTime($over, $order);
        $from = $x;
        for ($i = 1; ; $i++) {
            $key = $this->key();
            $level = $this->use($key);
            $rate = $this->equation(self::over(self::minus($from, $level), $stage), Pace::Stage);
            $this->states[$key] = new State($key, $this->owner, $first, [[$rate->key, 1]]);
            if ($i === $order) {
                return $level;
            }
            $from = $level;
        }
    }

    /** What is inside is kept as content, so nothing is lost when the delay time changes. */
    private function delay(NameUse|NumberLiteral $x, Node $over, int $order, Node $first): NameUse
    {
        $stage = $this->stageTime($over, $order);
        $entering = $this->flowing($x);
        for ($i = 1; ; $i++) {
            $key = $this->key();
            $leaving = $this->equation(self::over($this->use($key), $stage), Pace::Stage);
            $this->states[$key] = new State($key, $this->owner, self::times($first, $stage), [[$entering->key, 1], [$leaving->key, -1]]);
            if ($i === $order) {
                return $leaving;
            }
            $entering = $leaving;
        }
    }

    private function stageTime(Node $over, int $order): Node
    {
        return $order === 1 ? $over : $this->named(self::over($over, NumberLiteral::of((float) $order)));
    }

    private function trend(Node $x, Node $over, Node $first): NameUse
    {
        $key = $this->key();
        $average = $this->use($key);
        $gap = self::minus($x, $average);
        $rate = $this->equation(self::over($gap, $over), Pace::Stage);
        $initial = self::over($x, self::plus(NumberLiteral::of(1.0), self::times($first, $over)));
        $this->states[$key] = new State($key, $this->owner, $initial, [[$rate->key, 1]]);

        // Against an average of zero nothing grows by a share.
        return $this->equation(new Call(Catalogue::all()['divide'], [$rate, $average, NumberLiteral::of(0.0)], 0, 0), Pace::Stage);
    }

    private function order(Call $node): int
    {
        try {
            $value = (new Evaluator([], new Moment($this->model->time)))->value($node->arguments[2]);
        } catch (EvaluationError) {
            $value = NAN;
        }
        if ($value < 1.0 || $value > self::MOST_STAGES || $value !== floor($value)) {
            throw FormulaError::at(
                'delay.order',
                'The order of a delay is a whole number from 1 to '.self::MOST_STAGES.', written as a number.',
                $this->formula->text($this->model->nameOf(...)),
                $node->arguments[2]->from,
                $node->arguments[2]->length,
            );
        }

        return (int) $value;
    }

    /** A name for the value, so that it is computed once. */
    private function named(Node $node): NameUse|NumberLiteral
    {
        return $node instanceof NameUse || $node instanceof NumberLiteral ? $node : $this->equation($node, Pace::Stage);
    }

    /** A name that can be a rate: never a state, whose value moves while rates are added up. */
    private function flowing(Node $node): NameUse
    {
        $element = $node instanceof NameUse ? $this->model->element($node->key) : null;
        $isEquation =
            $node instanceof NameUse &&
            (isset($this->equations[$node->key]) ||
                $element instanceof Flow ||
                $element instanceof Auxiliary ||
                $element instanceof Series);

        return $isEquation ? $node : $this->equation($node, Pace::Stage);
    }

    private function total(NameUse $x): NameUse
    {
        $key = $this->key();
        $this->states[$key] = new State($key, $this->owner, NumberLiteral::of(0.0), [[$x->key, 1]]);

        return $this->use($key);
    }

    private function cell(string $kind, Node $watched, Node $first): NameUse
    {
        $key = $this->key();
        $this->cells[$key] = new Cell($key, $this->owner, $kind, $watched, $first);

        return $this->use($key);
    }

    /**
     * An equation that looks at its own cell, which it mentions as its second argument: the key with a letter.
     *
     * @param  'h'|'q'  $letter
     */
    private function remembering(Call $call, Node $argument, string $letter, ?Node $watched = null, ?Node $first = null): NameUse
    {
        $key = $this->key();
        $this->equations[$key] = new Equation(
            $key,
            $this->owner,
            new Call($call->function, [$argument, $this->use($key.$letter)], $call->from, $call->length),
        );
        $this->cells[$key] = new Cell($key, $this->owner, $call->function->name, $watched ?? $this->use($key), $first);

        return $this->use($key);
    }

    private function equation(Node $node, Pace $pace, ?string $draw = null): NameUse
    {
        $key = $this->key();
        $this->equations[$key] = new Equation($key, $this->owner, $node, $pace, $draw);

        return $this->use($key);
    }

    private function key(): string
    {
        return $this->keys->enter(new Key($this->owner, (string) ++$this->hidden));
    }

    private function use(string $key): NameUse
    {
        return new NameUse($key, $key, 0, 0);
    }

    private static function plus(Node $a, Node $b): Binary
    {
        return new Binary(Operator::Add, $a, $b);
    }

    private static function minus(Node $a, Node $b): Binary
    {
        return new Binary(Operator::Subtract, $a, $b);
    }

    private static function times(Node $a, Node $b): Binary
    {
        return new Binary(Operator::Multiply, $a, $b);
    }

    private static function over(Node $a, Node $b): Binary
    {
        return new Binary(Operator::Divide, $a, $b);
    }
}
