<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\FreeNames;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Series;
use MerryOrbit\Core\Model\SpecialCase;

/** The standard has no series over dimensions: one becomes a variable with an equation for each element, which looks up a series of its own. */
final class SeriesByElement
{
    /** @var array<string, Element> */
    private array $elements = [];

    private function __construct(private readonly Model $model)
    {
    }

    /** @return array{Model, list<string>} and the ids of what was changed */
    public static function apart(Model $model): array
    {
        $self = new self($model);
        $changed = [];
        foreach ($model->elements as $id => $element) {
            if ($element instanceof Series && ($model->shapes[$id] ?? []) !== []) {
                $changed[] = (string) $id;
                $self->write($element, $model->shapes[$id]);
            } else {
                $self->elements[$id] = $element;
            }
        }

        return [$changed === [] ? $model : $model->with(['elements' => $self->elements]), $changed];
    }

    /** @param  list<string>  $over */
    private function write(Series $series, array $over): void
    {
        $formula = $this->mentioned($series, '', $series->points);
        $cases = [];
        foreach ($this->model->coursesOf($series->id) as $places => $points) {
            $at = explode(',', (string) $places);
            if (count($at) === count($over)) {
                $for = array_combine($over, array_map(static fn (string $e): array => [$e], $at));
                $cases[] = new SpecialCase($for, $this->mentioned($series, ' '.(count($cases) + 1), $points));
            }
        }
        $this->elements[$series->id] = new Auxiliary(
            $series->id,
            $series->name,
            $formula,
            $series->unit,
            $series->note,
            exceptions: $cases,
        );
    }

    /**
     * Makes a series of some points.
     *
     * @param  list<array{float, float}>  $points
     * @return FormulaText that mentions it
     */
    private function mentioned(Series $series, string $suffix, array $points): FormulaText
    {
        $name = (new FreeNames(fn (string $key): bool => $this->model->idOf($key) !== null))->of("$series->name course$suffix");
        $id = substr($series->id, 0, 30).'-c'.count($this->elements);
        $own = new Series(
            $id,
            $name,
            FormulaText::none(),
            $series->unit,
            points: $points,
            between: $series->between,
            beyond: $series->beyond,
        );
        $this->elements[$id] = $own;

        return FormulaText::typed(Name::written($name), static fn (string $key): ?string => $key === Name::key($name) ? $id : null);
    }
}
