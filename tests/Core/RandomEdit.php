<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Model\Model;

/** Edits as a browser would send them, sensible and less so; uses mt_rand, so seed it. */
final class RandomEdit
{
    /** @return array<string, mixed> */
    public static function record(Model $model, int $number): array
    {
        $ids = array_keys($model->elements);
        $any = static fn (): string => $ids === [] ? 'none' : $ids[mt_rand(0, count($ids) - 1)];
        $name = static fn (): string => ['alpha', 'beta', 'R&D', 'time', 'nobody', 'lens', 'a b', 'rain'][mt_rand(0, 7)].
            (mt_rand(0, 1) === 0 ? '' : ' x');
        $formula = static fn (): string => mt_rand(0, 5) === 0
            ? 'half ( typed'
            : (mt_rand(0, 5) === 0
                ? ''
                : $name().(mt_rand(0, 3) === 0 ? '('.$name().')' : '').' * 2 + "'.$name().'"');
        $place = static fn (): array => [
            'at' => ['x' => mt_rand(-500, 500) / 2, 'y' => mt_rand(0, 500)],
            'source' => ['x' => 1.5, 'y' => 2],
        ];
        $stock = static fn (): ?string => mt_rand(0, 2) === 0 ? null : $any();

        $sheet = static fn (): string => $model->sheets[mt_rand(0, count($model->sheets) - 1)]->id;
        $point = static fn (): array => ['x' => mt_rand(-300, 900), 'y' => mt_rand(0, 500)];
        $shown = [...$ids, ...array_keys($model->echoes)];
        $appearance = static fn (): string => $shown === [] ? 'none' : $shown[mt_rand(0, count($shown) - 1)];

        $link = static fn (): string => (string) (array_keys($model->part('causalLinks'))[0] ?? 'none');

        return match (mt_rand(0, 27)) {
            0, 1, 2 => [
                'kind' => 'add',
                'id' => "n$number",
                'element' => ['stock', 'flow', 'auxiliary', 'parameter', 'curve', 'series'][mt_rand(0, 5)],
                'name' => mt_rand(0, 2) === 0 ? '' : $name(),
                'formula' => $formula(),
                'placement' => $place(),
            ],
            3 => ['kind' => 'add', 'id' => "f$number", 'element' => 'flow', 'from' => $stock(), 'to' => $stock(), 'placement' => $place()],
            4, 5 => ['kind' => 'rename', 'id' => $any(), 'name' => $name()],
            6, 7 => ['kind' => 'formula', 'id' => $any(), 'text' => $formula()],
            8 => ['kind' => ['unit', 'note'][mt_rand(0, 1)], 'id' => $any(), 'text' => $name()],
            9 => ['kind' => 'range', 'id' => $any(), 'low' => mt_rand(0, 3), 'high' => 4, 'step' => null],
            10 => ['kind' => 'move', 'placements' => [$appearance() => $place(), $any() => $place()]],
            11 => ['kind' => 'connect', 'from' => $any(), 'to' => $any()],
            12 => ['kind' => 'disconnect', 'from' => $any(), 'to' => $any()],
            13 => ['kind' => 'delete', 'ids' => [$appearance(), $any()]],
            14 => mt_rand(0, 1) === 0
                ? ['kind' => 'attach', 'id' => $any(), 'from' => $stock(), 'to' => $stock()]
                : ['kind' => 'become', 'id' => $any(), 'element' => ['auxiliary', 'parameter'][mt_rand(0, 1)]],
            24, 25 => [
                'kind' => 'say',
                'id' => "l$number",
                'from' => $name(),
                'fromId' => "a$number",
                'to' => $name(),
                'toId' => "b$number",
                'sign' => ['+', '-', '?'][mt_rand(0, 2)],
            ],
            26 => mt_rand(0, 1) === 0
                ? ['kind' => 'between', 'link' => $link(), 'id' => "c$number", 'name' => $name(), 'second' => "m$number"]
                : ['kind' => 'put', 'part' => 'wordings', 'id' => "w$number", 'fields' => ['of' => $any(), 'number' => 'many']],
            27 => [
                ['kind' => 'merge', 'id' => $any(), 'other' => $any()],
                ['kind' => 'split', 'id' => $any(), 'other' => "d$number", 'name' => "split $number", 'links' => [$link()]],
                ['kind' => 'map-move', 'spots' => [$any() => $point()]],
            ][mt_rand(0, 2)],
            16 => ['kind' => 'echo', 'id' => "echo$number", 'element' => $any(), 'at' => $point(), 'sheet' => $sheet()],
            17 => ['kind' => 'to-sheet', 'ids' => [$any(), $any(), $any()], 'sheet' => $sheet()],
            18 => match (mt_rand(0, 3)) {
                0, 1 => ['kind' => 'sheet-add', 'id' => "s$number", 'name' => "Sheet $number"],
                2 => ['kind' => 'sheet-rename', 'id' => $sheet(), 'name' => $name()],
                default => mt_rand(0, 1) === 0
                    ? ['kind' => 'sheet-remove', 'id' => $sheet()]
                    : ['kind' => 'sheet-order', 'ids' => array_reverse(array_map(static fn ($s): string => $s->id, $model->sheets))],
            },
            19 => match (mt_rand(0, 3)) {
                0 => ['kind' => 'bend', 'from' => $any(), 'to' => $any(), 'by' => mt_rand(0, 2) === 0 ? null : $point()],
                1 => [
                    'kind' => 'group',
                    'ids' => [$any(), $any()],
                    'name' => ['', 'shore', 'deep'][mt_rand(0, 2)],
                    'tint' => ['', 'moss', 'clay'][mt_rand(0, 2)],
                ],
                2 => ['kind' => 'symbol', 'id' => $any(), 'text' => ['\\pi_r', '', 'K_{max}'][mt_rand(0, 2)]],
                default => ['kind' => 'plot', 'ids' => [$any()], 'shown' => mt_rand(0, 1) === 0],
            },
            21 => match (mt_rand(0, 3)) {
                0 => [
                    'kind' => 'scenario',
                    'id' => 'c'.mt_rand(1, 4),
                    'name' => $name(),
                    'on' => mt_rand(0, 1) === 0 ? [] : ['c'.mt_rand(1, 4)],
                    'place' => mt_rand(0, 5),
                    'setting' => [
                        'parameters' => [$any() => mt_rand(0, 9) / 2],
                        'grips' => mt_rand(0, 1) === 0
                                ? []
                                : [$any() => ['signal' => 'step', 'values' => ['before' => 1, 'value' => 2.5, 'at' => 3], 'from' => 1]],
                        'time' => mt_rand(0, 1) === 0 ? [] : ['end' => 20],
                    ],
                ],
                1 => [
                    'kind' => 'plot-put',
                    'track' => mt_rand(0, 1) === 0,
                    'before' => mt_rand(0, 1) === 0 ? null : 'v1',
                    'plot' => [
                        'id' => 'v'.mt_rand(1, 4),
                        'of' => [$any(), $any()],
                        'name' => $name(),
                        'kind' => ['lines', 'phase'][mt_rand(0, 1)],
                        'options' => mt_rand(0, 1) === 0
                                ? []
                                : [
                                    'log' => true,
                                    'low' => 1,
                                    'fit' => true,
                                    'marks' => [['at' => mt_rand(0, 1) === 0 ? 5 : $any(), 'name' => 'limit']],
                                    'periods' => [['from' => 1, 'until' => 3]],
                                ],
                    ],
                ],
                2 => [
                    'kind' => 'finding',
                    'id' => 'd'.mt_rand(1, 3),
                    'title' => $name(),
                    'words' => '',
                    'view' => ['kind' => 'plot', 'plot' => ['of' => [$any()]]],
                    'place' => mt_rand(0, 9),
                ],
                default => [
                    'kind' => 'choices',
                    'id' => $any(),
                    'choices' => mt_rand(0, 1) === 0 ? [] : [['name' => 'low', 'value' => 1], ['name' => 'high', 'value' => 2.5]],
                ],
            },
            23 => mt_rand(0, 3) === 0
                ? ['kind' => 'drop', 'part' => 'causalLinks', 'id' => 'l'.mt_rand(1, 5)]
                : [
                    'kind' => 'put',
                    'part' => 'causalLinks',
                    'id' => 'l'.mt_rand(1, 5),
                    'fields' => [
                        'from' => $any(),
                        'to' => $any(),
                        ...mt_rand(0, 1) === 0
                            ? ['sign' => ['+', '-', null][mt_rand(0, 2)], 'late' => mt_rand(0, 1) === 0]
                            : ['grounds' => $name(), 'strength' => ['weak', 'strong', 'odd'][mt_rand(0, 2)]],
                    ],
                ],
            22 => [
                'kind' => 'discard',
                'what' => ['scenario', 'plot', 'track', 'finding'][mt_rand(0, 3)],
                'id' => ['c', 'v', 'v', 'd'][mt_rand(0, 3)].mt_rand(1, 4),
            ],
            20 => [
                'kind' => 'together',
                'edits' => [
                    ['kind' => 'unit', 'id' => $any(), 'text' => 'm^3'],
                    ['kind' => 'formula', 'id' => $any(), 'text' => $formula()],
                ],
            ],
            default => match (mt_rand(0, 10)) {
                0 => [
                    'kind' => 'time',
                    'start' => 0,
                    'end' => mt_rand(1, 9),
                    'step' => 0.5,
                    'unit' => 'week',
                    'method' => 'euler',
                    'saveEvery' => null,
                ],
                3 => [
                    'kind' => 'stock',
                    'id' => $any(),
                    'neverNegative' => mt_rand(0, 1) === 0,
                    'travel' => mt_rand(0, 1) === 0 ? '' : $formula(),
                ],
                4 => [
                    'kind' => 'flow',
                    'id' => $any(),
                    'oneWay' => mt_rand(0, 1) === 0,
                    'priority' => mt_rand(0, 1) === 0 ? null : mt_rand(-2, 2),
                ],
                5, 6 => [
                    'kind' => 'curve',
                    'id' => $any(),
                    'points' => array_map(
                        static fn (int $x): array => [$x, mt_rand(0, 9) / 2],
                        mt_rand(0, 1) === 0 ? [] : range(0, mt_rand(1, 4)),
                    ),
                    'between' => ['straight', 'smooth', 'stepped'][mt_rand(0, 2)],
                    'beyond' => 'extended',
                    'inputUnit' => 'kg',
                ],
                7 => ['kind' => 'end', 'text' => mt_rand(0, 1) === 0 ? '' : $formula()],
                9 => ['kind' => 'dimensions', 'dimensions' => self::dimensions()],
                10 => ['kind' => 'extent', 'id' => $any(), 'dimensions' => mt_rand(0, 1) === 0 ? [] : [['bay', 'age'][mt_rand(0, 1)]]],
                8 => ['kind' => 'same-units', 'lines' => mt_rand(0, 1) === 0 ? [] : ['person = people', 'boat=ship']],
                1 => ['kind' => 'track', 'id' => $any(), 'shown' => mt_rand(0, 1) === 0],
                default => ['kind' => 'title', 'name' => $name(), 'note' => $name()],
            },
        };
    }

    /** @return list<array<string, mixed>> */
    private static function dimensions(): array
    {
        $elements = [['id' => 'n', 'name' => 'north'], ['id' => 's', 'name' => 'south']];
        $bay = ['id' => 'bay', 'name' => ['bay', 'cove'][mt_rand(0, 1)], 'elements' => $elements];
        $age = ['id' => 'age', 'name' => 'age', 'from' => 0, 'to' => mt_rand(1, 3)];

        return [[], [$bay], [$bay, $age], [$age]][mt_rand(0, 3)];
    }

    /**
     * Edits with numbers from the edge of what a number can be.
     *
     * @return array<string, mixed>
     */
    public static function extreme(Model $model): array
    {
        $ids = array_keys($model->elements);
        $any = static fn (): string => $ids === [] ? 'none' : $ids[mt_rand(0, count($ids) - 1)];
        $numbers = [0, -0.0, 1e-320, 1e-308, 1e-30, -1, 1e30, 1e154, 1e300, 1.7e308, -1.7e308, 0.1, 3];
        $number = static fn (): float|int => $numbers[mt_rand(0, count($numbers) - 1)];
        $several = static function (int $count) use ($number): array {
            $values = array_map(static fn (): float|int => $number(), range(1, $count));
            sort($values);

            return $values;
        };

        return match (mt_rand(0, 9)) {
            0, 1 => [
                'kind' => 'curve',
                'id' => $any(),
                'points' => array_map(static fn (float|int $x): array => [$x, $number()], $several(mt_rand(1, 6))),
                'between' => ['straight', 'smooth', 'stepped'][mt_rand(0, 2)],
                'beyond' => ['held', 'extended'][mt_rand(0, 1)],
                'inputUnit' => '',
            ],
            2 => [
                'kind' => 'range',
                'id' => $any(),
                'low' => $number(),
                'high' => $number(),
                'step' => mt_rand(0, 1) === 0 ? null : $number(),
            ],
            3 => [
                'kind' => 'time',
                'start' => $number(),
                'end' => $number(),
                'step' => $number(),
                'unit' => 'week',
                'method' => ['euler', 'heun', 'rk4', 'dopri5', 'rosenbrock'][mt_rand(0, 4)],
                'saveEvery' => mt_rand(0, 1) === 0 ? null : $number(),
            ],
            4 => ['kind' => 'move', 'placements' => [$any() => ['at' => ['x' => $number(), 'y' => $number()]]]],
            5 => [
                'kind' => 'scenario',
                'id' => 'c'.mt_rand(1, 4),
                'name' => 'far',
                'on' => ['c'.mt_rand(1, 4)],
                'place' => $number(),
                'setting' => ['parameters' => [$any() => $number()], 'time' => ['end' => $number()]],
            ],
            6 => ['kind' => 'choices', 'id' => $any(), 'choices' => [['name' => 'low', 'value' => $number()]]],
            7 => [
                'kind' => 'plot-put',
                'track' => mt_rand(0, 1) === 0,
                'plot' => [
                    'id' => 'v'.mt_rand(1, 4),
                    'of' => [$any()],
                    'name' => '',
                    'kind' => 'lines',
                    'options' => [
                        'low' => $number(),
                        'high' => $number(),
                        'marks' => [['at' => $number(), 'name' => '']],
                        'periods' => [['from' => $number(), 'until' => $number()]],
                    ],
                ],
            ],
            8 => [
                'kind' => 'formula',
                'id' => $any(),
                'text' => ['1e400', '1e308 * 10', '0 / 0', 'exp(exp(exp(9)))', '(-1) ^ 0.5', 'time ^ -1', 'sin(time * 1e300)'][
                    mt_rand(0, 6)
                ],
            ],
            default => ['kind' => 'flow', 'id' => $any(), 'oneWay' => true, 'priority' => $number()],
        };
    }
}
