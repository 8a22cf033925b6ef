<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;

/** A new unit, as typed; empty means unknown. */
final readonly class SetUnit extends Edit
{
    private const LONGEST = 200;

    public function __construct(public string $id, public string $text)
    {
    }

    public function apply(Model $model): Model
    {
        $element = $model->element($this->id) ?? throw EditRefused::gone();

        return $model->withElement($element->with(['unit' => self::fit($this->text)]));
    }

    public function words(Model $before): string
    {
        return 'Unit of `'.$before->nameOf($this->id).'`: '.(trim($this->text) === '' ? 'unknown' : trim($this->text));
    }

    /** @throws EditRefused when it is too long */
    public static function fit(string $text): string
    {
        $text = trim($text);
        if (mb_strlen($text) > self::LONGEST) {
            throw EditRefused::because(
                'unit.long',
                'A unit has at most '.number_format(self::LONGEST).' characters; this one has '.number_format(mb_strlen($text)).'.',
                'unit',
            );
        }

        return $text;
    }
}
