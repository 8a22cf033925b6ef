<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Experiment;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Analysis\Holding;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Simulate\RunOptions;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Simulate\Trajectory;

/** A model under a setting, ready to run. */
final readonly class Trial
{
    private function __construct(public Analysis $analysis, public Setting $setting, public RunOptions $settings)
    {
    }

    /** @throws RunRefused when a part of the setting makes no sense for this model */
    public static function of(Model $model, Setting $setting = new Setting()): self
    {
        $fields = [];
        foreach ($setting->curves as $id => $other) {
            $own = $model->element($id);
            $given = $model->element($other);
            if ($own instanceof Relation) {
                if (! ($given instanceof Relation) || count($given->points) < 2) {
                    throw RunRefused::because(
                        new Problem(
                            'setting.curve',
                            "The points of `$own->name` are to be those of a curve or series that the model does not have any more. Choose another.",
                            $id,
                            'points',
                        ),
                    );
                }
                $fields[$id] = $own->with(['points' => $given->points, 'between' => $given->between, 'beyond' => $given->beyond]);
            }
        }
        foreach ($setting->grips as $id => $grip) {
            $refusal = $grip->on && $model->element(Key::ownerOf($id)) !== null ? Holding::refusal($model, $grip) : null;
            if ($refusal !== null) {
                throw RunRefused::because(new Problem('setting.grip', $refusal, Key::ownerOf($id), 'grip'));
            }
        }
        try {
            $model = $model->limitedTo($setting->limits);
        } catch (NotUnderstood $e) {
            throw RunRefused::because(new Problem('setting.limit', $e->getMessage()));
        }
        if ($setting->levels !== []) {
            try {
                $model = Levels::applied($model, $setting->levels);
            } catch (NotUnderstood $e) {
                throw RunRefused::because(new Problem('setting.level', $e->getMessage()));
            }
        }
        $time = $setting->timeOf($model->time);
        // The model itself is analysed perhaps already.
        $model =
            $fields === [] && $time == $model->time
                ? $model
                : $model->with(['time' => $time, 'elements' => [...$model->elements, ...$fields]]);

        $analysis = Analyser::analyse($model, $setting->grips);

        return new self(
            $analysis,
            $setting,
            new RunOptions(
                array_filter(
                    $setting->parameters,
                    static fn (string $key): bool => $analysis->model->element($key) !== null || $analysis->parameter($key) !== null,
                    ARRAY_FILTER_USE_KEY,
                ),
                seed: $setting->seed ?? 1,
            ),
        );
    }

    /**
     * The same setting of another model, without what is set of things that have values of their own there.
     *
     * @param  list<string>  $but  ids
     */
    public function under(Model $model, array $but): self
    {
        $parameters = array_filter(
            $this->settings->parameters,
            static fn (string $key): bool => ! in_array(Key::ownerOf($key), $but, true),
            ARRAY_FILTER_USE_KEY,
        );

        return new self(
            Analyser::analyse($model, $this->setting->grips),
            $this->setting,
            new RunOptions($parameters, seed: $this->settings->seed, grain: $this->settings->grain),
        );
    }

    public function model(): Model
    {
        return $this->analysis->model;
    }

    /**
     * @param  list<string>  $looked  ids of things, or keys of single elements, that are kept of a large model where all would be too much
     *
     * @throws RunRefused
     */
    public function run(Simulator $simulator, array $looked = []): Trajectory
    {
        return $simulator->run($this->analysis, $this->settings, $looked);
    }
}
