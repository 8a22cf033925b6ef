<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Grip;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Simulate\Trajectory;
use PHPUnit\Framework\Attributes\DataProvider;

/** What is taken by hand where many are computed in loops: the same as where each is written out, and for single members, too. */
final class HeldInLoopsTest extends RosterCase
{
    private const GRIPS = [
        'a stock' => ['water' => ['signal' => 'constant', 'values' => ['value' => 7.0]]],
        'a stock between two times' => [
            'water' => ['signal' => 'step', 'values' => ['before' => 3.0, 'value' => 8.0, 'at' => 4.0], 'from' => 2.0, 'until' => 6.0],
        ],
        'one element of a stock' => [
            'water[b]' => ['signal' => 'ramp', 'values' => ['before' => 1.0, 'value' => 5.0, 'at' => 1.0, 'to' => 7.0]],
        ],
        'one that never goes below zero' => ['salt[c]' => ['signal' => 'constant', 'values' => ['value' => 0.5], 'until' => 5.0]],
        'one that is drawn' => ['water[a]' => ['signal' => 'drawn', 'points' => [[0.0, 1.0], [4.0, 9.0], [10.0, 2.0]]]],
        'a flow and a parameter' => [
            'seeping[c]' => ['signal' => 'constant', 'values' => ['value' => 0.1]],
            'share' => ['signal' => 'constant', 'values' => ['value' => 0.4], 'from' => 3.0],
        ],
    ];

    /** @return iterable<string, array{string, Method}> */
    public static function holds(): iterable
    {
        foreach (array_keys(self::GRIPS) as $what) {
            foreach ([Method::Euler, Method::Heun, Method::RungeKutta4] as $method) {
                yield "$what, {$method->value}" => [$what, $method];
            }
        }
    }

    #[DataProvider('holds')]
    public function test_loops_hold_what_single_formulas_hold(string $what, Method $method): void
    {
        $grips = self::grips(self::GRIPS[$what]);
        $model = self::ponds()->with(['time' => new TimeSettings(0, 10, 0.25, 'day', $method)]);
        $looped = Analyser::made($model, $grips, 1);
        self::assertNotNull($looped->shaped);
        $apart = Analyser::made($model, $grips, PHP_INT_MAX);
        self::assertNull($apart->shaped);
        [$one, $other] = [Build::simulator()->run($looped), Build::simulator()->run($apart)];
        self::assertNull($one->fault);
        $moved = 0.0;
        $free = Build::simulator()->run(Analyser::made($model, [], PHP_INT_MAX));
        foreach (['water', 'salt', 'seeping', 'share of all'] as $id) {
            foreach (
                $id === 'share of all' ? ['share-of-all'] : array_map(static fn (string $e): string => "{$id}[$e]", ['a', 'b', 'c']) as $key
            ) {
                foreach (array_keys($one->times()) as $i) {
                    self::assertEqualsWithDelta($other->value($key, $i), $one->value($key, $i), 1e-12, "$key at $i");
                    $moved = max($moved, abs((float) $free->value($key, $i) - (float) $one->value($key, $i)));
                }
            }
        }
        self::assertGreaterThan(0.05, $moved);
    }

    /** One boat is held, whether it was there or is yet to come: it has that value as long as it is there, and the others go on as before. */
    public function test_one_member_is_held_and_the_others_do_not_notice(): void
    {
        $free = self::boats([]);
        $born = array_values(array_filter($free->crews['boat']->members, static fn (array $m): bool => $m['from'] !== null))[2];
        foreach (['kelpie', $born['id']] as $id) {
            $held = self::boats(["sound[$id]" => ['signal' => 'constant', 'values' => ['value' => 0.25]]]);
            $ids = array_column($held->crews['boat']->members, 'id');
            self::assertSame(array_column($free->crews['boat']->members, 'id'), $ids);
            foreach ($ids as $number => $other) {
                $life = $held->crews['boat']->lifeOf($number, 'sound');
                self::assertNotSame([], $life);
                $expected =
                    $other === $id ? array_map(static fn (): float => 0.25, $life) : $free->crews['boat']->lifeOf($number, 'sound');
                self::assertSame($expected, $life, "$id: $other");
            }
        }
        // Between two times: before it, as it was; at its end it goes on from where it was held.
        $lives = array_map(static fn (int $n): int => count($free->crews['boat']->lifeOf($n, 'sound')), [0, 1, 2]);
        self::assertGreaterThan(12, max($lives));
        $longest = (int) array_search(max($lives), $lives, true);
        $id = $free->crews['boat']->members[$longest]['id'];
        $held = self::boats(["sound[$id]" => ['signal' => 'constant', 'values' => ['value' => 0.25], 'from' => 1.0, 'until' => 2.0]]);
        $life = array_values($held->crews['boat']->lifeOf($longest, 'sound'));
        $as = array_values($free->crews['boat']->lifeOf($longest, 'sound'));
        self::assertSame(array_slice($as, 0, 4), array_slice($life, 0, 4));
        self::assertSame(array_fill(0, 4, 0.25), array_slice($life, 4, 4));
        self::assertEqualsWithDelta(0.25 * (1 - 0.25 * 0.1), $life[9], 1e-12);
    }

    public function test_a_formula_has_exceptions_for_members_by_name(): void
    {
        $model = self::fleet();
        $record = json_decode(NativeFile::export($model), true);
        self::assertIsArray($record);
        self::assertIsArray($record['elements']);
        $wear = array_search('wear', array_column($record['elements'], 'name'), true);
        self::assertIsArray($record['elements'][$wear]);
        $record['elements'][$wear]['exceptions'] = [['for' => ['boat' => ['tern']], 'formula' => '0']];
        $run = Build::simulator()->run(Analyser::analyse(NativeFile::import((string) json_encode($record))->model));
        self::assertSame([1.0], array_values(array_unique($run->crews['boat']->lifeOf(0, 'sound'))));
        self::assertLessThan(1.0, array_values($run->crews['boat']->lifeOf(1, 'sound'))[5]);
    }

    private static function ponds(): Model
    {
        $record = [
            'format' => 'merry-orbit model',
            'version' => 1,
            'name' => 'Ponds',
            'dimensions' => [['id' => 'pond', 'name' => 'pond', 'elements' => [['name' => 'a'], ['name' => 'b'], ['name' => 'c']]]],
            'elements' => [
                ['id' => 'share', 'kind' => 'parameter', 'name' => 'share', 'formula' => '0.2'],
                [
                    'id' => 'rain',
                    'kind' => 'auxiliary',
                    'name' => 'rain',
                    'formula' => 'position(pond) + sin(time)',
                    'dimensions' => ['pond'],
                ],
                ['id' => 'water', 'kind' => 'stock', 'name' => 'water', 'formula' => '2 * position(pond)', 'dimensions' => ['pond']],
                [
                    'id' => 'salt',
                    'kind' => 'stock',
                    'name' => 'salt',
                    'formula' => '1',
                    'dimensions' => ['pond'],
                    'neverNegative' => true,
                ],
                [
                    'id' => 'raining',
                    'kind' => 'flow',
                    'name' => 'raining',
                    'formula' => 'rain',
                    'to' => 'water',
                    'dimensions' => ['pond'],
                ],
                [
                    'id' => 'seeping',
                    'kind' => 'flow',
                    'name' => 'seeping',
                    'formula' => 'share * water',
                    'from' => 'water',
                    'dimensions' => ['pond'],
                ],
                [
                    'id' => 'washing',
                    'kind' => 'flow',
                    'name' => 'washing',
                    'formula' => '0.3 * water / 4',
                    'from' => 'salt',
                    'dimensions' => ['pond'],
                ],
                [
                    'id' => 'share-of-all',
                    'kind' => 'auxiliary',
                    'name' => 'share of all',
                    'formula' => 'sum(seeping, pond) / sum(water, pond)',
                ],
            ],
        ];

        return NativeFile::import((string) json_encode($record))->model;
    }

    private static function fleet(): Model
    {
        return self::model(
            ['tern', 'kelpie', 'ivy'],
            [
                ['name' => 'sound', 'kind' => 'stock', 'formula' => '1', 'dimensions' => ['boat']],
                ['name' => 'wear', 'kind' => 'flow', 'formula' => '0.1 * sound', 'from' => 'sound', 'dimensions' => ['boat']],
                ['name' => 'risk', 'formula' => '0.1', 'dimensions' => ['boat']],
                ['name' => 'bought', 'formula' => '1'],
            ],
            [
                'entries' => [['id' => 'new', 'words' => 'bought', 'of' => 'bought']],
                'exits' => [['id' => 'x', 'words' => 'sunk', 'kind' => 'chance', 'of' => 'risk']],
            ],
        );
    }

    /** @param  array<string, mixed>  $grips */
    private static function boats(array $grips): Trajectory
    {
        return Build::simulator()->run(Analyser::analyse(self::fleet(), self::grips($grips)));
    }

    /**
     * @param  array<string, mixed>  $records
     * @return array<string, Grip>
     */
    private static function grips(array $records): array
    {
        $grips = [];
        foreach ($records as $key => $record) {
            $grips[$key] = Grip::read($key, $record);
        }

        return $grips;
    }
}
