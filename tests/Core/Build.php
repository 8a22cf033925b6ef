<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Edit\AddElement;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Simulate\Trajectory;

/** Makes models for tests in a few words; an element's id is its name with hyphens. */
final class Build
{
    /** Methods with fixed steps. */
    public const FIXED = [Method::Euler, Method::Heun, Method::RungeKutta4];

    public static function id(string $name): string
    {
        return trim((string) preg_replace('/[^a-z0-9]+/', '-', strtolower($name)), '-');
    }

    /**
     * @param  array<string, string>  $parameters  formulas by name
     * @param  array<string, string>  $stocks  initial values by name
     * @param  array<string, array{0: string, from?: string, to?: string}>  $flows  formula and ends by name
     * @param  array<string, string>  $auxiliaries  formulas by name
     */
    public static function model(
        array $parameters = [],
        array $stocks = [],
        array $flows = [],
        array $auxiliaries = [],
        ?TimeSettings $time = null,
    ): Model {
        $model = new Model('Test', time: $time ?? new TimeSettings(0, 10, 0.5, 'year'));
        $edits = [];
        foreach ($stocks as $name => $initial) {
            $edits[] = new AddElement(self::id($name), Kind::Stock, $name, $initial);
        }
        foreach ($parameters as $name => $value) {
            $edits[] = new AddElement(self::id($name), Kind::Parameter, $name, $value);
        }
        foreach ($flows as $name => $flow) {
            $edits[] = new AddElement(
                self::id($name),
                Kind::Flow,
                $name,
                $flow[0],
                from: isset($flow['from']) ? self::id($flow['from']) : null,
                to: isset($flow['to']) ? self::id($flow['to']) : null,
            );
        }
        foreach ($auxiliaries as $name => $formula) {
            $edits[] = new AddElement(self::id($name), Kind::Auxiliary, $name, $formula);
        }
        foreach ($edits as $edit) {
            $model = $edit->apply($model);
        }

        return $model;
    }

    /** @param  array<string, float>  $parameters */
    public static function run(Model $model, array $parameters = [], ?TimeSettings $time = null): Trajectory
    {
        return self::simulator()->run(Analyser::analyse($model), new RunOptions($parameters, $time));
    }

    public static function simulator(): Simulator
    {
        return new Simulator(new ProgramStore(sys_get_temp_dir().'/merry-orbit-tests-'.getmyuid()));
    }

    /** @return list<string> the codes of what is wrong */
    public static function codes(Model $model): array
    {
        return array_map(static fn ($p): string => $p->code, Analyser::analyse($model)->problems);
    }
}
