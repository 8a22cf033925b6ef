<?php

declare(strict_types=1);

namespace App\Runs;

use App\Files\Spare;
use App\Models\ModelDocument;
use Illuminate\Support\Facades\Cache;
use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Library\RunWatcher;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Plot;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

/** The small live plot of a study on the home page: a few lines, each from 0 to 1, and what they are. */
final readonly class Thumbnail
{
    private const POINTS = 120;

    private const LINES = 3;

    private const SECONDS = 86400;

    /** Seconds of a run; of a longer one its beginning is shown. */
    private const MOST = 0.3;

    public function __construct(private Simulator $simulator)
    {
    }

    /** @return array{lines: list<array{name: string, values: list<float>}>, words: string, unit: string, start: float, end: float} */
    public function of(ModelDocument $model): array
    {
        $key = "thumbnail:$model->id:$model->revision";
        /** @var array{lines: list<array{name: string, values: list<float>}>, words: string, unit: string, start: float, end: float}|null $known */
        $known = Cache::get($key);
        if ($known !== null) {
            return $known;
        }
        // One that ends the process is not tried again at every visit.
        $drawn = ['lines' => [], 'words' => 'cannot be shown small', 'unit' => '', 'start' => 0.0, 'end' => 1.0];
        Spare::keep($key, $drawn, self::SECONDS);
        try {
            $drawn = $this->draw($model);
        } catch (\Throwable $e) {
            report($e);
        }
        Spare::keep($key, $drawn, self::SECONDS);

        return $drawn;
    }

    /** @return array{lines: list<array{name: string, values: list<float>}>, words: string, unit: string, start: float, end: float} */
    private function draw(ModelDocument $document): array
    {
        $model = $document->core();
        $analysis = Analyser::analyse($model);
        $lines = [];
        try {
            $until = hrtime(true) / 1e9 + self::MOST;
            $run = $this->simulator->run(
                $analysis,
                new RunOptions(watch: new RunWatcher(static fn (): bool => hrtime(true) / 1e9 > $until, self::MOST)),
            );
            $stocks = array_keys(array_filter($model->elements, static fn ($e): bool => $e->kind() === Kind::Stock));
            $tracked = $model->tracks !== [] ? array_merge(...array_map(static fn (Plot $p): array => $p->of, $model->tracks)) : $stocks;
            // The first element of each, then others of the first.
            $first = $rest = [];
            foreach ($tracked as $id) {
                $columns = array_filter($analysis->columns([$id]), $run->has(...), ARRAY_FILTER_USE_KEY);
                $first += array_slice($columns, 0, 1, true);
                $rest += $columns;
            }
            foreach (array_slice($first + $rest, 0, self::LINES, true) as $key => $name) {
                $name = str_replace(['[', ']'], [', ', ''], $name);
                $lines[] = ['name' => $name, 'values' => self::scaled($run->column((string) $key))];
            }
        } catch (RunRefused) {
        }
        $count = count($model->withoutFactors()->elements);
        $factors = count($model->elements) - $count;
        $missing = count($analysis->blockers());
        $words = match (true) {
            $count === 0 && $factors > 0 => 'A map of '.$factors.($factors === 1 ? ' factor' : ' factors'),
            $count === 0 => 'Empty sheet',
            $missing > 0 => $missing.($missing === 1 ? ' thing missing' : ' things missing'),
            default => $count.($count === 1 ? ' thing' : ' things'),
        };

        return [
            'lines' => $lines,
            'words' => $words,
            'unit' => $model->time->unit,
            'start' => $model->time->start,
            'end' => $model->time->end,
        ];
    }

    /**
     * @param  list<float>  $column
     * @return list<float>
     */
    private static function scaled(array $column): array
    {
        if ($column === []) {
            return [];
        }
        $low = min(0.0, min($column));
        $span = max($column) - $low;
        $last = count($column) - 1;
        $points = min(self::POINTS, $last + 1);
        $values = [];
        for ($i = 0; $i < $points; $i++) {
            $value = $column[(int) round(($i * $last) / max(1, $points - 1))];
            $values[] = $span > 0.0 ? round(($value - $low) / $span, 4) : 0.5;
        }

        return $values;
    }
}
