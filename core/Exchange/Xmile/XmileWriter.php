<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Exchange\LogLine;
use MerryOrbit\Core\Expand\Expanded;
use MerryOrbit\Core\Formula\FormulaError;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Formula\Parser;
use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Dimension;
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

    /** @var array<string, array<string, array<string, string>>> by stock, equations of flows that stand between it and one over other dimensions */
    private array $bridges = [];

    /** Of a model with dimensions. */
    private readonly ?ArrayWriter $arrays;

    private function __construct(private readonly Model $model)
    {
        $this->xml = new \XMLWriter();
        $this->arrays = $model->dimensions === [] ? null : new ArrayWriter($model);
    }

    /** @return array{string, list<LogLine>} the file and the log */
    public static function write(Model $model): array
    {
        // What ledgers make is written as the stocks and flows that it is.
        $model = $model->with(['elements' => [...$model->elements, ...Expanded::of($model)->model->elements]]);
        $all = array_map(static fn (Dimension $d): Dimension => $d->limitedTo(null), $model->dimensions);
        $wide = $all == $model->dimensions ? $model : $model->with(['dimensions' => $all]);
        [$apart, $changed] = SeriesByElement::apart($wide);
        $writer = new self($apart);
        foreach ($changed as $id) {
            $writer->log[] = new LogLine(
                (string) $model->nameOf($id),
                'A series over dimensions became a variable with an equation for each element, and a graphical function of time for each course.',
                $id,
            );
        }
        if ($all != $model->dimensions) {
            $writer->log[] = new LogLine(
                'dimensions',
                'That a dimension is limited for a while has no place in the standard: all elements are written.',
            );
        }

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
        $head = new HeadWriter($this->model, $xml);
        $head->write();
        $xml->startElement('model');
        $xml->startElement('variables');
        foreach ($this->model->withoutFactors()->elements as $element) {
            $this->element($element);
        }
        $xml->endElement();
        (new ViewWriter($this->model, $this->xml))->write();
        $xml->endElement();
        $xml->endElement();
        array_push($this->log, ...$head->losses());

        return $xml->outputMemory();
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
        $this->over($this->arrays?->names($element->id) ?? []);
        if ($element->note !== '') {
            $this->xml->writeElement('doc', XmileName::clean($element->note));
        }
        if ($this->arrays !== null && ! ($element instanceof Relation)) {
            $this->arrayed($this->arrays, $element, $writer);
        } elseif (! ($element instanceof Relation)) {
            $equation =
                $element instanceof Flow
                    ? $this->flowEquation($element, $writer)
                    : $this->equation($this->model->formulaOf($element), $element, $writer);
            $this->xml->writeElement('eqn', XmileName::clean($equation));
        }
        if ($element instanceof Stock) {
            $this->bridges[$element->id] = [];
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
        foreach ($this->bridges[$element->id] ?? [] as $name => $each) {
            $this->xml->startElement('flow');
            $this->xml->writeAttribute('name', XmileName::clean((string) $name));
            $this->over($this->arrays?->names($element->id) ?? []);
            if (isset($each[''])) {
                $this->xml->writeElement('eqn', XmileName::clean($each['']));
            } else {
                $this->each($each);
            }
            $this->xml->endElement();
        }
        $this->helpers($writer);
        foreach (array_unique($writer->losses) as $loss) {
            $this->log[] = new LogLine($element->name, ucfirst($loss).'.', $element->id);
        }
    }

    /** @param  list<string>  $dimensions  names */
    private function over(array $dimensions): void
    {
        if ($dimensions === []) {
            return;
        }
        $this->xml->startElement('dimensions');
        foreach ($dimensions as $dimension) {
            $this->xml->startElement('dim');
            $this->xml->writeAttribute('name', $dimension);
            $this->xml->endElement();
        }
        $this->xml->endElement();
    }

    private function arrayed(ArrayWriter $arrays, Element $element, EquationWriter $writer): void
    {
        if ($this->model->isArrival($element)) {
            $this->xml->writeElement('eqn', '0');

            return;
        }
        ['all' => $all, 'each' => $each, 'words' => $words] = $arrays->equations($element, $writer);
        if ($all !== null) {
            $this->xml->writeElement('eqn', XmileName::clean($all));
        }
        $this->each($each);
        if ($words !== null) {
            $this->log[] = new LogLine($element->name, "$words.", $element->id);
        }
    }

    /** @param  array<string, string>  $equations  by subscripts */
    private function each(array $equations): void
    {
        foreach ($equations as $subscripts => $equation) {
            $this->xml->startElement('element');
            $this->xml->writeAttribute('subscript', (string) $subscripts);
            $this->xml->writeElement('eqn', XmileName::clean($equation));
            $this->xml->endElement();
        }
    }

    /**
     * The name of what enters or leaves a stock: the flow, or one between them where they extend over different dimensions.
     *
     * @param  array<string, array<string, string>>  $bridges  equations of such flows by name are added
     */
    private function joined(Flow $flow, Stock $stock, array &$bridges): string
    {
        $each = $this->arrays?->between($flow, $stock->id);
        if ($each === null) {
            return XmileName::written($flow->name);
        }
        $name = "$flow->name of $stock->name";
        for ($free = $name, $i = 2; $this->model->idOf(Name::key($free)) !== null; $i++) {
            $free = "$name $i";
        }
        $bridges[$free] = $each;
        $this->log[] = new LogLine(
            $flow->name,
            "It extends over other dimensions than `$stock->name`: the flow `$free` stands between them.",
            $flow->id,
        );

        return XmileName::written($free);
    }

    private function equation(string $formula, Element $element, EquationWriter $writer): string
    {
        try {
            $node = Parser::parse($formula === '' ? '0' : $formula);

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
            $this->xml->writeElement('inflow', $this->joined($flow, $stock, $this->bridges[$stock->id]));
        }
        foreach ($this->model->outflows($stock->id) as $flow) {
            $this->xml->writeElement('outflow', $this->joined($flow, $stock, $this->bridges[$stock->id]));
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
}
