<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Edit\SetCurve;
use MerryOrbit\Core\Edit\SetStock;
use MerryOrbit\Core\Exchange\FileRefused;
use MerryOrbit\Core\Exchange\Imported;
use MerryOrbit\Core\Exchange\ModelFile;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Curve;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Model\TimeSettings;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class XmileTest extends TestCase
{
    private static function import(
        string $variables,
        string $more = '',
        string $specs = '<sim_specs method="rk4" time_units="Months"><start>0</start><stop>10</stop><dt>0.5</dt></sim_specs>',
        string $views = '',
    ): Imported {
        return ModelFile::import(
            '<?xml version="1.0" encoding="utf-8"?><xmile version="1.0" xmlns="http://docs.oasis-open.org/xmile/ns/XMILE/v1.0"><header><name>Kelp</name></header>'.
                $specs.
                $more.
                '<model><variables>'.
                $variables.
                '</variables>'.
                $views.
                '</model></xmile>',
        );
    }

    private static function formula(Imported $imported, string $name): string
    {
        $id = (string) $imported->model->idOf($name);

        return $imported->model->formulaOf($imported->model->elements[$id]);
    }

    /** @return list<string> */
    private static function log(Imported $imported): array
    {
        return array_map(static fn ($l): string => "$l->where: $l->sentence", $imported->log);
    }

    /** @return iterable<string, array{string, string}> */
    public static function equations(): iterable
    {
        foreach (
            [
                'a + b * 2' => 'a + b * 2',
                '-a^2' => '-a^2',
                '(-a)^2' => '(-a)^2',
                '2^-a' => '2^-a',
                'NOT a = b' => '(not a) = b',
                'NOT (a = b)' => 'not a = b',
                'a < b < c' => '(a < b) < c',
                'a MOD b * 2' => 'mod(a, b) * 2',
                'IF a > b THEN a ELSE IF a = b THEN 1 ELSE b' => 'if(a > b, a, if(a = b, 1, b))',
                'a { comment } + b' => 'a + b',
                'A + "a"' => 'a + a',
                'STEP(5, 3) + RAMP(2, 1)' => 'step(5, 3) + ramp(2, 1)',
                'PULSE(10, 2, 5)' => 'pulse(10, 2, 5)',
                'SMTH3(a, 5)' => 'smooth(a, 5, 3)',
                'SMTHN(a, 5, 4, 2)' => 'smooth(a, 5, 4, 2)',
                'DELAY(a, 2)' => 'shift(a, 2)',
                'DELAY1(a, 2, 7)' => 'delay(a, 2, 1, 7)',
                'MAX(a, b) + MIN(a, 3)' => 'max(a, b) + min(a, 3)',
                'INT(a)' => 'floor(a)',
                'TIME * DT + STARTTIME - STOPTIME' => 'time * time step + start time - end time',
                'INIT(a)' => 'initial(a)',
                'PREVIOUS(a, 3)' => 'previous(a, 3)',
                'PI * ARCTAN(a)' => 'pi * atan(a)',
                'TREND(a, 5, 0.1)' => 'trend(a, 5, 0.1)',
                'FORCST(a, 5, 2)' => 'forecast(a, 5, 2)',
                'a AND b OR NOT c' => 'a and b or not c',
                '1e3 + .5' => '1e3 + .5',
                'LOG10(a) - LN(b)' => 'log10(a) - ln(b)',
                'odd_name + "odd\nname"' => 'odd name + odd name',
                'SAFEDIV(a, b)' => 'divide(a, b, 0)',
            ] as $equation => $formula
        ) {
            yield $equation => [$equation, $formula];
        }
    }

    #[DataProvider('equations')]
    public function test_equations_become_formulas(string $equation, string $formula): void
    {
        $imported = self::import(
            '<aux name="a"><eqn>3</eqn></aux><aux name="b"><eqn>4</eqn></aux><aux name="c"><eqn>TIME</eqn></aux><aux name="Odd\nname"><eqn>1</eqn></aux><aux name="result"><eqn>'.
                htmlspecialchars($equation).
                '</eqn></aux>',
        );
        self::assertSame(strtolower($formula), strtolower(self::formula($imported, 'result')));
        self::assertSame([], self::log($imported));
        self::assertSame([], Build::codes($imported->model));
    }

    public function test_a_whole_file(): void
    {
        $imported = self::import(
            '<stock name="Kelp forest"><doc>The beds.</doc><eqn>100</eqn><inflow>growth</inflow><outflow>"lost\nto urchins"</outflow><outflow>storms</outflow><non_negative/><units>tonnes</units></stock>
             <flow name="growth"><eqn>Kelp_forest * crowding</eqn><non_negative/></flow><flow name="lost to urchins"><eqn>5</eqn></flow><flow name="storms"><eqn>2</eqn></flow>
             <aux name="crowding"><eqn>Kelp_forest</eqn><gf type="extrapolate"><xscale min="0" max="200"/><ypts>0.4,0.1,0</ypts></gf></aux>
             <gf name="price curve" type="discrete"><xpts>0;1;4</xpts><ypts sep=";">1;2;3</ypts></gf>
             <aux name="price"><eqn>price_curve(TIME)</eqn></aux>',
            '<model_units><unit name="tonne"><alias>tonnes</alias><alias>t</alias></unit></model_units><dimensions><dim name="bay" size="2"/></dimensions>',
            '<sim_specs method="rk45" time_units="Years"><start>1</start><stop>9</stop><dt reciprocal="true">4</dt><savestep>1</savestep></sim_specs>',
            '<views><view type="stock_flow" name="Beds"><stock name="Kelp_forest" x="200" y="120"/><flow name="growth" x="100" y="120"><pts><pt x="20" y="120"/><pt x="180" y="120"/></pts></flow><connector><from>price</from><to>storms</to></connector></view></views>',
        );
        $model = $imported->model;
        self::assertEquals(new TimeSettings(1, 9, 0.25, 'Years', Method::DormandPrince, 1.0), $model->time);
        $kelp = $model->elements[(string) $model->idOf('kelp forest')];
        self::assertInstanceOf(Stock::class, $kelp);
        self::assertSame([true, 'tonnes', 'The beds.'], [$kelp->neverNegative, $kelp->unit, $kelp->note]);
        self::assertSame(['lost to urchins', 'storms'], array_map(static fn ($f): string => $f->name, $model->outflows($kelp->id)));
        self::assertTrue($model->inflows($kelp->id)[0]->oneWay);
        self::assertSame('crowding curve(Kelp forest)', self::formula($imported, 'crowding'));
        $curve = $model->elements[(string) $model->idOf('crowding curve')];
        self::assertInstanceOf(Curve::class, $curve);
        self::assertSame([[[0.0, 0.4], [100.0, 0.1], [200.0, 0.0]], Beyond::Extended], [$curve->points, $curve->beyond]);
        $price = $model->elements[(string) $model->idOf('price curve')];
        self::assertInstanceOf(Curve::class, $price);
        self::assertSame(Between::Stepped, $price->between);
        self::assertSame(['tonne = tonnes = t'], $model->sameUnits);
        self::assertSame([['bay', ['1', '2']]], array_map(static fn ($d): array => [$d->name, $d->names], $model->dimensions));
        self::assertSame('Beds', $model->sheets[0]->name);
        self::assertSame(
            [200.0, 20.0],
            [$model->placements[$kelp->id]->at->x, $model->placements[(string) $model->idOf('growth')]->source?->x],
        );
        self::assertCount(1, $model->links);
        self::assertSame(['sim_specs: The adaptive method became Dormand–Prince 5(4).'], array_slice(self::log($imported), -1));
    }

    public function test_modules_are_laid_flat_and_macros_written_out(): void
    {
        $imported = self::import(
            '<aux name="rain"><eqn>7</eqn></aux><module name="lens"><connect to="lens.supply" from="rain"/></module><aux name="seen"><eqn>lens.level * double(rain)</eqn></aux>',
            '<macro name="double"><parm>x</parm><eqn>x + x</eqn></macro><model name="lens"><variables><stock name="level"><eqn>10</eqn><inflow>filling</inflow></stock><flow name="filling"><eqn>supply / 2</eqn></flow><aux name="supply" access="input"><eqn>1</eqn></aux></variables></model>',
        );
        self::assertSame('lens level * (rain + rain)', self::formula($imported, 'seen'));
        self::assertSame(
            ['rain', 'lens supply / 2'],
            [self::formula($imported, 'lens supply'), self::formula($imported, 'lens filling')],
        );
        self::assertEqualsWithDelta(45.0, Build::run($imported->model)->column((string) $imported->model->idOf('lens level'))[20], 1e-9);
        self::assertStringContainsString('laid flat', implode("\n", self::log($imported)));
    }

    /** @return iterable<string, array{string, string, string}> */
    public static function losses(): iterable
    {
        yield 'a vendor’s element' => [
            '<aux name="a"><eqn>1</eqn><w:shade xmlns:w="http://nowhere.example/w">3</w:shade></aux>',
            'a',
            '<w:shade> is no part of the standard',
        ];
        yield 'a vendor’s attribute' => [
            '<aux name="a" w:shade="3" xmlns:w="http://nowhere.example/w"><eqn>1</eqn></aux>',
            'a',
            'The attribute w:shade is no part of the standard',
        ];
        yield 'something else in a variable' => ['<aux name="a"><eqn>1</eqn><wibble/></aux>', 'a', '<wibble> is not carried over'];
        yield 'an unknown function' => ['<aux name="a"><eqn>WIBBLE(1, 2)</eqn></aux>', 'a', '`WIBBLE` is no function of the standard'];
        yield 'an unknown curve' => ['<aux name="a"><eqn>wibble(1)</eqn></aux>', 'a', 'no graphical function of the file'];
        yield 'a broken equation' => ['<aux name="a"><eqn>1 + </eqn></aux>', 'a', 'ends too early'];
        yield 'a queue' => ['<stock name="a"><eqn>1</eqn><queue/></stock>', 'a', 'never goes below zero'];
        yield 'an array' => [
            '<aux name="a"><dimensions><dim name="bay"/></dimensions><element subscript="1"><eqn>5</eqn></element></aux>',
            'a',
            'It has dimensions (bay)',
        ];
        yield 'a subscript' => ['<aux name="a"><eqn>b[1]</eqn></aux><aux name="b"><eqn>1</eqn></aux>', 'a', 'subscript of `b`'];
        yield 'chance' => ['<aux name="a"><eqn>NORMAL(5, 1, 99)</eqn></aux>', 'a', 'draws other numbers here'];
        yield 'a unit conversion' => [
            '<stock name="s"><eqn>1</eqn><outflow>a</outflow></stock><flow name="a"><eqn>1</eqn><multiplier>3</multiplier></flow>',
            'a',
            'unit conversion by 3',
        ];
        yield 'a conveyor that fills up' => [
            '<stock name="a"><eqn>1</eqn><outflow>o</outflow><conveyor><len>3</len><capacity>10</capacity></conveyor></stock><flow name="o"/>',
            'a',
            '<capacity>',
        ];
        yield 'two of one name' => [
            '<aux name="a"><eqn>1</eqn></aux><aux name="A"><eqn>2</eqn></aux>',
            'A 2',
            'Two variables are called `A`',
        ];
        yield 'a missing flow' => ['<stock name="a"><eqn>1</eqn><inflow>nothing</inflow></stock>', 'a', 'is no flow of the file'];
        yield 'bad points' => ['<gf name="a"><xpts>1,0</xpts><ypts>1,2</ypts></gf>', 'a', 'make no curve'];
        yield 'infinity' => ['<aux name="a"><eqn>INF</eqn></aux>', 'a', '1e300'];
    }

    #[DataProvider('losses')]
    public function test_what_cannot_be_carried_over_is_said(string $variables, string $where, string $words): void
    {
        $imported = self::import($variables);
        $lines = array_values(array_filter($imported->log, static fn ($l): bool => str_contains($l->sentence, $words)));
        self::assertCount(1, $lines, implode("\n", self::log($imported)));
        self::assertSame($where, $lines[0]->where);
        self::assertSame($imported->model->idOf(strtolower($where)), $lines[0]->element, 'the line leads to its element');
        self::assertNotNull($lines[0]->element);
    }

    /** @return iterable<string, array{string, string}> */
    public static function hostile(): iterable
    {
        $bomb =
            '<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "aaaaaaaaaa">'.
            implode(
                '',
                array_map(
                    static fn (int $i): string => '<!ENTITY '.chr(97 + $i).' "'.str_repeat('&'.chr(96 + $i).';', 10).'">',
                    range(1, 20),
                ),
            ).
            ']><xmile><model>&u;</model></xmile>';
        yield 'an expansion bomb' => [$bomb, 'document type or entities'];
        yield 'a file from the network' => ['<?xml version="1.0"?><!DOCTYPE x SYSTEM "file:///etc/passwd"><xmile/>', 'document type'];
        yield 'garbage' => ['<xmile '.str_repeat("\x07\xff(<", 1_700_000), 'no readable XML'];
        yield 'a long text' => ['<'.str_repeat('a', 5_000_000), 'does not begin with an <xmile>'];
        yield 'deep' => ['<xmile>'.str_repeat('<a>', 100_000), 'deep within each other'];
        yield 'wide' => ['<xmile>'.str_repeat('<a/>', 1_000_000).'</xmile>', 'more than 150,000 elements'];
        yield 'cut off' => ['<xmile version="1.0"><model><variables>', 'breaks off'];
        yield 'another root' => ['<html><body><xmile></xmile></body></html>', 'does not begin with an <xmile>'];
        yield 'without a model' => ['<xmile></xmile>', 'holds no <model>'];
        yield 'modules in a circle' => [
            '<xmile><model><variables><module name="a"/></variables></model><model name="a"><variables><module name="a"/></variables></model></xmile>',
            'in a circle',
        ];
        yield 'empty' => ["  \n", 'empty'];
        yield 'nul' => ["<xmile>\0</xmile>", 'does not begin'];
    }

    #[DataProvider('hostile')]
    public function test_hostile_files_are_refused_at_once_with_a_sentence(string $file, string $words): void
    {
        $took = Pace::seconds(static function () use ($file, $words): void {
            try {
                ModelFile::import($file);
                self::fail('It was read.');
            } catch (FileRefused $e) {
                self::assertStringContainsString($words, $e->getMessage());
            }
        });
        self::assertLessThan(1.0, $took);
    }

    /** A model of everything that both formats hold exactly. */
    private static function everything(Method $method): Model
    {
        $model = new Model('Everything & more', 'A note.', new TimeSettings(2, 22, 0.25, 'week', $method, 0.5));
        $edits = [
            new AddElement('s', Kind::Stock, 'lens', '40 + p', 'ML', 'A lens of <fresh> water.'),
            new AddElement('w', Kind::Stock, 'on the way', '6'),
            new AddElement('c', Kind::Curve, 'thin "lens"'),
            new AddElement('d', Kind::Curve, 'price'),
            new AddElement('p', Kind::Parameter, 'usual rain', '5%', '1/week'),
            new AddElement('q', Kind::Parameter, 'R&D share', '0.4'),
            new AddElement('f', Kind::Flow, 'rain', 'max(0, usual rain * lens - 0.1)', from: null, to: 's'),
            new AddElement('g', Kind::Flow, 'wells', '"thin ""lens"""(lens) + 1', from: 's', to: 'w'),
            new AddElement('h', Kind::Flow, 'shore loss', 'lens / 3', from: 's'),
            new AddElement('k', Kind::Flow, 'arriving', '', from: 'w'),
            new AddElement('l', Kind::Flow, 'spilling', 'on the way * ("R&D share" / 10)', from: 'w'),
            new SetCurve('c', [[0.0, 0.0], [20.0, 3.5], [50.0, 4.0]], Between::Straight, Beyond::Extended, ''),
            new SetCurve('d', [[0.0, 2.0], [10.0, 3.0]], Between::Stepped, Beyond::Held, ''),
            new SetStock('s', true, ''),
            new SetStock('w', false, '2 + time step'),
        ];
        foreach ($edits as $edit) {
            $model = $edit->apply($model);
        }

        return $model;
    }

    public function test_export_then_import_gives_the_same_model_and_numbers(): void
    {
        foreach ([Method::Euler, Method::RungeKutta4] as $method) {
            $model = self::everything($method);
            [$file, $log] = ModelFile::export($model, 'xmile');
            self::assertSame([], $log);
            $back = ModelFile::import($file);
            self::assertSame([], self::log($back));
            // Ids and the way a number is written are not part of the standard.
            $text = static fn (Model $m): string => (string) preg_replace(
                ['/"id":"[^"]*",/', '/,"priority":[\d.]+/', '/5%/'],
                ['', '', '0.05'],
                NativeFile::export($m),
            );
            self::assertSame($text($model), $text($back->model));
            $before = Build::run($model);
            $after = Build::run($back->model);
            self::assertNull($before->fault);
            foreach ($model->elements as $id => $element) {
                if ($before->has($id)) {
                    self::assertSame(
                        $before->column($id),
                        $after->column((string) $back->model->idOf(strtolower($element->name))),
                        $element->name,
                    );
                }
            }
        }
    }

    /** Random formulas of all functions but chance run the same after going through the standard, even where helpers are needed. */
    public function test_random_models_run_the_same_through_the_standard(): void
    {
        mt_srand(31);
        $compared = 0;
        for ($i = 0; $i < 150; $i++) {
            $formula = RandomFormula::text(3);
            if (preg_match('/random|gaussian|lognormal|exponential|poisson|binomial|drift/', $formula) === 1) {
                continue;
            }
            $model = Build::model(
                ['p' => '1.5', 'q' => '-2'],
                ['s' => '3'],
                ['f' => ['sin(time) + 0.7 - s / 9', 'to' => 's']],
                ['v' => $formula],
                new TimeSettings(0, 6, 0.5, 'year', Method::Euler),
            );
            $run = Build::run($model);
            [$file] = ModelFile::export($model, 'xmile');
            $back = ModelFile::import($file);
            self::assertSame([], self::log($back), $formula);
            self::assertSame([], Analyser::analyse($back->model)->blockers(), "$formula in $file");
            if (! $run->has('v') || $run->fault !== null) {
                continue;
            }
            $again = Build::run($back->model);
            self::assertNull($again->fault, "$formula: {$again->fault?->sentence()}");
            foreach ($run->column('v') as $step => $value) {
                self::assertEqualsWithDelta(
                    $value,
                    $again->column((string) $back->model->idOf('v'))[$step],
                    1e-9 * max(1.0, abs($value)),
                    "$formula at step $step",
                );
                $compared++;
            }
        }
        self::assertGreaterThan(500, $compared);
    }

    public function test_every_function_can_be_written(): void
    {
        $written = array_filter(Catalogue::all(), static fn ($f): bool => ! in_array($f->group, ['series', 'dimensions'], true));
        foreach ($written as $function) {
            for ($count = $function->fewest(); $count <= min(5, $function->most()); $count++) {
                $arguments = array_slice(['1.5', '2', '3', '4', '5'], 0, $count);
                [$file, $log] = ModelFile::export(
                    Build::model([], [], [], ['v' => $function->name.'('.implode(', ', $arguments).')']),
                    'xmile',
                );
                $back = ModelFile::import($file);
                self::assertSame([], Analyser::analyse($back->model)->blockers(), $function->name." with $count");
                self::assertSame(
                    $function->group === 'chance' ||
                        in_array($function->name, ['total', 'highest', 'lowest', 'latch', 'hold', 'times'], true),
                    $log !== [],
                    $function->name,
                );
            }
        }
    }

    public function test_random_equations_are_read_or_refused_and_kept(): void
    {
        mt_srand(8);
        $pieces = [
            'a',
            '"odd\\nname"',
            '1',
            '2.5e3',
            '+',
            '-',
            '*',
            '/',
            '^',
            '(',
            ')',
            ',',
            '<>',
            '=',
            'AND',
            'NOT',
            'MOD',
            'IF',
            'THEN',
            'ELSE',
            'MAX(',
            'STEP(',
            'SMTH3(',
            'TIME',
            'SELF',
            '[',
            ']',
            '{',
            '}',
            '$',
            '.',
            '"',
            "\x07",
            'é',
            '"a',
        ];
        $variables = '<aux name="a"><eqn>3</eqn></aux>';
        $texts = [];
        for ($i = 0; $i < 1500; $i++) {
            $text = implode(' ', array_map(static fn (): string => $pieces[mt_rand(0, count($pieces) - 1)], range(1, mt_rand(1, 12))));
            $texts["v $i"] = trim((string) preg_replace('/\x07/', '', $text));
            $variables .= "<aux name=\"v $i\"><eqn>".htmlspecialchars($texts["v $i"]).'</eqn></aux>';
        }
        $imported = self::import($variables);
        $kept = $read = 0;
        foreach ($texts as $name => $text) {
            $said = array_filter(
                $imported->log,
                static fn ($l): bool => $l->where === $name && str_contains($l->sentence, 'could not be read'),
            );
            if ($said !== []) {
                // Mentions show the spelling of the definition.
                $loose = static fn (string $t): string => (string) preg_replace('/\s+/', '', $t);
                self::assertSame($loose($text), $loose(self::formula($imported, $name)), 'it is kept as it stands');
                $kept++;
            } else {
                $read++;
            }
        }
        self::assertGreaterThan(20, $read);
        self::assertGreaterThan(500, $kept);
        self::assertNotSame([], Analyser::analyse($imported->model)->problems);
    }

    public function test_what_concerns_the_whole_file_is_said_too(): void
    {
        $imported = ModelFile::import('<xmile version="1.0" xmlns="http://docs.oasis-open.org/xmile/ns/XMILE/v1.0" xmlns:w="http://nowhere.example/w"><header><name>Bay</name><author>A</author><uuid>1</uuid></header><w:prefs/><data/><style/>
            <sim_specs method="gear, rk4" w:fast="1" pause="2"><start>0</start><stop>10</stop><dt>0.3</dt></sim_specs><model><sim_specs/><variables><banana/></variables></model></xmile>');
        $log = implode("\n", self::log($imported));
        foreach (
            [
                'header: Not carried over: author, uuid',
                '<w:prefs> is no part of the standard',
                'data: <data> is not carried over',
                'style: Colours',
                'attribute w:fast',
                'Pauses and partial runs',
                'Gear’s method became Rosenbrock',
                'ends at 10.2 instead of 10',
                'Time settings of its own',
                '<banana> is nothing the standard puts here',
            ] as $line
        ) {
            self::assertStringContainsString($line, $log);
        }
        self::assertSame([], $imported->model->time->problems());
    }

    public function test_conveyors_become_transit_stocks(): void
    {
        $conveyor = static fn (string $attributes): Imported => self::import(
            "<stock name=\"spat\"><eqn>12</eqn><inflow>settling</inflow><outflow>growing</outflow><outflow>eaten</outflow><conveyor $attributes><len>2 * way</len></conveyor></stock>".
                '<flow name="settling"><eqn>6</eqn></flow><flow name="growing"><eqn>99</eqn></flow><flow name="eaten"><eqn>0.1</eqn><leak/></flow><aux name="way"><eqn>1</eqn></aux>',
        );
        $exact = $conveyor('exponential_leak="true"');
        $spat = $exact->model->elements[(string) $exact->model->idOf('spat')];
        self::assertInstanceOf(Stock::class, $spat);
        self::assertSame('2 * way', $spat->travel->text($exact->model->nameOf(...)));
        self::assertSame(['', 'spat * 0.1'], [self::formula($exact, 'growing'), self::formula($exact, 'eaten')]);
        self::assertSame([], self::log($exact));
        $linear = $conveyor('');
        self::assertSame('spat * 0.1 / (2 * way)', self::formula($linear, 'eaten'));
        self::assertStringContainsString('evenly along the way', self::log($linear)[0]);
        // In balance what enters is what arrives and what is eaten.
        $run = Build::run($exact->model);
        $id = static fn (string $name): string => (string) $exact->model->idOf($name);
        self::assertEqualsWithDelta(6.0, $run->column($id('growing'))[20] + $run->column($id('eaten'))[20], 0.05);
    }

    public function test_what_never_goes_below_zero_by_default_does_so_here(): void
    {
        $variables =
            '<stock name="a"><eqn>1</eqn><outflow>f</outflow></stock><stock name="b"><eqn>1</eqn><non_negative>false</non_negative></stock><flow name="f"><eqn>2</eqn></flow>';
        foreach (
            [
                '<behavior><non_negative/></behavior>' => [true, false, true],
                '<behavior><stock><non_negative/></stock></behavior>' => [true, false, false],
                '' => [false, false, false],
            ] as $behavior => $expected
        ) {
            $model = self::import($variables, (string) $behavior)->model;
            [$a, $b, $f] = array_map(static fn (string $name) => $model->elements[(string) $model->idOf($name)], ['a', 'b', 'f']);
            self::assertInstanceOf(Stock::class, $a);
            self::assertInstanceOf(Stock::class, $b);
            self::assertInstanceOf(\MerryOrbit\Core\Model\Flow::class, $f);
            self::assertSame($expected, [$a->neverNegative, $b->neverNegative, $f->oneWay]);
        }
    }

    public function test_modules_within_modules_and_their_inputs(): void
    {
        $imported = self::import(
            '<aux name="rain"><eqn>3</eqn></aux><module name="north"><connect to="north.supply" from="rain"/></module><module name="south"/><aux name="both"><eqn>north.inner.level + south.inner.level</eqn></aux>',
            implode(
                '',
                array_map(
                    static fn (
                        string $name,
                    ): string => "<model name=\"$name\"><variables><aux name=\"supply\" access=\"input\"><eqn>1</eqn></aux><module name=\"inner\"><connect to=\"inner.tap\" from=\"supply\"/></module></variables></model>",
                    ['north', 'south'],
                ),
            ).
                '<model name="inner"><variables><stock name="level"><eqn>0</eqn><inflow>pouring</inflow></stock><flow name="pouring"><eqn>tap</eqn></flow><aux name="tap" access="input"><eqn>9</eqn></aux></variables></model>',
        );
        self::assertSame([], Build::codes($imported->model));
        self::assertEqualsWithDelta(
            10 * (3 + 1),
            Build::run($imported->model)->column((string) $imported->model->idOf('both'))[20],
            1e-9,
        );
        self::assertCount(4, $imported->log);
    }

    public function test_sheets_and_places_survive(): void
    {
        $imported = self::import(
            '<stock name="lens"><eqn>1</eqn><inflow>rain</inflow></stock><flow name="rain"><eqn>a</eqn></flow><aux name="a"><eqn>1</eqn></aux><aux name="b"><eqn>2</eqn></aux>',
            views: '<views><style/>
            <view type="stock_flow" name="Water"><stock name="lens" x="100" y="50"/><flow name="rain" x="50" y="50"><pts><pt x="10" y="50"/><pt x="90" y="50"/></pts></flow><aux name="nothing" x="1" y="1"/></view>
            <view type="stock_flow" name="Rest"><aux name="a" x="7.5" y="-8"/><aux name="lens" x="1" y="1"/></view><view type="interface"><button/></view></views>',
        );
        [$xmile] = ModelFile::export($imported->model, 'xmile');
        $back = ModelFile::import($xmile)->model;
        foreach ([$imported->model, $back] as $model) {
            self::assertSame(['Water', 'Rest'], array_map(static fn ($s): string => $s->name, $model->sheets));
            $place = static fn (string $name) => $model->placements[(string) $model->idOf($name)] ?? null;
            self::assertSame([100.0, 50.0, 'main'], [$place('lens')?->at->x, $place('lens')?->at->y, $place('lens')?->sheet]);
            self::assertSame([7.5, -8.0, 'sheet-2'], [$place('a')?->at->x, $place('a')?->at->y, $place('a')?->sheet]);
            self::assertSame(10.0, $place('rain')?->source?->x);
            self::assertNull($place('b'), 'what has no place is laid out later');
        }
        self::assertStringContainsString('view of the type interface', implode("\n", self::log($imported)));
    }

    public function test_a_draft_leaves_as_it_stands_and_says_so(): void
    {
        $model = (new \MerryOrbit\Core\Edit\SetEnd('v > 3'))->apply(
            Build::model(
                ['p' => '1'],
                [],
                [],
                ['v' => '2 * ('],
                new TimeSettings(0, 10, 1, 'day', Method::Rosenbrock, startDate: '2031-04-01'),
            ),
        );
        $model = (new \MerryOrbit\Core\Edit\SetRange('p', 0, 4, 0.5))->apply($model)->with([
            'tracks' => [\MerryOrbit\Core\Model\Plot::track('v')],
            'links' => ['p v' => new \MerryOrbit\Core\Model\Link('p', 'v')],
        ]);
        [$file, $log] = ModelFile::export($model, 'xmile');
        $said = implode("\n", array_map(static fn ($l): string => "$l->where: $l->sentence", $log));
        foreach (
            [
                'v: Its formula cannot be read',
                'condition that ends a run',
                'calendar date',
                'tolerance of the method',
                'plotted at the foot',
                'steps of dials',
            ] as $words
        ) {
            self::assertStringContainsString($words, $said);
        }
        $back = ModelFile::import($file);
        self::assertSame('2 * (', self::formula($back, 'v'));
        self::assertCount(1, $back->model->links);
        self::assertSame(Method::Rosenbrock, $back->model->time->method);
    }

    public function test_dimensions_are_kept_and_spread_to_what_uses_them(): void
    {
        $imported = self::import(
            '<stock name="oysters"><dimensions><dim name="terrace"/></dimensions><eqn>5</eqn></stock><aux name="price"><dimensions><dim name="age"/></dimensions><element subscript="young"><eqn>1</eqn></element><element subscript="old"><eqn>3</eqn></element></aux><aux name="worth"><eqn>oysters * price</eqn></aux><aux name="half"><eqn>worth / 2</eqn></aux><aux name="wind"><eqn>TIME</eqn></aux>',
            '<dimensions><dim name="terrace"><elem name="north"/><elem name="south"/></dim><dim name="age" size="2"/></dimensions>',
        );
        $model = $imported->model;
        $analysis = Analyser::analyse($model);
        $shape = static fn (string $name): array => $analysis->extents[(string) $model->idOf($name)] ?? [];
        self::assertSame(
            [['terrace'], ['age'], ['terrace', 'age'], ['terrace', 'age'], []],
            array_map($shape, ['oysters', 'price', 'worth', 'half', 'wind']),
        );
        self::assertSame([], Build::codes($model));
        self::assertStringContainsString('old: 3', $model->elements[(string) $model->idOf('price')]->note);
        foreach (['native', 'xmile'] as $format) {
            $back = ModelFile::import(ModelFile::export($model, $format)[0])->model;
            self::assertSame(['terrace'], $back->shapes[(string) $back->idOf('oysters')] ?? null, $format);
            self::assertSame(['north', 'south'], $back->dimensions[0]->names);
        }
        self::assertNull(Build::run($model)->fault);
    }

    /** A pulse without a time between pulses comes once, as the standard has it. */
    public function test_a_pulse_without_an_interval_comes_once(): void
    {
        foreach (['PULSE(10, 2)', 'PULSE(10, 2, 0)', 'PULSE(10, 2, never)'] as $equation) {
            $imported = self::import(
                "<stock name=\"s\"><eqn>0</eqn><inflow>f</inflow></stock><flow name=\"f\"><eqn>$equation</eqn></flow><aux name=\"never\"><eqn>0</eqn></aux>",
            );
            $column = Build::run($imported->model)->column((string) $imported->model->idOf('s'));
            self::assertEqualsWithDelta(10.0, end($column), 1e-9, $equation);
        }
        $imported = self::import(
            '<stock name="s"><eqn>0</eqn><inflow>f</inflow></stock><flow name="f"><eqn>PULSE(10, 2, often)</eqn></flow><aux name="often"><eqn>3</eqn></aux>',
        );
        $column = Build::run($imported->model)->column((string) $imported->model->idOf('s'));
        self::assertEqualsWithDelta(30.0, end($column), 1e-9, 'at 2, 5 and 8');
    }

    public function test_each_module_has_a_sheet_of_its_own_and_aliases_become_echoes(): void
    {
        $imported = ModelFile::import('<xmile version="1.0"><sim_specs><start>0</start><stop>2</stop></sim_specs><model><variables><aux name="rain"><eqn>1</eqn></aux><module name="north"/><module name="south"/></variables>
            <views><view><aux name="rain" x="100" y="90"/><alias uid="7" x="300" y="90"><of>rain</of></alias><alias x="1" y="2"><of>nobody</of></alias></view></views></model>
            <model name="north"><variables><stock name="level"><eqn>1</eqn></stock></variables><views><view name="Drawn"><stock name="level" x="500" y="60"/></view></views></model>
            <model name="south"><variables><stock name="level"><eqn>1</eqn></stock><aux name="depth"><eqn>level</eqn></aux></variables></model></xmile>');
        $model = $imported->model;
        self::assertSame(['Main', 'north', 'south'], array_map(static fn ($s): string => $s->name, $model->sheets));
        $at = static fn (string $name): array => [
            $model->placements[(string) $model->idOf($name)]->sheet,
            $model->placements[(string) $model->idOf($name)]->at->x,
        ];
        self::assertSame(['main', 100.0], $at('rain'));
        self::assertSame([$model->sheets[1]->id, 500.0], $at('north level'));
        self::assertSame([$model->sheets[2]->id, $model->sheets[2]->id], [$at('south level')[0], $at('south depth')[0]]);
        self::assertNotSame($at('south level')[1], $at('south depth')[1]);
        self::assertCount(1, $model->echoes);
        self::assertSame(
            ['rain', 300.0],
            [$model->nameOf(array_values($model->echoes)[0]->element), array_values($model->echoes)[0]->at->x],
        );
        $drawing = array_filter($imported->log, static fn ($l): bool => $l->grade === \MerryOrbit\Core\Exchange\Grade::Drawing);
        self::assertCount(2, $drawing);
        self::assertSame([], $imported->guesses());
    }
}
