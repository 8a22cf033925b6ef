<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Stock;

/** Brings back an old version: the whole model, or some of its elements as they were. */
final readonly class Restore extends Edit
{
    /** @param  ?list<string>  $ids  null for everything */
    public function __construct(public Model $old, public ?array $ids, /** Such as `revision 12`. */ private string $from)
    {
    }

    public function apply(Model $model): Model
    {
        if ($this->ids === null) {
            return $this->old;
        }
        $known = array_intersect_key($this->old->elements, array_flip($this->ids));
        if ($known === []) {
            throw EditRefused::because('restore.unknown', "In $this->from there is no such thing to bring back.");
        }
        foreach ($known as $id => $element) {
            $now = $model->with(['elements' => array_diff_key($model->elements, [$id => true])]);
            RenameElement::refuseUnfit($now, $element->name, $id);
            $fields = [];
            // What it mentioned and is gone stays as a name that waits.
            $nameOf = fn (string $other): ?string => $model->nameOf($other) ?? $this->old->nameOf($other);
            $own = Name::key($element->name);
            $idOf = static fn (string $key): ?string => $key === $own ? $id : $model->idOf($key);
            if ($element instanceof Flow) {
                $stock = static fn (?string $end): ?string => $end !== null && $model->element($end) instanceof Stock ? $end : null;
                $fields += ['from' => $stock($element->from), 'to' => $stock($element->to)];
            }
            $again = static fn (FormulaText $f): FormulaText => FormulaText::typed($f->text($nameOf), $idOf);
            $back = $element->with($fields)->withFormulas($again);
            $place = $model->placements[$id] ?? ($this->old->placements[$id] ?? null);
            $model = $model->withElement($back);
            if ($place !== null) {
                $model = $model->with([
                    'placements' => [
                        ...$model->placements,
                        $id => $place->with(['sheet' => $model->sheet($place->sheet) === null ? $model->sheets[0]->id : $place->sheet]),
                    ],
                ]);
            }
            $model = Echoes::complete(Mentions::dropUsedLinks(Mentions::bind($model, $back), $back), [$id]);
        }

        return $model;
    }

    public function words(Model $before): string
    {
        $names = $this->ids === null ? [] : array_values(array_filter(array_map($this->old->nameOf(...), $this->ids)));

        return $this->ids === null
            ? "Went back to $this->from"
            : 'Brought back '.(count($names) === 1 ? "`$names[0]`" : count($names).' things')." from $this->from";
    }
}
