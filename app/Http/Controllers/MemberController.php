<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Runs\RunSource;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use MerryOrbit\Core\Exchange\RelationTable;
use MerryOrbit\Core\Exchange\RosterTable;
use MerryOrbit\Core\Experiment\LevelsView;
use MerryOrbit\Core\Experiment\Muster;
use MerryOrbit\Core\Experiment\MusterView;
use MerryOrbit\Core\Model\Plot;
use MerryOrbit\Core\Model\Roster;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\Simulator;

/** The members of rosters: what became of them in a run, and tables that become rosters. */
final class MemberController
{
    private const TABLE = [
        'text' => ['required', 'string', 'max:2000000'],
        'id' => ['required', 'string', 'regex:/^[a-z][a-z0-9-]{0,29}$/'],
    ];

    private const TABLE_SENTENCES = [
        'text.*' => 'Choose or paste a table of at most two million characters.',
        'id.*' => '`id` is what new ids begin with: up to 30 small letters, digits and hyphens.',
    ];

    /** How one variable of each goes over time, and who came and left; with `at`, what each has at a time. */
    public function show(Request $request, ModelDocument $model, Simulator $simulator): JsonResponse
    {
        $request->validate(
            [
                'run' => ['sometimes', 'array'],
                'roster' => ['required', 'string', 'max:120'],
                'of' => ['sometimes', 'string', 'max:60'],
                'at' => ['sometimes', 'numeric'],
            ],
            [
                'run.*' => '`run` says which run is meant.',
                'roster.*' => '`roster` is the name or the id of a dimension with members.',
                'of.*' => '`of` is the id of something that each member has.',
                'at.*' => '`at` is a time of the run.',
            ],
        );
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $trial = RunSource::of($model, $request->array('run'))->trial();
        $roster = $request->string('roster')->toString();
        $of = Muster::find($trial->analysis->model, $roster);
        $muster = Muster::of($trial->analysis, $trial->run($simulator), $of->id);
        $columns = $muster->columns();
        $key = $request->has('of') ? $request->string('of')->toString() : self::usual($muster);
        if ($columns !== [] && ! isset($columns[$key])) {
            throw NotUnderstood::because("A member of `{$of->name}` has nothing of the id `$key`.");
        }
        $view = new MusterView($muster);

        return new JsonResponse([
            'revision' => $model->revision,
            ...$request->has('at') ? $view->at($request->float('at')) : $view->over($key),
        ]);
    }

    /** Some variables of all members at all moments, for a picture in which they move. */
    public function moving(Request $request, ModelDocument $model, Simulator $simulator): JsonResponse
    {
        $request->validate(
            [
                'run' => ['sometimes', 'array'],
                'roster' => ['required', 'string', 'max:120'],
                'of' => ['required', 'array', 'min:1', 'max:4'],
                'of.*' => ['string', 'max:60'],
            ],
            [
                'run.*' => '`run` says which run is meant.',
                'roster.*' => '`roster` is the name or the id of a dimension with members.',
                'of' => '`of` lists one to four ids of what each member has.',
                'of.*' => '`of` lists one to four ids of what each member has.',
            ],
        );
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $trial = RunSource::of($model, $request->array('run'))->trial();
        $of = Muster::find($trial->analysis->model, $request->string('roster')->toString());
        $muster = Muster::of($trial->analysis, $trial->run($simulator), $of->id);
        $keys = array_values(array_unique(array_filter($request->array('of'), is_string(...))));
        foreach (array_diff($keys, array_map(strval(...), array_keys($muster->columns()))) as $unknown) {
            throw NotUnderstood::because("A member of `{$of->name}` has nothing of the id `$unknown`.");
        }

        return new JsonResponse(['revision' => $model->revision, ...(new MusterView($muster))->moving($keys)]);
    }

    /** The first stock of a member, else the first that moves. */
    private static function usual(Muster $muster): string
    {
        $columns = array_keys($muster->columns());
        foreach ($columns as $key) {
            if ($muster->analysis->model->element($key) instanceof Stock) {
                return $key;
            }
        }
        $moving = array_filter($columns, static fn (string $k): bool => ! isset($muster->analysis->parameters[$k]));

        return array_values($moving)[0] ?? ($columns[0] ?? '');
    }

    /** One question by single members, by classes and by one aggregate. */
    public function levels(Request $request, ModelDocument $model, Simulator $simulator): JsonResponse
    {
        $request->validate(
            [
                'run' => ['sometimes', 'array'],
                'roster' => ['required', 'string', 'max:120'],
                'of' => ['sometimes', 'string', 'max:60'],
            ],
            [
                'run.*' => '`run` says which run is meant.',
                'roster.*' => '`roster` is the name or the id of a dimension with members.',
                'of.*' => '`of` is the id of a single number that is computed.',
            ],
        );
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $source = RunSource::of($model, $request->array('run'));
        $core = $source->model();
        $of = Muster::find($core, $request->string('roster')->toString());
        $roster = array_values(
            array_filter($core->part('rosters'), static fn (mixed $r): bool => $r instanceof Roster && $r->of === $of->id),
        )[0];
        $view = new LevelsView($simulator, $core, $roster, $source->setting);
        $key = $request->string('of')->toString();
        if ($key === '') {
            $choices = array_keys($view->choices($source->trial()->analysis));
            $shown = array_merge(...array_map(static fn (Plot $t): array => $t->of, $core->tracks), ...[[]]);
            $key = array_values(array_intersect($shown, $choices))[0] ?? ($choices[0] ?? '');
        }

        return new JsonResponse(['revision' => $model->revision, ...$view->of($key)]);
    }

    /** What a table would become as a roster, or as other members of one that there is; nothing is changed. */
    public function read(Request $request, ModelDocument $model): JsonResponse
    {
        $request->validate(
            [...self::TABLE, 'name' => ['required_without:roster', 'string', 'max:120'], 'roster' => ['sometimes', 'string', 'max:120']],
            [...self::TABLE_SENTENCES, 'name.*' => 'Say what one member is called, such as `boat`.'],
        );
        [$text, $id] = [$request->string('text')->toString(), $request->string('id')->toString()];
        $core = $model->core();
        $table = $request->has('roster')
            ? RosterTable::another($core, Muster::find($core, $request->string('roster')->toString()), $text, $id)
            : RosterTable::read($core, $text, $request->string('name')->toString(), $id);

        return new JsonResponse([
            'members' => $table->members,
            'attributes' => $table->attributes,
            'places' => $table->places,
            'remarks' => $table->remarks,
            'edits' => $table->edits(),
        ]);
    }

    /** What a list of pairs would become as a relation between members; nothing is changed. */
    public function relation(Request $request, ModelDocument $model): JsonResponse
    {
        $request->validate(
            [
                ...self::TABLE,
                'name' => ['required', 'string', 'max:120'],
                'roster' => ['required', 'string', 'max:120'],
                'back' => ['sometimes', 'nullable', 'string', 'max:120'],
                'lists' => ['sometimes', 'boolean'],
                'to' => ['sometimes', 'nullable', 'string', 'max:120'],
            ],
            [
                ...self::TABLE_SENTENCES,
                'name.*' => 'Say how the relation is called, such as `waits for`.',
                'back.*' => '`back` is what the relation is called from the other side.',
                'to.*' => '`to` is the name or the id of the roster of the second.',
                'lists.*' => '`lists` is true where those that the table names are all that there are.',
                'roster.*' => 'Say of which roster.',
            ],
        );
        $core = $model->core();
        $of = Muster::find($core, $request->string('roster')->toString());
        $relation = RelationTable::read(
            $core,
            $of->id,
            $request->string('text')->toString(),
            $request->string('name')->toString(),
            $request->string('id')->toString(),
            $request->string('back')->toString(),
            $request->boolean('lists'),
            $request->filled('to') ? Muster::find($core, $request->string('to')->toString())->id : null,
        );

        return new JsonResponse([
            'pairs' => $relation->count(),
            'members' => $relation->members,
            'remarks' => $relation->remarks,
            'edits' => $relation->edits(),
        ]);
    }
}
