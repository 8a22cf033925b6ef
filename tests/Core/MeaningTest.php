<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Meaning;
use MerryOrbit\Core\Model\Model;
use PHPUnit\Framework\TestCase;

/** What makes a run older than its model. */
final class MeaningTest extends TestCase
{
    use ShapedModels;

    private static function kelp(): Model
    {
        return NativeFile::import((string) file_get_contents(__DIR__.'/../../demo/kelp-and-urchins.json'))->model;
    }

    /** @param  array<string, mixed>  $edit */
    private static function after(Model $model, array $edit): string
    {
        return Meaning::of(EditReader::read($edit)->apply($model));
    }

    public function test_what_changes_no_number_does_not_change_it(): void
    {
        $model = self::kelp();
        $was = Meaning::of($model);
        $kelp = (string) $model->idOf('kelp');
        foreach (
            [
                ['kind' => 'move', 'placements' => [$kelp => ['at' => ['x' => 1, 'y' => 2]]]],
                ['kind' => 'rename', 'id' => $kelp, 'name' => 'seaweed'],
                ['kind' => 'unit', 'id' => $kelp, 'text' => 'kg'],
                ['kind' => 'note', 'id' => $kelp, 'text' => 'Seen from a boat.'],
                ['kind' => 'track', 'id' => $kelp, 'shown' => true],
                ['kind' => 'plot-put', 'plot' => ['id' => 'p', 'of' => [$kelp], 'name' => 'Kelp']],
                ['kind' => 'sheet-add', 'id' => 's', 'name' => 'Another'],
            ] as $edit
        ) {
            self::assertSame($was, self::after($model, $edit), (string) $edit['kind']);
        }
    }

    public function test_what_changes_numbers_does_and_taking_it_back_brings_it_back(): void
    {
        $model = self::kelp();
        $was = Meaning::of($model);
        $parameter = array_values(array_filter($model->elements, static fn ($e): bool => $e->kind()->value === 'parameter'))[0];
        $old = $model->formulaOf($parameter);
        $changed = EditReader::read(['kind' => 'formula', 'id' => $parameter->id, 'text' => '77.5'])->apply($model);
        self::assertNotSame($was, Meaning::of($changed));
        self::assertSame($was, self::after($changed, ['kind' => 'formula', 'id' => $parameter->id, 'text' => $old]));
        self::assertNotSame($was, self::after($model, ['kind' => 'time', ...$model->time->toRecord(), 'step' => $model->time->step / 2]));
        self::assertNotSame($was, self::after($model, ['kind' => 'end', 'text' => 'kelp < 1']));
        self::assertNotSame(
            $was,
            self::after($model, ['kind' => 'stock', 'id' => (string) $model->idOf('kelp'), 'neverNegative' => true, 'travel' => '']),
        );
    }

    /** Two models of one meaning give the same numbers, whatever the edit between them was. */
    public function test_models_of_one_meaning_compute_the_same(): void
    {
        mt_srand(12);
        $model = Build::model(
            ['rain' => '2'],
            ['lens' => '9'],
            ['wells' => ['lens / 5', 'from' => 'lens'], 'filling' => ['rain', 'to' => 'lens']],
            ['double' => '2 * lens'],
        );
        $alike = $other = 0;
        for ($i = 0; $i < 250; $i++) {
            try {
                $next = EditReader::read(RandomEdit::record($model, $i))->apply($model);
            } catch (EditRefused) {
                continue;
            }
            if (Meaning::of($next) !== Meaning::of($model)) {
                $other++;
            } elseif ($model->time->problems() === []) {
                $alike++;
                [$a, $b] = [Build::run($model), Build::run($next)];
                foreach ($model->elements as $id => $_) {
                    self::assertSame($a->has($id), $b->has($id));
                    if ($a->has($id)) {
                        self::assertSame($a->column($id), $b->column($id));
                    }
                }
            }
            $model = $next;
        }
        self::assertGreaterThan(20, $alike);
        self::assertGreaterThan(20, $other);
    }

    public function test_what_dimensions_and_elements_are_called_changes_no_number(): void
    {
        $model = self::model(
            [self::$terraces],
            [
                self::line('stock', 'oysters', '10', 'terrace'),
                self::line('auxiliary', 'next', 'sum(oysters, terrace) + oysters[terrace: north] * is(terrace, north)'),
            ],
        );
        $was = Meaning::of($model);
        $dimension = $model->dimensions()->find('terrace') ?? throw new \LogicException();
        $record = ['id' => $dimension->id, 'name' => 'shelf', 'elements' => [['id' => 'north', 'name' => 'upper'], 'middle', 'south']];
        $renamed = EditReader::read(['kind' => 'dimensions', 'dimensions' => [$record]])->apply($model);
        $formula = $renamed->formulaOf($renamed->element((string) $renamed->idOf('next')) ?? throw new \LogicException());
        self::assertSame('sum(oysters, shelf) + oysters[shelf: upper] * is(shelf, upper)', $formula);
        self::assertSame($was, Meaning::of($renamed));
        $other = EditReader::read([
            'kind' => 'formula',
            'id' => $model->idOf('next'),
            'text' => 'sum(oysters, terrace) + oysters[terrace: south] * is(terrace, north)',
        ])->apply($model);
        self::assertNotSame($was, Meaning::of($other));
    }
}
