<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Uncertain\Indices;
use MerryOrbit\Core\Uncertain\Regression;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Which inputs matter, against functions whose shares of variance are known exactly. */
final class IndicesTest extends TestCase
{
    use Commanded;

    /**
     * A model whose value is a formula of parameters that are all drawn from one distribution.
     *
     * @return array<string, mixed> what is told of the outcome `y`
     */
    private function told(string $formula, int $inputs, string $law, string ...$more): array
    {
        $names = array_map(static fn (int $i): string => "x$i", range(1, $inputs));
        $model = $this->file(
            NativeFile::export(
                Build::model(array_fill_keys($names, '0.5'), [], [], ['y' => $formula], new TimeSettings(0, 1, 1, 'year', Method::Euler)),
            ),
            '.json',
        );
        $words = array_merge(...array_map(static fn (string $n): array => ['--uncertain', "$n=$law"], $names));
        [$code, $out, $err] = self::orbit(['indices', $model, '--format=json', '--outcome=y', ...$words, ...array_values($more)]);
        self::assertSame(0, $code, $err);
        /** @var array{outcomes: array<string, array<string, mixed>>} $document */
        $document = self::json($out);

        return $document['outcomes']['y'];
    }

    /**
     * @param  array<string, mixed>  $told
     * @return list<array<string, float>>
     */
    private static function inputs(array $told): array
    {
        /** @var list<array<string, float>> $inputs */
        $inputs = $told['inputs'];

        return $inputs;
    }

    /** @return iterable<string, array{string, int, string, float, list<float>, list<float>}> formula, inputs, law, variance, first and total shares */
    public static function functions(): iterable
    {
        // T. Ishigami, T. Homma (1990), a = 7, b = 0.1: moments of sines and powers over −π to π.
        $one = 0.5 * (1 + (0.1 * M_PI ** 4) / 5) ** 2;
        $two = 49 / 8;
        $both = 0.01 * M_PI ** 8 * (1 / 18 - 1 / 50);
        $all = $one + $two + $both;
        yield 'Ishigami' => [
            'sin(x1) + 7 * sin(x2)^2 + 0.1 * x3^4 * sin(x1)',
            3,
            'uniform(-3.141592653589793, 3.141592653589793)',
            $all,
            [$one / $all, $two / $all, 0.0],
            [($one + $both) / $all, $two / $all, $both / $all],
        ];
        // I. M. Sobol's g: a product of (|4x − 2| + a) ÷ (1 + a), whose factors each have mean 1 and variance 1 ÷ 3(1 + a)².
        $a = [0, 1, 4.5, 9];
        $own = array_map(static fn (float $one): float => 1 / (3 * (1 + $one) ** 2), $a);
        $product = 1.0;
        foreach ($own as $one) {
            $product *= 1 + $one;
        }
        $variance = $product - 1;
        yield 'g' => [
            implode(' * ', array_map(static fn (int $i): string => "(abs(4 * x$i - 2) + {$a[$i - 1]}) / (1 + {$a[$i - 1]})", range(1, 4))),
            4,
            'uniform(0, 1)',
            $variance,
            array_map(static fn (float $one): float => $one / $variance, $own),
            array_map(static fn (float $one): float => ($one * $product) / (1 + $one) / $variance, $own),
        ];
    }

    /**
     * @param  list<float>  $first
     * @param  list<float>  $total
     */
    #[DataProvider('functions')]
    public function test_shares_of_variance_are_within_their_errors(
        string $formula,
        int $count,
        string $law,
        float $variance,
        array $first,
        array $total,
    ): void {
        $told = $this->told($formula, $count, $law, '--runs='. 3_000 * ($count + 2));
        self::assertEqualsWithDelta($variance, $told['variance'], 0.05 * $variance);
        foreach (self::inputs($told) as $i => $input) {
            self::assertLessThan(0.06, $input['first_error']);
            self::assertEqualsWithDelta($first[$i], $input['first'], 4 * $input['first_error'] + 1e-12, "first of $i");
            self::assertEqualsWithDelta($total[$i], $input['total'], 4 * $input['total_error'] + 1e-12, "total of $i");
        }
    }

    public function test_more_runs_make_the_errors_smaller_and_processes_change_nothing(): void
    {
        $said = ['x1 * x2 + x3', 3, 'uniform(0, 1)'];
        $few = self::inputs($this->told(...$said, ...['--runs=500', '--jobs=1']));
        $many = self::inputs($this->told(...$said, ...['--runs=8000', '--jobs=2']));
        self::assertEqualsWithDelta(0.25, $many[0]['first_error'] / $few[0]['first_error'], 0.1);
        self::assertSame($many, self::inputs($this->told(...$said, ...['--runs=8000', '--jobs=8'])));
    }

    public function test_a_failed_run_leaves_its_base_sample_out_alone(): void
    {
        $plan = Indices::of(['a', 'b'], 4_000, 1);
        $values = array_map(
            static fn (int $run): ?float => $run % 97 === 0 ? null : 3 * $plan->draws($run)[0] + 4 * $plan->draws($run)[1],
            range(0, $plan->runs() - 1),
        );
        $told = $plan->from($values);
        self::assertEqualsWithDelta(9 / 25, $told['inputs'][0]['first'], 4 * $told['inputs'][0]['first_error']);
        self::assertEqualsWithDelta(16 / 25, $told['inputs'][1]['total'], 4 * $told['inputs'][1]['total_error']);
        self::assertNull($plan->from(array_fill(0, $plan->runs(), 2.0))['inputs'][0]['first'], 'what does not vary has no shares');
    }

    public function test_elementary_effects_of_a_plane_are_its_slopes_and_of_products_they_spread(): void
    {
        [$a, $b, $c] = self::inputs($this->told('2 * x1 - 3 * x2', 3, 'uniform(0, 10)', '--using=morris', '--runs=80'));
        self::assertEqualsWithDelta(['mean' => 20.0, 'mean_size' => 20.0, 'sd' => 0.0], array_slice($a, 1), 1e-9);
        self::assertEqualsWithDelta(['mean' => -30.0, 'mean_size' => 30.0, 'sd' => 0.0], array_slice($b, 1), 1e-9);
        self::assertEqualsWithDelta(['mean' => 0.0, 'mean_size' => 0.0, 'sd' => 0.0], array_slice($c, 1), 1e-9);
        [$x] = self::inputs($this->told('x1 * (x2 - 0.5)', 2, 'uniform(0, 1)', '--using=morris', '--runs=600'));
        self::assertGreaterThan(0.2, $x['sd']);
        self::assertGreaterThan(2 * abs($x['mean']), $x['mean_size']);
    }

    public function test_coefficients_of_a_plane_and_of_a_curve_that_only_rises(): void
    {
        $told = $this->told('3 * x1 + 4 * x2', 3, 'uniform(0, 1)', '--using=regression', '--runs=2000');
        self::assertEqualsWithDelta(1.0, $told['explains'], 1e-9);
        [$a, $b, $c] = self::inputs($told);
        self::assertEqualsWithDelta(0.75, $a['coefficient'] / $b['coefficient'], 0.001, 'equally spread, they stand as their slopes');
        self::assertEqualsWithDelta(0.6, $a['coefficient'], 0.005);
        self::assertEqualsWithDelta(0.8, $b['coefficient'], 0.005);
        self::assertEqualsWithDelta(0.0, $c['coefficient'], 1e-9);
        $told = $this->told('exp(20 * x1)', 2, 'uniform(0, 1)', '--using=regression', '--runs=500');
        self::assertLessThan(0.5, $told['explains']);
        self::assertEqualsWithDelta(1.0, $told['rank_explains'], 1e-9);
        self::assertEqualsWithDelta(1.0, self::inputs($told)[0]['rank_coefficient'], 1e-9);
    }

    public function test_what_stays_the_same_has_no_coefficient_and_takes_none_of_the_others(): void
    {
        $x = [1.0, 2.0, 3.0, 4.0, 5.0, 7.0];
        $fit = Regression::of([array_fill(0, 6, 1.0), $x], array_map(static fn (float $v): float => 5 - 2 * $v, $x));
        self::assertNull($fit->plain[0]);
        self::assertEqualsWithDelta(-1.0, $fit->plain[1], 1e-12);
        self::assertNull(Regression::of([$x], array_fill(0, 6, 3.0))->explains);
    }

    public function test_what_cannot_be_asked_is_said(): void
    {
        $model = $this->file(NativeFile::export(Build::model(['a' => '1'], ['s' => '1'])), '.json');
        foreach (
            [
                [['--uncertain', 'a=uniform(0, 1)'], 'Say what is looked at'],
                [['--outcome=s'], 'Say what is uncertain'],
                [['--outcome=s', '--uncertain', 'a=uniform(0, 1)', '--runs=5'], 'too few'],
                [['--outcome=s', '--uncertain', 'a=uniform(0, 1)', '--using=dice'], '--using is one of'],
                [['--outcome=s', '--uncertain', 'a=uniform(0, 1)', '--using=morris', '--runs=3'], 'too few'],
            ] as [$words, $sentence]
        ) {
            [$code, , $err] = self::orbit(['indices', $model, ...$words]);
            self::assertContains($code, [2, 3]);
            self::assertStringContainsString($sentence, $err);
        }
    }
}
