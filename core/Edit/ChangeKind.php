<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Computed;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Factor;
use MerryOrbit\Core\Model\FreeSpot;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\SpecialCase;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Model\Table;

/** Turns a parameter, an auxiliary or a stock that no flow touches into another of these, or a factor into any of them or a flow. */
final readonly class ChangeKind extends Edit
{
    public function __construct(public string $id, public Kind $kind)
    {
    }

    public function apply(Model $model): Model
    {
        $was = $model->element($this->id) ?? throw EditRefused::gone();
        $class = ModelRecord::classOf($this->kind);
        if ($was instanceof Factor) {
            return $this->ofFactor($model, $was);
        }
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

        $new = new $class($was->id, $was->name, $was->formula, $was->unit, $was->note);
        if ($was instanceof Computed && $was->exceptions !== []) {
            if (! ($new instanceof Computed)) {
                throw EditRefused::because(
                    'kind.exceptions',
                    "The formula of `$was->name` has exceptions, which a parameter cannot have. Take them out, and give it values by element.",
                );
            }
            $new = $new->with(['exceptions' => $was->exceptions]);
        }
        $table = $model->tableOf($this->id);
        if ($table === null || $new instanceof Parameter) {
            return $model->withElement($new);
        }

        return $model
            ->withElement($new->with(['exceptions' => self::cases($was, $table, $model->shapes[$this->id] ?? [])]))
            ->with(['tables' => array_diff_key($model->part('tables'), [$table->id => true])]);
    }

    /** A factor becomes part of what is computed, and gets a place on the sheet; its links and what people say of it stay. */
    private function ofFactor(Model $model, Factor $was): Model
    {
        if (! in_array($this->kind, [Kind::Stock, Kind::Flow, Kind::Auxiliary, Kind::Parameter], true)) {
            throw EditRefused::because(
                'kind.change',
                "`$was->name` is a factor: it can become a stock, a flow, an auxiliary or a parameter.",
            );
        }
        $class = ModelRecord::classOf($this->kind);
        $model = $model->withElement(new $class($was->id, $was->name, $was->formula, $was->unit, $was->note));
        $at = FreeSpot::beside($model, $was->id);

        return $model->with(['placements' => [...$model->placements, $was->id => $at]]);
    }

    /**
     * The values by element of what is no parameter any more.
     *
     * @param  list<string>  $dimensions
     * @return list<SpecialCase>
     */
    private static function cases(Element $was, Table $table, array $dimensions): array
    {
        if (count($table->values) > SpecialCase::MOST) {
            throw EditRefused::because(
                'kind.table',
                "`$was->name` has ".
                    count($table->values).
                    ' values by element, and a formula has at most '.
                    SpecialCase::MOST.
                    ' exceptions.',
            );
        }

        return array_map(
            static fn (array $v): SpecialCase => new SpecialCase(
                array_combine($dimensions, array_map(static fn (string $e): array => [$e], $v[0])),
                FormulaText::typed(json_encode($v[1], JSON_THROW_ON_ERROR), static fn (): ?string => null),
            ),
            $table->values,
        );
    }

    public function words(Model $before): string
    {
        $article = $this->kind === Kind::Auxiliary ? 'an' : 'a';

        return 'Made `'.$before->nameOf($this->id)."` $article {$this->kind->value}";
    }
}
