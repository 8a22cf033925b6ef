<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Simulate\Culprit;
use MerryOrbit\Core\Simulate\Walker;
use PHPUnit\Framework\TestCase;

/** Compiled code and walking the formulas are two ways to the same numbers. */
final class WalkerTest extends TestCase
{
    /**
     * All values at all steps, until a fault.
     *
     * @return array{list<array<string, float>>, ?Culprit}
     */
    private static function walked(Model $model): array
    {
        $analysis = Analyser::analyse($model);
        $walker = new Walker($model, $analysis->plan(), $model->time, $analysis->parameters);
        $rows = [];
        try {
            $walker->start();
            for ($i = 0; $i <= $model->time->steps(); $i++) {
                $walker->look($i);
                $rows[] = $walker->values;
                $walker->advance($i);
            }
        } catch (Culprit $culprit) {
            return [$rows, $culprit];
        }

        return [$rows, null];
    }

    public function test_random_formulas_of_all_functions_agree_under_every_method(): void
    {
        mt_srand(11);
        $compared = $failed = 0;
        foreach (Build::FIXED as $method) {
            for ($i = 0; $i < 150; $i++) {
                $formula = RandomFormula::text(3);
                $model = Build::model(
                    ['p' => '1.5', 'q' => '-2'],
                    ['s' => '3', 't' => '0'],
                    ['f' => ['0.7 - s / 50', 'to' => 's'], 'g' => ['v / 1000', 'to' => 't']],
                    ['v' => $formula],
                    new TimeSettings(0, 4, 0.5, 'year', $method),
                );
                $run = Build::run($model);
                [$rows, $culprit] = self::walked($model);
                if ($culprit !== null) {
                    self::assertNotNull($run->fault, "$formula fails when walked ({$culprit->fault->sentence()}), but the run does not");
                    // Compiled code tells when, the walker finds why.
                    self::assertSame($culprit->fault->sentence(), $run->fault->sentence(), $formula);
                    $failed++;
                } else {
                    self::assertNull($run->fault, "$formula: {$run->fault?->sentence()}");
                }
                foreach (array_slice($rows, 0, $run->length()) as $step => $row) {
                    foreach (['v', 't', 's'] as $id) {
                        self::assertEqualsWithDelta(
                            $row[$id],
                            $run->column($id)[$step],
                            1e-9 * max(1.0, abs($row[$id])),
                            "$formula, $id at step $step, {$method->title()}",
                        );
                        $compared++;
                    }
                }
            }
        }
        self::assertGreaterThan(3000, $compared);
        self::assertGreaterThan(20, $failed);
    }

    /** Random networks of stocks, some of which never go below zero: nothing is lost, nothing is negative, both ways agree. */
    public function test_random_networks_conserve_and_never_go_below_zero(): void
    {
        mt_srand(5);
        $cut = 0;
        foreach (Build::FIXED as $method) {
            for ($round = 0; $round < 25; $round++) {
                $count = mt_rand(2, 6);
                $model = new Model('Network', time: new TimeSettings(0, 12, 0.25, 'year', $method));
                for ($i = 0; $i < $count; $i++) {
                    $model = (new AddElement("s$i", Kind::Stock, "stock $i", (string) mt_rand(0, 40)))->apply($model);
                    $stock = $model->elements["s$i"];
                    $model = $model->withElement($stock->with(['neverNegative' => $i === 0 || mt_rand(0, 2) > 0]));
                }
                for ($k = 0; $k < 2 * $count; $k++) {
                    $from = mt_rand(0, $count - 1);
                    $to = ($from + mt_rand(1, $count - 1)) % $count;
                    $formula = ["stock $from / 2", (string) mt_rand(1, 20), "stock $to / 3 + 2", 'wave(8, 5)', "10 - stock $from"][
                        mt_rand(0, 4)
                    ];
                    $model = (new AddElement("f$k", Kind::Flow, "flow $k", $formula, from: "s$from", to: "s$to"))->apply($model);
                    $flow = $model->elements["f$k"];
                    $model = $model->withElement($flow->with(['oneWay' => mt_rand(0, 2) === 0, 'priority' => (float) mt_rand(0, 3)]));
                }
                $run = Build::run($model);
                self::assertNull($run->fault, (string) $run->fault?->sentence());
                [$rows] = self::walked($model);
                $total = null;
                foreach ($rows as $step => $row) {
                    $sum = $largest = 0.0;
                    for ($i = 0; $i < $count; $i++) {
                        $level = $run->column("s$i")[$step];
                        self::assertEqualsWithDelta(
                            $row["s$i"],
                            $level,
                            1e-9 * max(1.0, abs($level)),
                            "stock $i at step $step, {$method->title()}",
                        );
                        $stock = $model->elements["s$i"];
                        self::assertTrue($level >= 0.0 || ($stock instanceof Stock && ! $stock->neverNegative), "stock $i is $level");
                        $sum += $level;
                        $largest = max($largest, abs($level));
                    }
                    $total ??= $sum;
                    // Rounding of some thousand additions; stocks without a limit may grow far above and below zero.
                    self::assertEqualsWithDelta($total, $sum, 2000 * PHP_FLOAT_EPSILON * max(100.0, $largest));
                }
                // What a flow reports is what truly flowed.
                for ($i = 0; $i < $count; $i++) {
                    for ($step = 0; $step < $model->time->steps() && self::allReported($model, "s$i"); $step++) {
                        $net = 0.0;
                        foreach ($model->inflows("s$i") as $flow) {
                            $net += $run->column($flow->id)[$step];
                        }
                        foreach ($model->outflows("s$i") as $flow) {
                            $net -= $run->column($flow->id)[$step];
                        }
                        self::assertEqualsWithDelta(
                            $run->column("s$i")[$step + 1],
                            $run->column("s$i")[$step] + 0.25 * $net,
                            1e-9 * (1 + abs($net)),
                        );
                    }
                }
                $cut += count(array_filter($run->notices, static fn ($n): bool => $n->code === 'flow.limited'));
            }
        }
        self::assertGreaterThan(20, $cut);
    }

    /** Whether all flows of a stock touch a limited one, and so report their mass. */
    private static function allReported(Model $model, string $stock): bool
    {
        foreach ([...$model->inflows($stock), ...$model->outflows($stock)] as $flow) {
            $ends = array_map(static fn (?string $id) => $id === null ? null : $model->elements[$id], [$flow->from, $flow->to]);
            if (array_filter($ends, static fn ($s): bool => $s instanceof Stock && $s->neverNegative) === []) {
                return false;
            }
        }

        return true;
    }

    public function test_renaming_changes_no_number(): void
    {
        mt_srand(23);
        for ($i = 0; $i < 60; $i++) {
            $model = Build::model(
                ['p' => '1.5', 'q' => '-2'],
                ['s' => '3'],
                ['f' => ['sin(time) + 0.7 - s / 9', 'to' => 's']],
                ['v' => RandomFormula::text(3), 'w' => RandomFormula::text(2).' + v'],
                new TimeSettings(0, 5, 0.5),
            );
            $renamed = $model;
            foreach (['p' => 'R&D share', 'q' => 'sin', 's' => 'not so small', 'v' => 'zebra', 'w' => '2nd'] as $id => $name) {
                $renamed = (new \MerryOrbit\Core\Edit\RenameElement($id, $name))->apply($renamed);
            }
            $before = Build::run($model);
            $after = Build::run($renamed);
            self::assertSame($before->length(), $after->length());
            self::assertSame($before->fault?->time, $after->fault?->time);
            foreach (['s', 'v', 'w'] as $id) {
                self::assertSame(
                    $before->has($id) ? $before->column($id) : null,
                    $after->has($id) ? $after->column($id) : null,
                    $model->formulaOf($model->elements['v']),
                );
            }
        }
    }
}
