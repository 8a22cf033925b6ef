<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\Symbol;
use MerryOrbit\Core\Model\Model;

/** A short sign for equations and narrow places; empty for none. */
final readonly class SetSymbol extends Edit
{
    public function __construct(public string $id, public string $text)
    {
    }

    public function apply(Model $model): Model
    {
        $element = $model->element($this->id) ?? throw EditRefused::gone();

        return $model->withElement($element->with(['symbol' => self::fit($this->text)]));
    }

    public function words(Model $before): string
    {
        return 'Symbol of `'.$before->nameOf($this->id).'`: '.(trim($this->text) ?: 'none');
    }

    /** @throws EditRefused when it is none */
    public static function fit(string $text): string
    {
        $text = trim($text);
        $refusal = Symbol::refusal($text);
        if ($refusal !== null) {
            throw EditRefused::because('symbol.unreadable', $refusal, 'symbol');
        }

        return $text;
    }
}
