<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Table;

/** Values of a parameter for some of its elements. All others stay as they are, or as somebody else makes them. */
final readonly class SetValues extends Edit
{
    /** @param  list<array{list<string>, ?float}>  $values  ids of elements in the order of its dimensions; null leaves one to the value elsewhere */
    public function __construct(public string $id, public array $values)
    {
    }

    public function apply(Model $model): Model
    {
        $element = $model->element($this->id) ?? throw EditRefused::gone();
        if (! ($element instanceof Parameter)) {
            throw EditRefused::because(
                'values.kind',
                "`$element->name` is a {$element->kind()->value}: only a parameter has values by element. Give its formula an exception.",
                'values',
            );
        }
        $table = $model->tableOf($this->id);
        $values = [];
        foreach ($table->values ?? [] as $line) {
            $values[implode(',', $line[0])] = $line;
        }
        foreach ($this->values as [$at, $value]) {
            $key = implode(',', $at);
            if ($value === null) {
                unset($values[$key]);
            } else {
                $values[$key] = [$at, $value];
            }
        }
        if (count($values) > Table::MOST_VALUES) {
            throw EditRefused::because('values.many', 'A table has at most '.number_format(Table::MOST_VALUES).' values.', 'values');
        }
        $tables = $model->part('tables');
        $id = $table->id ?? self::idFor($this->id, $tables);
        $new = (new Table($id, $this->id, array_values($values)))->settled($model);
        $unfit = $new->unfit($model);
        if ($unfit !== null) {
            throw EditRefused::because('values.unfit', $unfit, 'values');
        }
        if ($values === []) {
            unset($tables[$id]);
        } else {
            $tables[$id] = $new;
        }

        return $model->with(['tables' => $tables]);
    }

    /**
     * The same for everybody, so that two who begin at once write into one.
     *
     * @param  array<array-key, mixed>  $taken
     */
    private static function idFor(string $parameter, array $taken): string
    {
        $id = 't-'.substr($parameter, 0, 38);

        return isset($taken[$id]) ? 't'.substr(hash('sha256', $parameter), 0, 20) : $id;
    }

    public function words(Model $before): string
    {
        $name = $before->nameOf($this->id) ?? '';
        $dimensions = $before->dimensions();
        $over = $before->shapes[$this->id] ?? [];
        if (count($this->values) !== 1 || count($this->values[0][0]) !== count($over)) {
            return "`$name`: ".count($this->values).' values';
        }
        [$at, $value] = $this->values[0];

        return "`$name` of ".implode(', ', array_map($dimensions->elementName(...), $over, $at)).': '.
            ($value === null ? 'as elsewhere' : json_encode($value, JSON_THROW_ON_ERROR));
    }
}
