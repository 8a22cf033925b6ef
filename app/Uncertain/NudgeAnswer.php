<?php

declare(strict_types=1);

namespace App\Uncertain;

use App\Models\ModelDocument;
use App\Runs\RunSource;
use App\Runs\Workable;
use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Model\MutedInput;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Reduce\ColumnsAt;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Reduce\Outcome;
use MerryOrbit\Core\Reduce\Outcomes;
use MerryOrbit\Core\Reduce\Several;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\Nudge;
use MerryOrbit\Core\Uncertain\NudgedInput;

/**
 * What the page asks of nudges: each input's two ends for every outcome, and what it does to one course.
 *
 * @phpstan-import-type Wanted from EnsembleSpec
 */
final readonly class NudgeAnswer implements Workable
{
    /** Moments of a course: as many as a strip has room for. */
    private const MOMENTS = 81;

    private Analysis $analysis;

    private RunSource $source;

    /** @var non-empty-list<Wanted> */
    private array $sought;

    private string $of;

    /**
     * @param  array<mixed>  $run  which run is nudged, as RunSource reads it
     * @param  ?float  $by  a share; null for the range of each dial
     * @param  list<value-of<NudgedInput::KINDS>>  $kinds
     * @param  string  $of  the key of the variable whose course is told; '' for that of the first outcome
     *
     * @throws NotUnderstood|RunRefused
     */
    private function __construct(private ModelDocument $document, array $run, private ?float $by, private array $kinds, string $of)
    {
        $this->source = RunSource::of($document, $run);
        $this->analysis = $this->source->trial()->analysis;
        $sought = Ensembles::outcomes($this->analysis, $this->source->model()->part('outcomes'));
        if ($sought === []) {
            throw RunRefused::because(new Problem('nudge.outcome', 'There is nothing to look at: say which variable is the outcome.'));
        }
        $this->sought = $sought;
        $this->of = $of === '' ? $this->sought[0]['key'] : $of;
        if (! Ensembles::isSingle($this->analysis, $this->of)) {
            throw NotUnderstood::because('There is no such variable any more. Choose another one to see its course.');
        }
    }

    public static function read(ModelDocument $document, array $asked): self
    {
        /** @var array{run: array<mixed>, by: ?float, kinds: list<value-of<NudgedInput::KINDS>>, of: string} $asked */
        return new self($document, $asked['run'], $asked['by'], $asked['kinds'], $asked['of']);
    }

    public function work(): float
    {
        $inputs = NudgedInput::all($this->analysis, $this->source->setting, $this->by, $this->kinds);

        return (2 * count($inputs) + 1) * $this->source->work();
    }

    public function made(Simulator $simulator): array
    {
        $model = $this->source->model();
        $muted = array_filter($model->part('muted'), static fn (mixed $m): bool => $m instanceof MutedInput);
        $isMuted = array_column(array_map(static fn (MutedInput $m): array => ['of' => $m->of, 'id' => $m->id], $muted), 'id', 'of');
        $all = NudgedInput::all($this->analysis, $this->source->setting, $this->by, $this->kinds);
        $inputs = array_values(array_filter($all, static fn (NudgedInput $i): bool => ! isset($isMuted[$i->id])));
        $sought = $this->sought;
        $outcomes = array_map(static fn (array $o): Outcome => new Outcome($o['id'], $o['key'], $o['kind'], $o['time']), $sought);
        $of = $this->of;
        $moments = ColumnsAt::moments($this->source->setting->timeOf($model->time), self::MOMENTS);
        $nudge = Nudge::of(
            $simulator,
            $model,
            $this->source->setting,
            new Several([new Outcomes($outcomes), new ColumnsAt([$of], $moments)]),
            $inputs,
        );

        $from = count($outcomes);

        return [
            'revision' => $this->document->revision,
            'by' => $this->by,
            'outcomes' => $sought,
            'of' => $of,
            'times' => $moments,
            'base' => [
                'results' => array_map(static fn (int $at): ?float => ManyRuns::known($nudge->base, $at), array_keys($outcomes)),
                'course' => ManyRuns::told($nudge->base, $from),
            ],
            'effects' => array_map(
                static fn (array $effect): array => [
                    'id' => $effect['input']->id,
                    'name' => $effect['input']->name,
                    'kind' => $effect['input']->kind,
                    'value' => $effect['input']->value,
                    'low' => $effect['input']->low,
                    'high' => $effect['input']->high,
                    'note' => $effect['input']->note,
                    'results' => array_map(
                        static fn (int $at): array => [
                            'low' => ManyRuns::known($effect['low'], $at),
                            'high' => ManyRuns::known($effect['high'], $at),
                            'size' => $nudge->size($effect, $at),
                            'shape' => $nudge->shape($effect, $at),
                        ],
                        array_keys($outcomes),
                    ),
                    // Where at least one swing more comes with it.
                    'swings' => max(
                        Nudge::turns(ManyRuns::told($effect['low'], $from) ?? []),
                        Nudge::turns(ManyRuns::told($effect['high'], $from) ?? []),
                    ) >=
                        Nudge::turns(ManyRuns::told($nudge->base, $from) ?? []) + 2,
                    'lower' => ManyRuns::told($effect['low'], $from),
                    'higher' => ManyRuns::told($effect['high'], $from),
                ],
                $nudge->ranked(0),
            ),
            'muted' => array_values(
                array_map(
                    static fn (NudgedInput $i): array => [
                        'id' => $i->id,
                        'name' => $i->name,
                        'kind' => $i->kind,
                        'part' => $isMuted[$i->id],
                    ],
                    array_filter($all, static fn (NudgedInput $i): bool => isset($isMuted[$i->id])),
                ),
            ),
        ];
    }
}
