<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Structure\Effects;
use MerryOrbit\Core\Structure\Polarity;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class PolarityTest extends TestCase
{
    private static function model(string $formula): Model
    {
        $model = Build::model(['p' => '2', 'q' => '3', 'cold' => '-4'], ['s' => '5'], ['in' => ['p', 'to' => 's']], ['y' => $formula]);
        foreach ([['up', [[0, 0], [10, 5]]], ['down', [[0, 5], [10, 1]]], ['hump', [[0, 0], [10, 5], [20, 0]]]] as [$name, $points]) {
            $model = EditReader::read(['kind' => 'add', 'id' => $name, 'element' => 'curve', 'name' => $name])->apply($model);
            $model = EditReader::read(['kind' => 'curve', 'id' => $name, 'points' => $points])->apply($model);
        }

        // The curves came after the formula: it binds to them.
        return EditReader::read(['kind' => 'formula', 'id' => 'y', 'text' => $formula])->apply(
            EditReader::read(['kind' => 'stock', 'id' => 's', 'neverNegative' => true, 'travel' => ''])->apply($model),
        );
    }

    /** @return iterable<string, array{string, string, ?string}> formula, cause, sign */
    public static function formulas(): iterable
    {
        foreach (
            [
                ['p + q', 'p', '+'],
                ['p - q', 'q', '-'],
                ['p * q', 'q', '+'],
                ['p * cold', 'p', '-'],
                ['p / q', 'q', '-'],
                ['cold / q', 'q', '+'],
                ['-p', 'p', '-'],
                ['3 - -p', 'p', '+'],
                ['s * (1 - s / q)', 's', null],
                ['p * (1 - s / q)', 's', '-'],
                ['p * (1 - s / q)', 'q', '+'],
                ['p^2', 'p', '+'],
                ['2^p', 'p', null],
                ['s^-1', 's', '-'],
                ['exp(-p)', 'p', '-'],
                ['sqrt(p) + ln(q)', 'q', '+'],
                ['max(0, p - q)', 'q', '-'],
                ['min(p, q)', 'p', '+'],
                ['clamp(p, 0, q)', 'q', '+'],
                ['abs(p)', 'p', '+'],
                ['abs(p - q)', 'p', null],
                ['if(p > q, s, 0)', 's', '+'],
                ['if(p > q, s, 0)', 'p', null],
                ['up(p)', 'p', '+'],
                ['down(p)', 'p', '-'],
                ['hump(p)', 'p', null],
                ['p * down(s)', 's', '-'],
                ['up(p)', 'up', ''],
                ['smooth(s, p)', 's', '+'],
                ['smooth(s, p)', 'p', null],
                ['-delay(s, p)', 's', '-'],
                ['divide(p, q, 0)', 'q', '-'],
                ['choose(p, s, q)', 'q', '+'],
                ['p and q', 'p', null],
                ['sin(p)', 'p', null],
                ['acos(p / 10)', 'p', '-'],
                ['total(p)', 'p', '+'],
                ['step(p, q)', 'p', '+'],
                ['wave(p, q)', 'p', null],
                ['p - p', 'p', null],
            ] as [$formula, $cause, $sign]
        ) {
            yield "$cause in $formula" => [$formula, $cause, $sign];
        }
    }

    #[DataProvider('formulas')]
    public function test_a_formula_tells_the_sign_of_its_links(string $formula, string $cause, ?string $sign): void
    {
        self::assertSame($sign, (new Polarity(Analyser::analyse(self::model($formula))))->ofLink($cause, 'y')['sign']);
    }

    public function test_a_link_is_late_where_the_formula_delays_it(): void
    {
        $polarity = new Polarity(Analyser::analyse(self::model('smooth(s, p) * q')));
        self::assertTrue($polarity->ofLink('s', 'y')['late']);
        self::assertFalse($polarity->ofLink('q', 'y')['late']);
    }

    /** What the rules say of a formula must be what its slope says wherever one looks. */
    public function test_the_rules_agree_with_the_slopes_of_random_formulas(): void
    {
        mt_srand(11);
        $settled = 0;
        for ($n = 0; $n < 300; $n++) {
            $formula = self::random(3);
            $model = Build::model(
                ['p' => '2', 'q' => '3', 'cold' => '-4'],
                ['s' => '5'],
                ['in' => ['wave(3, 4)', 'to' => 's']],
                ['y' => $formula],
            );
            $analysis = Analyser::analyse($model);
            if ($analysis->problems !== []) {
                continue;
            }
            $run = Build::run($model);
            $effects = new Effects($analysis, $run);
            foreach ($analysis->uses['y'] as $cause) {
                $sign = (new Polarity($analysis))->ofLink($cause, 'y')['sign'];
                for ($i = 0; $i < $run->length() && $sign !== null; $i += 4) {
                    $effect = $effects->at($i)["$cause>y"]['effect'] ?? 0.0;
                    self::assertTrue($sign === '+' ? $effect >= -1e-6 : $effect <= 1e-6, "$cause in $formula: $sign but $effect");
                    $settled++;
                }
            }
        }
        self::assertGreaterThan(500, $settled);
    }

    private static function random(int $depth): string
    {
        if ($depth === 0) {
            return ['p', 'q', 'cold', 's', '2', '0.5', 'time'][mt_rand(0, 6)];
        }
        $a = self::random($depth - mt_rand(1, $depth));
        $b = self::random($depth - mt_rand(1, $depth));

        return [
            "($a + $b)",
            "($a - $b)",
            "$a * ($b)",
            "($a) / (1 + abs($b))",
            "max($a, $b)",
            "min($a, $b)",
            "exp(-($a) / 10)",
            "-($a)",
            "if(time > 5, $a, $b)",
            "clamp($a, 0, 9)",
            "sqrt(abs($a))",
            "($a)^2",
            "abs($a)",
            "tanh($b)",
        ][mt_rand(0, 13)];
    }

    public function test_what_the_formula_leaves_open_is_seen_in_the_run(): void
    {
        // Logistic growth: more kelp makes growth more until half the room is taken, and less from then on.
        $model = Build::model(
            ['rate' => '1', 'room' => '100'],
            ['kelp' => '5'],
            ['growth' => ['rate * kelp * (1 - kelp / room)', 'to' => 'kelp']],
        );
        $analysis = Analyser::analyse($model);
        $run = Build::run($model);
        $effects = new Effects($analysis, $run);
        self::assertSame('±', $effects->signs()['kelp>growth']);
        foreach ([0, 8, 20] as $i) {
            $kelp = $run->column('kelp')[$i];
            self::assertEqualsWithDelta(1 - (2 * $kelp) / 100, $effects->at($i)['kelp>growth']['effect'], 1e-6);
        }
        $low = Build::model(
            ['rate' => '1', 'room' => '1000000'],
            ['kelp' => '5'],
            ['growth' => ['rate * kelp * (1 - kelp / room)', 'to' => 'kelp']],
            [],
            $model->time->with(['end' => 2.0]),
        );
        self::assertSame('+', (new Effects(Analyser::analyse($low), Build::run($low)))->signs()['kelp>growth']);
    }

    public function test_where_a_run_has_been_on_a_curve(): void
    {
        $model = Build::model([], ['s' => '0'], ['in' => ['1', 'to' => 's']], ['y' => '3']);
        $model = EditReader::read(['kind' => 'add', 'id' => 'c', 'element' => 'curve', 'name' => 'c'])->apply($model);
        $model = EditReader::read(['kind' => 'curve', 'id' => 'c', 'points' => [[0, 0], [50, 5]]])->apply($model);
        $model = EditReader::read(['kind' => 'formula', 'id' => 'y', 'text' => '1 + c(2 * s + 1)'])->apply($model);
        $curve = $model->elements['c'];
        self::assertInstanceOf(\MerryOrbit\Core\Model\Curve::class, $curve);
        $visits = \MerryOrbit\Core\Structure\Visits::of(Analyser::analyse($model), Build::run($model), $curve);
        self::assertSame('y', $visits[0]['element']);
        self::assertSame(array_map(static fn (float $t): float => 2 * $t + 1, $visits[0]['times']), $visits[0]['inputs']);
    }

    public function test_the_shares_of_all_causes_make_up_the_whole(): void
    {
        $model = Build::model(['a' => '1', 'b' => '3'], [], [], ['y' => 'a + 2 * b', 'z' => 'y * y - smooth(a, 2)']);
        $at = (new Effects(Analyser::analyse($model), Build::run($model)))->at(3);
        self::assertEqualsWithDelta(1 / 7, $at['a>y']['share'], 1e-9);
        self::assertEqualsWithDelta(6 / 7, $at['b>y']['share'], 1e-9);
        self::assertArrayNotHasKey('a>z', $at, 'what remembers has no effect of the moment');
    }
}
