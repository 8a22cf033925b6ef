<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\Study;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/** @mixin Study */
final class StudyResource extends JsonResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        return [
            'id' => $this->id,
            'name' => $this->name,
            'demo' => $this->demo !== null,
            'model' => $this->model->id,
            'revision' => $this->model->revision,
            // Lines of its import log that nobody has ticked off.
            'toCheck' => count(array_filter($this->import_log ?? [], static fn (array $l): bool => ! $l['done'])),
            // Who it belongs to, where it is somebody else.
            'owner' => $this->user_id === $request->user()?->id ? null : $this->owner->name,
            // What it is a copy of, for its owner.
            'origin' => $this->user_id === $request->user()?->id ? $this->resource->origin() : null,
            'changed' => $this->updated_at?->toIso8601String(),
        ];
    }
}
