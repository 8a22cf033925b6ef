<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Study;
use App\Studies\StudyMaker;
use Illuminate\Support\Str;
use MerryOrbit\Core\Exchange\NativeFile;

/** Reports of stored studies: what they are of, and what no model file holds. */
final class ReportTest extends AccountsCase
{
    private function kelp(): Study
    {
        $file = (string) file_get_contents(base_path('demo/kelp-and-urchins.json'));

        return StudyMaker::make($this->person(), NativeFile::import($file)->model)->load('model');
    }

    /** @param  array<string, mixed>  $edit */
    private static function changed(Visitor $by, Study $study, int $base, array $edit): void
    {
        $by->ask('POST', "/api/models/{$study->model->id}/edits", [
            'window' => 'w',
            'base' => $base,
            'edits' => [['id' => (string) Str::uuid(), 'edit' => $edit]],
        ])->assertOk();
    }

    public function test_a_report_says_what_it_is_of_and_how_that_came_about(): void
    {
        $study = $this->kelp();
        $by = $this->signedIn($this->person());
        $path = "/api/models/{$study->model->id}/report";
        $first = $by->ask('POST', $path)->assertOk()->json();
        self::assertSame(0, $first['revision']);
        self::assertStringContainsString('version 0, made on '.now()->format('j F Y'), $first['html']);
        self::assertStringNotContainsString('How it came about', $first['html']);
        self::changed($by, $study, 0, ['kind' => 'note', 'id' => 'kelp', 'text' => 'Weighed by divers.']);
        self::changed($by, $study, 1, [
            'kind' => 'put',
            'part' => 'reports',
            'id' => 'short',
            'fields' => ['title' => 'In short', 'sections' => [['kind' => 'history', 'words' => 'Who did what.'], ['kind' => 'tests']]],
        ]);
        $by->ask('PUT', "/api/models/{$study->model->id}/milestones/2", ['name' => 'For the council'])->assertOk();
        $short = $by
            ->ask('POST', $path, ['report' => 'short'])
            ->assertOk()
            ->json();
        self::assertSame(
            [2, 'Of the model Kelp and urchins, version 2 (“For the council”), made on '.now()->format('j F Y').'.'],
            [$short['revision'], $short['of']],
        );
        foreach (['Who did what.', 'How it came about', 'What was tested', 'Mara', 'holds'] as $told) {
            self::assertStringContainsString($told, $short['html']);
        }
        self::assertStringNotContainsString('All variables', $short['html']);
        // The whole one is there all the same.
        self::assertStringContainsString('Weighed by divers.', $by->ask('POST', $path)->json('html'));
        $by->ask('POST', $path, ['report' => 'none'])->assertNotFound();
        $by->ask('POST', $path, ['as' => 'poem'])->assertStatus(422);
    }

    public function test_markdown_comes_with_its_pictures(): void
    {
        $study = $this->kelp();
        $answer = $this->signedIn($this->person())
            ->ask('POST', "/api/models/{$study->model->id}/report", ['as' => 'markdown'])
            ->assertOk();
        self::assertSame('application/zip', $answer->headers->get('Content-Type'));
        $path = (string) tempnam(sys_get_temp_dir(), 'orbit-data');
        file_put_contents($path, (string) $answer->getContent());
        $zip = new \ZipArchive();
        self::assertTrue($zip->open($path));
        $text = (string) $zip->getFromName('report.md');
        preg_match_all('/\((pictures\/[^)]+\.svg)\)/', $text, $named);
        self::assertGreaterThan(5, count($named[1]));
        foreach ($named[1] as $name) {
            self::assertNotFalse(simplexml_load_string((string) $zip->getFromName($name)));
        }
        $zip->close();
        unlink($path);
    }
}
