<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use MerryOrbit\Core\Model\Parameter;

/** Turns a parameter into an auxiliary, or the other way round. */
final readonly class ChangeKind extends Edit
{
    public function __construct(public string $id, public Kind $kind)
    {
    }

    public function apply(Model $model): Model
    {
        $was = $model->element($this->id) ?? throw EditRefused::gone();
        $class = ModelRecord::classOf($this->kind);
        if (! in_array($class, [Auxiliary::class, Parameter::class], true) || ! ($was instanceof Auxiliary || $was instanceof Parameter)) {
            throw EditRefused::because('kind.change', "`$was->name` is a {$was->kind()->value}; only auxiliaries and parameters can be turned into each other.");
        }

        return $model->withElement(new $class($was->id, $was->name, $was->formula, $was->unit, $was->note));
    }

    public function words(Model $before): string
    {
        $article = $this->kind === Kind::Auxiliary ? 'an' : 'a';

        return 'Made `'.$before->nameOf($this->id)."` $article {$this->kind->value}";
    }
}
