<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\AddSheet;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\MoveToSheet;
use MerryOrbit\Core\Edit\SetSymbol;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\Latex;
use MerryOrbit\Core\Formula\Parser;
use MerryOrbit\Core\Formula\Symbol;
use MerryOrbit\Core\Formula\Synonyms;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Problem\Remedy;
use MerryOrbit\Core\Structure\Checkup;
use MerryOrbit\Core\Structure\Comparison;
use MerryOrbit\Core\Structure\EquationText;
use MerryOrbit\Core\Structure\Layout;
use MerryOrbit\Core\Structure\Reefs;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class CheckupTest extends TestCase
{
    private static function sound(): Model
    {
        return Build::model(
            ['rain' => '2', 'share' => '0.1'],
            ['lens' => '50'],
            ['seeping' => ['rain', 'to' => 'lens'], 'wells' => ['share * lens', 'from' => 'lens']],
        );
    }

    /** @return list<Problem> */
    private static function all(Model $model): array
    {
        $analysis = Analyser::analyse($model);

        return [...Checkup::withRemedies($analysis, $analysis->problems), ...Checkup::of($analysis)];
    }

    private static function mended(Model $model, ?Remedy $remedy): Model
    {
        self::assertNotNull($remedy);
        foreach ($remedy->edits as $edit) {
            $model = EditReader::read($edit)->apply($model);
        }

        return $model;
    }

    /** @return iterable<string, array{list<array<string, mixed>>, string}> mistakes planted, the code they are found by */
    public static function mistakes(): iterable
    {
        yield 'still stock with a number' => [
            [
                ['kind' => 'add', 'id' => 'x', 'element' => 'stock', 'name' => 'x', 'formula' => '4'],
                ['kind' => 'track', 'id' => 'x', 'shown' => true],
            ],
            'health.still',
        ];
        yield 'still stock with a formula' => [
            [
                ['kind' => 'add', 'id' => 'x', 'element' => 'stock', 'name' => 'x', 'formula' => 'rain'],
                ['kind' => 'track', 'id' => 'x', 'shown' => true],
            ],
            'health.still',
        ];
        yield 'link without use' => [[['kind' => 'connect', 'from' => 'rain', 'to' => 'wells']], 'link.unused'];
        yield 'misspelt name' => [[['kind' => 'formula', 'id' => 'wells', 'text' => '2 * shre * "lens"']], 'name.unknown'];
        yield 'unknown name' => [
            [
                ['kind' => 'formula', 'id' => 'wells', 'text' => 'lens * share * drought years'],
                ['kind' => 'move', 'placements' => ['wells' => ['at' => ['x' => 1, 'y' => 1]]]],
            ],
            'name.unknown',
        ];
        yield 'computed parameter' => [[['kind' => 'formula', 'id' => 'rain', 'text' => '3 * share']], 'parameter.computed'];
    }

    /** @param  list<array<string, mixed>>  $edits */
    #[DataProvider('mistakes')]
    public function test_a_planted_mistake_is_found_and_mended_with_one_click(array $edits, string $code): void
    {
        $model = self::sound();
        self::assertSame([], self::all($model));
        foreach ($edits as $edit) {
            $model = EditReader::read($edit)->apply($model);
        }
        $found = array_values(array_filter(self::all($model), static fn (Problem $p): bool => $p->code === $code));
        self::assertNotSame([], $found);
        $after = self::mended($model, $found[0]->remedy);
        self::assertSame(
            [],
            array_filter(self::all($after), static fn (Problem $p): bool => $p->code === $code && $p->sentence === $found[0]->sentence),
        );
        self::assertGreaterThan(20, strlen($found[0]->sentence));
    }

    /** What nothing uses may have been made a minute ago: it is said, and not offered to be thrown away. */
    public function test_what_nothing_uses_is_said_without_a_button_that_deletes_it(): void
    {
        foreach (['parameter' => '1', 'auxiliary' => 'lens'] as $kind => $formula) {
            $model = EditReader::read(['kind' => 'add', 'id' => 'x', 'element' => $kind, 'name' => 'x', 'formula' => $formula])->apply(
                self::sound(),
            );
            $found = array_values(array_filter(self::all($model), static fn (Problem $p): bool => $p->code === 'health.unused'));
            self::assertCount(1, $found);
            self::assertStringContainsString('Nothing uses `x` yet', $found[0]->sentence);
            self::assertNull($found[0]->remedy);
        }
    }

    public function test_the_probable_name_takes_the_place_of_a_misspelt_one(): void
    {
        $model = EditReader::read(['kind' => 'formula', 'id' => 'wells', 'text' => '2 * shre * lens'])->apply(self::sound());
        $model = self::mended($model, self::all($model)[0]->remedy);
        self::assertSame('2 * share * lens', $model->formulaOf($model->elements['wells']));
    }

    public function test_a_run_tells_of_flows_that_never_flow(): void
    {
        $model = EditReader::read(['kind' => 'formula', 'id' => 'wells', 'text' => 'min(0, lens)'])->apply(self::sound());
        self::assertSame(['flow.still'], array_map(static fn ($n): string => $n->code, Build::run($model)->notices));
        self::assertSame([], Build::run(self::sound())->notices);
    }

    public function test_a_step_that_is_too_long_shows_in_the_run_and_can_be_halved(): void
    {
        // The stock is drawn to 10 with a time of 0.3: with Euler and a step of 0.5 it jumps over and back.
        $fast = static fn (TimeSettings $time): Model => Build::model(
            [],
            ['x' => '1'],
            ['in' => ['(10 - x) / 0.3', 'to' => 'x']],
            [],
            $time,
        );
        $time = new TimeSettings(0, 10, 0.5, 'year', Method::Euler);
        $notices = Build::run($fast($time))->notices;
        self::assertSame(['step.long'], array_map(static fn ($n): string => $n->code, $notices));
        $mended = self::mended($fast($time), $notices[0]->remedy);
        self::assertSame(0.25, $mended->time->step);
        self::assertSame($time->savedTimes(), $mended->time->savedTimes());
        self::assertSame([], Build::run($mended)->notices);
        // An oscillation of the system itself is none.
        $spring = Build::model(
            [],
            ['x' => '1', 'v' => '0'],
            ['dx' => ['v', 'to' => 'x'], 'dv' => ['-x', 'to' => 'v']],
            [],
            new TimeSettings(0, 20, 0.5, 'year', Method::RungeKutta4),
        );
        self::assertSame([], Build::run($spring)->notices);
    }

    public function test_what_a_stock_follows_from_is_told_and_set(): void
    {
        $model = self::sound();
        $analysis = Analyser::analyse($model);
        $lens = EquationText::of($analysis, $model->elements['lens']);
        self::assertSame('`lens` starts at `50`. All the time, `seeping` adds to it, and `wells` takes from it.', $lens->words);
        self::assertStringContainsString('\\frac{d\\,\\text{lens}}{dt} &= \\text{seeping} - \\text{wells}', $lens->latex);
        self::assertSame(
            '\\text{wells} = \\text{share} \\cdot \\text{lens}',
            EquationText::of($analysis, $model->elements['wells'])->latex,
        );
        self::assertStringContainsString('from `lens` to the outside', EquationText::of($analysis, $model->elements['wells'])->words);
    }

    /** @return iterable<string, array{string}> LaTeX by formula */
    public static function mathematics(): iterable
    {
        yield 'a * (b + c)' => ['\\text{a} \\cdot \\left(\\text{b} + \\text{c}\\right)'];
        yield 'a - (b - c)' => ['\\text{a} - \\left(\\text{b} - \\text{c}\\right)'];
        yield '(a + b) / 2' => ['\\frac{\\text{a} + \\text{b}}{2}'];
        yield '(a + 1)^2' => ['\\left(\\text{a} + 1\\right)^{2}'];
        yield 'if(a <= 3, 5%, 1e-3)' => [
            '\\begin{cases} 5\\% & \\text{if } \\text{a} \\le 3 \\\\ 1 \\cdot 10^{-3} & \\text{otherwise} \\end{cases}',
        ];
        yield 'sqrt(abs(a))' => ['\\sqrt{\\left|\\text{a}\\right|}'];
        yield 'max(a, -b) * pi' => ['\\max\\left(\\text{a},\\, -\\text{b}\\right) \\cdot \\pi'];
        yield '"R&D_50%"' => ['\\text{R\\&D\\_50\\%}'];
        yield 'smooth(a, 3)' => ['\\operatorname{smooth}\\left(\\text{a},\\, 3\\right)'];
    }

    #[DataProvider('mathematics')]
    public function test_formulas_are_set_as_mathematics(string $latex): void
    {
        self::assertSame($latex, (new Latex())->print(Parser::parse((string) $this->dataName())));
    }

    public function test_two_versions_are_compared_in_words(): void
    {
        $old = self::sound();
        $new = $old;
        foreach (
            [
                ['kind' => 'formula', 'id' => 'share', 'text' => '0.2'],
                ['kind' => 'rename', 'id' => 'rain', 'name' => 'drizzle'],
                ['kind' => 'delete', 'ids' => ['wells']],
                ['kind' => 'add', 'id' => 'sea', 'element' => 'stock', 'name' => 'sea', 'formula' => '0'],
                ['kind' => 'attach', 'id' => 'seeping', 'from' => 'sea', 'to' => 'lens'],
                ['kind' => 'time', 'start' => 0, 'end' => 20, 'step' => 0.5],
            ] as $edit
        ) {
            $new = EditReader::read($edit)->apply($new);
        }
        $list = Comparison::between($old, $new);
        $told = [];
        foreach ($list as $one) {
            $told["{$one['what']} {$one['name']}"] = array_map(
                static fn (array $f): string => "{$f['field']}: {$f['was']} → {$f['now']}",
                $one['fields'],
            );
        }
        self::assertSame(
            ['end: 10 → 20'],
            array_values(array_filter($told['changed Study and time'], static fn (string $t): bool => str_starts_with($t, 'end:'))),
        );
        self::assertSame(['name: rain → drizzle'], $told['changed drizzle']);
        self::assertSame(['formula: 0.1 → 0.2'], $told['changed share']);
        self::assertSame(['from: outside → sea'], $told['changed seeping'], 'a renamed cause changes no formula');
        self::assertArrayHasKey('added sea', $told);
        self::assertContains('formula:  → share * lens', $told['removed wells']);
        self::assertSame([], Comparison::between($new, $new));
    }

    public function test_a_new_name_is_read_wherever_the_thing_is_mentioned(): void
    {
        $old = EditReader::read(['kind' => 'end', 'text' => 'lens < rain'])->apply(self::sound());
        $told = static function (array $edit) use ($old): array {
            $list = Comparison::formulas($old, EditReader::read($edit)->apply($old));

            return array_combine(
                array_map(static fn (array $f): string => $f['element'] ?? 'the end', $list),
                array_map(static fn (array $f): string => "{$f['was']} → {$f['now']}", $list),
            );
        };
        self::assertSame(
            ['wells' => 'share * lens → share * "Lens, north"', 'the end' => 'lens < rain → "Lens, north" < rain'],
            array_intersect_key($told(['kind' => 'rename', 'id' => 'lens', 'name' => 'Lens, north']), ['wells' => 1, 'the end' => 1]),
        );
        self::assertSame(['share' => '0.1 → 0.2'], $told(['kind' => 'formula', 'id' => 'share', 'text' => '0.2']));
        self::assertSame([], $told(['kind' => 'note', 'id' => 'share', 'text' => 'How much is taken.']));
        // Independently: who mentions it is who has a link from it.
        $users = array_filter(
            $old->elements,
            static fn ($e): bool => array_filter($e->formulas(), static fn ($f): bool => $f->mentions('rain')) !== [],
        );
        self::assertEqualsCanonicalizing(
            [...array_keys($users), 'the end'],
            array_keys($told(['kind' => 'rename', 'id' => 'rain', 'name' => 'drizzle'])),
        );
    }

    public function test_large_models_are_sound_and_run(): void
    {
        foreach ([100, 500, 1500] as $size) {
            $model = Reefs::model($size);
            self::assertEqualsWithDelta($size, count($model->elements), 6);
            self::assertSame([], Build::codes($model));
            self::assertSame([], \MerryOrbit\Core\Unit\UnitChecker::check($model, Analyser::analyse($model)->nodes)->remarks);
            self::assertSame($model->placements, Layout::complete($model)->placements);
            foreach ($model->elements as $id => $element) {
                foreach (\MerryOrbit\Core\Edit\Echoes::causes($model, $element) as $cause) {
                    self::assertTrue($model->isOn($cause, $model->sheetOf($id)));
                }
            }
        }
        $run = Build::run(Reefs::model(100), [], new TimeSettings(0, 50, 0.1, 'year'));
        self::assertNull($run->fault);
        self::assertGreaterThan(1.0, min([INF, ...$run->column('kelp-1')]));
    }

    public function test_a_symbol_stands_in_equations_and_as_plain_text(): void
    {
        $model = Build::model(['rate' => '0.5'], ['lens' => '40'], ['wells' => ['lens * rate', 'from' => 'lens']]);
        foreach (['rate' => '\pi_r', 'lens' => 'K_{max}'] as $id => $symbol) {
            $model = (new SetSymbol($id, $symbol))->apply($model);
        }
        $analysis = Analyser::analyse($model);
        self::assertSame('\text{wells} = {K_{max}} \cdot {\pi_r}', EquationText::of($analysis, $model->elements['wells'])->latex);
        self::assertStringContainsString('\frac{d\,{K_{max}}}{dt}', EquationText::of($analysis, $model->elements['lens'])->latex);
        self::assertSame(['πᵣ', 'x̂', 'Kₘₐₓ', 'β₁₂', ''], array_map(Symbol::text(...), ['\pi_r', '\hat{x}', 'K_{max}', '\beta_{12}', '']));
        self::assertSame('\pi_r', NativeFile::import(NativeFile::export($model))->model->elements['rate']->symbol);
        foreach (['\evil', 'a_', 'x{', '<b>', '$x$', str_repeat('x', 41)] as $wrong) {
            self::assertNotNull(Symbol::refusal($wrong), $wrong);
            try {
                (new SetSymbol('rate', $wrong))->apply($model);
                self::fail('It was taken.');
            } catch (EditRefused $e) {
                self::assertNotSame('', $e->getMessage());
            }
        }
    }

    public function test_what_is_added_for_a_missing_name_stands_beside_its_user_and_on_nothing_else(): void
    {
        $model = Build::model([], ['lens' => '40'], ['wells' => ['lens * thirst * habit', 'from' => 'lens']]);
        $model = Layout::complete($model);
        $model = (new AddSheet('other', 'Other'))->apply($model);
        $model = (new MoveToSheet(['wells'], 'other'))->apply($model);
        for ($i = 0; $i < 3; $i++) {
            $problem = Checkup::withRemedies(Analyser::analyse($model), Analyser::analyse($model)->problems)[0] ?? null;
            if ($problem === null || $problem->code !== 'name.unknown') {
                break;
            }
            $edits = $problem->remedy->edits ?? [];
            self::assertSame('add', $edits[0]['kind'] ?? null);
            $model = EditReader::read($edits[0])->apply($model);
            $new = array_key_last($model->elements);
            self::assertSame('other', $model->placements[$new]->sheet);
            foreach ($model->placements as $id => $place) {
                if ($id !== $new && $place->sheet === 'other') {
                    self::assertTrue(
                        abs($place->at->x - $model->placements[$new]->at->x) >= 150 ||
                            abs($place->at->y - $model->placements[$new]->at->y) >= 65,
                        "$new on $id",
                    );
                }
            }
        }
        self::assertNotNull($model->idOf('thirst'));
        self::assertNotNull($model->idOf('habit'));
        $near = Build::model(['thirst' => '2'], [], [], ['x' => 'thrist * 2']);
        $near = Layout::complete($near);
        $problem = Checkup::withRemedies(Analyser::analyse($near), Analyser::analyse($near)->problems)[0];
        self::assertSame(['Write thirst instead', 'Add thrist as a parameter'], [$problem->remedy?->words, $problem->other?->words]);
    }

    public function test_every_function_is_found_by_other_words(): void
    {
        foreach (Catalogue::all() as $function) {
            if (! in_array($function->name, ['asin', 'acos', 'atan', 'sinh', 'cosh', 'tanh', 'atan2'], true)) {
                self::assertNotSame([], Synonyms::of($function->name), $function->name);
            }
            self::assertNotContains($function->name, Synonyms::of($function->name));
        }
        self::assertContains('integral', Synonyms::of('total'));
    }

    public function test_what_a_roster_goes_by_is_used(): void
    {
        foreach (['new-boats-for-old', 'the-mending-of-the-pier', 'where-the-boats-fish', 'oysters-on-order'] as $name) {
            $model = NativeFile::import((string) file_get_contents(__DIR__."/../../demo/$name.json"))->model;
            $unused = array_filter(self::all($model), static fn (Problem $p): bool => $p->code === 'health.unused');
            $about = array_map(static fn (Problem $p): string => $p->sentence, array_values($unused));
            // What is only looked at member by member or place by place has no track, and nothing goes by it.
            $looked = $name === 'new-boats-for-old' ? ['costs by harbour'] : [];
            foreach ($about as $sentence) {
                self::assertContains(explode('`', $sentence)[1], $looked, "$name: $sentence");
            }
        }
    }
}
