<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Parser;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Relation;

/** A new formula, or a stock's new initial value. Text that does not parse is kept as a draft. */
final readonly class SetFormula extends Edit
{
    public function __construct(public string $id, public string $text)
    {
    }

    public function apply(Model $model): Model
    {
        $element = Computing::element($model, $this->id);
        if (strlen($this->text) > Parser::LONGEST) {
            throw EditRefused::because(
                'formula.long',
                'This formula has more than '.number_format(Parser::LONGEST).' characters. Split it into auxiliaries.',
                'formula',
            );
        }
        if ($element instanceof Relation) {
            throw EditRefused::because(
                'formula.kind',
                "`$element->name` is a {$element->kind()->value} and is given by points, not by a formula.",
                'formula',
            );
        }
        $element = $element->with(['formula' => FormulaText::typed($this->text, $model->idOf(...))]);

        return Echoes::complete(Mentions::dropUsedLinks($model->withElement($element), $element), [$this->id]);
    }

    public function words(Model $before): string
    {
        $element = $before->element($this->id);
        if ($element === null) {
            return 'Changed a formula';
        }
        $was = $before->formulaOf($element);

        return "`$element->name`: ".
            ($was === '' ? '' : self::short($was).' → ').
            (trim($this->text) === '' ? 'nothing' : self::short(trim($this->text)).self::per($element, $this->text));
    }

    /** The unit behind a plain number: " per household". */
    private static function per(Element $element, string $text): string
    {
        return ! is_numeric(trim($text)) || in_array($element->unit, ['', '1'], true)
            ? ''
            : ' '.(string) preg_replace('#^1?/#', 'per ', $element->unit);
    }

    private static function short(string $text): string
    {
        return mb_strlen($text) > 60 ? mb_substr($text, 0, 59).'…' : $text;
    }
}
