<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Unit;

use MerryOrbit\Core\Formula\FormulaError;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Problem\Severity;

/**
 * Infers the units that were left empty and says what does not fit. Units never stop a run.
 *
 * Inference goes both ways until nothing new is learned: from a formula to its result, from a stock to its flows and back, and
 * from a known result to the one unknown in its formula.
 */
final class UnitChecker
{
    private const MOST_ROUNDS = 12;

    private readonly UnitBook $book;

    private readonly ?Unit $time;

    /** @var array<string, Unit> */
    private array $units = [];

    /** @var array<string, true> */
    private array $inferred = [];

    /** @var list<Problem> */
    private array $remarks = [];

    /** @param  array<string, Node>  $nodes  formulas by element id */
    private function __construct(private readonly Model $model, private readonly array $nodes)
    {
        $this->book = new UnitBook($model->sameUnits);
        $this->time = $this->book->read($model->time->unit);
    }

    /** @param  array<string, Node>  $nodes  the formulas that could be read, by element id */
    public static function check(Model $model, array $nodes): UnitReport
    {
        $checker = new self($model, $nodes);
        $checker->readGiven();
        $checker->infer();
        foreach ($model->elements as $element) {
            $checker->compare($element);
        }

        return new UnitReport($checker->units, $checker->inferred, $checker->remarks);
    }

    private function readGiven(): void
    {
        foreach ($this->model->elements as $id => $element) {
            foreach (
                ['unit' => $element->unit, 'inputUnit' => $element instanceof Relation ? $element->inputUnit : ''] as $field => $text
            ) {
                try {
                    $unit = $this->book->parse($text);
                    if ($unit !== null && $field === 'unit') {
                        $this->units[$id] = $unit;
                    }
                } catch (UnitError $e) {
                    $this->remark($element, 'unit.unreadable', $e->getMessage(), $field);
                }
            }
        }
    }

    private function infer(): void
    {
        $formulas = new FormulaUnits($this->model, $this->book, $this->time);
        for ($round = 0; $round < self::MOST_ROUNDS; $round++) {
            $known = count($this->units);
            foreach ($this->model->elements as $id => $element) {
                if ($element instanceof Flow && $this->time !== null) {
                    $this->inferFlow($element, $this->time);
                }
                if (! isset($this->nodes[$id])) {
                    continue;
                }
                $formulas->know($this->units);
                $unit = $formulas->of($this->nodes[$id]);
                if ($unit !== null && ! $unit->isFlexible) {
                    $this->learn($id, $unit);
                }
                if (isset($this->units[$id])) {
                    foreach ($formulas->implied($this->nodes[$id], $this->units[$id]) as $used => $implied) {
                        $this->learn($used, $implied);
                    }
                }
            }
            if (count($this->units) === $known) {
                return;
            }
        }
    }

    private function inferFlow(Flow $flow, Unit $time): void
    {
        foreach (array_filter([$flow->from, $flow->to]) as $stock) {
            if (isset($this->units[$stock])) {
                $this->learn($flow->id, $this->units[$stock]->per($time));
            } elseif (isset($this->units[$flow->id])) {
                $this->learn($stock, $this->units[$flow->id]->times($time));
            }
        }
    }

    private function learn(string $id, Unit $unit): void
    {
        if (! isset($this->units[$id]) && isset($this->model->elements[$id]) && trim($this->model->elements[$id]->unit) === '') {
            $this->units[$id] = $unit;
            $this->inferred[$id] = true;
        }
    }

    private function compare(Element $element): void
    {
        $node = $this->nodes[$element->id] ?? null;
        $text = $this->model->formulaOf($element);
        if ($node !== null) {
            $formulas = new FormulaUnits($this->model, $this->book, $this->time, $this->units);
            $unit = $formulas->of($node);
            foreach ($formulas->clashes as [$part, $code, $sentence]) {
                $error = FormulaError::at($code, $sentence, $text, $part->from, $part->length);
                $this->remarks[] = new Problem(
                    $code,
                    $sentence,
                    $element->id,
                    'formula',
                    $error->problem()->from,
                    $error->problem()->length,
                    Severity::Remark,
                );
            }
            $given = $this->units[$element->id] ?? null;
            // After a clash inside, what comes out says little.
            if ($formulas->clashes === [] && $given !== null && $unit !== null && ! $unit->isFlexible && ! $unit->equals($given)) {
                $mend = (new Mend($this->model, $this->units, $this->time))->of($element, $node, $given, $unit);
                $this->remarks[] = new Problem(
                    $mend->code,
                    $mend->sentence,
                    $element->id,
                    'formula',
                    severity: Severity::Remark,
                    mend: $mend->formula,
                );
            }
        }
        if ($element instanceof Flow) {
            $this->compareFlow($element);
        }
    }

    private function compareFlow(Flow $flow): void
    {
        $unit = $this->units[$flow->id] ?? null;
        if ($unit === null || $this->time === null) {
            return;
        }
        foreach (array_unique(array_filter([$flow->from, $flow->to])) as $id) {
            $stock = $this->model->elements[$id];
            $of = $this->units[$id] ?? null;
            if (! ($stock instanceof Stock) || $of === null || $unit->equals($of->per($this->time))) {
                continue;
            }
            $way = $flow->from === $id ? 'leaves' : 'enters';
            $wanted = $of->per($this->time);
            $sentence =
                isset($this->inferred[$flow->id]) || isset($this->inferred[$id])
                    ? "`$flow->name` $way `$stock->name`, which is {$of->words()}, so it is {$wanted->words()}; elsewhere it is taken for {$unit->words()}."
                    : "`$flow->name` is {$unit->words()}, but $way `$stock->name`, which is {$of->words()}: a flow has its stock's unit per {$this->model->time->unit}, here {$wanted->words()}.";
            $this->remark($flow, 'unit.flow', $sentence);
        }
    }

    private function remark(Element $element, string $code, string $sentence, string $field = 'unit'): void
    {
        $this->remarks[] = new Problem($code, $sentence, $element->id, $field, severity: Severity::Remark);
    }
}
