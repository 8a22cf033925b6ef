<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Compile\Analyser;
use MerryOrbit\Core\Compile\Analysis;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Exchange\CsvTable;
use MerryOrbit\Core\Exchange\FileRefused;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Problem\Nearest;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Problem\Severity;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\RunSettings;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Simulate\Trajectory;

/** The command line: it reads a model file and runs or checks it, without database or framework. */
final readonly class Orbit
{
    public const RAN = 0;

    public const USAGE = 2;

    public const PROBLEMS = 3;

    public const FAULT = 4;

    private const OPTIONS = ['run' => ['set', 'method', 'step', 'format', 'out'], 'check' => ['format']];

    private const HELP = <<<'TEXT'
        orbit run MODEL [options]     run a model file and print its course
          --set "name=value"          another value for a parameter (again for more)
          --method=euler|rk4          another integration method
          --step=NUMBER               another time step, in the model's time unit
          --format=csv|json           how to print (csv)
          --out=FILE                  where to (standard output)

        orbit check MODEL [options]   say what is missing or unsound
          --format=text|json          how to print (text)

        Exit codes: 0 ran, 2 usage, 3 the model has problems, 4 a numeric fault.

        TEXT;

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
            fwrite($this->out, self::HELP);

            return self::RAN;
        }
        try {
            $arguments = Arguments::parse($words, self::OPTIONS);

            return $arguments->command === 'run' ? $this->simulate($arguments) : $this->check($arguments);
        } catch (UsageError|FileRefused|RunRefused $e) {
            fwrite($this->err, $e->getMessage()."\n".($words === [] ? "\n".self::HELP : ''));

            // Settings from the command line that allow no run are a matter of usage; a model too big to run is not.
            return $e instanceof RunRefused && $e->problem->code === 'run.limit' ? self::PROBLEMS : self::USAGE;
        }
    }

    private function simulate(Arguments $arguments): int
    {
        $format = self::oneOf($arguments->last('format') ?? 'csv', ['csv', 'json'], '--format');
        $analysis = Analyser::analyse($this->model($arguments));
        $hindrances = $analysis->hindrances();
        if ($hindrances !== []) {
            foreach ($hindrances as $problem) {
                fwrite($this->err, $this->line($analysis->model, $problem)."\n");
            }

            return self::PROBLEMS;
        }
        $settings = new RunSettings($this->parameters($analysis->model, $arguments->all('set')), $this->time($analysis->model->time, $arguments));
        $run = (new Simulator(ProgramStore::ofUser()))->run($analysis, $settings);
        $this->print($arguments->last('out'), $format === 'csv' ? CsvTable::lines($analysis->model, $run) : [self::json($analysis, $run)]);
        if ($run->fault === null) {
            return self::RAN;
        }
        fwrite($this->err, $run->fault->sentence()."\n");

        return self::FAULT;
    }

    private function check(Arguments $arguments): int
    {
        $format = self::oneOf($arguments->last('format') ?? 'text', ['text', 'json'], '--format');
        $analysis = Analyser::analyse($this->model($arguments));
        if ($format === 'json') {
            $problems = array_map(static fn (Problem $p): array => ['name' => $p->element === null ? null : $analysis->model->nameOf($p->element), ...$p->jsonSerialize()], $analysis->problems);
            fwrite($this->out, json_encode(['problems' => $problems], JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_PRETTY_PRINT)."\n");
        } else {
            foreach ($analysis->problems as $problem) {
                fwrite($this->out, $this->line($analysis->model, $problem)."\n");
            }
            if ($analysis->problems === []) {
                fwrite($this->out, "Nothing is missing.\n");
            }
        }

        return $analysis->hindrances() === [] ? self::RAN : self::PROBLEMS;
    }

    private function model(Arguments $arguments): Model
    {
        $text = is_file($arguments->file) ? @file_get_contents($arguments->file) : false;
        if ($text === false) {
            throw new UsageError("The file {$arguments->file} cannot be read.");
        }
        $imported = NativeFile::import($text);
        foreach ($imported->log as $line) {
            fwrite($this->err, "$line->where: $line->sentence\n");
        }

        return $imported->model;
    }

    /**
     * @param  list<string>  $settings
     * @return array<string, float>
     */
    private function parameters(Model $model, array $settings): array
    {
        $values = [];
        foreach ($settings as $setting) {
            [$name, $value] = array_pad(explode('=', $setting, 2), 2, null);
            if ($value === null) {
                throw new UsageError("--set takes name=value, not `$setting`.");
            }
            $id = $model->idOf(Name::key(trim((string) $name, " \t\"")));
            if ($id === null || ! $model->elements[$id] instanceof Parameter) {
                $names = array_map(static fn (Parameter $p): string => $p->name, array_filter($model->elements, static fn ($e): bool => $e instanceof Parameter));
                throw new UsageError("The model has no parameter `$name`.".Nearest::question((string) $name, $names));
            }
            $values[$id] = Arguments::toNumber($value, "The value of `$name`");
        }

        return $values;
    }

    private function time(TimeSettings $time, Arguments $arguments): TimeSettings
    {
        $changes = array_filter(['step' => $arguments->number('step')], static fn (?float $v): bool => $v !== null);
        $method = $arguments->last('method');
        if ($method !== null) {
            $changes['method'] = Method::from(self::oneOf($method, array_column(Method::cases(), 'value'), '--method'));
        }

        return $time->with($changes);
    }

    /** @param  list<string>  $choices */
    private static function oneOf(string $word, array $choices, string $option): string
    {
        return in_array($word, $choices, true) ? $word : throw new UsageError("$option is one of ".implode(', ', $choices).", not `$word`.");
    }

    private function line(Model $model, Problem $problem): string
    {
        $name = $problem->element === null ? 'time' : (string) $model->nameOf($problem->element);
        $at = $problem->from === null ? '' : ', at character '.($problem->from + 1);

        return "$name$at: ".($problem->severity === Severity::Remark ? '(remark) ' : '').$problem->sentence;
    }

    private static function json(Analysis $analysis, Trajectory $run): string
    {
        $columns = [];
        foreach ($analysis->model->elements as $id => $element) {
            if ($run->has($id)) {
                $columns[$element->name] = $run->column($id);
            }
        }

        return json_encode(['time' => $run->times(), 'variables' => (object) $columns, 'fault' => $run->fault], JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE)."\n";
    }

    /** @param  iterable<string>  $lines */
    private function print(?string $file, iterable $lines): void
    {
        $to = $file === null ? $this->out : @fopen($file, 'w');
        if ($to === false) {
            throw new UsageError("The file $file cannot be written.");
        }
        foreach ($lines as $line) {
            fwrite($to, $line);
        }
        if ($file !== null) {
            fclose($to);
        }
    }
}
