<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Model\Placement;
use MerryOrbit\Core\Model\Point;
use MerryOrbit\Core\Structure\Layout;
use PHPUnit\Framework\TestCase;

final class LayoutTest extends TestCase
{
    public function test_everything_gets_a_place_of_its_own(): void
    {
        $stocks = $flows = $parameters = [];
        for ($i = 0; $i < 9; $i++) {
            $stocks["stock $i"] = '1';
            $parameters["parameter $i"] = '1';
            $flows["in $i"] = ['1', 'to' => "stock $i"];
            $flows["out $i"] = ['1', 'from' => "stock $i"];
            $flows["second out $i"] = ['1', 'from' => "stock $i"];
        }
        $flows['between'] = ['1', 'from' => 'stock 0', 'to' => 'stock 1'];
        $flows['nowhere'] = ['1'];
        $model = Layout::complete(Build::model($parameters, $stocks, $flows));
        self::assertCount(count($model->elements), $model->placements);
        $taken = [];
        foreach ($model->placements as $id => $place) {
            $key = round($place->at->x).'/'.round($place->at->y);
            self::assertArrayNotHasKey($key, $taken, "$id stands on ".($taken[$key] ?? ''));
            $taken[$key] = $id;
        }
    }

    public function test_no_two_things_lie_on_each_other(): void
    {
        // As large as the sheet draws them, with name and value.
        $sizes = ['stock' => [124, 72], 'flow' => [100, 60]];
        $stocks = $flows = $parameters = $auxiliaries = [];
        for ($i = 0; $i < 7; $i++) {
            $stocks["stock $i"] = '1';
            $parameters["rate $i"] = '1';
            $auxiliaries["need $i"] = '1';
            $flows["in $i"] = ['1', 'to' => "stock $i"];
            $flows["out $i"] = ['1', 'from' => "stock $i"];
        }
        $flows['between'] = ['1', 'from' => 'stock 0', 'to' => 'stock 1'];
        $flows['alone'] = ['1'];
        $model = Layout::complete(Build::model($parameters, $stocks, $flows, $auxiliaries));
        $boxes = [];
        foreach ($model->placements as $id => $place) {
            [$width, $height] = $sizes[$model->elements[$id]->kind()->value] ?? [110, 46];
            foreach ($boxes as $other => [$at, $w, $h]) {
                $apart = abs($at->x - $place->at->x) >= ($w + $width) / 2 || abs($at->y - $place->at->y) >= ($h + $height) / 2;
                self::assertTrue($apart, "$id lies on $other");
            }
            $boxes[$id] = [$place->at, $width, $height];
        }
        self::assertCount(37, $boxes);
    }

    public function test_a_flow_lies_between_its_stocks_or_beside_the_one_it_has(): void
    {
        $model = Layout::complete(
            Build::model(
                [],
                ['a' => '1', 'b' => '1'],
                ['f' => ['1', 'from' => 'a', 'to' => 'b'], 'g' => ['1', 'to' => 'a'], 'h' => ['1', 'from' => 'b']],
            ),
        );
        [$a, $b, $f, $g, $h] = array_map(static fn (string $id): Placement => $model->placements[$id], ['a', 'b', 'f', 'g', 'h']);
        self::assertSame(($a->at->x + $b->at->x) / 2, $f->at->x);
        self::assertNull($f->source ?? $f->target);
        self::assertTrue($g->source !== null && $g->source->x < $g->at->x && $g->at->x < $a->at->x);
        self::assertTrue($h->target !== null && $h->target->x > $h->at->x && $h->at->x > $b->at->x);
    }

    public function test_what_has_a_place_keeps_it_and_the_rest_goes_below(): void
    {
        $model = Build::model(['p' => '1'], ['a' => '1', 'b' => '1']);
        $placed = $model->with(['placements' => ['a' => new Placement(new Point(10, 500))]]);
        $done = Layout::complete($placed);
        self::assertSame($placed->placements['a'], $done->placements['a']);
        self::assertGreaterThan(500, $done->placements['b']->at->y);
        self::assertGreaterThan($done->placements['b']->at->y, $done->placements['p']->at->y);
        self::assertSame($done, Layout::complete($done));
    }
}
