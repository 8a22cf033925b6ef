<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Analysis\KeyReading;
use MerryOrbit\Core\Exchange\FileRefused;
use MerryOrbit\Core\Exchange\ModelFile;
use MerryOrbit\Core\Experiment\Muster;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Map\CausalGraph;
use MerryOrbit\Core\Map\MapCsv;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Roster;
use MerryOrbit\Core\Model\Scenario;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Problem\Nearest;
use MerryOrbit\Core\Problem\NotUnderstood;

/** What the words of a command line ask for: the model, the setting of a run, the variables to print. */
final class Requested
{
    /**
     * @param  resource  $err  where it is said what had to be guessed
     *
     * @throws ModelRefused if something had to be guessed and that is not wished
     * @throws FileRefused|UsageError
     */
    public static function model(Arguments $arguments, mixed $err): Model
    {
        $lenient = $arguments->last('lenient') !== null;
        $imported = ModelFile::import(self::text($arguments), $lenient);
        foreach ($imported->log as $line) {
            fwrite($err, "$line->where: $line->sentence\n");
        }
        if (! $lenient && $imported->guesses() !== []) {
            throw new ModelRefused(['What was guessed changes numbers or structure. Mend the file, or take the guesses with --lenient.']);
        }

        return $imported->model;
    }

    /**
     * What acts on what in a model file or a causal map, whether or not it can be computed.
     *
     * @param  resource  $err  where it is said what had to be guessed
     *
     * @throws NotUnderstood if a map says something that is no link
     * @throws ModelRefused|FileRefused|UsageError
     */
    public static function graph(Arguments $arguments, mixed $err): CausalGraph
    {
        $text = self::text($arguments);

        return MapCsv::looksLike($text) || str_ends_with(strtolower($arguments->file), '.csv')
            ? MapCsv::read($text)
            : CausalGraph::ofModel(Analyser::analyse(self::model($arguments, $err)));
    }

    /**
     * @return array<string, '+'|'-'> by id of the factor
     *
     * @throws UsageError
     */
    public static function pushed(Arguments $arguments, CausalGraph $graph): array
    {
        $ids = [];
        foreach ($graph->names as $id => $name) {
            $ids[Name::key($name)] = (string) $id;
        }
        $pushed = [];
        foreach ($arguments->all('push') as $push) {
            $at = strrpos($push, '=');
            $name = trim($at === false ? $push : substr($push, 0, $at));
            $direction = $at === false ? '' : ['+' => '+', '-' => '-', '−' => '-'][trim(substr($push, $at + 1))] ?? '';
            if ($direction === '') {
                throw new UsageError("--push takes NAME=+ or NAME=-, not `$push`.");
            }
            $id = $ids[Name::key($name)] ?? null;
            if ($id === null) {
                throw new UsageError("Nothing is called `$name`.".Nearest::question($name, array_values($graph->names)));
            }
            $pushed[$id] = $direction;
        }

        return $pushed === [] ? throw new UsageError('Say what is pushed: --push "NAME=+" or "NAME=-".') : $pushed;
    }

    private static function text(Arguments $arguments): string
    {
        $text = is_file($arguments->file) ? @file_get_contents($arguments->file) : false;

        return $text === false ? throw new UsageError("The file {$arguments->file} cannot be read.") : $text;
    }

    /**
     * @param  list<string>  $settings
     * @return array<string, float>
     */
    private static function parameters(Model $model, array $settings): array
    {
        $values = [];
        foreach ($settings as $setting) {
            [$name, $value] = array_pad(explode('=', $setting, 2), 2, null);
            if ($value === null) {
                throw new UsageError("--set takes name=value, not `$setting`.");
            }
            [$whole, $at] = KeyReading::apart((string) $name);
            $id = $model->idOf(Name::key($whole));
            if ($id === null || ! ($model->elements[$id] instanceof Parameter)) {
                $names = array_map(
                    static fn (Parameter $p): string => $p->name,
                    array_filter($model->elements, static fn ($e): bool => $e instanceof Parameter),
                );
                throw new UsageError("The model has no parameter `$name`.".Nearest::question((string) $name, $names));
            }
            $key = $at === [] ? $id : (new Key($id, '', self::elements($model, $id, $at)))->text();
            $values[$key] = Arguments::toNumber($value, "The value of `$name`");
        }

        return $values;
    }

    /**
     * @param  list<string>  $at  names of elements
     * @return list<string> their ids
     */
    private static function elements(Model $model, string $parameter, array $at): array
    {
        $over = $model->shapes[$parameter] ?? [];
        $name = (string) $model->nameOf($parameter);
        if (count($over) !== count($at)) {
            throw new UsageError("`$name` extends over ".count($over).' dimensions, but '.count($at).' elements are named.');
        }
        $ids = [];
        foreach ($at as $i => $one) {
            $ids[] =
                $model->dimensions()->elementOf($over[$i], $one) ??
                throw new UsageError("`$one` is no element of the dimension `{$model->dimensions()->nameOf($over[$i])}` of `$name`.");
        }

        return $ids;
    }

    public static function setting(Model $model, Arguments $arguments): Setting
    {
        $given = [];
        foreach (['step' => 'step', 'start' => 'start', 'end' => 'end', 'save-every' => 'saveEvery'] as $option => $field) {
            $value = $arguments->number($option);
            if ($value !== null) {
                $given[$field] = $value;
            }
        }
        $method = $arguments->last('method');
        if ($method !== null) {
            $given['method'] = self::oneOf($method, array_column(Method::cases(), 'value'), '--method');
        }
        $seed = $arguments->number('seed');
        if ($seed !== null && ($seed !== floor($seed) || abs($seed) > 2 ** 53)) {
            throw new UsageError('--seed is a whole number.');
        }

        $own = new Setting(
            self::parameters($model, $arguments->all('set')),
            [],
            $given,
            [],
            $seed === null ? null : (int) $seed,
            levels: self::levels($model, $arguments),
        );

        return $own->over(self::scenario($model, $arguments->last('scenario')));
    }

    /**
     * @return array<string, string> by id of a roster, at which level its members are
     *
     * @throws UsageError|NotUnderstood
     */
    public static function levels(Model $model, Arguments $arguments): array
    {
        $levels = [];
        foreach ($arguments->all('level') as $said) {
            [$name, $level] = array_map(trim(...), array_pad(explode('=', $said, 2), 2, ''));
            if ($level === '') {
                throw new UsageError("--level takes ROSTER=LEVEL, such as \"boat=classes\", not `$said`.");
            }
            $of = Muster::find($model, $name)->id;
            foreach ($model->part('rosters') as $roster) {
                if ($roster instanceof Roster && $roster->of === $of) {
                    $levels[$roster->id] = self::oneOf($level, Roster::LEVELS, '--level');
                }
            }
        }

        return $levels;
    }

    private static function scenario(Model $model, ?string $name): Setting
    {
        if ($name === null) {
            return new Setting();
        }
        foreach ($model->scenarios as $scenario) {
            if (Name::key($scenario->name) === Name::key($name)) {
                return Scenario::settingOf($model->scenarios, $scenario->id);
            }
        }
        $names = array_map(static fn (Scenario $s): string => $s->name, array_values($model->scenarios));
        throw new UsageError(
            "The model has no scenario `$name`.".($names === [] ? ' It has none at all.' : Nearest::question($name, $names)),
        );
    }

    /**
     * @param  list<string>  $names
     * @return list<string>|null ids, or keys of elements along dimensions; null for all
     */
    public static function only(Analysis $analysis, array $names): ?array
    {
        $ids = [];
        foreach ($names as $name) {
            $ids[] =
                KeyReading::key($analysis, $name) ??
                throw new UsageError("The model has no variable `$name`.".Nearest::question($name, $analysis->model->names()));
        }

        return $ids === [] ? null : $ids;
    }

    /** @param  list<string>  $choices */
    public static function oneOf(string $word, array $choices, string $option): string
    {
        return in_array($word, $choices, true)
            ? $word
            : throw new UsageError("$option is one of ".implode(', ', $choices).", not `$word`.");
    }
}
