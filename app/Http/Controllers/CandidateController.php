<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Runs\Engine;
use App\Runs\RunSource;
use App\Uncertain\Ensembles;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use MerryOrbit\Core\Model\Candidate;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\ColumnsAt;
use MerryOrbit\Core\Reduce\ManyRuns;
use MerryOrbit\Core\Reduce\Outcome;
use MerryOrbit\Core\Reduce\Outcomes;
use MerryOrbit\Core\Reduce\Several;
use MerryOrbit\Core\Uncertain\Combinations;

/** All combinations of the candidates that are ticked. */
final class CandidateController
{
    /** From here on the page asks before it runs them, and this refuses without being told so. */
    private const MANY = 1_000;

    private const MOST = 10_000;

    private const MOMENTS = 61;

    /** Combinations of which courses are told. */
    private const MOST_COURSES = 120;

    public function run(Request $request, ModelDocument $model): JsonResponse
    {
        $request->validate(
            ['of' => ['nullable', 'string', 'max:300'], 'many' => ['boolean']],
            [
                'of.*' => '`of` is the key of a variable.',
                'many.*' => '`many` says whether more than '.number_format(self::MANY).' are meant.',
            ],
        );
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $source = RunSource::of($model, $request->array('run'));
        $core = $source->model();
        $candidates = array_values(array_filter($core->part('candidates'), static fn (mixed $c): bool => $c instanceof Candidate));
        usort($candidates, static fn (Candidate $a, Candidate $b): int => $a->place <=> $b->place);
        $combinations = Combinations::of($candidates);
        $count = $combinations->count();
        if ($count > self::MOST || ($count > self::MANY && ! $request->boolean('many'))) {
            throw NotUnderstood::because(
                'These are '.
                    number_format($count).
                    ' runs, more than '.
                    number_format($count > self::MOST ? self::MOST : self::MANY).
                    '. Untick some.',
            );
        }
        $analysis = $source->trial()->analysis;
        $sought = Ensembles::outcomes($analysis, $core->part('outcomes'));
        $of = $request->string('of')->toString() ?: $sought[0]['key'] ?? '';
        if ($sought === [] || ! Ensembles::isSingle($analysis, $of)) {
            throw NotUnderstood::because('There is nothing to look at: say which variable is the outcome.');
        }
        $outcomes = array_map(static fn (array $o): Outcome => new Outcome($o['id'], $o['key'], $o['kind'], $o['time']), $sought);
        $moments = ColumnsAt::moments($source->setting->timeOf($core->time), self::MOMENTS);
        $reducer = new Several([new Outcomes($outcomes), new ColumnsAt([$of], $moments)]);
        $runs = (int) $count;
        $many = ManyRuns::of(Engine::inRequest(), $core, $source->setting, $reducer, $runs);
        $results = $many->all($runs, static fn (int $at): array => [$combinations->values($at), null]);
        $known = static fn (?array $row, int $from, ?int $length): ?array => $row === null
            ? null
            : array_map(static fn (mixed $v): ?float => is_float($v) && is_finite($v) ? $v : null, array_slice($row, $from, $length));

        return new JsonResponse([
            'revision' => $model->revision,
            'dimensions' => array_map(
                static fn (string $id, array $values): array => ['of' => $id, 'values' => $values],
                array_map(strval(...), array_keys($combinations->dimensions)),
                $combinations->dimensions,
            ),
            'fixed' => (object) $combinations->fixed,
            'outcomes' => $sought,
            'of' => $of,
            'times' => $moments,
            'results' => array_map(static fn (?array $row): ?array => $known($row, 0, count($outcomes)), $results),
            'courses' => $runs > self::MOST_COURSES
                    ? []
                    : array_map(static fn (?array $row): ?array => $known($row, count($outcomes), null), $results),
        ]);
    }
}
