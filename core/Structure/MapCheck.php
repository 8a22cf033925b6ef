<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Structure;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Problem\Remedy;
use MerryOrbit\Core\Problem\Severity;

/** Whether what people say on the causal map and what the formulas do agree, as far as formulas settle it. */
final class MapCheck
{
    /** @return list<Problem> remarks, each at what the link acts on, with the map’s way to mend it */
    public static function of(Analysis $analysis): array
    {
        $polarity = new Polarity($analysis);
        $model = $analysis->model;
        $used = [];
        foreach ($analysis->links() as $link) {
            if ($link['kind'] === 'now') {
                $used["{$link['from']}\n{$link['to']}"] = true;
            }
        }
        $remarks = [];
        foreach ($model->part('causalLinks') as $said) {
            if (! ($said instanceof CausalLink) || $said->sign === '?') {
                continue;
            }
            $flow = $model->element($said->from);
            $does = match (true) {
                $flow instanceof Flow && $flow->to === $said->to => '+',
                $flow instanceof Flow && $flow->from === $said->to => '-',
                isset($used["$said->from\n$said->to"]) => $polarity->ofLink($said->from, $said->to)['sign'],
                default => null,
            };
            if (($does === '+' || $does === '-') && $does !== $said->sign) {
                $remarks[] = self::remark($said, $does, (string) $model->nameOf($said->from), (string) $model->nameOf($said->to));
            }
        }

        return $remarks;
    }

    /** @param  '+'|'-'  $does */
    private static function remark(CausalLink $said, string $does, string $from, string $to): Problem
    {
        [$says, $makes] = $does === '-' ? ['more', 'less'] : ['less', 'more'];

        return new Problem(
            'map.contradicts',
            "The map says that more `$from` makes $says `$to`; the formula of `$to` makes it $makes. One of them is to be changed.",
            $said->to,
            'formula',
            severity: Severity::Remark,
            remedy: new Remedy('Change the map', [
                ['kind' => 'put', 'part' => 'causalLinks', 'id' => $said->id, 'fields' => ['sign' => $does]],
            ]),
        );
    }
}
