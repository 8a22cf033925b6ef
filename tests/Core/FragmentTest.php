<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\Paste;
use MerryOrbit\Core\Exchange\Fragment;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Point;
use MerryOrbit\Core\Structure\Layout;
use PHPUnit\Framework\TestCase;

final class FragmentTest extends TestCase
{
    private static function pond(): Model
    {
        $model = Layout::complete(
            Build::model(
                ['rain' => '2', 'share' => '0.1'],
                ['pond' => '50', 'marsh' => '1'],
                ['fill' => ['rain', 'to' => 'pond'], 'spill' => ['share * pond', 'from' => 'pond', 'to' => 'marsh']],
                ['depth' => 'pond / 10'],
            ),
        );
        foreach (
            [
                ['kind' => 'group', 'ids' => ['pond', 'marsh'], 'name' => 'Water', 'tint' => 'sky'],
                ['kind' => 'bend', 'from' => 'pond', 'to' => 'depth', 'by' => ['x' => 0, 'y' => 40]],
                ['kind' => 'track', 'id' => 'pond', 'shown' => true],
                ['kind' => 'end', 'text' => 'pond < 1'],
                ['kind' => 'connect', 'from' => 'rain', 'to' => 'depth'],
            ] as $edit
        ) {
            $model = EditReader::read($edit)->apply($model);
        }

        return $model;
    }

    public function test_it_holds_what_was_chosen_and_names_what_was_not(): void
    {
        $fragment = NativeFile::import(Fragment::of(self::pond(), ['spill', 'pond', 'depth']));
        self::assertSame([], $fragment->log);
        $model = $fragment->model;
        self::assertSame(['pond', 'spill', 'depth'], $model->names());
        self::assertSame('share * pond', $model->formulaOf($model->elements['spill']));
        $spill = $model->elements['spill'];
        self::assertInstanceOf(Flow::class, $spill);
        self::assertSame(['pond', null], [$spill->from, $spill->to], 'the marsh was not copied');
        self::assertSame(['Water', ['pond']], [$model->groups[0]->name, $model->groups[0]->members]);
        self::assertSame(['pond>depth'], array_keys($model->bends));
        self::assertSame([[], [], true], [$model->links, $model->tracks, $model->endWhen->isEmpty()]);
    }

    public function test_all_of_a_model_pasted_into_an_empty_one_runs_as_the_model_does(): void
    {
        $pond = self::pond();
        $pasted = (new Paste('p', NativeFile::import(Fragment::of($pond, array_keys($pond->elements)))->model, new Point(0, 0)))->apply(
            new Model('Empty', time: $pond->time),
        );
        self::assertSame($pond->names(), $pasted->names());
        foreach ($pond->elements as $id => $element) {
            self::assertSame(
                Build::run($pond->with(['endWhen' => $pasted->endWhen]))->column($id),
                Build::run($pasted)->column((string) $pasted->idOf($element->name)),
                $id,
            );
        }
    }

    public function test_pasting_again_and_again_keeps_names_apart(): void
    {
        $model = self::pond();
        $fragment = NativeFile::import(Fragment::of($model, ['pond', 'depth']))->model;
        for ($i = 0; $i < 5; $i++) {
            $model = (new Paste("p$i", $fragment, new Point(100.0 * $i, 0)))->apply($model);
        }
        self::assertCount(count(array_unique($model->names())), $model->names());
        self::assertSame('pond 6 / 10', $model->formulaOf($model->elements[(string) $model->idOf('depth 6')]));
        $this->expectException(EditRefused::class);
        (new Paste('p0', $fragment, new Point(0, 0)))->apply($model);
    }

    public function test_what_is_gone_cannot_be_copied(): void
    {
        $this->expectException(EditRefused::class);
        Fragment::of(self::pond(), ['nobody']);
    }
}
