<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Analysis;

use MerryOrbit\Core\Formula\FormulaError;
use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Sentences;
use MerryOrbit\Core\Model\Curve;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Series;
use MerryOrbit\Core\Problem\Nearest;

/** The names in a formula, and whether what they mean in the model can stand where they do. */
final readonly class Names
{
    /** @param  array<string, true>  $factors  keys of the names of things that are only on the causal map */
    public function __construct(private Model $model, private array $factors = [])
    {
    }

    /**
     * Why names cannot stand where they do, and which things are mentioned.
     *
     * @return array{list<FormulaError>, list<string>} and ids, in the order in which they stand
     */
    public function check(Node $node, FormulaText $formula): array
    {
        $errors = [];
        $used = [];
        foreach ($node->all() as $part) {
            if (! ($part instanceof NameUse) && ! ($part instanceof CurveCall)) {
                continue;
            }
            $element = $this->model->elements[$part->key] ?? null;
            $error = $this->error($part, $element, $formula);
            if ($error !== null) {
                $errors[] = $error;
            } else {
                $used[$part->key] = true;
            }
        }

        return [$errors, array_map(strval(...), array_keys($used))];
    }

    /** Why this name cannot stand here; null if it can. */
    private function error(NameUse|CurveCall $part, ?Element $element, FormulaText $formula): ?FormulaError
    {
        if ($part instanceof CurveCall) {
            if ($element instanceof Curve) {
                return null;
            }
            $curves = array_map(
                static fn (Element $e): string => $e->name,
                array_filter($this->model->elements, static fn (Element $e): bool => $e instanceof Curve),
            );
            $sentence =
                $element === null
                    ? Sentences::unknown($part->written, array_values($curves))
                    : ($element instanceof Series
                        ? "`$element->name` is a series: its name alone is its value now, and `at(".
                            Name::written($element->name).
                            ', …)` its value at another time.'
                        : "`$element->name` is a {$element->kind()->value}, not a function or a curve: an operator is missing before the bracket, such as `$element->name * (…)`.");

            return FormulaError::at('function.unknown', $sentence, $this->text($formula), $part->from, $part->nameLength);
        }
        if ($element instanceof Curve) {
            return FormulaError::at(
                'curve.bare',
                "`$element->name` is a curve and needs its input in brackets: `".Name::written($element->name).'(…)`.',
                $this->text($formula),
                $part->from,
                $part->length,
            );
        }

        if ($element === null && isset($this->factors[Name::key($part->written)])) {
            return FormulaError::at(
                'name.factor',
                "`{$part->written}` is a factor of the causal map and has no number yet. Make it a stock, an auxiliary or a parameter.",
                $this->text($formula),
                $part->from,
                $part->length,
            );
        }

        return $element !== null
            ? null
            : FormulaError::at(
                'name.unknown',
                "Nothing is called `{$part->written}`".
                    self::elsewhere($part->written).
                    '.'.
                    Nearest::question($part->written, $this->model->names()),
                $this->text($formula),
                $part->from,
                $part->length,
            );
    }

    private function text(FormulaText $formula): string
    {
        return $formula->text($this->model->nameOf(...));
    }

    /** A word for what people often write for a built-in quantity. */
    private static function elsewhere(string $written): string
    {
        return Name::key($written) === 'dt' ? '; the length of a step is `time step`' : '';
    }
}
