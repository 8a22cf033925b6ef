<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Parser;
use MerryOrbit\Core\Model\Computed;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\SpecialCase;
use MerryOrbit\Core\Problem\NotUnderstood;

/** The exceptions of a formula, all of them. Text that does not parse is kept as a draft. */
final readonly class SetExceptions extends Edit
{
    /** @param  list<array{for: mixed, text: string}>  $exceptions  for whom: see SpecialCase::readFor() */
    public function __construct(public string $id, public array $exceptions)
    {
    }

    public function apply(Model $model): Model
    {
        $element = $model->element($this->id) ?? throw EditRefused::gone();
        if (! ($element instanceof Computed)) {
            throw EditRefused::because(
                'exception.kind',
                "`$element->name` is a {$element->kind()->value}: its values are given by element, and its formula has no exceptions.",
                'exceptions',
            );
        }
        if (count($this->exceptions) > SpecialCase::MOST) {
            throw EditRefused::because('exception.many', 'A formula has at most '.SpecialCase::MOST.' exceptions.', 'exceptions');
        }
        $cases = [];
        foreach ($this->exceptions as $i => ['for' => $for, 'text' => $text]) {
            if (strlen($text) > Parser::LONGEST) {
                throw EditRefused::because(
                    'formula.long',
                    'This formula has more than '.number_format(Parser::LONGEST).' characters. Split it into auxiliaries.',
                    "exceptions.$i",
                );
            }
            try {
                $cases[] = new SpecialCase(
                    SpecialCase::readFor($for, $model->dimensions()),
                    FormulaText::typed($text, $model->idOf(...)),
                );
            } catch (NotUnderstood $e) {
                throw EditRefused::because('exception.unfit', $e->getMessage(), "exceptions.$i");
            }
        }
        $element = $element->with(['exceptions' => $cases]);

        return Echoes::complete(Mentions::dropUsedLinks($model->withElement($element), $element), [$this->id]);
    }

    public function words(Model $before): string
    {
        $name = $before->nameOf($this->id) ?? 'a formula';

        return $this->exceptions === [] ? "`$name` has no exceptions any more" : "Exceptions of `$name`";
    }
}
