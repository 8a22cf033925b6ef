<?php

declare(strict_types=1);

namespace App\Studies;

use App\Models\ModelDocument;
use App\Models\RunRow;
use App\Models\User;
use MerryOrbit\Core\Simulate\RunSettings;

/** Remembers runs as settings and revision, the last two hundred of each model. */
final class RunLog
{
    public static function remember(ModelDocument $model, User $user, RunSettings $settings): void
    {
        $last = $model->runs()->where('user_id', $user->id)->latest('id')->first();
        $record = ['parameters' => $settings->parameters];
        if ($last !== null && $last->revision === $model->revision && $last->settings == $record) {
            return;
        }
        $model->runs()->create(['user_id' => $user->id, 'revision' => $model->revision, 'settings' => $record]);
        $oldest = $model->runs()->where('user_id', $user->id)->latest('id')->skip(config()->integer('merry-orbit.quota.kept_runs'))->first();
        if ($oldest !== null) {
            $model->runs()->where('user_id', $user->id)->where('id', '<=', $oldest->id)->delete();
        }
    }

    /** @return list<array<string, mixed>> newest first */
    public static function of(ModelDocument $model, User $user): array
    {
        return array_values($model->runs()->where('user_id', $user->id)->latest('id')->get()
            ->map(static fn (RunRow $r): array => ['id' => $r->id, 'revision' => $r->revision, 'settings' => $r->settings, 'made' => $r->created_at->toIso8601String()])->all());
    }
}
