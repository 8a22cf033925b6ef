<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Exchange\ModelFile;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Curve;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Simulate\RunOptions;
use PHPUnit\Framework\TestCase;

/** Arrays of the standard in and out: the same numbers, whatever it has words for. */
final class XmileArraysTest extends TestCase
{
    use ShapedModels;

    private static function again(Model $model): Model
    {
        return ModelFile::import(ModelFile::export($model, 'xmile')[0])->model;
    }

    /**
     * @param  array<string, list<float>>  $expected
     * @param  array<string, list<float>>  $found  may have helpers besides
     */
    private static function assertSameCourses(array $expected, array $found, float $within = 1e-12): void
    {
        foreach ($expected as $name => $column) {
            self::assertArrayHasKey($name, $found);
            foreach ($column as $i => $value) {
                self::assertEqualsWithDelta($value, $found[$name][$i], $within * max(1.0, abs($value)), "$name at $i");
            }
        }
    }

    public function test_subscripts_element_equations_and_functions_over_arrays_are_read(): void
    {
        $dim = static fn (string $name, string ...$elements): string => "<dim name=\"$name\">".
            implode('', array_map(static fn (string $e): string => "<elem name=\"$e\"/>", $elements)).
            '</dim>';
        $aux = static fn (string $name, string $equation, string ...$dims): string => "<aux name=\"$name\">".
            '<dimensions>'.implode('', array_map(static fn (string $d): string => "<dim name=\"$d\"/>", $dims)).'</dimensions>'.
            (str_starts_with($equation, '<') ? $equation : "<eqn>$equation</eqn>").
            '</aux>';
        $each = static fn (array $equations): string => implode('', array_map(
            static fn (int|string $at, mixed $eqn): string => "<element subscript=\"$at\"><eqn>".(is_string($eqn) ? $eqn : '').'</eqn></element>',
            array_keys($equations),
            $equations,
        ));
        $xml = '<xmile version="1.0"><header><name>Bays</name></header><sim_specs><start>0</start><stop>4</stop><dt>0.5</dt></sim_specs>'.
            '<dimensions>'.$dim('Bay', 'North', 'East', 'Lee').'<dim name="Age" size="3"/></dimensions><model><variables>'.
            $aux('price', $each(['North' => '4', 'East' => '6', 'Lee' => '4']), 'Bay').
            $aux('load', $each([
                'North, 1' => '1', 'North, 2' => '2', 'North, 3' => '3',
                'East, 1' => '10', 'East, 2' => '20', 'East, 3' => '30',
                'Lee, 1' => '5', 'Lee, 2' => '5', 'Lee, 3' => '5',
            ]), 'Bay', 'Age').
            $aux('worth', 'load[Bay, Age] * price[Bay] + TIME', 'Bay', 'Age').
            $aux('by bay', 'SUM(load[Bay, *])', 'Bay').
            $aux('all', 'SUM(load) + MEAN(price[*]) + MAX(load[East, *]) - MIN(load[*, 2])').
            $aux('how many', 'SIZE(load[*, 1]) * 10 + SIZE(load[*, *])').
            $aux('older', $each(['1' => 'load[North, 1]', '2' => 'load[North, Age-1] * 100', '3' => 'load[North, Age-1] * 100']), 'Age').
            $aux('one', 'load[East, 2] + MAX(1, 2)').
            '<stock name="boats"><dimensions><dim name="Bay"/></dimensions><element subscript="North"><eqn>1</eqn></element>'.
            '<element subscript="East"><eqn>2</eqn></element><element subscript="Lee"><eqn>1</eqn></element><inflow>new</inflow></stock>'.
            '<flow name="new"><dimensions><dim name="Bay"/></dimensions><eqn>price / 2</eqn></flow>'.
            '</variables></model></xmile>';
        $imported = ModelFile::import($xml);
        self::assertSame([], array_map(static fn ($l): string => $l->sentence, $imported->log));
        $model = $imported->model;
        self::assertInstanceOf(Parameter::class, $model->element((string) $model->idOf('price')));
        self::assertInstanceOf(Parameter::class, $model->element((string) $model->idOf('load')));
        $all = self::columns($model);
        self::assertSame([4.0, 6.0, 4.0], [$all['price[North]'][0], $all['price[East]'][0], $all['price[Lee]'][0]]);
        self::assertSame(20.0 * 6 + 1, $all['worth[East, 2]'][2]);
        self::assertSame([6.0, 60.0, 15.0], [$all['by bay[North]'][0], $all['by bay[East]'][0], $all['by bay[Lee]'][0]]);
        self::assertEqualsWithDelta(81.0 + 14.0 / 3.0 + 30.0 - 2.0, $all['all'][0], 1e-12);
        self::assertSame([39.0, 22.0], [$all['how many'][0], $all['one'][0]]);
        self::assertSame([1.0, 100.0, 200.0], [$all['older[1]'][0], $all['older[2]'][0], $all['older[3]'][0]]);
        self::assertSame([1.0 + 4.0 * 2.0, 2.0 + 4.0 * 3.0], [$all['boats[North]'][8], $all['boats[East]'][8]]);
        self::assertSameCourses($all, self::columns(self::again($model)));
    }

    public function test_what_a_subscript_cannot_mean_is_said_and_kept_as_a_draft(): void
    {
        $file = static fn (string $equation): string => '<xmile version="1.0"><sim_specs><start>0</start><stop>1</stop></sim_specs>'.
            '<dimensions><dim name="Bay"><elem name="North"/><elem name="East"/></dim></dimensions><model><variables>'.
            '<aux name="price"><dimensions><dim name="Bay"/></dimensions><eqn>4</eqn></aux>'.
            "<aux name=\"x\"><eqn>$equation</eqn></aux></variables></model></xmile>";
        foreach ([
            'price[South]' => 'no element of the dimension',
            'price[North, 1]' => '2 subscripts',
            'price[*] + 1' => 'where no function goes over the elements',
            'price[North' => 'not closed',
        ] as $equation => $words) {
            $imported = ModelFile::import($file($equation));
            self::assertStringContainsString($words, implode(' ', array_map(static fn ($l): string => $l->sentence, $imported->log)));
        }
    }

    public function test_the_demo_studies_over_dimensions_keep_their_numbers(): void
    {
        foreach (['bath-house', 'oyster-terraces'] as $demo) {
            $model = NativeFile::import((string) file_get_contents(__DIR__."/../../demo/$demo.json"))->model;
            // A smooth curve is written by points; here it is to be exact.
            $straight = static fn (Element $e): Element => $e instanceof Curve ? $e->with(['between' => Between::Straight]) : $e;
            $elements = array_map($straight, $model->elements);
            $model = $model->with(['elements' => $elements]);
            self::assertSameCourses(self::columns($model), self::columns(self::again($model)), 1e-11);
        }
    }

    public function test_flows_over_other_dimensions_than_their_stock_keep_their_numbers(): void
    {
        $model = self::model(
            [self::$terraces, self::$ages, ['name' => 'outer', 'partOf' => 'terrace', 'elements' => ['north', 'south']]],
            [
                self::line('stock', 'level', '10', 'terrace'),
                self::line('parameter', 'rate', '2', 'terrace', 'age'),
                ['kind' => 'flow', 'name' => 'wide', 'formula' => 'rate * number(age)', 'to' => 'level'],
                ['kind' => 'flow', 'name' => 'narrow', 'formula' => '0.5 * time', 'to' => 'level'],
                self::line('parameter', 'storm', '1', 'outer'),
                ['kind' => 'flow', 'name' => 'out', 'formula' => 'storm', 'from' => 'level'],
            ],
        );
        self::assertSameCourses(self::columns($model), self::columns(self::again($model)));
    }

    public function test_random_models_over_dimensions_keep_their_numbers(): void
    {
        for ($seed = 1; $seed <= 12; $seed++) {
            mt_srand($seed);
            $shape = new RandomShape();
            $model = self::model($shape->dimensions, $shape->shaped, ['tables' => $shape->tables, 'time' => ['method' => 'heun']]);
            if (Analyser::analyse($model)->blockers() !== []) {
                continue;
            }
            $run = Build::simulator()->run(Analyser::analyse($model), new RunOptions());
            if ($run->fault === null) {
                self::assertSameCourses(self::columns($model), self::columns(self::again($model)), 1e-9);
            }
        }
    }

    /** A stock may begin with another number for each of many elements, more than a formula has exceptions. */
    public function test_many_numbers_of_a_stock_become_a_table(): void
    {
        $cells = implode('', array_map(static fn (int $i): string => "<element subscript=\"$i\"><eqn>$i.5</eqn></element>", range(1, 300)));
        $xml = '<?xml version="1.0"?><xmile version="1.0" xmlns="http://docs.oasis-open.org/xmile/ns/XMILE/v1.0"><header/>'.
            '<sim_specs><start>0</start><stop>2</stop><dt>1</dt></sim_specs><dimensions><dim name="boat" size="300"/></dimensions>'.
            '<model><variables><stock name="rust"><dimensions><dim name="boat"/></dimensions>'.$cells.'<inflow>rusting</inflow></stock>'.
            '<flow name="rusting"><dimensions><dim name="boat"/></dimensions><eqn>rust * 2</eqn></flow></variables></model></xmile>';
        $imported = ModelFile::import($xml);
        $columns = self::columns($imported->model);
        self::assertSame([1.5, 300.5], [$columns['rust[1]'][0], $columns['rust[300]'][0]]);
        self::assertSame(300.5 * 9.0, $columns['rust[300]'][2]);
        self::assertSame([], array_filter($imported->log, static fn ($l): bool => str_contains($l->sentence, 'left out')));
    }
}
