<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Formula\FreeNames;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Negative;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Not;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Node\QuantityUse;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Formula\Quantity;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Series;

/** Writes formulas as equations of the standard; what it has no function for becomes a helper variable or is said. */
final class EquationWriter
{
    /** Before a key that is a name as it is to stand in the file, subscripts and all. */
    public const VERBATIM = "\0";

    /** @var list<array{string, string}> names and equations of helper variables */
    public array $helpers = [];

    /** @var list<array{string, string, string}> helper stocks: name, flow name, equation of the flow */
    public array $totals = [];

    /** @var list<string> what was not carried over exactly */
    public array $losses = [];

    private readonly FreeNames $taken;

    public function __construct(private readonly Model $model, private readonly string $name)
    {
        $this->taken = new FreeNames(static fn (string $key): bool => $model->idOf($key) !== null);
    }

    public function write(Node $node): string
    {
        return match (true) {
            $node instanceof NumberLiteral => self::number($node->value),
            $node instanceof NameUse => $this->name($node),
            $node instanceof QuantityUse => match ($node->quantity) {
                Quantity::Time => 'TIME',
                Quantity::TimeStep => 'DT',
                Quantity::StartTime => 'STARTTIME',
                Quantity::EndTime => 'STOPTIME',
                Quantity::Pi => 'PI',
            },
            $node instanceof Negative => '(-'.$this->tight($node->operand).')',
            $node instanceof Not => '(NOT '.$this->tight($node->operand).')',
            $node instanceof Binary => $this->binary($node),
            $node instanceof CurveCall => XmileName::written(
                $this->model->nameOf($this->model->idOf($node->key) ?? '') ?? $node->written,
            ).
                '('.
                $this->write($node->argument).
                ')',
            $node instanceof Call => $this->call($node),
            default => throw new \LogicException('No way to write '.$node::class),
        };
    }

    private function name(NameUse $node): string
    {
        if (str_starts_with($node->key, self::VERBATIM)) {
            return substr($node->key, strlen(self::VERBATIM));
        }
        $element = $this->model->element($this->model->idOf($node->key) ?? '');

        return XmileName::written($element->name ?? $node->written).($element instanceof Series ? '(TIME)' : '');
    }

    public static function number(float $value): string
    {
        $text = var_export($value, true);

        return str_ends_with($text, '.0') ? substr($text, 0, -2) : strtolower($text);
    }

    /** In brackets unless it needs none anywhere. */
    private function tight(Node $node): string
    {
        $text = $this->write($node);

        return $node instanceof Binary ? "($text)" : $text;
    }

    private function binary(Binary $node): string
    {
        $sign = match ($node->operator) {
            Operator::And => 'AND',
            Operator::Or => 'OR',
            default => $node->operator->value,
        };
        // Brackets wherever the two languages might bind differently; the left side of a chain of one sign needs none.
        $left =
            $node->left instanceof Binary &&
            $node->left->operator->binding() >= $node->operator->binding() &&
            $node->operator !== Operator::Power &&
            ! $node->operator->isComparison()
                ? $this->write($node->left)
                : $this->tight($node->left);

        return "$left $sign ".$this->tight($node->right);
    }

    private function call(Call $node): string
    {
        $function = $node->function->name;
        $count = count($node->arguments);
        if ($function === 'min' || $function === 'max') {
            return $this->pairwise(strtoupper($function), $node->arguments);
        }
        if ($function === 'at' && $node->arguments[0] instanceof NameUse) {
            return XmileName::written($node->arguments[0]->written).'('.$this->write($node->arguments[1]).')';
        }
        if ($function === 'choose') {
            return $this->choose($node->arguments);
        }
        if ($function === 'total') {
            $name = $this->free("$this->name total");
            $this->totals[] = [$name, "$name in", $this->write($node->arguments[0])];
            $this->losses[] = "`total` became the stock `$name` with a flow";

            return XmileName::written($name);
        }
        if (isset(Functions::HELPERS[$function])) {
            $name = $this->free("$this->name $function");
            $this->helpers[] = [$name, $this->filled(Functions::HELPERS[$function][$count], $node->arguments)];
            $this->losses[] = "`$function` became the variable `$name`";

            return XmileName::written($name);
        }
        if (isset(Functions::MEANS[$function])) {
            $this->losses[] = "`$function`, which the standard does not have, was replaced by its mean";

            return $this->filled(Functions::MEANS[$function], $node->arguments);
        }
        if ($node->function->group === 'chance') {
            $this->losses[] = "`$function` draws other numbers elsewhere, of the same distribution";
        }

        return $this->filled(
            Functions::WRITE[$function][$count] ?? throw new \LogicException("No way to write $function"),
            $node->arguments,
        );
    }

    /** @param  list<Node>  $arguments */
    private function filled(string $template, array $arguments): string
    {
        return (string) preg_replace_callback(
            '/([$%])(\d)/',
            function (array $m) use ($arguments): string {
                $argument = $arguments[(int) $m[2] - 1];

                return $m[1] === '$' ? $this->write($argument) : $this->tight($argument);
            },
            $template,
        );
    }

    /** @param  list<Node>  $arguments */
    private function pairwise(string $function, array $arguments): string
    {
        $code = $this->write($arguments[0]);
        foreach (array_slice($arguments, 1) as $argument) {
            $code = "$function($code, ".$this->write($argument).')';
        }

        return $code;
    }

    /** @param  list<Node>  $arguments */
    private function choose(array $arguments): string
    {
        $code = '1 / 0';
        for ($i = count($arguments) - 1; $i >= 1; $i--) {
            $code = 'IF INT('.$this->tight($arguments[0])." + 0.5) = $i THEN ".$this->write($arguments[$i])." ELSE $code";
        }

        return "($code)";
    }

    /** A helper variable for a value that is needed more than once: its name as it stands in equations. */
    public function helper(string $word, Node $node): string
    {
        $name = $this->free("$this->name $word");
        $this->helpers[] = [$name, $this->write($node)];

        return XmileName::written($name);
    }

    private function free(string $name): string
    {
        return $this->taken->of(mb_substr($name, 0, Name::LONGEST - 12));
    }
}
