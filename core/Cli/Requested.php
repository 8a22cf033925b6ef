<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Exchange\FileRefused;
use MerryOrbit\Core\Exchange\ModelFile;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Scenario;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\Nearest;

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
        $text = is_file($arguments->file) ? @file_get_contents($arguments->file) : false;
        if ($text === false) {
            throw new UsageError("The file {$arguments->file} cannot be read.");
        }
        $imported = ModelFile::import($text, $lenient);
        foreach ($imported->log as $line) {
            fwrite($err, "$line->where: $line->sentence\n");
        }
        if (! $lenient && $imported->guesses() !== []) {
            throw new ModelRefused(['What was guessed changes numbers or structure. Mend the file, or take the guesses with --lenient.']);
        }

        return $imported->model;
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
            $id = $model->idOf(Name::key(trim((string) $name, " \t\"")));
            if ($id === null || ! ($model->elements[$id] instanceof Parameter)) {
                $names = array_map(
                    static fn (Parameter $p): string => $p->name,
                    array_filter($model->elements, static fn ($e): bool => $e instanceof Parameter),
                );
                throw new UsageError("The model has no parameter `$name`.".Nearest::question((string) $name, $names));
            }
            $values[$id] = Arguments::toNumber($value, "The value of `$name`");
        }

        return $values;
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

        return (new Setting(self::parameters($model, $arguments->all('set')), [], $given, [], $seed === null ? null : (int) $seed))->over(
            self::scenario($model, $arguments->last('scenario')),
        );
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
     * @return list<string>|null ids; null for all
     */
    public static function only(Model $model, array $names): ?array
    {
        $ids = [];
        foreach ($names as $name) {
            $ids[] =
                $model->idOf(Name::key(trim($name, " \t\""))) ??
                throw new UsageError("The model has no variable `$name`.".Nearest::question($name, $model->names()));
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
