<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Finding;
use MerryOrbit\Core\Model\Model;

/** Keeps a finding, new or in place of the one with its id. */
final readonly class PutFinding extends Edit
{
    public function __construct(public Finding $finding)
    {
    }

    public function apply(Model $model): Model
    {
        if (! isset($model->findings[$this->finding->id]) && count($model->findings) >= Finding::MOST) {
            throw EditRefused::because('finding.many', 'A study has at most '.Finding::MOST.' findings. Remove some first.');
        }

        return $model->with(['findings' => [...$model->findings, $this->finding->id => $this->finding]]);
    }

    public function words(Model $before): string
    {
        return (isset($before->findings[$this->finding->id]) ? 'Changed' : 'Kept')." the finding “{$this->finding->title}”";
    }
}
