<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** The parts of a study's document besides its name, note, time, end and elements. */
final class Parts
{
    /** @var array<string, Part>|null */
    private static ?array $all = null;

    /** @var array<string, Part> */
    private static array $tried = [];

    /** @return array<string, Part> by name */
    public static function all(): array
    {
        return (self::$all ??= self::declared()) + self::$tried;
    }

    public static function find(string $name): ?Part
    {
        return self::all()[$name] ?? null;
    }

    /** @return array<string, Part> those whose values are read from outside and filed one by one */
    public static function filed(): array
    {
        return array_filter(self::all(), static fn (Part $p): bool => $p->inFile);
    }

    /** @return array<string, Part> */
    private static function declared(): array
    {
        $same = static fn (mixed $v): mixed => $v;
        $parts = [
            Part::drawn('placements', Placement::class),
            Part::drawn('links', Link::class),
            Part::drawn('echoes', Appearance::class),
            Part::drawn('bends', Point::class),
            Part::drawn('mapSpots', Point::class),
            Part::whole('sheets', ...self::each(Sheet::class)),
            Part::whole('tracks', ...self::each(Plot::class), clashes: false),
            Part::whole('groups', ...self::each(Group::class)),
            Part::whole('sameUnits', $same, $same),
            Part::whole('dimensions', ...self::each(Dimension::class)),
            Part::whole('shapes', $same, $same),
            Part::of(
                'scenarios',
                'scenario',
                Scenario::class,
                Scenario::MOST,
                ['setting.parameters{}', 'setting.grips{}', 'setting.curves{}', 'setting.curves[]', 'setting.grips[].series'],
                schema: Scenario::SCHEMA,
            ),
            Part::of('plots', 'plot', Plot::class, Plot::MOST, ['of[]', 'options.marks[].at', 'options.marks[].to'], schema: Plot::SCHEMA),
            Part::of('findings', 'finding', Finding::class, Finding::MOST, schema: Finding::SCHEMA),
            Part::of('mappings', 'mapping', Mapping::class, Mapping::MOST, schema: Mapping::SCHEMA),
            Part::of('tables', 'table', Table::class, Table::MOST, ['of'], ['of'], Table::SCHEMA),
            Part::of('courses', 'courses of a series', Courses::class, Courses::MOST, ['of'], ['of'], Courses::SCHEMA),
            Part::of('causalLinks', 'causal link', CausalLink::class, CausalLink::MOST, ['from', 'to'], ['from', 'to'], CausalLink::SCHEMA),
            Part::of('questions', 'question', Question::class, Question::MOST, ['of'], schema: Question::SCHEMA),
            Part::of('boundary', 'boundary line', Boundary::class, Boundary::MOST, ['of'], schema: Boundary::SCHEMA),
            Part::of('modes', 'reference mode', ReferenceMode::class, ReferenceMode::MOST, ['of'], schema: ReferenceMode::SCHEMA),
            Part::of('pairs', 'pair', Pair::class, Pair::MOST, ['one', 'other'], ['one', 'other'], Pair::SCHEMA),
            Part::of('parked', 'thing put aside', Parked::class, Parked::MOST, schema: Parked::SCHEMA),
            Part::of('actions', 'action idea', ActionIdea::class, ActionIdea::MOST, ['of'], schema: ActionIdea::SCHEMA),
            Part::of('loopNames', 'name of a loop', LoopName::class, LoopName::MOST, ['path[]'], schema: LoopName::SCHEMA),
            Part::of('wordings', 'wording', Wording::class, Wording::MOST, ['of'], ['of'], Wording::SCHEMA),
            Part::of('sources', 'source', Source::class, Source::MOST, schema: Source::SCHEMA),
            Part::of('areas', 'area map', AreaMap::class, AreaMap::MOST, ['of'], schema: AreaMap::SCHEMA),
            Part::of(
                'uncertain',
                'uncertain input',
                UncertainInput::class,
                UncertainInput::MOST,
                ['of'],
                ['of'],
                UncertainInput::SCHEMA,
            ),
            Part::of(
                'rankPairs',
                'rank correlation',
                RankPair::class,
                RankPair::MOST,
                ['one', 'other'],
                ['one', 'other'],
                RankPair::SCHEMA,
            ),
            Part::of(
                'outcomes',
                'outcome',
                SoughtOutcome::class,
                SoughtOutcome::MOST,
                ['of'],
                ['of'],
                SoughtOutcome::SCHEMA,
            ),
            Part::of(
                'muted',
                'muted input',
                MutedInput::class,
                MutedInput::MOST,
                ['of'],
                ['of'],
                MutedInput::SCHEMA,
            ),
            Part::of(
                'candidates',
                'list of candidates',
                Candidate::class,
                Candidate::MOST,
                ['of'],
                ['of'],
                Candidate::SCHEMA,
            ),
            Part::of(
                'expectations',
                'expectation',
                Expectation::class,
                Expectation::MOST,
                [
                    'when.parameters{}',
                    'when.grips{}',
                    'when.curves{}',
                    'when.curves[]',
                    'when.grips[].series',
                    'factors{}',
                    'starts{}',
                ],
                schema: Expectation::SCHEMA,
                formulas: ['of', 'other'],
            ),
            Part::of('calibrations', 'calibration', FitPlan::class, FitPlan::MOST, ['free[].of'], schema: FitPlan::SCHEMA),
            Part::of(
                'policies',
                'policy',
                PolicyPlan::class,
                PolicyPlan::MOST,
                ['choose[].of', 'sum[].of', 'limits[].of', 'sum[].from', 'limits[].from'],
                schema: PolicyPlan::SCHEMA,
            ),
            Part::of('parties', 'party', Party::class, Party::MOST, schema: Party::SCHEMA),
            Part::of('claims', 'claim', Claim::class, Claim::MOST, schema: Claim::SCHEMA, formulas: ['initial', 'rate']),
            Part::of(
                'transactions',
                'transaction',
                Transaction::class,
                Transaction::MOST,
                schema: Transaction::SCHEMA,
                formulas: ['formula'],
            ),
            Part::of(
                'showcases',
                'showcase',
                Showcase::class,
                Showcase::MOST,
                ['inputs[].of', 'steps[].parameters{}', 'blocks[].of[]', 'blocks[].numbers[].of', 'blocks[].marks[].of'],
                schema: Showcase::SCHEMA,
            ),
            Part::of('reports', 'report', ReportPlan::class, ReportPlan::MOST, schema: ReportPlan::SCHEMA),
            Part::of(
                'rosters',
                'roster',
                Roster::class,
                Roster::MOST,
                [
                    'since',
                    'entries[].of',
                    'entries[].starts[].of',
                    'entries[].starts[].from',
                    'exits[].of',
                    'hands[].of',
                    'hands[].to',
                    'classes.since',
                    'ties[].made',
                    'ties[].ended',
                    'seen.across',
                    'seen.up',
                    'seen.colour',
                    'seen.size',
                    'seen.plan',
                    'seen.beneath.of',
                    'seen.beneath.across',
                    'seen.beneath.up',
                ],
                schema: Roster::SCHEMA,
            ),
            Part::of('evidence', 'evidence', Measured::class, Measured::MOST, ['of'], ['of'], Measured::SCHEMA),
        ];

        return array_combine(array_map(static fn (Part $p): string => $p->name, $parts), $parts);
    }

    /**
     * @param  class-string<Sheet|Plot|Group|Dimension>  $class
     * @return array{\Closure, \Closure} of lists of such values
     */
    private static function each(string $class): array
    {
        $record = static fn (mixed $one): array => $one instanceof Recorded ? $one->toRecord() : [];
        $read = match ($class) {
            Plot::class => ModelRecord::toTrack(...),
            Dimension::class => Dimension::read(...),
            default => $class::fromRecord(...),
        };

        return [
            static fn (mixed $list): array => array_map($record, (array) $list),
            static fn (mixed $list): array => array_map($read, (array) $list),
        ];
    }

    /**
     * Tries a part out while something is done, as tests do.
     *
     * @template T
     *
     * @param  callable(): T  $work
     * @return T
     */
    public static function with(Part $part, callable $work): mixed
    {
        self::$tried[$part->name] = $part;
        try {
            return $work();
        } finally {
            unset(self::$tried[$part->name]);
        }
    }
}
