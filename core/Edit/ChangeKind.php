<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Stock;

/** Turns a parameter, an auxiliary or a stock that no flow touches into another of these. */
final readonly class ChangeKind extends Edit
{
    public function __construct(public string $id, public Kind $kind)
    {
    }

    public function apply(Model $model): Model
    {
        $was = $model->element($this->id) ?? throw EditRefused::gone();
        $class = ModelRecord::classOf($this->kind);
        $turnable = [Auxiliary::class, Parameter::class, Stock::class];
        if (! in_array($class, $turnable, true) || ! in_array($was::class, $turnable, true)) {
            throw EditRefused::because(
                'kind.change',
                "`$was->name` is a {$was->kind()->value}; only auxiliaries, parameters and stocks can be turned into each other.",
            );
        }
        if ($was instanceof Stock && ($model->inflows($was->id) !== [] || $model->outflows($was->id) !== [])) {
            throw EditRefused::because(
                'kind.flows',
                "Flows enter or leave `$was->name`, so it has to be a stock. Take them off first, or delete them.",
            );
        }

        return $model->withElement(new $class($was->id, $was->name, $was->formula, $was->unit, $was->note));
    }

    public function words(Model $before): string
    {
        $article = $this->kind === Kind::Auxiliary ? 'an' : 'a';

        return 'Made `'.$before->nameOf($this->id)."` $article {$this->kind->value}";
    }
}
