<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\Factor;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Model\Wording;
use MerryOrbit\Core\Structure\Polarity;

/** Factors and the links between them, of a causal map or of a stock-and-flow model: nothing in it has to be computable. */
final class CausalGraph
{
    /** @var array<string, list<GraphLink>>|null */
    private ?array $byCause = null;

    /**
     * @param  array<string, string>  $names  of factors, by id
     * @param  array<string, GraphLink>  $links  by `from` and `to` with a line break between; one for each pair
     * @param  array<string, Wording>  $wordings  how people speak of more and less of a factor, by its id
     */
    private function __construct(public readonly array $names, public readonly array $links, public readonly array $wordings)
    {
    }

    /**
     * @param  array<string, string>  $names  by id
     * @param  list<GraphLink>  $links  lines of opposite sign between the same two become one of sign `?`
     * @param  array<string, Wording>  $wordings  by id
     */
    public static function of(array $names, array $links, array $wordings = []): self
    {
        $merged = [];
        foreach ($links as $link) {
            $key = "$link->from\n$link->to";
            $merged[$key] = isset($merged[$key]) ? $merged[$key]->merged($link) : $link;
        }

        return new self($names, $merged, $wordings);
    }

    /**
     * What formulas use, what flows fill and drain, and what people say of causes and effects. A formula settles the sign of a link
     * where it can, else what was seen in a run; else it is what people say.
     *
     * @param  array<string, string>  $seen  by key of a link (`from>to`), `+` or `-` as in a run; anything else tells nothing
     */
    public static function ofModel(Analysis $analysis, array $seen = []): self
    {
        $model = $analysis->model;
        $names = [];
        foreach ($model->elements + ($analysis->source->elements ?? []) as $id => $element) {
            $names[(string) $id] = $element->name;
        }
        $said = [];
        foreach ($model->part('causalLinks') as $link) {
            if ($link instanceof CausalLink && isset($names[$link->from], $names[$link->to])) {
                $said["$link->from\n$link->to"] = $link;
            }
        }
        $polarity = new Polarity($analysis);
        $links = [];
        foreach ($analysis->links() as ['from' => $from, 'to' => $to, 'kind' => $kind]) {
            $own = $said["$from\n$to"] ?? null;
            if ($kind === 'start' || ($kind === 'unused' && $own !== null)) {
                continue;
            }
            $known = $kind === 'now' ? $polarity->ofLink($from, $to) : ['sign' => null, 'late' => false];
            if ($known['sign'] !== '') {
                $run = in_array($seen["$from>$to"] ?? '', ['+', '-'], true) ? $seen["$from>$to"] : null;
                $sign = $known['sign'] ?? ($run ?? ($own->sign ?? '?'));
                $links[] = new GraphLink($from, $to, $sign, $known['late'] || $own?->late === true, $own->strength ?? 'usual');
            }
            unset($said["$from\n$to"]);
        }
        foreach ($model->elements as $id => $element) {
            if ($element instanceof Flow) {
                foreach ([[$element->to, '+'], [$element->from, '-']] as [$stock, $sign]) {
                    $isTransit = $stock !== null && $model->element($stock) instanceof Stock && $model->element($stock)->isTransit();
                    if ($stock !== null && isset($names[$stock])) {
                        $links[] = new GraphLink((string) $id, $stock, $sign, $isTransit);
                    }
                }
                $source = $element->from === null ? null : $model->element($element->from);
                if ($source instanceof Stock && $model->arrival($source) === $element) {
                    // What arrives is what once set out.
                    $links[] = new GraphLink($source->id, (string) $id, '+', true);
                }
            }
        }
        foreach ($said as $link) {
            $links[] = new GraphLink($link->from, $link->to, $link->sign, $link->late, $link->strength);
        }

        return self::of($names, $links, self::wordings($model));
    }

    /** What people say alone: the factors and links of the causal map, whatever has become a formula of them. */
    public static function ofMap(Model $model): self
    {
        $names = $links = $wordings = [];
        foreach (array_keys($model->part('mapSpots')) as $id) {
            $names[(string) $id] = (string) $model->nameOf((string) $id);
        }
        foreach ($model->part('causalLinks') as $link) {
            if ($link instanceof CausalLink) {
                $names[$link->from] = (string) $model->nameOf($link->from);
                $names[$link->to] = (string) $model->nameOf($link->to);
                $links[] = new GraphLink($link->from, $link->to, $link->sign, $link->late, $link->strength);
            }
        }
        foreach ($model->elements as $id => $element) {
            $names += $element instanceof Factor ? [(string) $id => $element->name] : [];
        }

        return self::of($names, $links, self::wordings($model));
    }

    /** @return array<string, Wording> by id of what they are of */
    private static function wordings(Model $model): array
    {
        $wordings = [];
        foreach ($model->part('wordings') as $wording) {
            $wordings += $wording instanceof Wording ? [$wording->of => $wording] : [];
        }

        return $wordings;
    }

    /** @return array<string, list<string>> by id of a factor, the ids of those that it acts on */
    public function effects(): array
    {
        $effects = array_fill_keys(array_map(strval(...), array_keys($this->names)), []);
        foreach ($this->links as $link) {
            $effects[$link->from][] = $link->to;
        }

        return $effects;
    }

    /** @return list<GraphLink> */
    public function linksFrom(string $id): array
    {
        if ($this->byCause === null) {
            $this->byCause = [];
            foreach ($this->links as $link) {
                $this->byCause[$link->from][] = $link;
            }
        }

        return $this->byCause[$id] ?? [];
    }

    public function link(string $from, string $to): ?GraphLink
    {
        return $this->links["$from\n$to"] ?? null;
    }
}
