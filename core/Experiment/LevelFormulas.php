<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Experiment;

use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Nature;
use MerryOrbit\Core\Formula\Node\Along;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\Cases;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Node\Pick;
use MerryOrbit\Core\Formula\Node\PickStep;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Model\Dimensions;
use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * Formulas that speak of the members of a roster, said of classes of members or of all of them as one: what each has stands for the mean
 * of a class, and a sum over members is the sum of numbers times means.
 */
final class LevelFormulas
{
    /** @var array<string, true> what was lost, in words */
    public array $lost = [];

    /**
     * @param  string  $roster  the id of its dimension
     * @param  array<string, true>  $own  ids of what each member has
     * @param  array<string, string>  $belongs  by key of the name of a mapping, the id of the dimension that it leads to
     * @param  array<string, true>  $relations  by key of the name
     * @param  array<string, string>  $over  names of the dimensions of a class, by id; none where all are one
     * @param  string  $number  the name of what says how many there are in a class
     */
    public function __construct(
        private readonly Dimensions $dimensions,
        private readonly string $roster,
        private readonly array $own,
        private readonly array $belongs,
        private readonly array $relations,
        private readonly array $over,
        private readonly string $number,
    ) {
    }

    /** @throws NotUnderstood where there is no counterpart */
    public function of(Node $node): Node
    {
        return $node->map(
            fn (Node $part): ?Node => match (true) {
                $part instanceof Pick => $this->pick($part),
                $part instanceof Cases => throw NotUnderstood::because(
                    'Exceptions of formulas have no counterpart among classes of members.',
                ),
                $part instanceof Call && $part->function->nature === Nature::Along => $this->along($part),
                $part instanceof Call && $part->function->nature === Nature::Chance => $this->chance($part),
                default => null,
            },
        );
    }

    private function pick(Pick $pick): ?Node
    {
        $steps = array_values(array_filter($pick->steps, fn (PickStep $s): bool => $s->isMove || ! isset($this->belongs[$s->what])));
        if (count($steps) === count($pick->steps)) {
            return null;
        }

        return $steps === [] ? $pick->of : new Pick($pick->of, $steps, $pick->otherwise, $pick->from, $pick->length);
    }

    /** A draw of each is its mean where there are many. */
    private function chance(Call $call): Node
    {
        $a = $call->arguments;
        $mean = match ($call->function->name) {
            'random' => new Binary(Operator::Divide, new Binary(Operator::Add, $a[0], $a[1]), self::number(2.0)),
            'binomial' => new Binary(Operator::Multiply, $a[0], $a[1]),
            default => $a[0],
        };
        $this->lost['Chance: a draw of each is its mean.'] = true;

        return $this->of($mean);
    }

    private function along(Call $call): ?Node
    {
        $name = $call->function->name;
        $named = array_values(array_filter($call->arguments, static fn (Node $a): bool => $a instanceof Along));
        $values = array_values(array_filter($call->arguments, static fn (Node $a): bool => ! ($a instanceof Along)));
        foreach ($named as $one) {
            if (isset($this->relations[$one->key])) {
                throw NotUnderstood::because(
                    "The relation `$one->written` has no counterpart: classes of members do not know each other.",
                );
            }
        }
        $mine = array_values(array_filter($named, $this->isMine(...)));
        $isAll = $named === [] && array_filter($values, $this->speaksOfMembers(...)) !== [];
        if ($mine === [] && ! $isAll) {
            return null;
        }
        // Where members are gathered by what they belong to, that dimension stays.
        $kept = $this->belongs[$mine[0]->key ?? ''] ?? null;
        $others = array_values(array_filter($named, fn (Along $a): bool => ! $this->isMine($a)));
        $over = array_values(array_diff_key($this->over, $kept === null ? [] : [$kept => 1]));
        if ($name === 'count') {
            return $this->gathered('sum', $this->numberOf(), $over, []);
        }
        if (in_array($name, ['rank', 'share', 'cumulate', 'allocate', 'sd', 'product'], true)) {
            throw NotUnderstood::because("`$name` looks at single members, which classes of them do not have.");
        }
        $value = $this->of($values[0]);
        if ($isAll) {
            $over = array_values($this->over);
        }
        if ($name === 'sum' || $name === 'mean') {
            $weighted = new Binary(Operator::Multiply, $value, $this->numberOf());
            $sum = $isAll && $over !== [] ? $this->call('sum', [$weighted]) : $this->gathered('sum', $weighted, $over, $others);

            return $name === 'sum'
                ? $sum
                : $this->call('divide', [$sum, $this->gathered('sum', $this->numberOf(), $over, []), self::number(0.0)]);
        }
        $this->lost['The least and the greatest: those of classes are of their means.'] = true;

        return $this->gathered($name, $value, $over, $others);
    }

    private function isMine(Along $named): bool
    {
        return isset($this->belongs[$named->key]) || $this->dimensions->find($named->key)?->id === $this->roster;
    }

    private function speaksOfMembers(Node $node): bool
    {
        foreach ($node->all() as $part) {
            if ($part instanceof NameUse && isset($this->own[$part->key])) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param  list<string>  $over  names of dimensions
     * @param  list<Along>  $others
     */
    private function gathered(string $function, Node $value, array $over, array $others): Node
    {
        $named = array_map(static fn (string $d): Along => new Along(Name::key($d), $d, 0, 0), $over);

        return $named === [] && $others === [] ? $value : $this->call($function, [$value, ...$named, ...$others]);
    }

    private function numberOf(): NameUse
    {
        return new NameUse(Name::key($this->number), $this->number, 0, 0);
    }

    /** @param  list<Node>  $arguments */
    private function call(string $function, array $arguments): Call
    {
        return new Call(Catalogue::all()[$function], $arguments, 0, 0);
    }

    private static function number(float $value): NumberLiteral
    {
        return NumberLiteral::of($value);
    }
}
