<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Experiment;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\Flow;

/** What acts on a variable, directly or through others. */
final class Upstream
{
    /** @return list<string> ids, the variable itself first */
    public static function of(Analysis $analysis, string $id): array
    {
        $flows = [];
        foreach ($analysis->model->elements as $flow) {
            if ($flow instanceof Flow) {
                foreach (array_filter([$flow->from, $flow->to]) as $stock) {
                    $flows[$stock][] = $flow->id;
                }
            }
        }
        $seen = [$id => true];
        $queue = [$id];
        while (($one = array_pop($queue)) !== null) {
            foreach ([...$analysis->uses[$one] ?? [], ...$flows[$one] ?? []] as $cause) {
                if (! isset($seen[$cause])) {
                    $seen[$cause] = true;
                    $queue[] = $cause;
                }
            }
        }

        return array_map(strval(...), array_keys($seen));
    }
}
