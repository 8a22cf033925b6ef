<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\FreeNames;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use MerryOrbit\Core\Model\Placement;

/** A new thing. Without a name it gets one that is free. */
final readonly class AddElement extends Edit
{
    public function __construct(
        public string $id,
        public Kind $kind,
        public string $name = '',
        public string $formula = '',
        public string $unit = '',
        public string $note = '',
        /** For a flow: the stocks it leaves and enters. */
        public ?string $from = null,
        public ?string $to = null,
        public ?Placement $placement = null,
    ) {
    }

    public function apply(Model $model): Model
    {
        if ($model->element($this->id) !== null || isset($model->echoes[$this->id])) {
            throw EditRefused::because('element.known', 'This thing is already in the model.');
        }
        if (count($model->elements) >= Model::MOST_ELEMENTS) {
            throw EditRefused::because('model.full', 'A model holds at most '.number_format(Model::MOST_ELEMENTS).' things.');
        }
        $name = $this->name === '' ? self::freeName($model, $this->kind) : Name::tidy($this->name);
        RenameElement::refuseUnfit($model, $name, $this->id);
        $class = ModelRecord::classOf($this->kind);
        $fields = [$this->id, $name, FormulaText::none(), SetUnit::fit($this->unit), SetNote::fit($this->note)];
        $element =
            $class === Flow::class
                ? new Flow(...[...$fields, ...AttachFlow::fitEnds($model, $this->from, $this->to)])
                : new $class(...$fields);
        $model = Mentions::bind($model->withElement($element), $element);
        if ($this->placement !== null) {
            $model = $model->with(['placements' => [...$model->placements, $this->id => $this->placement]]);
        }

        return $this->formula === '' ? Echoes::complete($model, [$this->id]) : (new SetFormula($this->id, $this->formula))->apply($model);
    }

    public function words(Model $before): string
    {
        $name = $this->name === '' ? self::freeName($before, $this->kind) : Name::tidy($this->name);

        return "Added the {$this->kind->value} `$name`";
    }

    private static function freeName(Model $model, Kind $kind): string
    {
        return (new FreeNames(static fn (string $key): bool => $model->idOf($key) !== null))->of('new '.$kind->value);
    }
}
