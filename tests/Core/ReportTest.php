<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\RenameElement;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ReportPlan;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Report\Paper;
use MerryOrbit\Core\Report\PaperHtml;
use MerryOrbit\Core\Report\PaperMarkdown;
use MerryOrbit\Core\Report\PlotSvg;
use MerryOrbit\Core\Report\Report;
use MerryOrbit\Core\Simulate\Simulator;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class ReportTest extends TestCase
{
    private static function demo(string $name): Model
    {
        return NativeFile::import((string) file_get_contents(__DIR__."/../../demo/$name.json"))->model;
    }

    private static function paper(Model $model, ?ReportPlan $plan = null): Paper
    {
        return Report::of(new Simulator(ProgramStore::ofUser()), $model, $plan ?? new ReportPlan('report', 'A report'));
    }

    private static function document(string $html): \DOMDocument
    {
        $document = new \DOMDocument();
        $before = libxml_use_internal_errors(true);
        $document->loadHTML($html);
        libxml_use_internal_errors($before);

        return $document;
    }

    /** @return iterable<string, array{string}> */
    public static function demos(): iterable
    {
        foreach (glob(__DIR__.'/../../demo/*.json') ?: [] as $file) {
            yield basename($file, '.json') => [basename($file, '.json')];
        }
    }

    #[DataProvider('demos')]
    public function test_every_variable_of_a_demo_is_told_with_its_formula_and_every_picture_is_whole(string $demo): void
    {
        $model = self::demo($demo);
        $paper = self::paper($model);
        $files = PaperMarkdown::files($paper);
        $headings = array_column(
            array_filter($paper->pieces, static fn (array $p): bool => $p['kind'] === 'heading' && $p['level'] === 4),
            'text',
        );
        $expanded = Analyser::analyse($model)->model;
        self::assertEqualsCanonicalizing(
            array_values(array_map(static fn (Element $e): string => $e->name, $expanded->elements)),
            array_values(array_diff($headings, ['growth of reports'])),
        );
        foreach ($model->elements as $element) {
            foreach ($element->formulas() as $formula) {
                $text = trim($formula->text($model->nameOf(...)));
                self::assertStringContainsString($text, $files['report.md']);
            }
        }
        $pictures = array_filter($paper->pieces, static fn (array $p): bool => $p['kind'] === 'picture');
        self::assertCount(count($pictures), array_filter(array_keys($files), static fn (string $f): bool => str_ends_with($f, '.svg')));
        foreach ($pictures as $picture) {
            $svg = simplexml_load_string($picture['svg']);
            self::assertNotFalse($svg, $picture['caption']);
            self::assertStringNotContainsStringIgnoringCase('nan', (string) preg_replace('/<text.*?<\/text>/s', '', $picture['svg']));
            self::assertNotSame('', $picture['alt']);
            self::assertStringContainsString("(pictures/{$picture['name']}.svg)", $files['report.md']);
        }
        // One page that fetches nothing.
        $html = self::document((new PaperHtml())->of($paper));
        foreach (['script', 'link', 'img', 'iframe', 'object', 'form'] as $tag) {
            self::assertSame(0, $html->getElementsByTagName($tag)->length, $tag);
        }
        self::assertSame(count($pictures), $html->getElementsByTagName('figure')->length);
    }

    public function test_sections_are_told_in_their_order_with_own_words_and_what_says_nothing_is_left_out(): void
    {
        $plan = ReportPlan::read([
            'id' => 'r',
            'title' => 'For the council',
            'words' => 'Read *this* first.',
            'sections' => [
                ['kind' => 'uncertainty'],
                ['kind' => 'fits', 'words' => 'Nobody searched.'],
                ['kind' => 'question'],
                ['kind' => 'map'],
            ],
        ]);
        $paper = self::paper(self::demo('ferry-season'), $plan);
        $told = array_column(
            array_filter($paper->pieces, static fn (array $p): bool => $p['kind'] === 'heading' && $p['level'] === 2),
            'text',
        );
        self::assertSame(['What is uncertain', 'Calibration', 'The question'], $told);
        $text = PaperMarkdown::files($paper)['report.md'];
        self::assertStringStartsWith(
            "# For the council\n\n*Of the model Ferry season.*\n\nRead *this* first.\n\n## What is uncertain",
            $text,
        );
        self::assertStringContainsString("## Calibration\n\nNobody searched.\n\n## The question", $text);
        self::assertSame($plan->toRecord(), ReportPlan::read($plan->toRecord())->toRecord());
        self::assertStringContainsString(
            'size: letter',
            (new PaperHtml())->of(self::paper(new Model('x'), new ReportPlan('r', 'x', '', 'letter'))),
        );
    }

    public function test_what_people_wrote_is_text_and_never_markup(): void
    {
        $evil = '<script>alert(1)</script>';
        $model = self::demo('fresh-water');
        $id = 'wells';
        $model = (new RenameElement($id, 'a <b> & "c"'))->apply($model);
        foreach (
            [
                ['kind' => 'note', 'id' => $id, 'text' => "$evil <img src=x onerror=alert(1)> [x](javascript:alert(1)) | # no heading"],
                ['kind' => 'unit', 'id' => $id, 'text' => 'm^3'],
                ['kind' => 'title', 'name' => "A $evil", 'note' => $evil],
            ] as $edit
        ) {
            $model = EditReader::read($edit)->apply($model);
        }
        $paper = self::paper($model, new ReportPlan('r', $evil, $evil));
        $html = self::document((new PaperHtml())->of($paper));
        self::assertSame(0, $html->getElementsByTagName('script')->length);
        self::assertSame(0, $html->getElementsByTagName('img')->length);
        $xpath = new \DOMXPath($html);
        self::assertSame(0, $xpath->query('//a[starts-with(@href, "javascript")]')->length ?? -1);
        self::assertSame(0, $xpath->query('//@*[starts-with(name(), "on")]')->length ?? -1);
        self::assertStringContainsString('alert(1)', (string) $html->textContent);
        foreach ($paper->pieces as $piece) {
            if ($piece['kind'] === 'picture') {
                self::assertNotFalse(simplexml_load_string($piece['svg']));
                self::assertStringNotContainsString('<b>', $piece['svg']);
            }
        }
    }

    public function test_a_model_that_does_not_run_is_told_all_the_same(): void
    {
        $model = self::demo('fresh-water');
        $model = EditReader::read(['kind' => 'formula', 'id' => 'wells', 'text' => 'nothing known'])->apply($model);
        $text = PaperMarkdown::files(self::paper($model))['report.md'];
        self::assertStringContainsString('Not all of the model can be computed', $text);
        self::assertStringContainsString("```\nnothing known\n```", $text);
        self::assertStringContainsString('What the check of the model says', $text);
        // Nor does one without anything in it end in trouble.
        self::assertStringStartsWith('# A report', PaperMarkdown::files(self::paper(new Model('')))['report.md']);
    }

    public function test_ticks_are_round_and_hold_what_is_shown(): void
    {
        mt_srand(7);
        for ($i = 0; $i < 400; $i++) {
            $low = (mt_rand() / mt_getrandmax() - 0.5) * 10.0 ** mt_rand(-6, 9);
            $high = $low + (0.1 + mt_rand() / mt_getrandmax()) * max(1e-6, abs($low)) * 10.0 ** mt_rand(-4, 6);
            $ticks = PlotSvg::ticks($low, $high, 5);
            self::assertGreaterThanOrEqual(2, count($ticks));
            self::assertLessThanOrEqual(9, count($ticks));
            $step = $ticks[1] - $ticks[0];
            self::assertLessThanOrEqual($low + 1e-6 * $step, $ticks[0]);
            self::assertGreaterThanOrEqual($high - 1e-6 * $step, $ticks[count($ticks) - 1]);
            $digits = $step / 10.0 ** floor(log10($step) + 1e-9);
            $nearest = min(array_map(static fn (float $n): float => abs($digits / $n - 1.0), [1.0, 2.0, 2.5, 5.0, 10.0]));
            self::assertLessThan(1e-3, $nearest);
        }
        foreach ([[0.0, 0.0], [5.0, 5.0], [-3.0, -3.0]] as [$low, $high]) {
            $ticks = PlotSvg::ticks($low, $high, 5);
            self::assertLessThanOrEqual($low, $ticks[0]);
            self::assertGreaterThanOrEqual($high, $ticks[count($ticks) - 1]);
        }
    }

    public function test_a_plan_that_makes_no_sense_is_refused_with_a_sentence(): void
    {
        foreach (
            [
                ['id' => 'r'],
                ['id' => 'r', 'title' => 'x', 'sections' => 'all'],
                ['id' => 'r', 'title' => 'x', 'sections' => [['kind' => 'poem']]],
                ['id' => 'r', 'title' => 'x', 'paper' => 'a3'],
            ] as $bad
        ) {
            try {
                ReportPlan::read($bad);
                self::fail('It was taken.');
            } catch (NotUnderstood $e) {
                self::assertMatchesRegularExpression('/^[A-Z`].*\.$/', $e->getMessage());
            }
        }
    }
}
