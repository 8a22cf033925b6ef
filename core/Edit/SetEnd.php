<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Parser;
use MerryOrbit\Core\Model\Model;

/** The condition that ends a run early; empty for none. */
final readonly class SetEnd extends Edit
{
    public function __construct(public string $text)
    {
    }

    public function apply(Model $model): Model
    {
        if (strlen($this->text) > Parser::LONGEST) {
            throw EditRefused::because(
                'formula.long',
                'This condition has more than '.number_format(Parser::LONGEST).' characters. Put it into an auxiliary.',
                'endWhen',
            );
        }

        return $model->with(['endWhen' => FormulaText::typed($this->text, $model->idOf(...))]);
    }

    public function words(Model $before): string
    {
        return trim($this->text) === '' ? 'Let runs go on to the end' : "Runs end when $this->text";
    }
}
