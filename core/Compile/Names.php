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

    /**
     * The formula with ids for names; where a name cannot stand it is left empty, and said why.
     *
     * @param  list<FormulaError>  $errors  are added to
     * @param  array<string, true>  $used  ids are added to, in the order in which they stand
     */
    public function resolved(Node $node, string $text, array &$errors, array &$used): Node
    {
        return $node->map(function (Node $part) use ($text, &$errors, &$used): ?Node {
            if (! $part instanceof NameUse && ! $part instanceof CurveCall) {
                return null;
            }
            $id = $this->model->idOf($part->key);
            $error = $this->error($part, $id === null ? null : $this->model->elements[$id], $text);
            if ($error !== null) {
                $errors[] = $error;
                $id = '';
            } else {
                $used[(string) $id] = true;
            }

            return $part instanceof NameUse
                ? new NameUse((string) $id, $part->written, $part->from, $part->length)
                : new CurveCall((string) $id, $part->written, $part->nameLength, $this->resolved($part->argument, $text, $errors, $used), $part->from, $part->length);
        });
    }

    /** Why this name cannot stand here; null if it can. */
    private function error(NameUse|CurveCall $part, ?Element $element, string $text): ?FormulaError
    {
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
