<?php

declare(strict_types=1);

namespace App\Uncertain;

use App\Models\ModelDocument;
use App\Runs\RunSource;
use App\Runs\Workable;
use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Model\Expectation;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\Expectations;
use MerryOrbit\Core\Uncertain\ExpectationWords;

/** What the page asks of expectations: of each whether it holds, and the run that shows it. */
final readonly class ExpectationAnswer implements Workable
{
    /** Seconds after which no more of many runs are made: by a worker, and where there are none. */
    private const SECONDS = 100.0;

    private const SECONDS_ALONE = 15.0;

    /** @param  list<Expectation>  $all */
    private function __construct(private RunSource $source, private Model $model, private array $all)
    {
    }

    public static function read(ModelDocument $document, array $asked): self
    {
        /** @var array{run: array<mixed>, expectations: ?list<mixed>} $asked */
        $source = RunSource::of($document, $asked['run']);
        $model = $source->model();
        $all = [];
        foreach ($asked['expectations'] ?? [] as $i => $record) {
            $all[] = Expectation::read(is_array($record) ? [...$record, 'id' => "tried-$i"] : $record)->settled($model);
        }
        if ($asked['expectations'] === null) {
            $all = array_values(
                array_filter($model->part('expectations'), static fn (mixed $e): bool => $e instanceof Expectation && ! $e->off),
            );
        }

        return new self($source, $model, $all);
    }

    /** Those of one run are mostly few and alike. */
    public function work(): float
    {
        $runs = array_map(static fn (Expectation $e): int => max(1, $e->runs) * ($e->isUnconditional() ? 1 : 2), $this->all);

        return $this->all === [] ? 0.0 : array_sum($runs) * $this->source->work();
    }

    public function made(Simulator $simulator): array
    {
        $analysis = Analyser::analyse($this->model);
        $by = array_column(array_map(static fn (Expectation $e): array => ['id' => $e->id, 'e' => $e], $this->all), 'e', 'id');
        $seconds = config()->boolean('merry-orbit.run.workers') ? self::SECONDS : self::SECONDS_ALONE;
        $told = Expectations::check($simulator, $this->model, $this->all, until: (int) (hrtime(true) + $seconds * 1e9));

        return [
            'revision' => $this->source->revision,
            'expectations' => array_map(static function (array $one) use ($analysis, $by): array {
                $e = $by[$one['id']];
                $setting = Expectations::setting($analysis, $e, $one['worst']);
                unset($one['worst']);

                return [
                    ...$one,
                    'expected' => ExpectationWords::of($analysis, $e),
                    'unconditional' => $e->isUnconditional(),
                    'setting' => $setting === null ? null : (object) $setting->toRecord(),
                ];
            }, $told),
        ];
    }
}
