<?php

declare(strict_types=1);

namespace App\Uncertain;

use App\Models\ModelDocument;
use App\Runs\RunSource;
use App\Runs\Workable;
use MerryOrbit\Core\Model\Candidate;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\ColumnsAt;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Reduce\Outcome;
use MerryOrbit\Core\Reduce\Outcomes;
use MerryOrbit\Core\Reduce\Several;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\Combinations;

/** What the page asks of candidates: the outcomes of every combination, and the course of one variable in each. */
final readonly class CandidateAnswer implements Workable
{
    /** From here on it is refused unless so many are meant. */
    public const MANY = 1_000;

    private const MOST = 10_000;

    private const MOMENTS = 61;

    /** Combinations of which courses are told. */
    private const MOST_COURSES = 120;

    private RunSource $source;

    private Combinations $combinations;

    /**
     * @param  array<mixed>  $run  which run they change, as RunSource reads it
     * @param  string  $of  the key of the variable whose course is told; '' for that of the first outcome
     * @param  bool  $many  whether more than so many runs are meant
     *
     * @throws NotUnderstood
     */
    private function __construct(private ModelDocument $document, array $run, private string $of, private bool $many)
    {
        $this->source = RunSource::of($document, $run);
        $all = $this->source->model()->part('candidates');
        $candidates = array_values(array_filter($all, static fn (mixed $c): bool => $c instanceof Candidate));
        usort($candidates, static fn (Candidate $a, Candidate $b): int => $a->place <=> $b->place);
        $this->combinations = Combinations::of($candidates);
    }

    public static function read(ModelDocument $document, array $asked): self
    {
        /** @var array{run: array<mixed>, of: string, many: bool} $asked */
        return new self($document, $asked['run'], $asked['of'], $asked['many']);
    }

    /** Of more than are allowed nothing is made. */
    public function work(): float
    {
        $count = $this->combinations->count();

        return $count > ($this->many ? self::MOST : self::MANY) ? 0.0 : $count * $this->source->work();
    }

    public function made(Simulator $simulator): array
    {
        $model = $this->source->model();
        $combinations = $this->combinations;
        $count = $combinations->count();
        $most = $this->many ? self::MOST : self::MANY;
        if ($count > $most) {
            throw NotUnderstood::because(
                'These are '.number_format($count).' runs, more than '.number_format($most).'. Untick some.',
            );
        }
        $analysis = $this->source->trial()->analysis;
        $sought = Ensembles::outcomes($analysis, $model->part('outcomes'));
        $of = $this->of === '' ? $sought[0]['key'] ?? '' : $this->of;
        if ($sought === [] || ! Ensembles::isSingle($analysis, $of)) {
            throw NotUnderstood::because('There is nothing to look at: say which variable is the outcome.');
        }
        $outcomes = array_map(static fn (array $o): Outcome => new Outcome($o['id'], $o['key'], $o['kind'], $o['time']), $sought);
        $moments = ColumnsAt::moments($this->source->setting->timeOf($model->time), self::MOMENTS);
        $reducer = new Several([new Outcomes($outcomes), new ColumnsAt([$of], $moments)]);
        $runs = (int) $count;
        $results = ManyRuns::of($simulator, $model, $this->source->setting, $reducer, $runs)->all(
            $runs,
            static fn (int $at): array => [$combinations->values($at), null],
        );

        return [
            'revision' => $this->document->revision,
            'dimensions' => array_map(
                static fn (string $id, array $values): array => ['of' => $id, 'values' => $values],
                array_map(strval(...), array_keys($combinations->dimensions)),
                $combinations->dimensions,
            ),
            'fixed' => (object) $combinations->fixed,
            'outcomes' => $sought,
            'of' => $of,
            'times' => $moments,
            'results' => array_map(static fn (?array $row): ?array => ManyRuns::told($row, 0, count($outcomes)), $results),
            'courses' => $runs > self::MOST_COURSES
                    ? []
                    : array_map(static fn (?array $row): ?array => ManyRuns::told($row, count($outcomes)), $results),
        ];
    }
}
