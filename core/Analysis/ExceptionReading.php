<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Analysis;

use MerryOrbit\Core\Formula\FormulaError;
use MerryOrbit\Core\Formula\FormulaReader;
use MerryOrbit\Core\Formula\Node\Cases;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Model\Computed;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\SpecialCase;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Shape\CaseChoice;

/** Reads the exceptions of one formula. Problems name theirs: the field `exceptions.0` is the first. */
final class ExceptionReading
{
    /** @var list<Problem> */
    public array $problems = [];

    /** @var list<string> ids of what they mention */
    public array $uses = [];

    public function __construct(private readonly Model $model, private readonly Names $names, private readonly Lowering $lowering)
    {
    }

    /** @return ?array{Cases, Cases} as they are written, and lowered; null where something does not fit */
    public function cases(Computed $element, Node $main): ?array
    {
        $nodes = $lowered = $regions = [];
        foreach ($element->exceptions as $i => $exception) {
            $field = "exceptions.$i";
            $region = $exception->region($this->model->dimensions());
            if ($region === null) {
                $this->problems[] = new Problem(
                    'exception.gone',
                    "`$element->name` has an exception for elements that are gone. Say for whom it is, or take it out.",
                    $element->id,
                    $field,
                );

                continue;
            }
            try {
                $node = FormulaReader::node($exception->formula, $this->model->nameOf(...), $this->model->idOf(...));
                [$errors, $uses] = $this->names->check($node, $exception->formula);
                array_push($this->uses, ...$uses);
                if ($errors !== []) {
                    throw $errors[0];
                }
                $lowered[] = $this->lowering->expression($node, $exception->formula);
                $nodes[] = $node;
                $regions[] = $region;
            } catch (FormulaError $e) {
                $this->problems[] = $e->problem()->at($element->id, $field);
            }
        }
        if (count($nodes) < count($element->exceptions)) {
            return null;
        }
        $words = array_map(fn (SpecialCase $c): string => $c->words($this->model->dimensions()), $element->exceptions);
        $clash = (new CaseChoice($this->model->dimensions()))->clash($regions);
        if ($clash !== null) {
            [$a, $b] = array_map(static fn (int $i): string => $words[$i], $clash);
            $this->problems[] = new Problem(
                'exception.overlap',
                "`$element->name` has an exception for $a and one for $b, which overlap, and neither lies within the other. ".
                    'Make one of them narrower.',
                $element->id,
                "exceptions.$clash[1]",
            );

            return null;
        }
        try {
            return [new Cases($main, $nodes, $regions, $words), new Cases($this->lowering->expression($main), $lowered, $regions, $words)];
        } catch (FormulaError $e) {
            $this->problems[] = $e->problem()->at($element->id, 'formula');

            return null;
        }
    }
}
