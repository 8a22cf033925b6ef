<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Library\RunWatcher;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\TrajectoryFile;
use PHPUnit\Framework\TestCase;

final class KeptRunTest extends TestCase
{
    private static function model(Method $method, string $out = 'a / 3'): Model
    {
        return Build::model(
            ['k' => '0.1'],
            ['a' => '8'],
            ['out' => [$out, 'from' => 'a']],
            ['b' => 'a * k + sin(time)'],
            new TimeSettings(0, 20, 0.1, 'year', $method),
        );
    }

    public function test_a_kept_run_comes_back_to_the_bit(): void
    {
        $stiff = Build::model(
            [],
            ['y' => '0'],
            ['f' => ['1e6 * (y - cos(time))', 'from' => 'y']],
            [],
            new TimeSettings(0, 100, 1, 'year', Method::DormandPrince),
        );
        foreach (
            [
                $stiff,
                self::model(Method::RungeKutta4),
                self::model(Method::DormandPrince),
                self::model(Method::Euler, '1 / (3 - time)'),
                Build::model(['only' => '2']),
            ] as $model
        ) {
            $run = Build::run($model);
            $bytes = TrajectoryFile::write($run);
            $back = TrajectoryFile::read($bytes);
            self::assertSame($bytes, TrajectoryFile::write($back));
            self::assertSame(
                [
                    $run->columns(),
                    $run->times(),
                    $run->steady(),
                    $run->length(),
                    $run->fault?->jsonSerialize()['sentence'] ?? null,
                    $run->fault?->remedy?->edits,
                    json_encode($run->notices),
                ],
                [
                    $back->columns(),
                    $back->times(),
                    $back->steady(),
                    $back->length(),
                    $back->fault?->jsonSerialize()['sentence'] ?? null,
                    $back->fault?->remedy?->edits,
                    json_encode($back->notices),
                ],
            );
            foreach ($run->columns() as $id) {
                self::assertSame($run->column($id), $back->column($id));
            }
        }
    }

    public function test_bytes_that_are_no_run_are_refused(): void
    {
        $bytes = TrajectoryFile::write(Build::run(self::model(Method::Euler)));
        foreach (['', 'abc', substr($bytes, 0, -8), $bytes.'x', "\xff\xff\xff\xff".$bytes, pack('V', 3).'{}}'] as $broken) {
            try {
                TrajectoryFile::read($broken);
                self::fail('refused');
            } catch (\UnexpectedValueException $e) {
                self::assertSame('These bytes are no run.', $e->getMessage());
            }
        }
    }

    public function test_a_watch_sees_a_run_go_on_and_what_it_stops_keeps_what_it_has(): void
    {
        foreach (Method::cases() as $method) {
            $model = self::model($method);
            $whole = Build::run($model);
            $shares = [];
            $watch = new RunWatcher(static function (float $share) use (&$shares): bool {
                $shares[] = $share;

                return $share >= 0.5;
            }, 0.0);
            $run = Build::simulator()->run(Analyser::analyse($model), new RunOptions(watch: $watch));
            self::assertTrue($run->stopped, $method->value);
            self::assertFalse($whole->stopped);
            self::assertNull($run->fault);
            self::assertGreaterThanOrEqual(0.5, end($shares));
            $sorted = $shares;
            sort($sorted);
            self::assertSame($sorted, $shares);
            self::assertGreaterThan(20, $run->length());
            self::assertLessThan($whole->length(), $run->length());
            self::assertEqualsWithDelta(
                array_slice($whole->column('b'), 0, $run->length()),
                $run->column('b'),
                1e-12,
                'the part that is there is the whole run’s',
            );
            self::assertSame(array_slice($whole->times(), 0, $run->length()), $run->times());
        }
    }

    public function test_a_watch_that_says_nothing_changes_nothing(): void
    {
        $watch = new RunWatcher(static fn (): bool => false, 0.0);
        $run = Build::simulator()->run(Analyser::analyse(self::model(Method::Heun)), new RunOptions(watch: $watch));
        self::assertFalse($run->stopped);
        self::assertSame(Build::run(self::model(Method::Heun))->column('b'), $run->column('b'));
    }
}
