<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Data\Evidence;
use MerryOrbit\Core\Data\Fits;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Data\TableText;
use MerryOrbit\Core\Exchange\CsvTable;
use MerryOrbit\Core\Exchange\FileRefused;
use MerryOrbit\Core\Exchange\ModelFile;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Experiment\Levels;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Map\Arrivals;
use MerryOrbit\Core\Map\Loop;
use MerryOrbit\Core\Map\Loops;
use MerryOrbit\Core\Map\Push;
use MerryOrbit\Core\Map\Sentences;
use MerryOrbit\Core\Map\Sketch;
use MerryOrbit\Core\Map\Told;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Problem\Severity;
use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Simulate\Health;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Simulate\Trajectory;
use MerryOrbit\Core\Structure\Reefs;
use MerryOrbit\Core\Unit\UnitChecker;

/** The command line: it reads a model file and runs or checks it, without database or framework. */
final readonly class Orbit
{
    public const RAN = 0;

    public const USAGE = 2;

    public const PROBLEMS = 3;

    public const FAULT = 4;

    private const READING = ['lenient', 'out'];

    private const RUNNING = [
        ...self::READING,
        'set',
        'scenario',
        'method',
        'step',
        'start',
        'end',
        'save-every',
        'seed',
        'level',
        'timing',
        'format',
    ];

    private const OPTIONS = [
        'run' => [...self::RUNNING, 'only'],
        'check' => [...self::READING, 'format'],
        'health' => self::RUNNING,
        'convert' => [...self::READING, 'to', 'level'],
        'describe' => self::READING,
        'loops' => [...self::READING, 'most', 'independent', 'story', 'format'],
        'sketch' => [...self::READING, 'push', 'format'],
        'read' => ['out', 'format', ...DataCommands::READING],
        'compare' => [...self::RUNNING, 'data', 'match', ...DataCommands::READING],
        'nudge' => [...self::RUNNING, ...NudgeCommand::TAKES],
        'ensemble' => [...self::RUNNING, ...EnsembleCommand::TAKES],
        'expect' => self::RUNNING,
        'indices' => [...self::RUNNING, ...IndicesCommand::TAKES],
        'fit' => [...self::RUNNING, ...FitCommand::TAKES],
        'posterior' => [...self::RUNNING, ...PosteriorCommand::TAKES],
        'optimise' => [...self::RUNNING, ...OptimiseCommand::TAKES],
        'ledger' => [...self::RUNNING, ...LedgerCommand::TAKES],
        'members' => [...self::RUNNING, ...MembersCommand::TAKES],
        'areas' => [...self::RUNNING, 'map', 'of', 'property', 'at'],
        'show' => [...self::READING, ...ShowCommand::TAKES],
        'report' => [...self::READING, ...ReportCommand::TAKES],
        'generate' => ['out'],
    ];

    /**
     * @param  resource  $out
     * @param  resource  $err
     */
    public function __construct(private mixed $out, private mixed $err)
    {
    }

    /** @param  list<string>  $words what stands behind `orbit` */
    public function run(array $words): int
    {
        if (array_intersect($words, ['--help', '-h', 'help']) !== []) {
            fwrite($this->out, Help::TEXT);

            return self::RAN;
        }
        try {
            $arguments = Arguments::parse($words, self::OPTIONS);

            return match ($arguments->command) {
                'run' => $this->simulate($arguments),
                'check' => $this->check($arguments),
                'health' => $this->health($arguments),
                'convert' => $this->convert($arguments),
                'generate' => $this->generate($arguments),
                'loops' => $this->loops($arguments),
                'sketch' => $this->sketch($arguments),
                'read' => $this->read($arguments),
                'compare' => $this->compare($arguments),
                'areas' => $this->areas($arguments),
                'expect' => $this->expect($arguments),
                'report' => $this->report($arguments),
                'show' => $this->show($arguments),
                'nudge', 'ensemble', 'indices', 'fit', 'posterior', 'optimise', 'ledger', 'members' => $this->reported($arguments),
                default => $this->describe($arguments),
            };
        } catch (UsageError|FileRefused|TableRefused|NotUnderstood|RunRefused|ModelRefused $e) {
            fwrite($this->err, $e->getMessage()."\n".($words === [] ? "\n".Help::TEXT : ''));
            // Settings from the command line that allow no run are a matter of usage; a model too big to run is not.
            $isModel =
                $e instanceof ModelRefused ||
                $e instanceof NotUnderstood ||
                ($e instanceof FileRefused && $e->isModel) ||
                ($e instanceof RunRefused && $e->problem->code === 'run.limit');

            return $isModel ? self::PROBLEMS : self::USAGE;
        }
    }

    private function simulate(Arguments $arguments): int
    {
        $format = Requested::oneOf($arguments->last('format') ?? 'csv', ['csv', 'json'], '--format');
        $model = Requested::model($arguments, $this->err);
        $trial = $this->trial($model, $arguments);
        $analysis = $trial->analysis;
        $only = Requested::only($analysis, $arguments->all('only'));
        $all = array_map(strval(...), array_keys($analysis->model->elements));
        $run = $trial->run(new Simulator(ProgramStore::ofUser()), $only ?? $all);
        $this->tellTime($arguments, $run->seconds);
        foreach ($run->notices as $notice) {
            fwrite($this->err, "# $notice->sentence\n");
        }
        $this->print(
            $arguments->last('out'),
            $format === 'csv' ? CsvTable::lines($analysis->columns($only), $run) : [self::json($analysis, $run, $only)],
        );
        if ($run->fault === null) {
            return self::RAN;
        }
        fwrite($this->err, $run->fault->sentence()."\n");

        return self::FAULT;
    }

    private function tellTime(Arguments $arguments, float $seconds): void
    {
        if ($arguments->last('timing') !== null) {
            fwrite($this->err, sprintf("# engine seconds: %.6f\n", $seconds));
        }
    }

    /**
     * The model under what the command line says, ready to run.
     *
     * @throws ModelRefused if it has problems, or nothing to compute
     * @throws RunRefused
     */
    private function trial(Model $model, Arguments $arguments): Trial
    {
        $own = Analyser::analyse($model);
        $problems = $own->blockers();
        if (
            $problems === [] &&
            array_filter(
                $own->model->elements,
                static fn (Element $e): bool => in_array($e->kind(), [Kind::Stock, Kind::Flow, Kind::Auxiliary], true),
            ) === []
        ) {
            throw new ModelRefused(['There is nothing to compute: the model has no stock, flow or auxiliary.']);
        }
        if ($problems !== []) {
            throw new ModelRefused(array_map(fn (Problem $p): string => $this->line($model, $p), $problems));
        }

        return Trial::of($model, Requested::setting($model, $arguments));
    }

    private function health(Arguments $arguments): int
    {
        $format = Requested::oneOf($arguments->last('format') ?? 'text', ['text', 'json'], '--format');
        $trial = $this->trial(Requested::model($arguments, $this->err), $arguments);
        $begun = hrtime(true);
        $health = Health::check(new Simulator(ProgramStore::ofUser()), $trial->model(), $trial->settings);
        $this->tellTime($arguments, (hrtime(true) - $begun) / 1e9);
        $lines = array_map(
            static fn (array $one): string => sprintf("%.3e  %s (%s)\n", $one['difference'], $one['name'], $one['what']),
            $health->differences,
        );
        $this->print($arguments->last('out'), $format === 'json' ? [self::document($health)] : [...$lines, $health->sentence."\n"]);

        return $health->fault === null ? self::RAN : self::FAULT;
    }

    private static function document(mixed $value): string
    {
        return json_encode($value, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_PRETTY_PRINT)."\n";
    }

    private function convert(Arguments $arguments): int
    {
        $out = $arguments->last('out');
        $ending = strtolower(pathinfo((string) $out, PATHINFO_EXTENSION));
        $usual = array_search($ending, ModelFile::FORMATS, true);
        $format = $arguments->last('to') ?? ($usual === false ? 'native' : $usual);
        if (! array_key_exists($format, ModelFile::FORMATS)) {
            throw new UsageError('--to is one of '.implode(', ', array_keys(ModelFile::FORMATS)).", not `$format`.");
        }
        $model = Requested::model($arguments, $this->err);
        [$text, $log] = ModelFile::export(Levels::applied($model, Requested::levels($model, $arguments)), $format);
        foreach ($log as $line) {
            fwrite($this->err, "$line->where: $line->sentence\n");
        }
        $this->print($out, [$text]);

        return self::RAN;
    }

    private function generate(Arguments $arguments): int
    {
        $size = filter_var($arguments->file, FILTER_VALIDATE_INT, ['options' => ['min_range' => 1, 'max_range' => Model::MOST_ELEMENTS]]);
        if ($size === false) {
            throw new UsageError(
                'How many variables? Give a whole number from 1 to '.
                    number_format(Model::MOST_ELEMENTS).
                    ", not `$arguments->file`: orbit generate 500",
            );
        }
        $this->print($arguments->last('out'), [NativeFile::export(Reefs::model($size))]);

        return self::RAN;
    }

    private function describe(Arguments $arguments): int
    {
        $this->print($arguments->last('out'), [(new Description(Analyser::analyse(Requested::model($arguments, $this->err))))->text()]);

        return self::RAN;
    }

    private function check(Arguments $arguments): int
    {
        $format = Requested::oneOf($arguments->last('format') ?? 'text', ['text', 'json'], '--format');
        $analysis = Analyser::analyse(Requested::model($arguments, $this->err));
        $problems = [...$analysis->problems, ...UnitChecker::check($analysis->model, $analysis->nodes)->remarks];
        if ($format === 'json') {
            $problems = array_map(
                static fn (Problem $p): array => [
                    'name' => $p->element === null ? null : $analysis->model->nameOf($p->element),
                    ...$p->jsonSerialize(),
                ],
                $problems,
            );
            $lines = [self::document(['problems' => $problems])];
        } else {
            $lines =
                $problems === []
                    ? ["Nothing is missing.\n"]
                    : array_map(fn (Problem $p): string => $this->line($analysis->model, $p)."\n", $problems);
        }
        $this->print($arguments->last('out'), $lines);

        return $analysis->blockers() === [] ? self::RAN : self::PROBLEMS;
    }

    private function loops(Arguments $arguments): int
    {
        $format = Requested::oneOf($arguments->last('format') ?? 'text', ['text', 'json'], '--format');
        $most = $arguments->number('most') ?? (float) Loops::USUAL;
        if ($most < 0 || $most !== floor($most) || $most > Loops::MOST) {
            throw new UsageError('--most is a whole number from 0 to '.number_format(Loops::MOST).'.');
        }
        $graph = Requested::graph($arguments, $this->err);
        $loops = $arguments->last('independent') === null ? Loops::of($graph, (int) $most) : Loops::independent($graph, (int) $most);
        $sentences = new Sentences($graph);
        $named = array_map(
            static fn (Loop $loop): array => [
                ...$sentences->record($loop),
                'path' => array_map(static fn (string $id): string => $graph->names[$id], $loop->path),
            ],
            $loops->loops,
        );
        $lines =
            $format === 'json'
                ? [self::document(['complete' => $loops->isComplete, 'loops' => $named])]
                : LoopTable::lines($loops, $graph, $arguments->last('story') !== null);
        $this->print($arguments->last('out'), $lines);

        return self::RAN;
    }

    private function sketch(Arguments $arguments): int
    {
        $format = Requested::oneOf($arguments->last('format') ?? 'text', ['text', 'json', 'model'], '--format');
        $graph = Requested::graph($arguments, $this->err);
        $pushed = Requested::pushed($arguments, $graph);
        $pushes = array_map(
            static fn (string $id, string $direction): Push => new Push($id, $direction === '+' ? 1.0 : -1.0),
            array_map(strval(...), array_keys($pushed)),
            $pushed,
        );
        if ($format === 'model') {
            $this->print($arguments->last('out'), [NativeFile::export((new Sketch($graph, $pushes))->model)]);

            return self::RAN;
        }
        $told = new Told($graph, Arrivals::ofPlay($graph, $pushes), Loops::of($graph));
        $this->print(
            $arguments->last('out'),
            $format === 'json' ? [self::document($told->record(static fn (string $id): string => $graph->names[$id]))] : $told->lines(),
        );

        return self::RAN;
    }

    private function read(Arguments $arguments): int
    {
        $format = Requested::oneOf($arguments->last('format') ?? 'text', ['text', 'json', 'csv', 'long'], '--format');
        $table = DataCommands::table($arguments, $arguments->file, $format === 'long');
        $this->print(
            $arguments->last('out'),
            match ($format) {
                'json' => DataCommands::document($table),
                'csv' => TableText::wide($table),
                'long' => TableText::long($table),
                default => DataCommands::lines($table),
            },
        );

        return self::RAN;
    }

    private function compare(Arguments $arguments): int
    {
        $format = Requested::oneOf($arguments->last('format') ?? 'text', ['text', 'json'], '--format');
        $trial = $this->trial(Requested::model($arguments, $this->err), $arguments);
        $evidence = DataCommands::evidence($arguments, $trial->analysis, $this->err);
        $simulator = new Simulator(ProgramStore::ofUser());
        $run = $trial->run($simulator, array_values(array_unique(array_map(static fn (Evidence $e): string => $e->key, $evidence))));
        $this->tellTime($arguments, $run->seconds);
        $series = DataCommands::compared($evidence, $trial->analysis, Fits::simulated($simulator, $trial, $run, $evidence));
        $this->print(
            $arguments->last('out'),
            $format === 'json' ? [self::document(['series' => $series])] : DataCommands::comparedLines($series),
        );
        if ($run->fault !== null) {
            fwrite($this->err, $run->fault->sentence()."\n");
        }

        return $run->fault === null ? self::RAN : self::FAULT;
    }

    /** Commands that report of one run or of many. */
    private function reported(Arguments $arguments): int
    {
        $usual = $arguments->command === 'members' ? 'csv' : 'text';
        $format = Requested::oneOf($arguments->last('format') ?? $usual, [$usual, 'json'], '--format');
        $model = Requested::model($arguments, $this->err);
        $trial = $this->trial($model, $arguments);
        $setting = Requested::setting($model, $arguments);
        $asked = match ($arguments->command) {
            'nudge' => new NudgeCommand($arguments, $trial->analysis, $setting, $this->err),
            'indices' => new IndicesCommand($arguments, $trial->analysis, $setting),
            'fit', 'posterior' => $arguments->last('calibration') !== null
                ? new StudyFit($arguments, $setting)
                : ($arguments->command === 'fit'
                    ? new FitCommand($arguments, $trial->analysis, $setting, $this->err)
                    : new PosteriorCommand($arguments, $trial->analysis, $setting, $this->err)),
            'optimise' => $arguments->last('policy') !== null
                ? new StudyPolicy($arguments, $setting)
                : new OptimiseCommand($arguments, $trial->analysis, $setting),
            'ledger' => new LedgerCommand($arguments, $setting),
            'members' => new MembersCommand($arguments, $setting),
            default => new EnsembleCommand($arguments, $trial->analysis, $setting),
        };
        $begun = hrtime(true);
        $document = $asked->document(new Simulator(ProgramStore::ofUser()), $model);
        $this->tellTime($arguments, (hrtime(true) - $begun) / 1e9);
        $this->print($arguments->last('out'), $format === 'json' ? [self::document($document)] : $asked->lines($document));
        if ($asked->isFailed()) {
            fwrite($this->err, "Every run met a numeric fault.\n");

            return self::FAULT;
        }

        return self::RAN;
    }

    private function show(Arguments $arguments): int
    {
        $format = Requested::oneOf($arguments->last('format') ?? 'text', ['text', 'json'], '--format');
        $show = new ShowCommand(Requested::model($arguments, $this->err), $arguments);
        $document = $show->document(new Simulator(ProgramStore::ofUser()));
        $this->print($arguments->last('out'), $format === 'json' ? [self::document($document)] : $show->lines($document));

        return self::RAN;
    }

    private function report(Arguments $arguments): int
    {
        $written = ReportCommand::write(new Simulator(ProgramStore::ofUser()), Requested::model($arguments, $this->err), $arguments);
        fwrite($this->out, implode("\n", $written)."\n");

        return self::RAN;
    }

    private function expect(Arguments $arguments): int
    {
        $format = Requested::oneOf($arguments->last('format') ?? 'text', ['text', 'json'], '--format');
        $model = Requested::model($arguments, $this->err);
        $setting = Requested::setting($model, $arguments);
        $analysis = $this->trial($model, $arguments)->analysis;
        $document = ExpectCommand::document(new Simulator(ProgramStore::ofUser()), $model, $analysis, $setting);
        $this->print($arguments->last('out'), $format === 'json' ? [self::document($document)] : ExpectCommand::lines($document));

        return array_filter($document['expectations'], static fn (array $e): bool => $e['holds'] !== true) === []
            ? self::RAN
            : self::PROBLEMS;
    }

    private function areas(Arguments $arguments): int
    {
        $trial = $this->trial(Requested::model($arguments, $this->err), $arguments);
        $areas = AreaCommand::of($arguments, $trial->analysis, $this->err);
        $run = $trial->run(new Simulator(ProgramStore::ofUser()), [$areas->variable()]);
        $this->tellTime($arguments, $run->seconds);
        $this->print($arguments->last('out'), [self::document($areas->collection($run, $trial->analysis, $arguments->all('at')))]);
        if ($run->fault !== null) {
            fwrite($this->err, $run->fault->sentence()."\n");
        }

        return $run->fault === null ? self::RAN : self::FAULT;
    }

    private function line(Model $model, Problem $problem): string
    {
        $name =
            $problem->element === null
                ? ($problem->field === 'endWhen'
                    ? 'end condition'
                    : 'time')
                : (string) $model->nameOf($problem->element);
        $at = $problem->from === null ? '' : ', at character '.($problem->from + 1);

        return "$name$at: ".($problem->severity === Severity::Remark ? '(remark) ' : '').$problem->sentence;
    }

    /** @param  list<string>|null  $only */
    private static function json(Analysis $analysis, Trajectory $run, ?array $only): string
    {
        $columns = [];
        foreach ($analysis->columns($only) as $key => $name) {
            if ($run->has($key)) {
                $columns[$name] = $run->column($key);
            }
        }

        return json_encode(
            [
                'time' => array_map(Shown::time(...), $run->times()),
                'variables' => (object) $columns,
                'method' => $run->method->value,
                'evaluations' => $run->evaluations,
                'ended' => $run->ended,
                'notices' => $run->notices,
                'fault' => $run->fault,
            ],
            JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE,
        )."\n";
    }

    /** @param  iterable<string>  $lines */
    private function print(?string $file, iterable $lines): void
    {
        $to = $file === null ? $this->out : @fopen($file, 'w');
        if ($to === false) {
            throw new UsageError("The file $file cannot be written.");
        }
        foreach ($lines as $line) {
            if (@fwrite($to, $line) === false) {
                if ($file !== null) {
                    throw new UsageError("The file $file cannot be written to its end.");
                }
                // Who reads along, such as `head`, wants no more.
                break;
            }
        }
        if ($file !== null) {
            fclose($to);
        }
    }
}
