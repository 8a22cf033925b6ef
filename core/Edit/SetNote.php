<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;

/** A new note. */
final readonly class SetNote extends Edit
{
    private const LONGEST = 20_000;

    public function __construct(public string $id, public string $text)
    {
    }

    public function apply(Model $model): Model
    {
        $element = $model->element($this->id) ?? throw EditRefused::gone();

        return $model->withElement($element->with(['note' => self::fit($this->text)]));
    }

    public function words(Model $before): string
    {
        return 'Changed the note of `'.$before->nameOf($this->id).'`';
    }

    /** @throws EditRefused when it is too long */
    public static function fit(string $text): string
    {
        $text = trim($text);
        if (mb_strlen($text) > self::LONGEST) {
            throw EditRefused::because(
                'note.long',
                'A note has at most '.number_format(self::LONGEST).' characters; this one has '.number_format(mb_strlen($text)).'.',
                'note',
            );
        }

        return $text;
    }
}
