<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\TestCase;

final class TimeSettingsTest extends TestCase
{
    /** For many settings: moments rise, are multiples of the step from the start, and end exactly at the end. */
    public function test_saved_moments_are_never_added_up(): void
    {
        foreach (
            [
                [0.0, 1000.0, 0.1],
                [-5.0, 5.0, 0.25],
                [1990.0, 2050.0, 1 / 12],
                [0.0, 1.0, 1 / 3],
                [1e6, 1e6 + 7, 0.7],
            ] as [$start, $end, $step]
        ) {
            foreach ([null, $step, 2 * $step, 7 * $step] as $save) {
                $time = new TimeSettings($start, $end, $step, 'day', saveEvery: $save === null || $save <= $end - $start ? $save : null);
                self::assertSame([], $time->problems());
                $times = $time->savedTimes();
                self::assertCount($time->savedCount(), $times);
                self::assertSame([$start, $end], [$times[0], $times[count($times) - 1]]);
                foreach ($times as $i => $moment) {
                    self::assertTrue($i === 0 || $moment > $times[$i - 1]);
                    self::assertTrue($moment === $end || $moment === $start + $i * $time->stepsPerSave() * $step);
                }
            }
        }
    }

    public function test_a_step_that_fits_but_for_rounding_is_taken(): void
    {
        self::assertSame(36_500, (new TimeSettings(0, 100, 1 / 365, 'year', saveEvery: 1.0))->steps());
        self::assertSame([], (new TimeSettings(0, 100, 1 / 365, 'year', saveEvery: 1.0))->problems());
        self::assertSame([], (new TimeSettings(0, 10, 0.3333333333, 'year'))->problems());
    }

    /** The step that a refusal proposes is itself accepted. */
    public function test_the_proposed_step_works(): void
    {
        foreach ([[10.0, 0.3], [520.0, 0.7], [100.0, 33.0], [7.0, 6.9], [1.0, 0.0013]] as [$end, $step]) {
            $time = new TimeSettings(0, $end, $step, 'day');
            self::assertMatchesRegularExpression('/fits is ([\d.]+)\.$/', $time->problems()[0]->sentence);
            preg_match('/fits is ([\d.]+)\.$/', $time->problems()[0]->sentence, $m);
            self::assertSame([], $time->with(['step' => (float) ($m[1] ?? 0)])->problems());
            self::assertLessThan($step, abs((float) ($m[1] ?? 0) - $step));
        }
    }

    public function test_the_record_gives_the_settings_back(): void
    {
        foreach ([new TimeSettings(), new TimeSettings(-1, 2.5, 0.5, 'month', Method::Euler, 1.0)] as $time) {
            self::assertEquals($time, TimeSettings::fromRecord($time->toRecord()));
            /** @var array<string, mixed> $throughJson */
            $throughJson = json_decode(json_encode($time->toRecord(), JSON_THROW_ON_ERROR), true);
            self::assertEquals($time, TimeSettings::fromRecord($throughJson));
        }
    }
}
