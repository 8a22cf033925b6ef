<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Model;
use PHPUnit\Framework\TestCase;

final class MapCommandsTest extends TestCase
{
    use Commanded;

    private function written(Model $model): string
    {
        return $this->file(NativeFile::export($model), '.json');
    }

    private function tank(): string
    {
        return $this->written(Build::model(['rate' => '2'], ['tank' => '0'], ['filling' => ['rate', 'to' => 'tank']]));
    }

    public function test_a_causal_map_and_a_model_are_played_without_numbers(): void
    {
        $map = $this->file("from,to,sign,late,strength\nrain,mud,+,,\nmud,fish,-,yes,strong\nfish,rain,+,,\n");
        [$code, $out] = self::orbit(['sketch', $map, '--push', 'Rain=+', '--format=json']);
        self::assertSame(0, $code);
        self::assertSame(
            [
                'arrivals' => [
                    ['beat' => 1, 'name' => 'mud', 'direction' => '+', 'because' => ['rain']],
                    ['beat' => 4, 'name' => 'fish', 'direction' => '-', 'because' => ['mud']],
                ],
                'closes' => [['beat' => 5, 'loop' => 'B1']],
            ],
            json_decode($out, true),
        );
        self::assertStringContainsString('    3  Less `fish` than usual', self::orbit(['sketch', $map, '--push=mud=+'])[1]);
        [$code, $out] = self::orbit(['sketch', $map, '--push=rain=-', '--format=model']);
        file_put_contents($map, $out);
        [$code, $out] = self::orbit(['run', $map, '--only=mud', '--save-every=40']);
        self::assertSame(0, $code);
        self::assertMatchesRegularExpression('/^40,-0\.\d+$/m', $out);
        [$code, $out] = self::orbit(['sketch', $this->tank(), '--push=rate=+', '--format=json']);
        self::assertStringContainsString('"name": "filling"', $out);
        file_put_contents($map, "from,to,sign,strength\nrain,mud,+,huge\n");
        foreach (
            [
                [[], 'Say what is pushed'],
                [['--push=rain'], 'NAME=+ or NAME=-'],
                [['--push=rain=2'], 'NAME=+ or NAME=-'],
                [['--push=wells=+'], 'Nothing is called `wells`'],
            ] as [$options, $sentence]
        ) {
            [$code, , $err] = self::orbit(['sketch', $this->written(Build::model(['rain' => '1'])), ...$options]);
            self::assertSame(2, $code);
            self::assertStringContainsString($sentence, $err);
        }
        self::assertStringContainsString('says `huge` in `strength`', self::orbit(['sketch', $map, '--push=rain=+'])[2]);
    }

    public function test_loops_of_a_model_and_of_a_causal_map_are_listed(): void
    {
        $map = $this->file("from,to,sign\nfame,guests,+\nguests,fame,+\nguests,crowding,+\ncrowding,guests,-\nfame,fame,-\n");
        [$code, $out] = self::orbit(['loops', $map, '--format=json', '--most=2']);
        self::assertSame(0, $code);
        /**
         * @var array{
         *   complete: bool,
         *   loops: list<array{name: string, polarity: string, delayed: bool, path: list<string>, story: list<string>}>,
         * } $told
         */
        $told = json_decode($out, true);
        self::assertFalse($told['complete']);
        self::assertSame(
            ['Begin with more `fame`.', 'That makes for less `fame` than there otherwise would be.'],
            array_slice($told['loops'][0]['story'], 0, 2),
        );
        self::assertSame(
            [
                ['name' => 'B1', 'polarity' => '-', 'delayed' => false, 'path' => ['fame']],
                ['name' => 'B2', 'polarity' => '-', 'delayed' => false, 'path' => ['crowding', 'guests']],
            ],
            array_map(static fn (array $loop): array => array_diff_key($loop, ['story' => 0]), $told['loops']),
        );
        self::assertStringContainsString('      Begin with more `fame`.', self::orbit(['loops', $map, '--story'])[1]);
        $lines = explode("\n", self::orbit(['loops', $map, '--independent'])[1]);
        self::assertSame('There are 3 loops.', $lines[0]);
        self::assertStringContainsString('R1', $lines[3]);
        self::assertStringContainsString('fame →+ guests →+ fame', $lines[3]);

        // Nothing has to be computable, and no loop is no mistake.
        foreach (
            ['' => [0, 'There is no feedback loop.'], 'hut + hut' => [0, 'There is no'], 'hut / ' => [0, 'There is no']] as $formula => $end
        ) {
            [$code, $out] = self::orbit(['loops', $this->written(Build::model(['hut' => '3'], [], [], ['roof' => $formula]))]);
            self::assertSame($end[0], $code);
            self::assertStringContainsString($end[1], $out);
        }
        foreach (['--most=-1' => 2, '--most=many' => 2, '--format=csv' => 2] as $option => $end) {
            self::assertSame([$end, ''], array_slice(self::orbit(['loops', $map, $option]), 0, 2));
        }
        file_put_contents($map, "from,to,sign\nfame,guests,much\n");
        [$code, $out, $err] = self::orbit(['loops', $map]);
        self::assertSame([3, ''], [$code, $out]);
        self::assertStringContainsString('Line 2 of the map has the sign `much`', $err);
    }
}
