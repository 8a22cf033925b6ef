<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Part;
use MerryOrbit\Core\Model\Parts;

/**
 * What somebody says of a cause and its effect, by their names: what is not there yet becomes a factor of the map, beside what it
 * touches; a link that is there takes what is said now. Without an effect only the factor is put down. Since it goes by names, two who
 * say the same at once lose nothing.
 */
final readonly class SayLink extends Edit
{
    /**
     * @param  string  $id  of the link, if it is new
     * @param  string  $fromId  of the cause, if it is new
     * @param  string  $toId  of the effect, if it is new
     * @param  array<string, mixed>  $said  sign, late, strength, mechanism … as far as they are said
     */
    public function __construct(
        public string $id,
        public string $from,
        public string $fromId,
        public string $to,
        public string $toId,
        public array $said,
    ) {
    }

    public function apply(Model $model): Model
    {
        [$model, $from] = self::withFactor($model, $this->from, $this->fromId);
        if (Name::tidy($this->to) === '') {
            return MapSpots::withEnds($model, $from, null);
        }
        [$model, $to] = self::withFactor($model, $this->to, $this->toId);
        $link = self::between($model, $from, $to);
        $fields = [...$this->said, 'from' => $from, 'to' => $to];

        return (new PutPart(self::part(), $link->id ?? $this->id, $fields))->apply(
            MapSpots::withEnds($model, $from, $from === $to ? null : $to),
        );
    }

    public static function part(): Part
    {
        return Parts::all()['causalLinks'];
    }

    public static function between(Model $model, string $from, string $to): ?CausalLink
    {
        foreach ($model->part('causalLinks') as $link) {
            if ($link instanceof CausalLink && $link->from === $from && $link->to === $to) {
                return $link;
            }
        }

        return null;
    }

    /** @return array{Model, string} and the id of what is called so */
    public static function withFactor(Model $model, string $name, string $id): array
    {
        $known = $model->idOf(Name::key(Name::tidy($name)));

        return $known !== null ? [$model, $known] : [(new AddElement($id, Kind::Factor, $name))->apply($model), $id];
    }

    public function words(Model $before): string
    {
        $sign = is_string($this->said['sign'] ?? null) ? $this->said['sign'] : '?';
        [$from, $to] = [Name::tidy($this->from), Name::tidy($this->to)];
        $acts = ['+' => 'acts the same way on', '-' => 'acts the other way on'][$sign] ?? 'acts on';

        return $to === '' ? "Put down the factor `$from`" : "Said that `$from` $acts `$to`";
    }
}
