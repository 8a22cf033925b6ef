<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Exchange\CsvTable;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Expand\Expanded;
use MerryOrbit\Core\Expand\Expansions;
use MerryOrbit\Core\Expand\Origin;
use MerryOrbit\Core\Experiment\Instant;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Reduce\ColumnsAt;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Structure\Checkup;
use MerryOrbit\Core\Structure\Effects;
use MerryOrbit\Core\Unit\UnitChecker;
use PHPUnit\Framework\TestCase;

/** What is no element becomes elements before the analyser sees it, and everything leads back: shown with toys, each of which wears out in a box. */
final class ExpandTest extends TestCase
{
    /** Of each toy a stock that wears by a flow, and a variable that ordinary formulas can mention. */
    private static function toys(Expanded $expanded): Expanded
    {
        $model = $expanded->model;
        foreach ($model->part('toys') as $toy) {
            if (! ($toy instanceof Toy)) {
                continue;
            }
            $text = static fn (string $formula): FormulaText => FormulaText::typed($formula, $model->idOf(...));
            $size = $toy->size < 0 ? 'no such thing' : (string) $toy->size;
            $expanded = $expanded->with(new Origin('toys', $toy->id, "the toy “{$toy->name}”"), [
                new Stock("toy-$toy->id", "condition of $toy->name", $text($size), 'kg'),
                new Flow("toy-$toy->id-wear", "wear of $toy->name", $text("condition of $toy->name / 4"), 'kg', from: "toy-$toy->id"),
                new Auxiliary("toy-$toy->id-joy", "joy of $toy->name", $text("condition of $toy->name * 2"), ''),
            ]);
        }

        return $expanded;
    }

    /** @param  callable(Model): void  $check */
    private static function withToys(callable $check, Toy ...$toys): void
    {
        Parts::with(
            Toy::part(),
            static fn () => Expansions::with(self::toys(...), static function () use ($check, $toys): void {
                $model = Build::model(
                    ['share' => '0.5'],
                    ['fun' => '0'],
                    ['play' => ['joy of ball * share', 'to' => 'fun']],
                    [],
                    new TimeSettings(0, 10, 0.125, 'week'),
                );
                $check($model->with(['toys' => array_column(array_map(static fn (Toy $t): array => [$t->id, $t], $toys), 1, 0)]));
            }),
        );
    }

    private static function simulator(): Simulator
    {
        return new Simulator(new ProgramStore(sys_get_temp_dir().'/merry-orbit-tests-'.getmyuid()));
    }

    /** A toy of size c that wears by a quarter a week: c e^(−t/4); joy is twice that, and fun its integral times the share. */
    public function test_made_elements_are_computed_mentioned_and_plotted_like_any_other(): void
    {
        self::withToys(static function (Model $model): void {
            $analysis = Analyser::analyse($model);
            self::assertSame([], $analysis->problems);
            self::assertSame(['toy-t1', 'toy-t1-wear', 'toy-t1-joy'], array_keys($analysis->origins()));
            self::assertSame(
                ['part' => 'toys', 'id' => 't1', 'words' => 'the toy “ball”'],
                $analysis->origins()['toy-t1']->jsonSerialize(),
            );
            $run = self::simulator()->run($analysis);
            self::assertEqualsWithDelta(8 * exp(-2.5), $run->column('toy-t1')[80], 1e-5);
            self::assertEqualsWithDelta(0.5 * 2 * 8 * 4 * (1 - exp(-2.5)), $run->column('fun')[80], 1e-4);
            self::assertStringStartsWith(
                'time,share,fun,play,condition of ball,wear of ball,joy of ball',
                str_replace('fun,share', 'share,fun', implode('', iterator_to_array(CsvTable::lines($analysis->columns(), $run), false))),
            );
            // What depends on it follows it, and the document holds nothing of what was made.
            self::assertContains(['from' => 'toy-t1-joy', 'to' => 'play', 'kind' => 'now'], $analysis->links());
            self::assertStringNotContainsString('condition of ball', NativeFile::export($model));
            self::assertCount(3, $model->elements);
            $many = ManyRuns::of(self::simulator(), $model, new Setting(['share' => 0.25]), new ColumnsAt(['toy-t1'], [4.0]), 1);
            self::assertEqualsWithDelta(8 * exp(-1.0), $many->one([])[0] ?? NAN, 1e-5);
        }, new Toy('t1', 'ball', size: 8.0));
    }

    public function test_problems_units_trails_and_effects_lead_back(): void
    {
        self::withToys(
            static function (Model $model): void {
                $analysis = Analyser::analyse($model);
                $origin = ['part' => 'toys', 'id' => 't2', 'words' => 'the toy “kite”'];
                $wrong = array_values(array_filter($analysis->problems, static fn (Problem $p): bool => $p->element === 'toy-t2'));
                self::assertCount(1, $wrong);
                self::assertSame([$origin, null, 'name.unknown'], [$wrong[0]->origin, $wrong[0]->remedy, $wrong[0]->code]);
                self::assertSame($origin, $wrong[0]->jsonSerialize()['origin'] ?? null);
                // Only what depends on it waits.
                self::assertTrue($analysis->canCompute('play'));
                self::assertFalse($analysis->canCompute('toy-t2-joy'));
                // What no one can edit there gets no remedy, whoever offers it.
                self::assertNull($analysis->led(Checkup::withRemedies($analysis, $analysis->problems))[0]->remedy);
                // The stock is in kg, its flow is said to be in kg too, not kg a week.
                $remarks = $analysis->led(UnitChecker::check($analysis->model, $analysis->nodes)->remarks);
                $about = array_values(array_filter($remarks, static fn (Problem $p): bool => $p->element === 'toy-t1-wear'));
                self::assertNotSame([], $about);
                self::assertSame('t1', $about[0]->origin['id'] ?? null);
                // A trail passes through it.
                $trial = Trial::of($model, new Setting());
                $instant = Instant::of(self::simulator(), $trial, 2.0);
                self::assertNotNull($instant);
                self::assertContains('toy-t1-joy', array_column($instant->causes('play')['causes'], 'cause'));
                self::assertContains('play', array_column($instant->effects('toy-t1-joy'), 'effect'));
                // The sign of a link from it follows from the run.
                self::assertSame(
                    '+',
                    (new Effects($analysis, self::simulator()->run($analysis)))->signs()['toy-t1-joy>play'] ??
                        (new \MerryOrbit\Core\Structure\Polarity($analysis))->ofLink('toy-t1-joy', 'play')['sign'],
                );
            },
            new Toy('t1', 'ball', size: 8.0),
            new Toy('t2', 'kite', size: -1.0),
        );
    }

    public function test_a_name_that_is_taken_is_said_and_nothing_is_overwritten(): void
    {
        self::withToys(static function (Model $model): void {
            $model = (new AddElement('mine', Kind::Auxiliary, 'Condition of ball', '5'))->apply($model);
            $analysis = Analyser::analyse($model);
            self::assertArrayNotHasKey('toy-t1', $analysis->model->elements);
            $taken = array_values(array_filter($analysis->problems, static fn (Problem $p): bool => $p->code === 'expanded.taken'));
            self::assertStringContainsString('The toy “ball” would make `condition of ball`', $taken[0]->sentence);
            self::assertSame('t1', $taken[0]->origin['id'] ?? null);
            self::assertSame(5.0, self::simulator()->run($analysis)->column('mine')[0]);
        }, new Toy('t1', 'ball', size: 8.0));
    }

    public function test_without_such_things_the_model_is_the_documents_own(): void
    {
        $model = Build::model(['p' => '1'], [], [], ['a' => 'p * 2']);
        $analysis = Analyser::analyse($model);
        self::assertSame($model, $analysis->model);
        self::assertSame([], $analysis->origins());
    }
}
