<?php

declare(strict_types=1);

namespace Tests\Core;

use PHPUnit\Framework\TestCase;

/** Who may know whom inside the engine, by folder. */
final class BoundariesTest extends TestCase
{
    private const MAY_USE = [
        'Problem' => [],
        'Law' => ['Problem'],
        'Formula' => ['Problem'],
        'Model' => ['Law', 'Formula', 'Problem'],
        'Ledger' => ['Model', 'Formula', 'Problem'],
        'Roster' => ['Model'],
        'Expand' => ['Ledger', 'Model', 'Formula', 'Problem'],
        'Edit' => ['Model', 'Formula', 'Problem'],
        'Unit' => ['Model', 'Formula', 'Problem'],
        'Library' => ['Law', 'Model', 'Formula', 'Problem'],
        'Plan' => ['Library', 'Model', 'Formula', 'Problem'],
        'Shape' => ['Roster', 'Plan', 'Library', 'Model', 'Formula', 'Problem'],
        'Analysis' => ['Roster', 'Shape', 'Plan', 'Library', 'Expand', 'Model', 'Formula', 'Problem'],
        'Compile' => ['Roster', 'Shape', 'Plan', 'Library', 'Model', 'Formula', 'Problem'],
        'Simulate' => ['Roster', 'Compile', 'Analysis', 'Shape', 'Plan', 'Library', 'Expand', 'Model', 'Formula', 'Problem'],
        'Structure' => ['Simulate', 'Analysis', 'Shape', 'Plan', 'Library', 'Expand', 'Model', 'Formula', 'Problem'],
        'Experiment' => ['Roster', 'Structure', 'Simulate', 'Analysis', 'Plan', 'Library', 'Expand', 'Model', 'Formula', 'Problem'],
        'Reduce' => ['Experiment', 'Unit', 'Simulate', 'Analysis', 'Plan', 'Library', 'Expand', 'Model', 'Formula', 'Problem'],
        'Map' => ['Structure', 'Simulate', 'Analysis', 'Shape', 'Plan', 'Library', 'Expand', 'Model', 'Formula', 'Problem'],
        'Data' => ['Reduce', 'Experiment', 'Unit', 'Simulate', 'Analysis', 'Plan', 'Model', 'Formula', 'Problem'],
        'Area' => ['Data', 'Model'],
        'Uncertain' => ['Reduce', 'Experiment', 'Simulate', 'Analysis', 'Plan', 'Library', 'Model', 'Law', 'Formula', 'Problem'],
        'Fit' => ['Uncertain', 'Data', 'Reduce', 'Experiment', 'Simulate', 'Analysis', 'Plan', 'Model', 'Law', 'Problem'],
        'Report' => ['Uncertain', 'Map', 'Structure', 'Experiment', 'Simulate', 'Analysis', 'Plan', 'Model', 'Formula', 'Problem'],
        'Tell' => ['Report', 'Map', 'Analysis', 'Law', 'Reduce', 'Experiment', 'Simulate', 'Plan', 'Model', 'Problem'],
        'Exchange' => [
            'Data',
            'Ledger',
            'Map',
            'Simulate',
            'Analysis',
            'Shape',
            'Library',
            'Expand',
            'Edit',
            'Model',
            'Formula',
            'Problem',
        ],
        'Cli' => [
            'Tell',
            'Report',
            'Exchange',
            'Area',
            'Fit',
            'Uncertain',
            'Data',
            'Map',
            'Reduce',
            'Experiment',
            'Unit',
            'Simulate',
            'Structure',
            'Compile',
            'Analysis',
            'Shape',
            'Plan',
            'Library',
            'Expand',
            'Ledger',
            'Model',
            'Law',
            'Formula',
            'Problem',
        ],
    ];

    public function test_each_folder_uses_only_what_stands_before_it(): void
    {
        $core = dirname(__DIR__, 2).'/core';
        $seen = 0;
        /** @var \SplFileInfo $file */
        foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator($core, \FilesystemIterator::SKIP_DOTS)) as $file) {
            if ($file->getExtension() !== 'php' || $file->getFilename() === 'autoload.php') {
                continue;
            }
            $folder = explode('/', substr($file->getPathname(), strlen($core) + 1))[0];
            self::assertArrayHasKey($folder, self::MAY_USE, "The folder core/$folder is not in the list of this test.");
            $source = (string) file_get_contents($file->getPathname());
            self::assertStringContainsString('declare(strict_types=1);', $source, $file->getPathname());
            self::assertDoesNotMatchRegularExpression('/Illuminate|Laravel|\bApp\\\\/', $source, $file->getPathname());
            preg_match_all('/MerryOrbit\\\\+Core\\\\+(\w+)\\\\/', $source, $uses);
            foreach (array_unique($uses[1]) as $used) {
                self::assertTrue(
                    $used === $folder || in_array($used, self::MAY_USE[$folder], true),
                    $file->getPathname()." uses core/$used",
                );
            }
            $seen++;
        }
        self::assertGreaterThan(60, $seen);
    }
}
