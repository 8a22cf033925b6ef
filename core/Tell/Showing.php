<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Tell;

use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Scenario;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Model\Showcase;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\Outcome;
use MerryOrbit\Core\Reduce\Outcomes;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Simulate\Thinning;
use MerryOrbit\Core\Simulate\Trajectory;

/**
 * What a page for readers shows at a step for what its inputs are set to. Nothing else of the model can be asked for: variables are those
 * of the page, inputs go no further than the page lets them.
 *
 * @phpstan-import-type Input from Showcase
 * @phpstan-import-type Block from Showcase
 */
final class Showing
{
    /** Moments of a plot: more than a screen is wide are not seen. */
    private const MOMENTS = 400;

    public function __construct(private readonly Simulator $simulator, private readonly Model $model, private readonly Showcase $page)
    {
    }

    /**
     * @return array<string, float> what the author set each input of a step to
     *
     * @throws NotUnderstood
     */
    public function authors(string $step): array
    {
        $trial = Trial::of($this->model, $this->settingOf($step));
        $values = [];
        foreach ($this->page->inputsOf($step) as $input) {
            $values[$input['id']] =
                $trial->setting->parameters[$input['of']] ?? ($trial->analysis->parameter($input['of']) ?? $input['low']);
        }

        return $values;
    }

    /**
     * What was asked for, as far as the page lets it: a number between its bounds, on its steps, one of its choices.
     *
     * @param  array<mixed>  $asked  by id of an input
     * @return array<string, float> of those that were asked for, in the order of the page
     *
     * @throws NotUnderstood where it is no number, or of no input
     */
    public static function within(Showcase $page, string $step, array $asked): array
    {
        $values = [];
        foreach ($page->inputsOf($step) as $input) {
            $value = $asked[$input['id']] ?? null;
            if (array_key_exists($input['id'], $asked)) {
                $values[$input['id']] =
                    (is_int($value) || is_float($value)) && is_finite((float) $value)
                        ? self::nearest($input, (float) $value)
                        : throw NotUnderstood::because("“{$input['words']}” is set to a number.");
            }
        }
        if (array_diff_key($asked, $values) !== []) {
            throw NotUnderstood::because('This page has no such input.');
        }

        return $values;
    }

    /** @param  Input  $input */
    private static function nearest(array $input, float $value): float
    {
        $open = match ($input['kind']) {
            'switch' => [$input['low'], $input['high']],
            'list' => array_column($input['choices'], 'value'),
            default => null,
        };
        if ($open !== null) {
            // The nearest of them.
            usort($open, static fn (float $a, float $b): int => abs($a - $value) <=> abs($b - $value));

            return $open[0];
        }
        $value = max($input['low'], min($input['high'], $value));
        if ($input['step'] > 0.0) {
            $value = min($input['high'], $input['low'] + round(($value - $input['low']) / $input['step']) * $input['step']);
        }

        return $value;
    }

    /**
     * @param  array<mixed>  $asked  by id of an input
     * @return array{step: string, inputs: array<string, float>, author: array<string, float>, times: list<float>, blocks: array<string, array<string, mixed>>}
     *
     * @throws NotUnderstood
     */
    public function of(string $step, array $asked): array
    {
        $author = $this->authors($step);
        $inputs = array_replace($author, self::within($this->page, $step, $asked));
        $own = $this->trial($step, $inputs);
        $theirs = $inputs === $author ? null : $this->trial($step, $author);
        $run = $own->run($this->simulator);
        $other = $theirs?->run($this->simulator);
        $thin = Thinning::of($run, self::MOMENTS);
        $blocks = [];
        foreach ($this->page->blocksOf($step) as $block) {
            if (! in_array($block['kind'], ['text', 'plot', 'table'], true)) {
                // It stands there whatever is moved: see Standing.
                continue;
            }
            $blocks[$block['id']] = $this->block($block, $own, $run, $thin, $theirs, $other);
        }

        return [
            'step' => $this->page->stepOf($step)['id'],
            'inputs' => $inputs,
            'author' => $author,
            'times' => $thin->times(),
            'blocks' => $blocks,
        ];
    }

    private function settingOf(string $step): Setting
    {
        $of = $this->page->stepOf($step);
        $below = $of['scenario'] === '' ? new Setting() : Scenario::settingOf($this->model->scenarios, $of['scenario']);

        return (new Setting($of['parameters']))->over($below);
    }

    /** @param  array<string, float>  $inputs */
    private function trial(string $step, array $inputs): Trial
    {
        $parameters = [];
        foreach ($this->page->inputsOf($step) as $input) {
            $parameters[$input['of']] = $inputs[$input['id']];
        }

        return Trial::of($this->model, (new Setting($parameters))->over($this->settingOf($step)));
    }

    /**
     * @param  Block  $block
     * @return array<string, mixed>
     */
    private function block(array $block, Trial $own, Trajectory $run, Thinning $thin, ?Trial $theirs, ?Trajectory $other): array
    {
        $shown = [];
        if ($block['numbers'] !== []) {
            $shown['numbers'] = (object) $this->numbers($block, $own, $run);
            $shown['author'] = $theirs === null || $other === null ? null : (object) $this->numbers($block, $theirs, $other);
        }
        if ($block['kind'] === 'text') {
            return $shown;
        }
        $theirThin = $other === null ? null : Thinning::of($other, self::MOMENTS);
        $shown['lines'] = [];
        foreach (array_slice($own->analysis->columns($block['of']), 0, Showcase::MOST_OF, true) as $key => $name) {
            if ($run->has((string) $key)) {
                $shown['lines'][] = [
                    'key' => (string) $key,
                    'name' => $name,
                    'unit' => self::unitOf($own->analysis->model, (string) $key),
                    'values' => self::finite($thin->column((string) $key)),
                    'author' => $other?->has((string) $key) === true && $theirThin !== null
                            ? self::finite($theirThin->column((string) $key))
                            : null,
                ];
            }
        }
        if ($theirThin !== null) {
            $shown['authorTimes'] = $theirThin->times();
        }
        $shown['marks'] = array_map(
            static fn (array $mark): array => [
                'words' => $mark['words'],
                'value' => $mark['of'] !== '' && $run->has($mark['of']) ? self::last($run, $mark['of']) : $mark['number'],
                // A line that goes with the run is drawn as it goes.
                'values' => $mark['of'] !== '' && $run->has($mark['of']) ? self::finite($thin->column($mark['of'])) : null,
            ],
            $block['marks'],
        );

        return $shown;
    }

    /**
     * @param  Block  $block
     * @return array<array-key, array{value: ?float, unit: string}>
     */
    private function numbers(array $block, Trial $trial, Trajectory $run): array
    {
        $numbers = [];
        foreach ($block['numbers'] as $number) {
            $outcome = new Outcome('', $number['of'], $number['kind'], $number['time']);
            $value = $run->has($number['of']) ? (new Outcomes([$outcome]))->reduce($run)[0] : NAN;
            $numbers[$number['id']] = [
                'value' => is_finite($value) ? $value : null,
                'unit' => $outcome->unit($trial->analysis->model),
            ];
        }

        return $numbers;
    }

    /** @param  Model  $model  with what its ledgers make */
    private static function unitOf(Model $model, string $key): string
    {
        return trim($model->element(Key::ownerOf($key))->unit ?? '');
    }

    private static function last(Trajectory $run, string $key): ?float
    {
        $column = $run->column($key);
        $value = $column === [] ? NAN : $column[count($column) - 1];

        return is_finite($value) ? $value : null;
    }

    /**
     * @param  list<float>  $values
     * @return list<?float>
     */
    private static function finite(array $values): array
    {
        return array_map(static fn (float $v): ?float => is_finite($v) ? $v : null, $values);
    }
}
