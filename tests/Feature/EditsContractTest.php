<?php

declare(strict_types=1);

namespace Tests\Feature;

use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;

/** The three lists of edits (what is read, what is described for programs, what is described for people) are one. */
final class EditsContractTest extends TestCase
{
    public function test_each_edit_that_is_described_is_read_and_told_to_people(): void
    {
        preg_match_all('/^\| ((?:`[a-z-]+`(?:, )?)+) \|/m', (string) file_get_contents(base_path('docs/edits.md')), $rows);
        $told = array_merge(...array_map(static fn (string $cell): array => explode(', ', str_replace('`', '', $cell)), $rows[1]));
        $kinds = Contract::read()->kindsOfEdits();
        self::assertGreaterThan(30, count($kinds));
        self::assertEqualsCanonicalizing($told, $kinds);
        foreach ($kinds as $kind) {
            self::assertStringNotContainsString('no edit called', self::refusal(['kind' => $kind]), $kind);
        }
        self::assertStringContainsString('no edit called', self::refusal(['kind' => 'rename-all']));
    }

    /** @param  array<string, mixed>  $edit */
    private static function refusal(array $edit): string
    {
        try {
            EditReader::read($edit);
        } catch (EditRefused $e) {
            return $e->getMessage();
        }

        return '';
    }
}
