<?php

declare(strict_types=1);

use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Model;

/** Models over many elements to measure with, each as a study's file and as a person would write it in PHP for speed. */
final class Fields
{
    /**
     * @param  array<string, list<string>>  $dimensions  elements by name
     * @param  list<array{string, string, string, 3?: list<string>, 4?: array<string, mixed>}>  $elements  kind, name, formula, dimensions, more
     * @param  array<string, list<array{list<string>, float}>>  $tables
     * @param  list<array<string, mixed>>  $mappings
     */
    private function __construct(
        public readonly string $name,
        public readonly int $steps,
        public readonly float $step,
        public readonly string $method,
        /** Of which variable the last values are compared. */
        public readonly string $watched,
        /** A PHP function of steps and step that gives them. */
        public readonly string $byHand,
        private readonly array $dimensions,
        private readonly array $elements,
        private readonly array $tables,
        private readonly array $mappings = [],
    ) {
    }

    public static function of(string $name): self
    {
        return match ($name) {
            'terraces' => self::terraces(),
            'boats' => self::boats(1_000, 1_000, 'rk4'),
            'bays' => self::bays(200),
            default => throw new InvalidArgumentException("There is no field $name."),
        };
    }

    /** @return list<string> */
    private static function elements(string $letter, int $count): array
    {
        return array_map(static fn (int $i): string => $letter.$i, range(1, $count));
    }

    /** @return list<array{list<string>, float}> a value for each element, by a rule that PHP by hand uses too */
    private static function spread(string $letter, int $count, float $from, float $by): array
    {
        return array_map(static fn (int $i): array => [[$letter.($i + 1)], $from + $by * $i], range(0, $count - 1));
    }

    public function model(): Model
    {
        $file = [
            'format' => NativeFile::FORMAT,
            'version' => NativeFile::VERSION,
            'dimensions' => array_map(
                static fn (string $n, array $e): array => ['name' => $n, 'elements' => $e],
                array_keys($this->dimensions),
                $this->dimensions,
            ),
            'elements' => array_map(
                static fn (array $e): array => [
                    'kind' => $e[0],
                    'name' => $e[1],
                    'formula' => $e[2],
                    'dimensions' => $e[3] ?? [],
                    ...$e[4] ?? [],
                ],
                $this->elements,
            ),
            'tables' => array_map(
                static fn (string $of, array $v): array => ['id' => "t-$of", 'of' => $of, 'values' => $v],
                array_keys($this->tables),
                $this->tables,
            ),
            'mappings' => $this->mappings,
            'time' => [
                'start' => 0.0,
                'end' => $this->steps * $this->step,
                'step' => $this->step,
                'unit' => 'year',
                'method' => $this->method,
                'saveEvery' => $this->steps * $this->step,
            ],
        ];

        return NativeFile::import(json_encode($file, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION))->model;
    }

    /** Oysters of 40 ages on 30 terraces: 5,080 equations. */
    private static function terraces(): self
    {
        [$terraces, $ages] = [self::elements('t', 30), self::elements('a', 40)];
        $both = ['terrace', 'age'];
        $flow = static fn (string $name, string $formula, string $end): array => ['flow', $name, $formula, [], [$end => 'oysters']];

        return new self(
            'terraces',
            500,
            0.02,
            'euler',
            'oysters',
            self::TERRACES,
            ['terrace' => $terraces, 'age' => $ages],
            [
                ['parameter', 'room', '900', ['terrace']],
                ['parameter', 'frailty', '0.1', ['age']],
                ['parameter', 'seed', '40'],
                ['stock', 'oysters', '20', $both],
                $flow('ageing', 'oysters * 0.9', 'from'),
                $flow('arriving', 'ageing[age: previous; else seed]', 'to'),
                $flow('dying', 'oysters * weakness * pressure', 'from'),
                ['auxiliary', 'weakness', 'frailty + 0.02 * max(warmth, 0)'],
                ['auxiliary', 'living', 'sum(oysters, age)'],
                ['auxiliary', 'pressure', 'min(4, 1 + living / room)'],
                ['auxiliary', 'deaths', 'sum(dying, age)'],
                ['auxiliary', 'food', 'living * 0.3'],
                ['auxiliary', 'hunger', 'max(0, food - 100)'],
                ['auxiliary', 'strain', 'hunger * pressure'],
                ['auxiliary', 'ease', '1 / (1 + strain)'],
                ['auxiliary', 'worth', 'ease * living'],
                ['auxiliary', 'warmth', 'wave(1, 4)'],
            ],
            ['room' => self::spread('t', 30, 700.0, 11.0), 'frailty' => self::spread('a', 40, 0.02, 0.01)],
        );
    }

    private const TERRACES = <<<'PHP'
    function terraces_by_hand(int $steps, float $h): array
    {
        $room = []; $frailty = []; $y = array_fill(0, 1200, 20.0); $seed = 40.0;
        for ($t = 0; $t < 30; $t++) { $room[] = 700.0 + 11.0 * $t; }
        for ($a = 0; $a < 40; $a++) { $frailty[] = 0.02 + 0.01 * $a; }
        $weak = array_fill(0, 40, 0.0);
        for ($i = 0; ; $i++) {
            $warmth = sin(2.0 * M_PI * ($i * $h) / 4.0);
            $add = 0.02 * ($warmth > 0.0 ? $warmth : 0.0);
            for ($a = 0; $a < 40; $a++) { $weak[$a] = $frailty[$a] + $add; }
            if ($i === $steps) { return $y; }
            $n = 0;
            for ($t = 0; $t < 30; $t++) {
                $living = 0.0;
                for ($k = $t * 40, $e = $k + 40; $k < $e; $k++) { $living += $y[$k]; }
                $pressure = 1.0 + $living / $room[$t];
                $pressure = $pressure < 4.0 ? $pressure : 4.0;
                $deaths = 0.0;
                $arriving = $seed;
                for ($a = 0; $a < 40; $a++, $n++) {
                    $x = $y[$n];
                    $ageing = $x * 0.9;
                    $dying = $x * $weak[$a] * $pressure;
                    $deaths += $dying;
                    $y[$n] = $x + $h * ($arriving - $ageing - $dying);
                    $arriving = $ageing;
                }
                $food = $living * 0.3;
                $hunger = $food - 100.0;
                $hunger = $hunger > 0.0 ? $hunger : 0.0;
                $strain = $hunger * $pressure;
                $ease = 1.0 / (1.0 + $strain);
                $worth = $ease * $living;
            }
        }
    }
    PHP;

    /** Boats, each with 30 equations of its own. */
    public static function boats(int $boats, int $steps, string $method): self
    {
        $elements = [
            ['parameter', 'size', '3', ['boat']],
            ['parameter', 'luck', '1', ['boat']],
            ['stock', 'fish', 'size * 10', ['boat']],
            ['stock', 'rust', '0.1', ['boat']],
            ['stock', 'coins', '5', ['boat']],
            ['flow', 'f1', 'a20 * 0.3', [], ['to' => 'fish']],
            ['flow', 'f2', 'fish * 0.05', [], ['from' => 'fish']],
            ['flow', 'f3', 'a12 * 0.001', [], ['to' => 'rust']],
            ['flow', 'f4', 'rust * 0.2', [], ['from' => 'rust']],
            ['flow', 'f5', 'a24', [], ['to' => 'coins']],
            ['flow', 'f6', 'coins * 0.1', [], ['from' => 'coins']],
        ];
        foreach (self::BOAT as $name => $formula) {
            $elements[] = ['auxiliary', $name, $formula];
        }

        return new self(
            'boats',
            $steps,
            0.01,
            $method,
            'coins',
            str_replace('{boats}', (string) $boats, self::BOATS),
            ['boat' => self::elements('b', $boats)],
            $elements,
            [
                'size' => self::spread('b', $boats, 2.0, 0.001),
                'luck' => self::spread('b', $boats, 0.9, 0.0001),
            ],
        );
    }

    private const BOAT = [
        'a1' => 'fish * luck',
        'a2' => 'rust * fish * 0.01',
        'a3' => 'a1 - a2',
        'a4' => 'a3 * 0.5 + coins',
        'a5' => 'min(a4, fish)',
        'a6' => 'a5 * 0.1',
        'a7' => 'a6 + a1',
        'a8' => 'a7 / (1 + rust)',
        'a9' => 'a8 * a2',
        'a10' => 'a9 - coins * 0.01',
        'a11' => 'a10 * 0.3',
        'a12' => 'a11 + a8',
        'a13' => 'a12 * 0.9',
        'a14' => 'a13 - a4',
        'a15' => 'a14 * 0.01',
        'a16' => 'a15 + fish * 0.02',
        'a17' => 'a16 * 0.7',
        'a18' => 'a17 - a5 * 0.001',
        'a19' => 'a18 * 0.2',
        'a20' => 'a19 + size',
        'a21' => 'a20 * 0.3',
        'a22' => 'a21 - 0.1 * a3',
        'a23' => 'a22 * 0.5',
        'a24' => 'min(a23 + 2, 3)',
    ];

    private const BOATS = <<<'PHP'
    function boats_by_hand(int $steps, float $h): array
    {
        $size = $luck = $fish = $rust = $coins = [];
        for ($n = 0; $n < {boats}; $n++) {
            $size[] = 2.0 + 0.001 * $n; $luck[] = 0.9 + 0.0001 * $n; $fish[] = $size[$n] * 10.0; $rust[] = 0.1; $coins[] = 5.0;
        }
        $zero = array_fill(0, {boats}, 0.0);
        $half = $h / 2.0; $sixth = $h / 6.0;
        for ($i = 0; $i < $steps; $i++) {
            [$xf, $xr, $xc, $sf, $sr, $sc] = [$fish, $rust, $coins, $zero, $zero, $zero];
            for ($s = 0; $s < 4; $s++) {
                $w = $s === 1 || $s === 2 ? 2.0 : 1.0; $reach = $s === 2 ? $h : $half;
                for ($n = 0; $n < {boats}; $n++) {
                    $f = $xf[$n]; $r = $xr[$n]; $c = $xc[$n];
                    $a1 = $f * $luck[$n]; $a2 = $r * $f * 0.01; $a3 = $a1 - $a2; $a4 = $a3 * 0.5 + $c; $a5 = $a4 < $f ? $a4 : $f;
                    $a6 = $a5 * 0.1; $a7 = $a6 + $a1; $a8 = $a7 / (1.0 + $r); $a9 = $a8 * $a2; $a10 = $a9 - $c * 0.01;
                    $a11 = $a10 * 0.3; $a12 = $a11 + $a8; $a13 = $a12 * 0.9; $a14 = $a13 - $a4; $a15 = $a14 * 0.01;
                    $a16 = $a15 + $f * 0.02; $a17 = $a16 * 0.7; $a18 = $a17 - $a5 * 0.001; $a19 = $a18 * 0.2; $a20 = $a19 + $size[$n];
                    $a21 = $a20 * 0.3; $a22 = $a21 - 0.1 * $a3; $a23 = $a22 * 0.5; $a24 = $a23 + 2.0 < 3.0 ? $a23 + 2.0 : 3.0;
                    $k = $a20 * 0.3 - $f * 0.05; $sf[$n] += $w * $k; $xf[$n] = $fish[$n] + $reach * $k;
                    $k = $a12 * 0.001 - $r * 0.2; $sr[$n] += $w * $k; $xr[$n] = $rust[$n] + $reach * $k;
                    $k = $a24 - $c * 0.1; $sc[$n] += $w * $k; $xc[$n] = $coins[$n] + $reach * $k;
                }
            }
            for ($n = 0; $n < {boats}; $n++) { $fish[$n] += $sixth * $sf[$n]; $rust[$n] += $sixth * $sr[$n]; $coins[$n] += $sixth * $sc[$n]; }
        }
        return $coins;
    }
    PHP;

    /** Larvae drift between bays: every bay reaches every other, by a mapping. */
    private static function bays(int $bays): self
    {
        $pairs = [];
        for ($i = 0; $i < $bays; $i++) {
            for ($k = 0; $k < $bays; $k++) {
                $pairs[] = ['b'.($i + 1), 'c'.($k + 1), (1.0 + (($i * 7 + $k * 3) % 11)) / (6.0 * $bays)];
            }
        }

        return new self(
            'bays',
            200,
            0.05,
            'rk4',
            'larvae',
            str_replace('{bays}', (string) $bays, self::BAYS),
            ['bay' => self::elements('b', $bays), 'coast' => self::elements('c', $bays)],
            [
                ['stock', 'larvae', '10', ['bay']],
                ['stock', 'settled', '10', ['coast']],
                ['auxiliary', 'larvae arriving', 'sum(larvae, currents)'],
                ['flow', 'settling', 'larvae arriving * 0.2', [], ['to' => 'settled']],
                ['flow', 'lost', 'settled * 0.3', [], ['from' => 'settled']],
                ['flow', 'spawning', '1 + larvae * 0.1', [], ['to' => 'larvae']],
                ['flow', 'leaving', 'larvae * 0.2', [], ['from' => 'larvae']],
            ],
            [],
            [['id' => 'currents', 'name' => 'currents', 'from' => 'bay', 'to' => 'coast', 'pairs' => $pairs]],
        );
    }

    private const BAYS = <<<'PHP'
    function bays_by_hand(int $steps, float $h): array
    {
        $w = [];
        for ($k = 0; $k < {bays}; $k++) { for ($i = 0; $i < {bays}; $i++) { $w[] = (1.0 + ($i * 7 + $k * 3) % 11) / (6.0 * {bays}); } }
        $larvae = $settled = array_fill(0, {bays}, 10.0);
        $zero = array_fill(0, {bays}, 0.0);
        $half = $h / 2.0; $sixth = $h / 6.0;
        for ($n = 0; $n < $steps; $n++) {
            [$xl, $xs, $sl, $ss] = [$larvae, $settled, $zero, $zero];
            for ($s = 0; $s < 4; $s++) {
                $weight = $s === 1 || $s === 2 ? 2.0 : 1.0; $reach = $s === 2 ? $h : $half;
                for ($k = 0, $m = 0; $k < {bays}; $k++) {
                    $drift = 0.0;
                    for ($i = 0; $i < {bays}; $i++, $m++) { $drift += $w[$m] * $xl[$i]; }
                    $r = $drift * 0.2 - $xs[$k] * 0.3; $ss[$k] += $weight * $r; $xs[$k] = $settled[$k] + $reach * $r;
                }
                for ($i = 0; $i < {bays}; $i++) {
                    $x = $xl[$i]; $r = 1.0 + $x * 0.1 - $x * 0.2; $sl[$i] += $weight * $r; $xl[$i] = $larvae[$i] + $reach * $r;
                }
            }
            for ($i = 0; $i < {bays}; $i++) { $larvae[$i] += $sixth * $sl[$i]; $settled[$i] += $sixth * $ss[$i]; }
        }
        return $larvae;
    }
    PHP;
}
