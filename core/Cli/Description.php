<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Curve;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Series;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Unit\UnitChecker;
use MerryOrbit\Core\Unit\UnitReport;

/** A model in words: its stocks with their equations, all formulas with units, and who uses what. */
final readonly class Description
{
    private Model $model;

    private UnitReport $units;

    public function __construct(private Analysis $analysis)
    {
        $this->model = $analysis->model;
        $this->units = UnitChecker::check($this->model, $analysis->nodes);
    }

    public function text(): string
    {
        $time = $this->model->time;
        $text = $this->model->name."\n".str_repeat('=', max(1, mb_strlen($this->model->name)))."\n\n";
        $text .= $this->model->note === '' ? '' : $this->model->note."\n\n";
        $text .=
            "Time: from $time->start to $time->end $time->unit in steps of $time->step, {$time->method->title()}.".
            ($time->startDate === null ? '' : " It starts on $time->startDate.").
            "\n";
        if (! $this->model->endWhen->isEmpty()) {
            $text .= 'A run ends early when '.$this->model->endWhen->text($this->model->nameOf(...)).".\n";
        }
        foreach (
            [
                Stock::class => 'Stocks',
                Flow::class => 'Flows',
                Auxiliary::class => 'Auxiliaries',
                Parameter::class => 'Parameters',
                Curve::class => 'Curves',
                Series::class => 'Series',
            ] as $class => $title
        ) {
            $group = array_filter($this->model->elements, static fn (Element $e): bool => $e instanceof $class);
            if ($group !== []) {
                $text .= "\n$title\n".str_repeat('-', strlen($title))."\n";
                foreach ($group as $element) {
                    $text .= $this->entry($element);
                }
            }
        }

        return $text;
    }

    private function entry(Element $element): string
    {
        $formula = $this->model->formulaOf($element);
        $lines = match (true) {
            $element instanceof Stock => $this->stock($element, $formula),
            $element instanceof Flow => [
                $element->name.' = '.($formula === '' ? '(what arrives)' : $formula),
                '    '.$this->way($element).($element->oneWay ? ', one-way' : ''),
            ],
            $element instanceof Relation => [
                $element->name,
                '    '.implode('  ', array_map(static fn (array $p): string => "($p[0], $p[1])", $element->points)),
                "    {$element->between->value} between its points, {$element->beyond->value} outside",
            ],
            default => [$element->name.' = '.($formula === '' ? '?' : $formula)],
        };
        $unit = $this->units->units[$element->id] ?? null;
        $lines[] =
            '    unit: '.
            ($unit === null || $unit->isFlexible
                ? 'unknown'
                : ($unit->isPlain() ? 'a plain number' : $unit->words()).
                    (isset($this->units->inferred[$element->id]) ? ' (inferred)' : ''));
        $uses = array_map(fn (string $id): string => (string) $this->model->nameOf($id), $this->analysis->uses[$element->id] ?? []);
        if ($uses !== []) {
            $lines[] = '    uses: '.implode(', ', $uses);
        }
        $users = [];
        foreach ($this->analysis->uses as $id => $used) {
            if (in_array($element->id, $used, true)) {
                $users[] = (string) $this->model->nameOf((string) $id);
            }
        }
        $lines[] = '    used by: '.($users === [] ? 'nothing' : implode(', ', $users));
        if ($element->note !== '') {
            $lines[] = '    note: '.str_replace("\n", "\n          ", $element->note);
        }

        return implode("\n", $lines)."\n";
    }

    /** @return list<string> */
    private function stock(Stock $stock, string $formula): array
    {
        $rate = implode(' + ', array_map(static fn (Flow $f): string => $f->name, $this->model->inflows($stock->id)));
        foreach ($this->model->outflows($stock->id) as $flow) {
            $rate .= ($rate === '' ? '-' : ' - ').$flow->name;
        }
        $lines = ["d($stock->name)/dt = ".($rate === '' ? '0' : $rate), '    initially '.($formula === '' ? '?' : $formula)];
        if ($stock->neverNegative) {
            $lines[] = '    never below zero';
        }
        if ($stock->isTransit()) {
            $lines[] = '    what enters arrives after '.$stock->travel->text($this->model->nameOf(...));
        }

        return $lines;
    }

    private function way(Flow $flow): string
    {
        return 'from '.
            ($flow->from === null ? 'outside' : $this->model->nameOf($flow->from)).
            ' to '.
            ($flow->to === null ? 'outside' : $this->model->nameOf($flow->to));
    }
}
