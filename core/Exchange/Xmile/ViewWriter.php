<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Stock;

/** Writes where things lie on the sheets, as views of the standard. */
final readonly class ViewWriter
{
    public function __construct(private Model $model, private \XMLWriter $xml)
    {
    }

    public function write(): void
    {
        $this->xml->startElement('views');
        foreach ($this->model->sheets as $sheet) {
            $this->xml->startElement('view');
            $this->xml->writeAttribute('type', 'stock_flow');
            $this->xml->writeAttribute('name', XmileName::clean($sheet->name));
            foreach ($this->model->placements as $id => $place) {
                $element = $this->model->element($id);
                if ($element === null || $place->sheet !== $sheet->id) {
                    continue;
                }
                $tag = $element instanceof Stock ? 'stock' : ($element instanceof Flow ? 'flow' : 'aux');
                $this->xml->startElement($tag);
                $this->xml->writeAttribute('name', XmileName::clean($element->name));
                $this->at($place->at->x, $place->at->y);
                if ($element instanceof Flow) {
                    $this->xml->startElement('pts');
                    foreach (
                        [
                            $place->source ?? ($this->model->placements[$element->from ?? '']->at ?? null),
                            $place->target ?? ($this->model->placements[$element->to ?? '']->at ?? null),
                        ] as $point
                    ) {
                        if ($point !== null) {
                            $this->xml->startElement('pt');
                            $this->at($point->x, $point->y);
                            $this->xml->endElement();
                        }
                    }
                    $this->xml->endElement();
                }
                $this->xml->endElement();
            }
            if ($sheet === $this->model->sheets[0]) {
                foreach ($this->model->links as $link) {
                    $this->xml->startElement('connector');
                    $this->xml->writeElement('from', XmileName::written((string) $this->model->nameOf($link->from)));
                    $this->xml->writeElement('to', XmileName::written((string) $this->model->nameOf($link->to)));
                    $this->xml->endElement();
                }
            }
            $this->xml->endElement();
        }
        $this->xml->endElement();
    }

    private function at(float $x, float $y): void
    {
        $this->xml->writeAttribute('x', EquationWriter::number($x));
        $this->xml->writeAttribute('y', EquationWriter::number($y));
    }
}
