<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Compile\Compiler;
use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Edit\SetCurve;
use MerryOrbit\Core\Edit\SetEnd;
use MerryOrbit\Core\Edit\SetFlow;
use MerryOrbit\Core\Edit\SetStock;
use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Simulate\Walker;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** The forms of compiled code for larger models (a loop over the stages; shared variables) against the walker. */
final class LargeModelTest extends TestCase
{
    /** @return iterable<string, array{int, Method, int}> */
    public static function sizes(): iterable
    {
        foreach (Build::FIXED as $method) {
            foreach ([30, 150, 450] as $count) {
                foreach ([1, 2] as $seed) {
                    yield "$count with {$method->title()}, $seed" => [$count, $method, $seed];
                }
            }
        }
    }

    /** A web of everything: memory, chance, curves, limits, one-way flows, transit stocks. */
    private static function web(int $count, Method $method, int $seed): Model
    {
        mt_srand($seed);
        $model = new Model('Web', time: new TimeSettings(0, 6, 0.25, 'year', $method, 0.5));
        $edits = [
            new AddElement('k', Kind::Curve, 'bend'),
            new SetCurve('k', [[0.0, 1.0], [10.0, 0.5], [60.0, 0.1]], Between::Smooth, Beyond::Extended, ''),
            new AddElement('r', Kind::Series, 'rain'),
            new SetCurve('r', [[0.0, 1.0], [3.0, 2.0], [6.0, 0.5]], Between::Stepped, Beyond::Held, ''),
            new AddElement('p', Kind::Parameter, 'p', '0.3'),
        ];
        $stocks = intdiv($count, 6);
        for ($i = 0; $i < $stocks; $i++) {
            $edits[] = new AddElement("s$i", Kind::Stock, "s$i", (string) mt_rand(1, 30));
            if (mt_rand(0, 3) === 0) {
                $edits[] = new SetStock("s$i", mt_rand(0, 2) > 0, mt_rand(0, 2) === 0 ? '1 + p' : '');
            }
        }
        $stock = static fn (): string => 's'.mt_rand(0, $stocks - 1);
        for ($i = 0; $i < $count; $i++) {
            $a = static fn (): string => $i > 0 && mt_rand(0, 1) === 1 ? 'a'.mt_rand(max(0, $i - 30), $i - 1) : $stock();
            $edits[] = new AddElement(
                "a$i",
                Kind::Auxiliary,
                "a$i",
                [
                    "min({$a()}, {$a()}) * 0.9",
                    "if({$a()} > {$a()}, {$a()}, 3)",
                    "{$a()} * bend({$stock()}) + rain",
                    "0.5 * {$a()} + p * {$stock()}",
                    "smooth({$a()}, 2, 2)",
                    "previous({$a()}, 1)",
                    "highest({$a()}) - lowest({$a()})",
                    "hold({$a()}, 1)",
                    "shift({$a()}, 0.75)",
                    "step({$a()}, 2) + pulse(3, 1, 2)",
                    "latch({$a()} > 20, {$a()} < 4) + times({$a()} > 12)",
                    'gaussian(1, 0.2) + drift(0, 0.1, 2)',
                    "delay({$a()}, 1, 3) / 2",
                    "initial({$a()}) / ({$stock()} + 40)",
                ][mt_rand(0, 13)],
            );
        }
        for ($i = 0; $i < 2 * $stocks; $i++) {
            $from = $i % $stocks;
            $to = ($i * 5 + 1) % $stocks;
            $edits[] = new AddElement(
                "f$i",
                Kind::Flow,
                "f$i",
                ["s$from * p", 'a'.mt_rand(0, $count - 1).' / 20', 'wave(2, 3)'][mt_rand(0, 2)],
                from: mt_rand(0, 4) === 0 ? null : "s$from",
                to: $from === $to ? null : "s$to",
            );
            if (mt_rand(0, 2) === 0) {
                $edits[] = new SetFlow("f$i", mt_rand(0, 1) === 0, (float) mt_rand(0, 2));
            }
        }
        foreach ($edits as $edit) {
            $model = $edit->apply($model);
        }

        return $model;
    }

    #[DataProvider('sizes')]
    public function test_every_form_agrees_with_the_walker(int $count, Method $method, int $seed): void
    {
        $model = self::web($count, $method, $seed);
        $analysis = Analyser::analyse($model);
        self::assertSame([], $analysis->blockers());
        $run = Build::run($model);
        self::assertNull($run->fault, (string) $run->fault?->sentence());
        self::assertSame(13, $run->length());
        $walker = new Walker($model, $analysis->plan(), $model->time, $analysis->parameters);
        $walker->start();
        $compared = 0;
        for ($i = 0; $i <= 24; $i++) {
            $walker->look($i);
            $before = $walker->values;
            if ($i < 24) {
                $walker->advance($i);
            }
            foreach ($i % 2 === 0 ? array_keys($model->elements) : [] as $id) {
                // What limited flows report is settled when the step is done.
                if (! $run->has($id) || $analysis->plan()->isLimited($id)) {
                    continue;
                }
                $value = $run->column($id)[intdiv($i, 2)];
                self::assertEqualsWithDelta($before[$id], $value, 1e-9 * max(1.0, abs($value)), "$id at step $i");
                $compared++;
            }
        }
        self::assertGreaterThan(13 * $count, $compared);
    }

    /** A run that is stopped and handed over goes on as if nothing had been. */
    #[DataProvider('sizes')]
    public function test_what_is_carried_over_is_all_there_is(int $count, Method $method, int $seed): void
    {
        $model = self::web($count, $method, $seed);
        $analysis = Analyser::analyse($model);
        $program = Compiler::compile($analysis->plan(), $method);
        $store = new \MerryOrbit\Core\Compile\ProgramStore(sys_get_temp_dir().'/merry-orbit-tests-'.getmyuid());
        $settings = new \MerryOrbit\Core\Simulate\RunOptions();
        $halted = new \MerryOrbit\Core\Simulate\StepwiseRun(
            $store->load($program->function, $program),
            $model->time,
            $settings,
            array_values($analysis->parameters),
            $program,
            13,
        );
        self::assertSame(\MerryOrbit\Core\Compile\Program::HALTED, $halted->ending);
        $walker = new Walker($model, $analysis->plan(), $model->time, $analysis->parameters);
        $walker->resume(
            array_combine($program->carried, $halted->carried),
            array_combine($program->constants, $halted->constants) + $analysis->parameters,
        );
        for ($i = 13; $i < 24; $i++) {
            $walker->look($i);
            $walker->advance($i);
        }
        $walker->look(24);
        $run = Build::run($model);
        foreach ($model->elements as $id => $_) {
            if ($run->has($id) && ! $analysis->plan()->isLimited($id)) {
                $value = $run->column($id)[12];
                self::assertEqualsWithDelta($value, $walker->values[$id] ?? $run->steady()[$id], 1e-9 * max(1.0, abs($value)), $id);
            }
        }
    }

    public function test_an_end_condition_and_a_fault_work_in_every_form(): void
    {
        foreach (Build::FIXED as $method) {
            foreach ([30, 150, 450] as $count) {
                $model = (new AddElement('clock', Kind::Auxiliary, 'clock', 'time * 2'))->apply(self::web($count, $method, 3));
                $ended = Build::run((new SetEnd('clock >= 4.5'))->apply($model));
                self::assertTrue($ended->ended);
                self::assertSame([0.0, 0.5, 1.0, 1.5, 2.0, 2.25], $ended->times());
                self::assertSame(4.5, $ended->column('clock')[5]);
                $broken = Build::run((new AddElement('b', Kind::Auxiliary, 'broken', '1 / (5 - clock)'))->apply($model));
                self::assertSame('broken', $broken->fault?->name);
                self::assertSame(5, $broken->length(), 'what was saved before it stays');
                self::assertNotNull($broken->fault);
                self::assertEqualsWithDelta(2.5, $broken->fault->time, 0.13);
                self::assertEqualsWithDelta(5.0, $broken->fault->inputs['clock'], 1e-12);
            }
        }
    }
}
