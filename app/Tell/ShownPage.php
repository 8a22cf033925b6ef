<?php

declare(strict_types=1);

namespace App\Tell;

use App\Files\Spare;
use App\Models\ModelDocument;
use App\Studies\Versions;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\Cache;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use MerryOrbit\Core\Model\Showcase;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Tell\Showing;
use MerryOrbit\Core\Tell\Standing;

/** A page for readers of a stored model: what stands on it, and what it shows for what its inputs are set to. */
final class ShownPage
{
    /** Seconds that an answer is kept: what many readers ask for is computed once. */
    private const KEPT = 600;

    /** An input without steps has so many places all the same: what is asked for is asked for again. */
    private const PLACES = 200;

    /** Parts of a model that nothing on a page for readers is computed from. */
    private const BESIDES = [
        'name',
        'note',
        'sheets',
        'placements',
        'tracks',
        'groups',
        'plots',
        'findings',
        'showcases',
        'reports',
        'causalLinks',
        'links',
        'questions',
        'boundary',
        'modes',
        'pairs',
        'parked',
        'actions',
        'loopNames',
        'wordings',
        'sources',
        'areas',
        'outcomes',
        'muted',
        'candidates',
        'expectations',
        'calibrations',
        'policies',
        'evidence',
        'uncertain',
        'rankPairs',
    ];

    private ?Model $model = null;

    private function __construct(
        private readonly ModelDocument $document,
        private readonly int $revision,
        private readonly Showcase $page,
        /** The same for two versions that show the same for the same inputs. */
        private readonly string $print,
    ) {
    }

    /** @param  ?int  $revision  of a version that stays; null for the newest */
    public static function of(ModelDocument $document, string $showcase, ?int $revision = null): ?self
    {
        $revision ??= self::newest($document);
        $key = 'page '.hash('sha256', "$document->id $revision $showcase");
        $known = rescue(static fn (): mixed => Cache::get($key), report: false);
        if (is_array($known)) {
            // Most who ask get what is kept: the model itself need not be read for them.
            return new self($document, $revision, Showcase::read($known['page']), (string) $known['print']);
        }
        $model = self::kept($document, $revision);
        $page = $model->part('showcases')[$showcase] ?? null;
        if (! ($page instanceof Showcase)) {
            return null;
        }
        $made = new self($document, $revision, $page, self::printOf($model));
        $made->model = $model;
        Spare::keep($key, ['page' => $page->toRecord(), 'print' => $made->print], self::KEPT);

        return $made;
    }

    /**
     * The version that readers of the newest see. While somebody works on the model it stands still for some seconds: nobody reads what
     * is half done, and what many ask for is made once for all of them.
     */
    private static function newest(ModelDocument $document): int
    {
        $key = "read of $document->id";
        $known = rescue(static fn (): mixed => Cache::get($key), report: false);
        // Some caches give numbers back as text.
        if (is_numeric($known) && (int) $known <= $document->revision) {
            return (int) $known;
        }
        Spare::keep($key, $document->revision, config()->integer('merry-orbit.read_stands_seconds'));

        return $document->revision;
    }

    private static function printOf(Model $model): string
    {
        $record = array_diff_key(ModelRecord::of($model), array_flip(self::BESIDES));
        $record['elements'] = array_map(
            static fn (array $e): array => array_diff_key($e, ['note' => 1, 'source' => 1]),
            $record['elements'],
        );

        return hash('sha256', json_encode($record, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION));
    }

    private function model(): Model
    {
        return $this->model ??= self::kept($this->document, $this->revision);
    }

    /** Of a version that is not the newest any more: worked out once, not by each who asks. */
    private static function kept(ModelDocument $document, int $revision): Model
    {
        if ($revision === $document->revision) {
            return $document->core();
        }
        $key = "model read $document->id $revision";
        $known = rescue(static fn (): mixed => Cache::get($key), report: false);
        if (is_array($known)) {
            return ModelRecord::toModel($known);
        }
        $model = (new Versions($document))->at($revision);
        Spare::keep($key, ModelRecord::of($model), self::KEPT);

        return $model;
    }

    /** @return array<string, mixed> without what the model calls things */
    public function told(Simulator $simulator): array
    {
        $key = 'shown page '.hash('sha256', "{$this->document->id} {$this->revision} {$this->page->id}");
        $known = rescue(static fn (): mixed => Cache::get($key), report: false);
        if (is_array($known)) {
            return $known;
        }
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $told = $this->tell(new Standing($simulator, $this->model()));
        Spare::keep($key, $told, self::KEPT);

        return $told;
    }

    /** @return array<string, mixed> */
    private function tell(Standing $standing): array
    {
        $time = $this->model()->time;

        return [
            'id' => $this->page->id,
            'study' => $this->model()->name,
            'title' => $this->page->title,
            'lead' => $this->page->lead,
            'turned' => $this->page->turned,
            'version' => $this->revision,
            'time' => [
                'start' => $time->start,
                'end' => $time->end,
                'unit' => $time->unit,
                'step' => $time->step,
                'method' => $time->method->title(),
            ],
            'steps' => array_map(
                fn (array $s): array => [
                    'id' => $s['id'],
                    'title' => $s['title'],
                    'words' => $s['words'],
                    'inputs' => array_column($this->page->inputsOf($s['id']), 'id'),
                ],
                $this->page->steps === [] ? [$this->page->stepOf('')] : $this->page->steps,
            ),
            'inputs' => array_map(
                fn (array $i): array => [
                    ...array_diff_key($i, ['of' => 1, 'likely' => 1]),
                    'step' => self::stepOf($i),
                    'unit' => $this->model()->element($i['of'])->unit ?? '',
                    'likely' => $standing->likely($i),
                ],
                $this->page->inputs,
            ),
            'blocks' => array_map(
                static fn (array $b): array => [
                    'id' => $b['id'],
                    'kind' => $b['kind'],
                    'step' => $b['step'],
                    'words' => $b['words'],
                    'width' => $b['width'],
                    'stands' => $standing->of($b),
                ],
                $this->page->blocks,
            ),
        ];
    }

    /** @param  array{kind: string, low: float, high: float, step: float, ...}  $input */
    private static function stepOf(array $input): float
    {
        return $input['step'] > 0.0 || ! in_array($input['kind'], ['dial', 'number'], true)
            ? $input['step']
            : ($input['high'] - $input['low']) / self::PLACES;
    }

    /**
     * @param  array<mixed>  $asked  by id of an input
     * @return string JSON, as it is sent: what many ask for is kept ready
     *
     * @throws NotUnderstood|\MerryOrbit\Core\Simulate\RunRefused
     */
    public function shown(Simulator $simulator, string $step, array $asked): string
    {
        // By what it is, not by what was typed: there is an end to what can be asked, and kept.
        $of = $this->page->stepOf($step)['id'];
        $stepped = new Showcase(
            $this->page->id,
            $this->page->title,
            inputs: array_map(static fn (array $i): array => [...$i, 'step' => self::stepOf($i)], $this->page->inputs),
            steps: $this->page->steps,
            blocks: $this->page->blocks,
        );
        $inputs = Showing::within($stepped, $step, $asked);
        $page = $this->page->toRecord();
        $key = 'shown '.hash('sha256', json_encode([$this->document->id, $this->print, $page, $of, $inputs], JSON_THROW_ON_ERROR));
        $known = rescue(static fn (): mixed => Cache::get($key), report: false);
        if (is_string($known)) {
            return $known;
        }
        $showing = new Showing($simulator, $this->model(), $stepped);
        $shown = $showing->of($step, $inputs);
        // Maps are objects also where they are empty.
        foreach (['inputs', 'author', 'blocks'] as $map) {
            $shown[$map] = (object) $shown[$map];
        }
        $json = (new JsonResponse($shown))->content();
        Spare::keep($key, $json, self::KEPT);

        return $json;
    }
}
