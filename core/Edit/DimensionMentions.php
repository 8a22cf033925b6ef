<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\FormulaError;
use MerryOrbit\Core\Formula\FormulaReader;
use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Node\Along;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Pick;
use MerryOrbit\Core\Formula\Node\PickStep;
use MerryOrbit\Core\Formula\Printer;
use MerryOrbit\Core\Model\Dimensions;
use MerryOrbit\Core\Model\Model;

/** Formulas follow when dimensions and their elements are called otherwise. */
final readonly class DimensionMentions
{
    /** @var array<string, string> new names of dimensions by the key of the old one */
    private array $dimensions;

    /** @var array<string, array<string, string>> by id of the dimension, new names of its elements by the key of the old one */
    private array $elements;

    private function __construct(private Model $model, private Dimensions $before)
    {
        $now = $model->dimensions();
        $dimensions = $elements = [];
        foreach ($before->all() as $id => $dimension) {
            if (($now->all()[$id]->name ?? $dimension->name) !== $dimension->name) {
                $dimensions[Name::key($dimension->name)] = $now->all()[$id]->name;
            }
            foreach ($before->allElements($id) as $element) {
                $name = $before->elementName($id, $element);
                if ($now->has($id, $element) && $now->elementName($id, $element) !== $name) {
                    $elements[$id][Name::key($name)] = $now->elementName($id, $element);
                }
            }
        }
        $this->dimensions = $dimensions;
        $this->elements = $elements;
    }

    /** @param  Dimensions  $before  as they were called when the formulas were written */
    public static function renamed(Model $model, Dimensions $before): Model
    {
        $mentions = new self($model, $before);
        if ($mentions->dimensions === [] && $mentions->elements === []) {
            return $model;
        }
        $elements = $model->elements;
        foreach ($elements as $id => $element) {
            $elements[$id] = $element->withFormulas($mentions->rewritten(...));
        }

        return $model->with(['elements' => $elements, 'endWhen' => $mentions->rewritten($model->endWhen)]);
    }

    private function rewritten(FormulaText $formula): FormulaText
    {
        if (! $formula->hasBrackets()) {
            return $formula;
        }
        try {
            $all = FormulaReader::node($formula, $this->model->nameOf(...), $this->model->idOf(...))->all();
        } catch (FormulaError) {
            // A draft is left as it is.
            return $formula;
        }
        $changes = [];
        foreach ($all as $node) {
            foreach ($node instanceof Pick ? $node->steps : [] as $step) {
                $changes += $this->ofStep($step);
            }
            if ($node instanceof Call) {
                $changes += $this->ofArguments($node);
            }
        }
        if ($changes === []) {
            return $formula;
        }
        $text = $formula->text($this->model->nameOf(...));
        krsort($changes);
        foreach ($changes as $from => [$length, $new]) {
            $text = substr($text, 0, $from).$new.substr($text, $from + $length);
        }

        return FormulaText::typed($text, $this->model->idOf(...));
    }

    /** @return array<int, array{int, string}> by place, how much is replaced by what */
    private function ofStep(PickStep $step): array
    {
        $dimension = $step->dimension === null ? null : $this->dimensions[$step->dimension] ?? $step->dimension;
        $written = $step->isMove ? $step->written : ($this->dimensions[$step->what] ?? $this->element($step) ?? $step->written);
        if ($dimension === $step->dimension && $written === $step->written) {
            return [];
        }
        $new = new PickStep($dimension, $step->isMove ? $step->what : Name::key($written), $written, $step->isMove, $step->by, 0, 0);

        return [$step->from => [$step->length, Printer::step($new)]];
    }

    /** What an element is called now that a pick names: by its dimension, or where one dimension alone has such an element. */
    private function element(PickStep $step): ?string
    {
        if ($step->dimension !== null) {
            return $this->elements[$this->before->find($step->dimension)->id ?? ''][$step->what] ?? null;
        }
        $names = $holders = [];
        foreach (array_keys($this->before->all()) as $dimension) {
            if ($this->before->elementOf($dimension, $step->what) !== null) {
                $holders[$this->before->root($dimension)] = true;
                $names[] = $this->elements[$dimension][$step->what] ?? null;
            }
        }

        return count($holders) === 1 ? $names[0] : null;
    }

    /** @return array<int, array{int, string}> */
    private function ofArguments(Call $node): array
    {
        $changes = [];
        foreach ($node->arguments as $i => $argument) {
            if (! ($argument instanceof Along)) {
                continue;
            }
            $first = $node->arguments[0];
            $new =
                $node->function->name === 'is' && $i === 1 && $first instanceof Along
                    ? $this->elements[$this->before->find($first->key)->id ?? ''][$argument->key] ?? null
                    : $this->dimensions[$argument->key] ?? null;
            if ($new !== null) {
                $changes[$argument->from] = [$argument->length, Printer::print(new Along(Name::key($new), $new, 0, 0))];
            }
        }

        return $changes;
    }
}
