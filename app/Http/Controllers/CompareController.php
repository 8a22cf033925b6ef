<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Runs\RunSource;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Experiment\Accumulated;
use MerryOrbit\Core\Experiment\Changes;
use MerryOrbit\Core\Experiment\Holds;
use MerryOrbit\Core\Experiment\Instant;
use MerryOrbit\Core\Experiment\RunDifference;
use MerryOrbit\Core\Experiment\Table;
use MerryOrbit\Core\Experiment\ThroughMembers;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Experiment\Upstream;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\Gathered;
use MerryOrbit\Core\Simulate\Simulator;

/** What can be asked about runs besides their courses: why, compared with what, and what was changed. */
final class CompareController
{
    private const MOST_RUNS = 60;

    private const MOST_ROWS = 2_000;

    private const MOST_CELLS = 500_000;

    /** What makes a variable change at a moment, or differ between two runs, or what it changes itself. */
    public function trail(Request $request, ModelDocument $model, Simulator $simulator): JsonResponse
    {
        $request->validate(
            [
                'run' => ['sometimes', 'array'],
                'base' => ['sometimes', 'array'],
                'element' => ['required', 'string'],
                'time' => ['required', 'numeric'],
                'towards' => ['sometimes', 'in:causes,effects'],
                'over' => ['sometimes', 'in:moment,time'],
            ],
            [
                'run.*' => '`run` is an object that says which run is meant.',
                'base.*' => '`base` is an object that says which run is meant.',
                'element.*' => 'Say of which variable: `element`, its id.',
                'time.*' => 'Say of which moment: `time`, a number.',
                'towards.*' => '`towards` is causes or effects.',
                'over.*' => '`over` is moment or time: at that moment, or gathered from the start up to it.',
            ],
        );
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $source = RunSource::of($model, $request->array('run'));
        $id = $request->string('element')->toString();
        if ($source->model()->nameOf(Key::ownerOf($id)) === null) {
            throw EditRefused::gone();
        }
        $trial = $source->trial();
        if ($trial->analysis->shaped?->extents->rosters->isAny() === true) {
            return self::throughMembers($request, $simulator, $trial, $id);
        }
        if ($trial->analysis->positions->isShaped($id)) {
            $dimensions = array_map($trial->model()->dimensions()->nameOf(...), $trial->analysis->extents[$id] ?? []);
            throw NotUnderstood::because(
                "`{$source->model()->nameOf($id)}` extends over ".
                    implode(' and ', $dimensions).
                    ': say of which element, by choosing one of each.',
            );
        }
        $instant = Instant::of($simulator, $trial, $request->float('time'));
        if ($instant === null || $instant->value($id) === null) {
            throw NotUnderstood::because(
                "The run has no value of `{$trial->analysis->nameOf($id)}` at this time. Move the playhead to where it has one.",
            );
        }
        $answer = ['element' => $id, 'time' => $instant->time(), 'value' => $instant->value($id), 'rate' => $instant->rate($id)];
        if ($request->input('towards') === 'effects') {
            return new JsonResponse([...$answer, 'effects' => $instant->effects($id)]);
        }
        if (! $request->has('base')) {
            $held = $trial->setting->grips[$id] ?? null;
            $holds = $held === null || ! $held->on ? Holds::of($trial->analysis, $trial->run($simulator), $id, $instant->time()) : [];

            return new JsonResponse([...$answer, ...$instant->causes($id), 'holds' => $holds]);
        }
        $baseSource = RunSource::of($model, $request->array('base'));
        $baseTrial = $baseSource->trial();
        $changes = Changes::between($baseSource->model(), $baseSource->setting, $source->model(), $source->setting);
        $more = static fn (array $causes): array => [
            'changes' => $changes,
            'through' => self::reached($trial, $changes, array_column($causes, 'cause')),
        ];
        if ($request->input('over') === 'time') {
            $gathered =
                Accumulated::of($simulator, $trial, $baseTrial, $id, $instant->time()) ??
                throw NotUnderstood::because('Both runs must get to this time, and it must lie after their start. Move the playhead.');

            return new JsonResponse([...$answer, ...$gathered, ...$more($gathered['causes'])]);
        }
        $base =
            Instant::of($simulator, $baseTrial, $request->float('time')) ??
            throw NotUnderstood::because('The run to compare with does not get to this time. Move the playhead back.');
        $parting = new RunDifference($instant, $base, $trial->run($simulator), $baseTrial->run($simulator));

        $found = $parting->causes($id);

        return new JsonResponse([
            ...$answer,
            'base' => $base->value($id),
            'difference' => $parting->difference($id),
            ...$found,
            ...$more($found['causes']),
        ]);
    }

    /** What moves a value where members come and go: through all of them together, and through each. */
    private static function throughMembers(Request $request, Simulator $simulator, Trial $trial, string $id): JsonResponse
    {
        if ($request->has('base')) {
            throw NotUnderstood::because(
                'Where members come and go, two runs have other members: what makes their difference cannot be followed through them. '.
                    'Look at each run by itself.',
            );
        }
        $instant = Instant::of($simulator, $trial, $request->float('time'));
        $through = $instant === null ? null : ThroughMembers::of($trial, $instant);
        if ($through === null || $through->value($id) === null) {
            throw NotUnderstood::because(
                "The run has no value of `{$trial->analysis->nameOf($id)}` at this time. Move the playhead to where it has one.",
            );
        }
        $answer = ['element' => $id, 'time' => $instant->time(), 'value' => $through->value($id), 'rate' => $through->rate($id)];

        return new JsonResponse(
            $request->input('towards') === 'effects'
                ? [...$answer, 'effects' => $through->effects($id)]
                : [...$answer, ...$through->causes($id), 'holds' => $through->remarks($id)],
        );
    }

    /**
     * Which of the changed things act on each cause, so that one can follow them.
     *
     * @param  list<array{element: ?string, ...}>  $changes
     * @param  list<string>  $causes
     * @return object by cause, the ids of the changed things
     */
    private static function reached(Trial $trial, array $changes, array $causes): object
    {
        $changed = array_values(array_filter(array_column($changes, 'element'), is_string(...)));
        $reached = [];
        foreach ($causes as $cause) {
            $reached[$cause] = array_values(array_intersect($changed, Upstream::of($trial->analysis, $cause)));
        }

        return (object) array_filter($reached);
    }

    /** In what the settings and the models of two runs differ. */
    public function changes(Request $request, ModelDocument $model): JsonResponse
    {
        $request->validate(
            ['run' => ['present', 'array'], 'base' => ['present', 'array']],
            [
                'run.*' => '`run` is an object that says which run is meant.',
                'base.*' => '`base` is an object that says which run is meant.',
                'run' => '`run` is an object that says which run is meant.',
                'base' => '`base` is an object that says which run is meant.',
            ],
        );
        $base = RunSource::of($model, $request->array('base'));
        $run = RunSource::of($model, $request->array('run'));

        return new JsonResponse(['changes' => Changes::between($base->model(), $base->setting, $run->model(), $run->setting)]);
    }

    /** Values of variables in runs at times; against the first run, or in a few numbers each. */
    public function table(Request $request, ModelDocument $model, Simulator $simulator): JsonResponse
    {
        $request->validate(
            [
                'runs' => ['required', 'list', 'max:'.self::MOST_RUNS],
                'runs.*' => ['array'],
                'of' => ['required', 'list', 'max:'.self::MOST_ROWS],
                'of.*' => ['string'],
                'times' => ['sometimes', 'list', 'max:2000'],
                'times.*' => ['numeric'],
                'kind' => ['sometimes', 'in:values,against,summary'],
                'at' => ['sometimes', 'numeric'],
            ],
            [
                'runs' => 'Say which runs: `runs`, a list of at most '.self::MOST_RUNS.' objects.',
                'runs.*' => 'Say which runs: `runs`, a list of at most '.self::MOST_RUNS.' objects.',
                'of' => 'Say which variables: `of`, a list of at most '.self::MOST_ROWS.' ids, or keys of columns along dimensions.',
                'of.*' => 'Say which variables: `of`, a list of at most '.self::MOST_ROWS.' ids, or keys of columns along dimensions.',
                'times' => '`times` is a list of at most 2,000 numbers.',
                'times.*' => '`times` is a list of at most 2,000 numbers.',
                'kind.*' => '`kind` is values, against or summary.',
                'at.*' => '`at` is a time, as a number.',
            ],
        );
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        /** @var list<string> $of */
        $of = $request->array('of');
        $along = array_values(array_filter($of, static fn (string $key): bool => str_contains($key, '[')));
        $times = array_map(static fn (mixed $t): float => is_numeric($t) ? (float) $t : 0.0, array_values($request->array('times')));
        sort($times);
        $kind = $request->input('kind');
        $cells = count($request->array('runs')) * count($of) * ($kind === 'against' || $kind === 'summary' ? 1 : count($times));
        if ($cells > self::MOST_CELLS) {
            throw NotUnderstood::because(
                'This table would have '.
                    number_format($cells).
                    ' cells; at most '.
                    number_format(self::MOST_CELLS).
                    ' are told at once. '.
                    'Ask for fewer runs, variables or times.',
            );
        }
        $at = $request->has('at') ? $request->float('at') : null;
        $told = $columns = $untold = [];
        // One run after the other: all of them need not be held at once.
        foreach ($request->array('runs') as $asked) {
            $source = RunSource::of($model, $asked);
            $run = $source->trajectory($simulator);
            if ($along !== []) {
                [$run, $why] = Gathered::added($run, $source->trial()->analysis, $along);
                $untold += $why;
            }
            $columns[] = array_map(
                static fn (string $id): mixed => match ($kind) {
                    'against' => Table::valueAt($run, $id, $at),
                    'summary' => Table::summary($run, $id),
                    default => Table::values($run, $id, $times),
                },
                $of,
            );
            $told[] = [
                'name' => $source->name,
                'revision' => $source->revision,
                'stopped' => $run->fault?->time,
                'between' => Table::between($run, $times),
            ];
            unset($source, $run);
        }
        $rows = [];
        foreach ($of as $i => $id) {
            $row = array_column($columns, $i);
            if ($kind === 'against') {
                $row = Table::against(array_map(static fn (mixed $v): ?float => is_float($v) ? $v : null, $row));
            }
            $rows[] = ['element' => $id, 'cells' => $row];
        }

        return new JsonResponse(['runs' => $told, 'times' => $times, 'rows' => $rows, 'untold' => (object) $untold]);
    }
}
