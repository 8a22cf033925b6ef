<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Plot;
use MerryOrbit\Core\Model\Scenario;

/** Takes away a scenario, a plot, a track or a finding. */
final readonly class Discard extends Edit
{
    public const WHAT = ['scenario' => 'scenarios', 'plot' => 'plots', 'track' => 'tracks', 'finding' => 'findings'];

    /** @param  key-of<self::WHAT>  $what */
    public function __construct(public string $what, public string $id)
    {
    }

    public function apply(Model $model): Model
    {
        if ($this->what === 'track') {
            $tracks = array_values(array_filter($model->tracks, fn (Plot $p): bool => $p->id !== $this->id));

            return count($tracks) === count($model->tracks) ? throw EditRefused::gone() : $model->with(['tracks' => $tracks]);
        }
        $field = self::WHAT[$this->what];
        $all = match ($this->what) {
            'scenario' => $model->scenarios,
            'plot' => $model->plots,
            default => $model->findings,
        };
        if (! isset($all[$this->id])) {
            throw EditRefused::gone();
        }
        unset($all[$this->id]);
        if ($this->what === 'scenario') {
            // Those that built on it keep the rest of what they say.
            $all = array_map(
                fn (mixed $s): mixed => $s instanceof Scenario && in_array($this->id, $s->on, true)
                    ? new Scenario($s->id, $s->name, $s->note, array_values(array_diff($s->on, [$this->id])), $s->setting, $s->place)
                    : $s,
                $all,
            );
        }

        return $model->with([$field => $all]);
    }

    public function words(Model $before): string
    {
        $name = match ($this->what) {
            'scenario' => $before->scenarios[$this->id]->name ?? '',
            'plot' => $before->plots[$this->id]->name ?? '',
            'finding' => $before->findings[$this->id]->title ?? '',
            default => '',
        };

        return "Removed the $this->what".($name === '' ? '' : " “{$name}”");
    }
}
