<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Exchange\LogLine;
use MerryOrbit\Core\Formula\FormulaError;
use MerryOrbit\Core\Formula\Nature;
use MerryOrbit\Core\Formula\Node\Along;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Node\Pick;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Formula\Parser;
use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Series;
use MerryOrbit\Core\Model\Stock;

/** Writes a model as a file of the open standard XMILE 1.0 (OASIS), with a log of what it has no words for. */
final class XmileWriter
{
    /** Points by which a smooth curve is written, between each two of its own. */
    private const BETWEEN = 8;

    /** @var list<LogLine> */
    public array $log = [];

    private readonly \XMLWriter $xml;

    private function __construct(private readonly Model $model)
    {
        $this->xml = new \XMLWriter();
    }

    /** @return array{string, list<LogLine>} the file and the log */
    public static function write(Model $model): array
    {
        $writer = new self($model);

        return [$writer->file(), $writer->log];
    }

    private function file(): string
    {
        $xml = $this->xml;
        $xml->openMemory();
        $xml->setIndent(true);
        $xml->setIndentString('  ');
        $xml->startDocument('1.0', 'UTF-8');
        $xml->startElement('xmile');
        $xml->writeAttribute('version', '1.0');
        $xml->writeAttribute('xmlns', 'http://docs.oasis-open.org/xmile/ns/XMILE/v1.0');
        $this->header();
        $this->specs();
        $this->units();
        if ($this->model->dimensions !== []) {
            $this->dimensions();
        }
        $xml->startElement('model');
        $xml->startElement('variables');
        foreach ($this->model->elements as $element) {
            $this->element($element);
        }
        $xml->endElement();
        (new ViewWriter($this->model, $this->xml))->write();
        $xml->endElement();
        $xml->endElement();
        $this->losses();

        return $xml->outputMemory();
    }

    private function header(): void
    {
        $this->xml->startElement('header');
        $this->xml->writeElement('vendor', 'Merry Orbit');
        $this->xml->startElement('product');
        $this->xml->writeAttribute('version', '1');
        $this->xml->text('Merry Orbit');
        $this->xml->endElement();
        $this->xml->writeElement('name', XmileName::clean($this->model->name));
        if ($this->model->note !== '') {
            $this->xml->writeElement('caption', XmileName::clean($this->model->note));
        }
        $this->xml->endElement();
    }

    private function specs(): void
    {
        $time = $this->model->time;
        $this->xml->startElement('sim_specs');
        $this->xml->writeAttribute('method', (string) array_search($time->method, Functions::METHODS, true));
        $this->xml->writeAttribute('time_units', XmileName::clean($time->unit));
        $this->xml->writeElement('start', EquationWriter::number($time->start));
        $this->xml->writeElement('stop', EquationWriter::number($time->end));
        $this->xml->writeElement('dt', EquationWriter::number($time->step));
        if ($time->saveEvery !== null) {
            $this->xml->writeElement('savestep', EquationWriter::number($time->saveEvery));
        }
        $this->xml->endElement();
    }

    private function units(): void
    {
        if ($this->model->sameUnits === []) {
            return;
        }
        $this->xml->startElement('model_units');
        foreach ($this->model->sameUnits as $line) {
            $names = array_map(trim(...), explode('=', $line));
            $this->xml->startElement('unit');
            $this->xml->writeAttribute('name', XmileName::clean($names[0]));
            foreach (array_slice($names, 1) as $alias) {
                $this->xml->writeElement('alias', XmileName::clean($alias));
            }
            $this->xml->endElement();
        }
        $this->xml->endElement();
    }

    private function dimensions(): void
    {
        $this->xml->startElement('dimensions');
        foreach ($this->model->dimensions as $dimension) {
            $this->xml->startElement('dim');
            $this->xml->writeAttribute('name', XmileName::clean($dimension->name));
            foreach ($this->model->dimensions()->elements($dimension->id) as $element) {
                $this->xml->startElement('elem');
                $this->xml->writeAttribute('name', XmileName::clean($this->model->dimensions()->elementName($dimension->id, $element)));
                $this->xml->endElement();
            }
            $this->xml->endElement();
        }
        $this->xml->endElement();
    }

    private function element(Element $element): void
    {
        $tag = match (true) {
            $element instanceof Stock => 'stock',
            $element instanceof Flow => 'flow',
            $element instanceof Relation => 'gf',
            default => 'aux',
        };
        $writer = new EquationWriter($this->model, $element->name);
        $this->xml->startElement($tag);
        $this->xml->writeAttribute('name', XmileName::clean($element->name));
        if ($element instanceof Relation) {
            $this->curve($element);
        }
        if (isset($this->model->shapes[$element->id])) {
            $this->xml->startElement('dimensions');
            foreach ($this->model->shapes[$element->id] as $dimension) {
                $this->xml->startElement('dim');
                $this->xml->writeAttribute('name', XmileName::clean($this->model->dimensions()->nameOf($dimension)));
                $this->xml->endElement();
            }
            $this->xml->endElement();
        }
        if ($element->note !== '') {
            $this->xml->writeElement('doc', XmileName::clean($element->note));
        }
        if (! ($element instanceof Relation)) {
            $equation =
                $element instanceof Flow
                    ? $this->flowEquation($element, $writer)
                    : $this->equation($this->model->formulaOf($element), $element, $writer);
            $this->xml->writeElement('eqn', XmileName::clean($equation));
        }
        if ($element instanceof Stock) {
            $this->stock($element, $writer);
        }
        if ($element instanceof Flow && $element->oneWay) {
            $this->xml->writeElement('non_negative');
        }
        if ($element->unit !== '') {
            $this->xml->writeElement('units', XmileName::clean($element->unit));
        }
        if ($element instanceof Parameter && $element->low !== null && $element->high !== null) {
            $this->xml->startElement('range');
            $this->xml->writeAttribute('min', EquationWriter::number($element->low));
            $this->xml->writeAttribute('max', EquationWriter::number($element->high));
            $this->xml->endElement();
        }
        $this->xml->endElement();
        $this->helpers($writer);
        foreach (array_unique($writer->losses) as $loss) {
            $this->log[] = new LogLine($element->name, ucfirst($loss).'.', $element->id);
        }
    }

    private function equation(string $formula, Element $element, EquationWriter $writer): string
    {
        try {
            $node = Parser::parse($formula === '' ? '0' : $formula);
            foreach ($formula === '' ? [] : $node->all() as $part) {
                $isAlong = $part instanceof Call && $part->function->nature === Nature::Along;
                if ($part instanceof Pick || $part instanceof Along || $isAlong) {
                    $this->log[] = new LogLine(
                        $element->name,
                        'Its formula looks along dimensions, which is not written in the words of the standard yet: it was written as it stands.',
                        $element->id,
                    );

                    return $formula;
                }
            }

            return $formula === '' ? '' : $writer->write($node);
        } catch (FormulaError $e) {
            $this->log[] = new LogLine(
                $element->name,
                "Its formula cannot be read ({$e->getMessage()}) and was written as it stands.",
                $element->id,
            );

            return $formula;
        }
    }

    private function stock(Stock $stock, EquationWriter $writer): void
    {
        foreach ($this->model->inflows($stock->id) as $flow) {
            $this->xml->writeElement('inflow', XmileName::written($flow->name));
        }
        foreach ($this->model->outflows($stock->id) as $flow) {
            $this->xml->writeElement('outflow', XmileName::written($flow->name));
        }
        if ($stock->neverNegative) {
            $this->xml->writeElement('non_negative');
        }
        if ($stock->isTransit()) {
            $this->xml->startElement('conveyor');
            $this->xml->writeAttribute('exponential_leak', 'true');
            $travel = $this->equation($stock->travel->text($this->model->nameOf(...)), $stock, $writer);
            $this->xml->writeElement('len', XmileName::clean($travel));
            $this->xml->endElement();
        }
    }

    private function flowEquation(Flow $flow, EquationWriter $writer): string
    {
        $stock = $flow->from === null ? null : $this->model->element($flow->from);
        $text = $this->model->formulaOf($flow);
        if (! ($stock instanceof Stock) || ! $stock->isTransit()) {
            return $this->equation($text, $flow, $writer);
        }
        if ($this->model->arrival($stock)?->id === $flow->id) {
            return '0';
        }
        // A leak of the standard is a share of the content per time.
        $share = null;
        try {
            $share = self::without(
                Parser::parse($text),
                (string) $this->model->idOf(\MerryOrbit\Core\Formula\Name::key($stock->name)),
                $this->model,
            );
        } catch (FormulaError) {
            // Said below.
        }
        $this->xml->writeElement('leak');
        if ($share === null) {
            $this->log[] = new LogLine(
                $flow->name,
                "A leak of the standard is a share of `$stock->name`; this formula was divided by it.",
                $flow->id,
            );

            return '('.$this->equation($text, $flow, $writer).') / '.XmileName::written($stock->name);
        }

        return $writer->write($share);
    }

    /** The other factor, if the formula is a product with this stock. */
    private static function without(Node $node, string $stock, Model $model): ?Node
    {
        if (! ($node instanceof Binary) || ! in_array($node->operator, [Operator::Multiply, Operator::Divide], true)) {
            return null;
        }
        $is = static fn (Node $n): bool => $n instanceof NameUse && $model->idOf($n->key) === $stock;
        if ($is($node->left)) {
            return $node->operator === Operator::Multiply
                ? $node->right
                : new Binary(Operator::Divide, new NumberLiteral(1.0, '1', 0, 0), $node->right);
        }
        if ($node->operator === Operator::Multiply && $is($node->right)) {
            return $node->left;
        }
        $left = self::without($node->left, $stock, $model);

        return $left === null ? null : new Binary($node->operator, $left, $node->right);
    }

    private function helpers(EquationWriter $writer): void
    {
        foreach ($writer->helpers as [$name, $equation]) {
            $this->plain('aux', $name, $equation);
        }
        foreach ($writer->totals as [$name, $flow, $equation]) {
            $this->xml->startElement('stock');
            $this->xml->writeAttribute('name', XmileName::clean($name));
            $this->xml->writeElement('eqn', '0');
            $this->xml->writeElement('inflow', XmileName::written($flow));
            $this->xml->endElement();
            $this->plain('flow', $flow, $equation);
        }
    }

    private function plain(string $tag, string $name, string $equation): void
    {
        $this->xml->startElement($tag);
        $this->xml->writeAttribute('name', XmileName::clean($name));
        $this->xml->writeElement('eqn', XmileName::clean($equation));
        $this->xml->endElement();
    }

    private function curve(Relation $curve): void
    {
        if ($curve instanceof Series) {
            $this->log[] = new LogLine($curve->name, 'A series became a graphical function of time.', $curve->id);
        }
        $points = $curve->points;
        if ($curve->between === Between::Smooth && count($points) > 1) {
            $shape = \MerryOrbit\Core\Library\CurveShape::of($curve);
            $points = [];
            foreach (array_slice($curve->points, 0, -1) as $i => [$x]) {
                for ($k = 0; $k < self::BETWEEN; $k++) {
                    $at = $x + (($curve->points[$i + 1][0] - $x) * $k) / self::BETWEEN;
                    $points[] = [$at, $shape->value($at)];
                }
            }
            $points[] = $curve->points[count($curve->points) - 1];
            $this->log[] = new LogLine(
                $curve->name,
                'A smooth curve has no place in the standard; it was written as '.
                    count($points).
                    ' points with straight lines between them.',
                $curve->id,
            );
        }
        $this->xml->writeAttribute(
            'type',
            match (true) {
                $curve->between === Between::Stepped => 'discrete',
                $curve->beyond === Beyond::Extended => 'extrapolate',
                default => 'continuous',
            },
        );
        $this->xml->writeElement('xpts', implode(',', array_map(static fn (array $p): string => EquationWriter::number($p[0]), $points)));
        $this->xml->writeElement('ypts', implode(',', array_map(static fn (array $p): string => EquationWriter::number($p[1]), $points)));
        if ($curve->inputUnit !== '') {
            $this->log[] = new LogLine($curve->name, 'The unit of its input has no place in the standard.', $curve->id);
        }
    }

    /** What concerns the whole model. */
    private function losses(): void
    {
        if (! $this->model->endWhen->isEmpty()) {
            $this->log[] = new LogLine('time', 'The condition that ends a run early has no place in the standard.');
        }
        if ($this->model->time->startDate !== null) {
            $this->log[] = new LogLine('time', 'The calendar date of the start has no place in the standard.');
        }
        if ($this->model->time->method->isAdaptive()) {
            $this->log[] = new LogLine('time', 'The tolerance of the method has no place in the standard.');
        }
        if (array_filter($this->model->elements, static fn (Element $e): bool => $e instanceof Parameter && $e->step !== null) !== []) {
            $this->log[] = new LogLine('dials', 'The steps of dials have no place in the standard; their ranges are carried over.');
        }
        foreach (['scenarios' => 'The scenarios', 'findings' => 'The findings', 'plots' => 'The saved plots'] as $part => $what) {
            if ($this->model->$part !== []) {
                $this->log[] = new LogLine($part, "$what are not carried over.");
            }
        }
        if ($this->model->tracks !== []) {
            $this->log[] = new LogLine('tracks', 'Which variables are plotted at the foot is not carried over.');
        }
    }
}
