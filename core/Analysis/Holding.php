<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Analysis;

use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Cases;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Node\QuantityUse;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Formula\Quantity;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Grip;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Series;
use MerryOrbit\Core\Model\Signal;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Plan\Keys;

/**
 * One grip as a part of a plan. Its numbers are hidden parameters, so that moving a handle compiles nothing; only
 * what is drawn by hand becomes part of the code.
 */
final readonly class Holding
{
    public function __construct(private Grip $grip, private Keys $keys)
    {
    }

    /** Why this cannot be held, as a sentence; null if it can. */
    public static function refusal(Model $model, Grip $grip): ?string
    {
        $id = Key::ownerOf($grip->element);
        $element = $model->element($id);
        if ($element === null) {
            return 'What was taken by hand is gone from the model. Release it.';
        }
        $series = $grip->series === null ? null : $model->element($grip->series);
        $follows = $series instanceof Series && count($series->points) > 1;
        $from = $element instanceof Flow && $element->from !== null ? $model->element($element->from) : null;

        return match (true) {
            $grip->signal === Signal::Series && ! $follows => "`$element->name` is to follow a series that the model does not have. Choose another.",
            $grip->signal === Signal::Series && $grip->series === $id => "`$element->name` cannot follow itself.",
            $element instanceof Stock && $element->isTransit() => "What is in `$element->name` follows from what travels in it. Take its inflow by hand instead.",
            $from instanceof Stock && $model->arrival($from) === $element => "`$element->name` follows from what arrives out of `$from->name`. Take the inflow of that stock by hand instead.",
            default => null,
        };
    }

    /** @return array<string, float> the hidden parameters by key */
    public function parameters(): array
    {
        $values = [
            ...$this->grip->values,
            ...array_filter(['from' => $this->grip->from, 'until' => $this->grip->until], static fn (?float $v): bool => $v !== null),
        ];

        return array_combine(array_map($this->key(...), array_keys($values)), array_values($values));
    }

    /** What is drawn by hand, under the key of its relation; null for every other signal. */
    public function drawn(): ?Relation
    {
        return $this->grip->signal === Signal::Drawn
            ? new Series($this->key('drawn'), '', FormulaText::none(), points: $this->grip->points)
            : null;
    }

    /** The id of what is held. */
    public function owner(): string
    {
        return Key::ownerOf($this->grip->element);
    }

    /** @return list<string> ids of the elements of its dimensions, where one element alone is held */
    private function at(): array
    {
        $at = substr($this->grip->element, strlen($this->owner()) + 1, -1);

        return $at === '' ? [] : explode(',', $at);
    }

    /**
     * The signal while the hand holds, else what stands there otherwise.
     *
     * @param  list<string>  $extent  ids of the dimensions that it extends over
     */
    public function around(Node $otherwise, array $extent = []): Node
    {
        $at = $this->at();
        if ($at === []) {
            return $this->held($otherwise);
        }

        // Of other dimensions than it has now, it is let go.
        return count($at) === count($extent)
            ? new Cases(
                $otherwise,
                [$this->held($otherwise)],
                [array_combine($extent, array_map(static fn (string $e): array => [$e], $at))],
                [''],
            )
            : $otherwise;
    }

    private function held(Node $otherwise): Node
    {
        $holds = $this->holds();

        return $holds === null ? $this->course() : self::call('if', $holds, $this->course(), $otherwise);
    }

    private function key(string $field): string
    {
        $at = $this->at();

        return $this->keys->enter(new Key($this->owner(), $field.($at === [] ? '' : ' of '.implode(' ', $at))));
    }

    private function value(string $field): NameUse
    {
        return new NameUse($this->key($field), $field, 0, 0);
    }

    private static function call(string $function, Node ...$arguments): Call
    {
        return new Call(Catalogue::all()[$function], array_values($arguments), 0, 0);
    }

    private static function time(): QuantityUse
    {
        return new QuantityUse(Quantity::Time, 0, 0);
    }

    private function holds(): ?Node
    {
        $one = NumberLiteral::of(1.0);

        return match (true) {
            $this->grip->from !== null && $this->grip->until !== null => self::call(
                'window',
                $one,
                $this->value('from'),
                $this->value('until'),
            ),
            $this->grip->from !== null => self::call('step', $one, $this->value('from')),
            $this->grip->until !== null => new Binary(Operator::Subtract, $one, self::call('step', $one, $this->value('until'))),
            default => null,
        };
    }

    private function course(): Node
    {
        $rise = fn (): Node => new Binary(Operator::Subtract, $this->value('value'), $this->value('before'));
        $from = fn (Node $change): Node => new Binary(Operator::Add, $this->value('before'), $change);
        $span = fn (): Node => new Binary(Operator::Subtract, $this->value('to'), $this->value('at'));

        return match ($this->grip->signal) {
            Signal::Constant => $this->value('value'),
            Signal::Step => $from(self::call('step', $rise(), $this->value('at'))),
            Signal::Ramp => $from(
                new Binary(
                    Operator::Multiply,
                    $rise(),
                    self::call(
                        'clamp',
                        new Binary(Operator::Divide, new Binary(Operator::Subtract, self::time(), $this->value('at')), $span()),
                        NumberLiteral::of(0.0),
                        NumberLiteral::of(1.0),
                    ),
                ),
            ),
            Signal::Wave => new Binary(
                Operator::Add,
                $this->value('value'),
                self::call('wave', $this->value('amplitude'), $this->value('period'), $this->value('at')),
            ),
            Signal::Pulses => $from(
                self::call(
                    'window',
                    $rise(),
                    $this->value('at'),
                    new Binary(Operator::Add, $this->value('at'), $this->value('width')),
                    $this->value('every'),
                ),
            ),
            Signal::Window => $from(self::call('window', $rise(), $this->value('at'), $this->value('to'))),
            Signal::Series => new NameUse((string) $this->grip->series, '', 0, 0),
            Signal::Drawn => new CurveCall($this->key('drawn'), '', 0, self::time(), 0, 0),
        };
    }
}
