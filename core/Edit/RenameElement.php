<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Model;

/** A new name; every formula that mentions the thing follows. */
final readonly class RenameElement extends Edit
{
    public function __construct(public string $id, public string $name)
    {
    }

    public function apply(Model $model): Model
    {
        $element = $model->element($this->id) ?? throw EditRefused::gone();
        $name = Name::tidy($this->name);
        self::refuseUnfit($model, $name, $this->id);
        $renamed = $element->with(['name' => $name]);

        return Mentions::bind($model->withElement($renamed), $renamed);
    }

    public function words(Model $before): string
    {
        return 'Renamed `'.$before->nameOf($this->id).'` to `'.Name::tidy($this->name).'`';
    }

    /** @throws EditRefused when the thing with this id cannot have this name */
    public static function refuseUnfit(Model $model, string $name, string $id): void
    {
        $refusal = Name::refusal($name);
        if ($refusal !== null) {
            throw EditRefused::because('name.unfit', $refusal, 'name');
        }
        $other = $model->idOf(Name::key($name));
        if ($other !== null && $other !== $id) {
            $kind = isset($model->elements[$other]) ? $model->elements[$other]->kind()->value : 'thing of the ledgers';
            throw EditRefused::because(
                'name.taken',
                "There already is a $kind called `{$model->nameOf($other)}`. Names are unique in a model: choose another one.",
                'name',
            );
        }
    }
}
