<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Uncertain;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Problem\Shown;

/** Something that can be nudged, and how far: a parameter, a plain initial value, or a curve as a whole. */
final readonly class NudgedInput
{
    public const KINDS = ['parameter', 'initial', 'curve'];

    /**
     * @param  value-of<self::KINDS>  $kind
     * @param  ?float  $value  of one number; null of a curve, and of what has several elements: those are scaled
     * @param  ?float  $low  the lower value, or null with `factors`
     * @param  array<string, float>  $own  of what has elements, their values by key
     * @param  string  $note  what one would not expect of how far it goes
     */
    private function __construct(
        public string $id,
        public string $name,
        public string $kind,
        public ?float $value,
        public ?float $low,
        public ?float $high,
        private array $own,
        private float $by,
        public string $note = '',
    ) {
    }

    /**
     * What of a model can be nudged.
     *
     * @param  Analysis  $analysis  of the model under the setting
     * @param  ?float  $by  a share, 0.1 for a tenth; null for the range of each dial
     * @param  list<value-of<self::KINDS>>  $kinds
     * @return list<self> in the order of the model
     */
    public static function all(Analysis $analysis, Setting $setting, ?float $by, array $kinds = ['parameter']): array
    {
        $inputs = [];
        foreach ($analysis->model->elements as $id => $element) {
            $kind = match (true) {
                $element instanceof Parameter => 'parameter',
                $element instanceof Stock && ! $element->isTransit() => 'initial',
                $element instanceof Relation => 'curve',
                default => null,
            };
            $input =
                $kind === null || ! in_array($kind, $kinds, true) || ! $analysis->canCompute($id)
                    ? null
                    : self::of($analysis, $setting, $element, $kind, $by);
            if ($input !== null) {
                $inputs[] = $input;
            }
        }

        return $inputs;
    }

    /** @param  value-of<self::KINDS>  $kind */
    private static function of(Analysis $analysis, Setting $setting, Element $element, string $kind, ?float $by): ?self
    {
        $share = $by ?? 0.1;
        if ($kind === 'curve') {
            return $element instanceof Relation && count($element->points) > 1
                ? new self($element->id, $element->name, $kind, null, null, null, [], $share)
                : null;
        }
        $extents = $analysis->extents[$element->id] ?? [];
        if ($kind === 'initial') {
            $start = $extents === [] ? Starts::plain($analysis->model, $element->id) : null;

            return $start === null ? null : self::moved($element, $kind, $start, $share, null);
        }
        if ($extents !== []) {
            $own = [];
            foreach ($analysis->positions->of($element->id) as $key) {
                $own[$key] = $setting->parameters[$key] ?? ($setting->parameters[$element->id] ?? (float) $analysis->parameter($key));
            }

            return new self($element->id, $element->name, $kind, null, null, null, $own, $share);
        }

        return self::moved(
            $element,
            $kind,
            $setting->parameters[$element->id] ?? (float) $analysis->parameter($element->id),
            $share,
            $by === null && $element instanceof Parameter && $element->low !== null && $element->high !== null
                ? [$element->low, $element->high]
                : null,
        );
    }

    /**
     * @param  value-of<self::KINDS>  $kind
     * @param  array{float, float}|null  $range
     */
    private static function moved(Element $element, string $kind, float $value, float $share, ?array $range): self
    {
        $note = '';
        $way = abs($value) * $share;
        if ($range !== null) {
            return new self($element->id, $element->name, $kind, $value, $range[0], $range[1], [], $share);
        }
        if ($element instanceof Parameter && $element->choices !== []) {
            $choices = array_map(static fn (array $c): float => $c['value'], $element->choices);

            return new self(
                $element->id,
                $element->name,
                $kind,
                $value,
                min([$value, ...$choices]),
                max([$value, ...$choices]),
                [],
                $share,
                'It has states to choose from, so it goes to the lowest and to the highest.',
            );
        }
        if ($value === 0.0) {
            $low = $element instanceof Parameter ? $element->low ?? 0.0 : 0.0;
            $high = $element instanceof Parameter ? $element->high ?? 1.0 : 1.0;
            $way = $share * ($high - $low);
            $note =
                'It is 0, so it is moved by '.
                self::percent($share).
                ' of its dial’s range, from '.
                Shown::number($low).
                ' to '.
                Shown::number($high).
                '.';
        }

        return new self($element->id, $element->name, $kind, $value, $value - $way, $value + $way, [], $share, $note);
    }

    private static function percent(float $share): string
    {
        return abs($share - 0.1) < 1e-12 ? 'a tenth' : 100.0 * $share.' %';
    }

    /** @return array<string, float> values of parameters of the extended model, by id or key */
    public function values(bool $up): array
    {
        if ($this->own !== []) {
            return array_map(fn (float $v): float => $v + ($up ? 1.0 : -1.0) * $this->by * abs($v), $this->own);
        }
        $value = (float) ($up ? $this->high : $this->low);

        return [$this->kind === 'initial' ? Starts::parameter($this->id) : $this->id => $value];
    }

    /** The model with this curve lower or higher as a whole. */
    public function scaled(Model $model, bool $up): Model
    {
        $curve = $model->elements[$this->id] ?? null;
        if (! ($curve instanceof Relation)) {
            return $model;
        }
        $points = array_map(fn (array $p): array => [$p[0], $p[1] + ($up ? 1.0 : -1.0) * $this->by * abs($p[1])], $curve->points);

        return $model->with(['elements' => [...$model->elements, $this->id => $curve->with(['points' => $points])]]);
    }
}
