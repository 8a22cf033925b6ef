<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Simulate\Health;
use PHPUnit\Framework\TestCase;

/** What half a step tells of a model whose members come and go. */
final class StepOfMembersTest extends TestCase
{
    private static function demo(string $name): \MerryOrbit\Core\Model\Model
    {
        return NativeFile::import((string) file_get_contents(dirname(__DIR__, 2)."/demo/$name.json"))->model;
    }

    public function test_one_that_goes_earlier_is_not_taken_for_a_step_that_is_too_long(): void
    {
        $health = Health::check(Build::simulator(), self::demo('new-boats-for-old'));
        // More than other models may change by, and not because of the method.
        self::assertGreaterThan(0.02, $health->differences[0]['difference']);
        self::assertSame(['fair', null], [$health->verdict, $health->remedy]);
        self::assertStringContainsString('Members come and go one by one here', $health->sentence);
        self::assertStringContainsString('Compare what many runs come to at both steps', $health->sentence);
    }

    public function test_a_roster_whose_members_all_stay_is_held_against_half_the_step_as_any_model_is(): void
    {
        $health = Health::check(Build::simulator(), self::demo('oysters-on-order'));
        self::assertStringNotContainsString('Members come and go', $health->sentence);
    }
}
