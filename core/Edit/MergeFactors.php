<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\Factor;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Pair;

/** Makes one of two that mean the same: the links of a factor go over to another thing, and the factor goes. */
final readonly class MergeFactors extends Edit
{
    /** @param  string  $other  id of the factor that goes */
    public function __construct(public string $id, public string $other)
    {
    }

    public function apply(Model $model): Model
    {
        $kept = $model->element($this->id) ?? throw EditRefused::gone();
        $other = $model->element($this->other) ?? throw EditRefused::gone();
        if ($kept === $other) {
            throw EditRefused::because('merge.same', 'It cannot be merged with itself. Name another factor.');
        }
        if (! ($other instanceof Factor)) {
            throw EditRefused::because(
                'merge.kind',
                "`$other->name` is a {$other->kind()->value} of the model: only what is a factor and nothing more can go into another.",
            );
        }
        foreach (MapSpots::linksAt($model, $other->id) as $link) {
            $model = (new DropPart(SayLink::part(), $link->id))->apply($model);
            $ends = [
                'from' => $link->from === $other->id ? $kept->id : $link->from,
                'to' => $link->to === $other->id ? $kept->id : $link->to,
            ];
            $known = SayLink::between($model, $ends['from'], $ends['to']);
            if ($ends['from'] !== $ends['to']) {
                $fields = $known === null ? [...$link->toRecord(), ...$ends] : self::both($known, $link);
                $model = (new PutPart(SayLink::part(), $known->id ?? $link->id, $fields))->apply($model);
            }
        }

        return (new DeleteElements([$other->id]))->apply(self::withPairs($model, $kept->id, $other->id));
    }

    /** Pairs go over with their votes. */
    private static function withPairs(Model $model, string $kept, string $other): Model
    {
        $pairs = array_filter($model->part('pairs'), static fn (mixed $p): bool => $p instanceof Pair);
        foreach ($pairs as $pair) {
            $third = $pair->one === $other ? $pair->other : ($pair->other === $other ? $pair->one : null);
            if ($third === null || $third === $kept) {
                continue;
            }
            $known = array_filter($pairs, static fn (Pair $p): bool => $p->isOf($kept, $third));
            $into = reset($known) ?: $pair;
            $votes = $pair->votes + ($into === $pair ? 0 : $into->votes);
            $pairs[$into->id] = new Pair($into->id, $kept, $third, $votes);
        }

        return $pairs === [] ? $model : $model->with(['pairs' => $pairs]);
    }

    /**
     * What two links between the same two say together. Where they contradict each other that is open.
     *
     * @return array<string, mixed>
     */
    private static function both(CausalLink $one, CausalLink $other): array
    {
        $joined = static fn (string $a, string $b): ?string => trim($a === $b ? $a : "$a\n$b") ?: null;

        return [
            'sign' => $one->sign === $other->sign ? $one->sign : '?',
            'strength' => $one->strength === $other->strength ? $one->strength : 'usual',
            'late' => $one->late || $other->late,
            'mechanism' => $joined($one->mechanism, $other->mechanism),
            'grounds' => $joined($one->grounds, $other->grounds),
            'standing' => $one->standing === $other->standing ? $one->standing : 'open',
        ];
    }

    public function words(Model $before): string
    {
        return "Merged `{$before->nameOf($this->other)}` into `{$before->nameOf($this->id)}`";
    }
}
