<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\Factor;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\FreeSpot;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Stock;

/**
 * A factor of the map becomes a stock, a flow, an auxiliary or a parameter. Its links stay on the map, and the model starts from what
 * they say: a flow enters the stock that it acts on the same way and leaves the one that it acts on turned over; a formula begins as
 * the sum of what acts on it, with the signs of the map; what acts on a stock and is no flow feeds a flow of its own.
 */
final readonly class TakeForm extends Edit
{
    public function __construct(public string $id, public Kind $kind)
    {
    }

    public function apply(Model $model): Model
    {
        $was = $model->element($this->id) ?? throw EditRefused::gone();
        if (! ($was instanceof Factor)) {
            throw EditRefused::because('form.taken', "`$was->name` is a {$was->kind()->value} already.");
        }
        $model = (new ChangeKind($this->id, $this->kind))->apply($model);
        if ($this->kind === Kind::Flow) {
            $model = $this->attached($model, $this->id);
        }
        if ($this->kind === Kind::Flow || $this->kind === Kind::Auxiliary) {
            $model = self::begun($model, $this->id, self::skeleton($model, $this->id, static fn (): bool => true));
        }
        if ($this->kind === Kind::Stock) {
            // Flows that were there first find their stock now.
            foreach (self::links($model, to: $this->id) as $link) {
                $model = $model->element($link->from) instanceof Flow ? $this->attached($model, $link->from) : $model;
            }
            $model = self::fed($model, $this->id);
        } elseif ($this->kind !== Kind::Flow) {
            foreach (self::links($model, from: $this->id) as $link) {
                $model = $model->element($link->to) instanceof Stock ? self::fed($model, $link->to) : $model;
            }
        }

        return $model;
    }

    /** A flow between the stocks that it acts on, as far as its ends are free. */
    private function attached(Model $model, string $id): Model
    {
        $flow = $model->element($id);
        if (! ($flow instanceof Flow)) {
            return $model;
        }
        [$from, $to] = [$flow->from, $flow->to];
        foreach (self::links($model, from: $id) as $link) {
            if ($model->element($link->to) instanceof Stock) {
                $to = $link->sign === '+' && $link->to !== $from ? $to ?? $link->to : $to;
                $from = $link->sign === '-' && $link->to !== $to ? $from ?? $link->to : $from;
            }
        }

        return $model->withElement($flow->with(['from' => $from, 'to' => $to]));
    }

    /** What acts on a stock and is computed, but no flow, feeds one that is called so; a formula that was written since stays. */
    private static function fed(Model $model, string $stock): Model
    {
        $feeds = static fn (CausalLink $l): bool => ! in_array($model->element($l->from)?->kind(), [null, Kind::Flow, Kind::Factor], true);
        $now = self::skeleton($model, $stock, $feeds);
        if ($now === '') {
            return $model;
        }
        $id = 'f'.substr(hash('xxh128', $stock), 0, 24);
        $flow = $model->element($id);
        if ($flow === null) {
            $name = 'change of '.$model->nameOf($stock);
            for ($i = 2, $free = $name; $model->idOf(Name::key($free)) !== null; $i++) {
                $free = "$name $i";
            }
            $model = (new AddElement($id, Kind::Flow, $free, to: $stock))->apply($model);
            $model = $model->with(['placements' => [...$model->placements, $id => FreeSpot::beside($model, $stock)]]);

            return self::begun($model, $id, $now);
        }
        $written = trim($model->formulaOf($flow));

        // As long as it is nothing but what feeds it, it takes in what comes.
        return $written !== '' && str_starts_with($now, $written) ? self::begun($model, $id, $now) : $model;
    }

    /** @param  \Closure(CausalLink): bool  $counts */
    private static function skeleton(Model $model, string $id, \Closure $counts): string
    {
        $text = '';
        foreach (self::links($model, to: $id) as $link) {
            if ($link->sign !== '?' && $link->from !== $id && $counts($link)) {
                $name = Name::written((string) $model->nameOf($link->from));
                $text .= $text === '' ? ($link->sign === '-' ? '-' : '').$name : ($link->sign === '-' ? ' - ' : ' + ').$name;
            }
        }

        return $text;
    }

    private static function begun(Model $model, string $id, string $text): Model
    {
        $isWritten = $model->element($id) instanceof Auxiliary || $model->element($id) instanceof Flow;

        return $isWritten && $text !== '' ? (new SetFormula($id, $text))->apply($model) : $model;
    }

    /** @return list<CausalLink> in the order of their ids */
    private static function links(Model $model, ?string $from = null, ?string $to = null): array
    {
        $links = $model->part('causalLinks');
        ksort($links);

        return array_values(
            array_filter(
                $links,
                static fn (mixed $l): bool => $l instanceof CausalLink &&
                    ($from === null || $l->from === $from) &&
                    ($to === null || $l->to === $to),
            ),
        );
    }

    public function words(Model $before): string
    {
        $article = $this->kind === Kind::Auxiliary ? 'an' : 'a';

        return "Made `{$before->nameOf($this->id)}` $article {$this->kind->value}, from the map";
    }
}
