<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Structure;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Formula\Latex;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Stock;

/** What an element's value follows from, as a sentence and as mathematics in LaTeX. */
final readonly class EquationText implements \JsonSerializable
{
    private function __construct(public string $words, public string $latex)
    {
    }

    private static function latex(Analysis $analysis): Latex
    {
        $symbols = [];
        foreach ($analysis->model->elements as $element) {
            if ($element->symbol !== '') {
                $symbols[$element->id] = $element->symbol;
            }
        }

        return new Latex($symbols);
    }

    public static function of(Analysis $analysis, Element $element): self
    {
        return match (true) {
            $element instanceof Stock => self::ofStock($analysis, $element),
            $element instanceof Relation => new self(
                "`$element->name` is given by ".count($element->points).' points.',
                self::latex($analysis)->mention($element->id, $element->name),
            ),
            default => self::ofFormula($analysis, $element),
        };
    }

    /** @return array{words: string, latex: string} */
    public function jsonSerialize(): array
    {
        return ['words' => $this->words, 'latex' => $this->latex];
    }

    private static function ofStock(Analysis $analysis, Stock $stock): self
    {
        $model = $analysis->model;
        $in = $model->inflows($stock->id);
        $out = $model->outflows($stock->id);
        $latex = self::latex($analysis);
        $sign = static fn (Element $e): string => $latex->mention($e->id, $e->name);
        $name = $sign($stock);
        $rate = implode(' + ', array_map($sign, $in)).implode('', array_map(static fn (Flow $f): string => ' - '.$sign($f), $out));
        $start = isset($analysis->nodes[$stock->id]) ? $latex->print($analysis->nodes[$stock->id]) : '?';
        $parts = array_filter([
            $in === [] ? null : self::names($in).(count($in) === 1 ? ' adds' : ' add').' to it',
            $out === [] ? null : self::names($out).(count($out) === 1 ? ' takes' : ' take').' from it',
        ]);
        $formula = $model->formulaOf($stock);
        $words =
            "`$stock->name` starts at ".
            ($formula === '' ? 'a value that is still missing' : self::said($formula)).
            ($stock->unit === '' || $stock->unit === '1' || ! is_numeric($formula) ? '' : " $stock->unit").
            '. '.
            ($parts === [] ? 'No flow touches it, so it stays there.' : 'All the time, '.implode(', and ', $parts).'.').
            ($stock->neverNegative ? ' No more leaves than there is.' : '').
            ($stock->isTransit()
                ? ' What enters travels through it and leaves after '.self::said($stock->travel->text($model->nameOf(...))).'.'
                : '');

        return new self(
            $words,
            '\\begin{aligned} \\frac{d\\,'.
                $name.
                '}{dt} &= '.
                ($rate === '' ? '0' : trim($rate)).
                ' \\\\ '.
                $name.
                '(t_0) &= '.
                $start.
                ' \\end{aligned}',
        );
    }

    private static function ofFormula(Analysis $analysis, Element $element): self
    {
        $node = $analysis->nodes[$element->id] ?? null;
        $way = '';
        if ($element instanceof Flow) {
            $end = static fn (?string $id): string => $id === null ? 'the outside' : "`{$analysis->model->nameOf($id)}`";
            $way = ' It runs from '.$end($element->from).' to '.$end($element->to).'.';
        }
        $formula = $analysis->model->formulaOf($element);
        $words =
            $formula === '' ? "`$element->name` has no formula yet." : "`$element->name` is at every moment ".self::said($formula).'.';

        $latex = self::latex($analysis);

        return new self(
            $words.$way,
            $latex->mention($element->id, $element->name).' = '.($node === null ? '?' : $latex->print($node)),
        );
    }

    private static function said(string $formula): string
    {
        return "`$formula`";
    }

    /** @param  non-empty-list<Flow>  $flows */
    private static function names(array $flows): string
    {
        $names = array_map(static fn (Flow $f): string => "`$f->name`", $flows);
        $last = array_pop($names);

        return $names === [] ? $last : implode(', ', $names)." and $last";
    }
}
