<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Formula\FormulaError;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Parser;
use MerryOrbit\Core\Model\Curve;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Series;
use MerryOrbit\Core\Problem\Nearest;

/** The names in a formula, and whether what they mean in the model can stand where they do. */
final readonly class Names
{
    public function __construct(private Model $model)
    {
    }

    /** @return list<NameUse|CurveCall> in the order in which they stand */
    public static function in(Node $node): array
    {
        if ($node instanceof NameUse) {
            return [$node];
        }
        $names = $node instanceof CurveCall ? [$node] : [];
        foreach ($node->parts() as $part) {
            array_push($names, ...self::in($part));
        }

        return $names;
    }

    /** Why this name cannot stand here; null if it can. */
    public function error(NameUse|CurveCall $part, string $text): ?FormulaError
    {
        $id = $this->model->idOf($part->key);
        $element = $id === null ? null : $this->model->elements[$id];
        if ($part instanceof CurveCall) {
            if ($element instanceof Curve) {
                return null;
            }
            $curves = array_map(static fn (Element $e): string => $e->name, array_filter($this->model->elements, static fn (Element $e): bool => $e instanceof Curve));
            $sentence = $element === null
                ? Parser::unknownSentence($part->written, array_values($curves))
                : ($element instanceof Series ? "`$element->name` is a series: its name alone is its value now, and `at(".Name::written($element->name).', …)` its value at another time.' : "`$element->name` is a {$element->kind()->value}, not a function or a curve: an operator is missing before the bracket, such as `$element->name * (…)`.");

            return FormulaError::at('function.unknown', $sentence, $text, $part->from, $part->nameLength);
        }
        if ($element instanceof Curve) {
            return FormulaError::at('curve.bare', "`$element->name` is a curve and needs its input in brackets: `".Name::written($element->name).'(…)`.', $text, $part->from, $part->length);
        }

        return $element !== null ? null
            : FormulaError::at('name.unknown', "Nothing is called `{$part->written}`".self::elsewhere($part->written).'.'.Nearest::question($part->written, $this->model->names()), $text, $part->from, $part->length);
    }

    /** A word for what people often write for a built-in quantity. */
    private static function elsewhere(string $written): string
    {
        return Name::key($written) === 'dt' ? '; the length of a step is `time step`' : '';
    }
}
