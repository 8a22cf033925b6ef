<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Report;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Measured;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Source;
use MerryOrbit\Core\Model\Table;
use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Structure\EquationText;

/** The documentation of a model: its sheets, and every variable with what it is, why, from where and for what. */
final readonly class Documents
{
    private const KINDS = [
        'stock' => 'stocks',
        'flow' => 'flows',
        'auxiliary' => 'auxiliaries',
        'parameter' => 'parameters',
        'curve' => 'curves',
        'series' => 'series',
        'factor' => 'factors',
    ];

    public function __construct(private Analysis $analysis)
    {
    }

    public function structure(Paper $paper): void
    {
        $model = $this->analysis->model;
        $counts = array_count_values(array_map(static fn (Element $e): string => $e->kind()->value, array_values($model->elements)));
        $words = [];
        foreach (self::KINDS as $kind => $many) {
            $count = $counts[$kind] ?? 0;
            $words[] = $count === 0 ? '' : "$count ".($count === 1 ? $kind : $many);
        }
        $time = $model->time;
        $paper->text(
            'The model has '.
                implode(', ', array_filter($words)).
                '. It runs from '.
                Paper::plain($time->unit).
                ' '.
                Shown::number($time->start).
                ' to '.
                Shown::number($time->end).
                ' by the method '.
                $time->method->title().
                ', step '.
                Shown::number($time->step).
                '.',
        );
        foreach ($model->sheets as $sheet) {
            $svg = SheetSvg::of($this->analysis, $sheet->id);
            if ($svg === null) {
                continue;
            }
            $stocks = [];
            foreach ($model->elements as $id => $element) {
                $place = $model->placements[$id] ?? null;
                if ($element->kind() === Kind::Stock && $place?->sheet === $sheet->id) {
                    $stocks[] = $element;
                }
            }
            $names = implode(', ', array_map(static fn (Element $e): string => $e->name, $stocks));
            $paper->heading(3, $sheet->name);
            $paper->picture(
                $svg,
                "The sheet {$sheet->name}".
                    ($names === '' ? '' : ", with the stocks $names").
                    '. What runs to and from them is told below.',
                "The sheet {$sheet->name}: basins are stocks, ribbons flows; thin lines say what is computed from what.",
            );
            $paper->text(
                implode(
                    "\n",
                    array_map(fn (Element $e): string => '- '.$this->spoken(EquationText::of($this->analysis, $e)->words), $stocks),
                ),
            );
        }
    }

    public function variables(Paper $paper): void
    {
        $model = $this->analysis->model;
        $users = [];
        foreach ($this->analysis->links() as $link) {
            if ($link['kind'] !== 'unused') {
                $users[$link['from']][$link['to']] = true;
            }
        }
        foreach ($model->elements as $element) {
            // A flow is there for what it fills and empties.
            foreach ($element instanceof Flow ? array_filter([$element->from, $element->to]) : [] as $stock) {
                $users[$element->id][$stock] = true;
            }
        }
        foreach (self::KINDS as $kind => $many) {
            $all = array_filter($model->elements, static fn (Element $e): bool => $e->kind()->value === $kind);
            uasort($all, static fn (Element $a, Element $b): int => strnatcasecmp($a->name, $b->name));
            if ($all !== []) {
                $paper->heading(3, ucfirst($many));
            }
            foreach ($all as $element) {
                $paper->heading(4, $element->name);
                $paper->text(implode("\n\n", array_filter($this->told($element, array_keys($users[$element->id] ?? [])))));
            }
        }
    }

    /**
     * @param  list<string>  $users
     * @return list<string>
     */
    private function told(Element $element, array $users): array
    {
        $model = $this->analysis->model;
        $unit = trim($element->unit);
        $told = [];
        $shape = array_filter(
            array_map(static fn (string $d): string => $model->dimensions()->find($d)->name ?? '', $model->shapes[$element->id] ?? []),
        );
        $facts = array_filter([
            $unit === '' ? 'without a unit' : 'in '.($unit === '1' ? 'plain numbers' : Paper::plain(Paper::unit($unit))),
            $shape === [] ? '' : 'along '.Paper::plain(implode(', ', $shape)),
        ]);
        $told[] = '*'.implode(', ', $facts).'*';
        foreach ($element->formulas() as $key => $formula) {
            $text = $formula->text($model->nameOf(...));
            if (trim($text) !== '') {
                $told[] =
                    ($key === 'formula' && $element->formulaWord() === 'formula'
                        ? ''
                        : ($key === 'formula' ? $element->formulaWord() : $key).":\n\n").self::code($text);
            }
        }
        $words = EquationText::of($this->analysis, $element)->words;
        if ($element->kind() === Kind::Stock) {
            $told[] = $this->spoken($words);
        } elseif ($element->kind() === Kind::Flow) {
            // Its formula stands above.
            $told[] = $this->spoken((string) strstr($words, 'It runs '));
        }
        if ($element instanceof Relation) {
            $points = array_map(
                static fn (array $p): string => Shown::number($p[0]).' → '.Shown::number($p[1]),
                array_slice($element->points, 0, 60),
            );
            $told[] =
                'Points: '.
                implode(', ', $points).
                (count($element->points) > 60 ? ', …' : '').
                ". {$element->between->value} between them.";
        }
        $told[] = $element->note;
        $told[] = $this->grounds($element->id);
        $names = array_map(fn (string $id): string => Paper::plain((string) $model->nameOf($id)), $users);
        $told[] = $names === [] ? ($element->kind() === Kind::Stock ? '' : 'Nothing uses it.') : 'Used by '.implode(', ', $names).'.';

        return $told;
    }

    /** Where its numbers come from. */
    private function grounds(string $id): string
    {
        $model = $this->analysis->model;
        $told = [];
        foreach ($model->part('evidence') as $one) {
            if ($one instanceof Measured && $one->of === $id) {
                $source = $model->part('sources')[$one->source] ?? null;
                $told[] =
                    count($one->points).
                    ' values measured'.
                    ($source instanceof Source ? ', from '.Paper::plain($source->name) : '').
                    '.';
            }
        }
        foreach ($model->part('tables') as $one) {
            if ($one instanceof Table && $one->of === $id) {
                $told[] = 'Its '.count($one->values).' values stand in a table.';
            }
        }

        return implode(' ', $told);
    }

    private static function code(string $formula): string
    {
        $fence = str_contains($formula, '```') ? '~~~~' : '```';

        return "$fence\n$formula\n$fence";
    }

    /** Sentences set names and formulas apart with backticks; in a report names are bold. */
    private function spoken(string $sentence): string
    {
        $model = $this->analysis->model;

        return (string) preg_replace_callback(
            '/`([^`]*)`/',
            static fn (array $m): string => $model->idOf(Name::key($m[1])) === null ? $m[0] : '**'.Paper::plain($m[1]).'**',
            $sentence,
        );
    }
}
