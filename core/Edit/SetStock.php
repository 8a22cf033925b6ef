<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Parser;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Stock;

/** Whether a stock may go below zero, and how long what is in it travels; an empty travel time makes it an ordinary stock. Null: as it is. */
final readonly class SetStock extends Edit
{
    public function __construct(public string $id, public ?bool $neverNegative = null, public ?string $travel = null)
    {
    }

    public function apply(Model $model): Model
    {
        $stock = $model->element($this->id) ?? throw EditRefused::gone();
        if (! ($stock instanceof Stock)) {
            throw EditRefused::because(
                'stock.kind',
                "Only a stock can be kept above zero or have a travel time; `$stock->name` is a {$stock->kind()->value}.",
            );
        }
        if (strlen($this->travel ?? '') > Parser::LONGEST) {
            throw EditRefused::because(
                'formula.long',
                'This formula has more than '.number_format(Parser::LONGEST).' characters. Split it into auxiliaries.',
                'travel',
            );
        }

        return $model->withElement(
            $stock->with([
                'neverNegative' => $this->neverNegative ?? $stock->neverNegative,
                'travel' => $this->travel === null ? $stock->travel : FormulaText::typed($this->travel, $model->idOf(...)),
            ]),
        );
    }

    public function words(Model $before): string
    {
        $stock = $before->element($this->id);
        $name = '`'.$before->nameOf($this->id).'`';
        if (
            $stock instanceof Stock &&
            $this->travel !== null &&
            ($this->neverNegative === null || trim($this->travel) !== $stock->travel->text($before->nameOf(...)))
        ) {
            return trim($this->travel) === '' ? "Made $name an ordinary stock" : "Travel time of $name: $this->travel";
        }

        return $this->neverNegative === true ? "Kept $name from going below zero" : "Let $name go below zero";
    }
}
