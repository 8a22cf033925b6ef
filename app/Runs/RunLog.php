<?php

declare(strict_types=1);

namespace App\Runs;

use App\Models\EditRow;
use App\Models\ModelDocument;
use App\Models\RunRow;
use App\Models\User;
use Illuminate\Support\Collection;
use MerryOrbit\Core\Experiment\Changes;
use MerryOrbit\Core\Model\Meaning;
use MerryOrbit\Core\Model\Setting;

/** The logbook: runs as settings and revision, the last two hundred of each model and all that have a star or a comment. */
final class RunLog
{
    public static function remember(ModelDocument $model, User $user, Setting $setting, string $scenario = ''): void
    {
        $record = $setting->toRecord();
        $meaning = Meaning::of($model->core());
        $mine = $model->runs()->where('user_id', $user->id);
        $same = static fn (RunRow $r): bool => $r->meaning === $meaning && $r->scenario === $scenario && $r->settings == $record;
        // The baseline and scenarios are told of once for all that computes alike, whatever was moved or renamed; any other setting
        // whenever it is come back to.
        $before =
            $record === [] || $scenario !== ''
                ? (clone $mine)->where('meaning', $meaning)->get()
                : (clone $mine)->latest('id')->limit(1)->get();
        if ($before->contains($same)) {
            return;
        }
        $model
            ->runs()
            ->create([
                'user_id' => $user->id,
                'revision' => $model->revision,
                'settings' => $record,
                'scenario' => $scenario,
                'meaning' => $meaning,
            ]);
        $plain = $model->runs()->where('user_id', $user->id)->where('starred', false)->where('comment', '');
        $oldest = (clone $plain)->latest('id')->skip(config()->integer('merry-orbit.quota.kept_runs'))->first();
        if ($oldest !== null) {
            $plain->where('id', '<=', $oldest->id)->delete();
        }
    }

    /** @return list<array<string, mixed>> newest first, each with what was changed before it */
    public static function of(ModelDocument $model, User $user): array
    {
        $rows = $model->runs()->where('user_id', $user->id)->oldest('id')->get();
        $core = $model->core();
        /** @var Collection<int, EditRow> $edits */
        $edits = $rows->isEmpty()
            ? collect()
            : $model
                ->edits()
                ->where('revision', '>', $rows->first()->revision)
                ->orderBy('revision')
                ->get(['revision', 'words']);
        $list = [];
        $before = null;
        foreach ($rows as $row) {
            $setting = Setting::read($row->settings);
            $list[] = [
                'id' => $row->id,
                'revision' => $row->revision,
                'settings' => (object) $row->settings,
                'scenario' => $row->scenario,
                'starred' => $row->starred,
                'comment' => $row->comment,
                'made' => $row->created_at->toIso8601String(),
                'edits' => $before === null
                        ? []
                        : $edits
                            ->filter(static fn (EditRow $e): bool => $e->revision > $before->revision && $e->revision <= $row->revision)
                            ->map(static fn (EditRow $e): string => $e->words)
                            ->values()
                            ->all(),
                'setting' => Changes::words($core, $setting),
            ];
            $before = $row;
        }

        return array_reverse($list);
    }

    /** The logbook as comma-separated text, oldest first. */
    public static function csv(ModelDocument $model, User $user): string
    {
        $file = fopen('php://temp', 'r+') ?: throw new \RuntimeException('No memory for the logbook.');
        fputcsv($file, ['when', 'revision', 'scenario', 'edits before it', 'setting', 'star', 'comment'], escape: '');
        foreach (array_reverse(self::of($model, $user)) as $run) {
            $text = static fn (mixed $v): string => is_array($v)
                ? implode('; ', array_filter($v, is_string(...)))
                : (is_scalar($v)
                    ? (string) $v
                    : '');
            $fields = [
                $text($run['made']),
                $text($run['revision']),
                $text($run['scenario']),
                $text($run['edits']),
                $text($run['setting']),
                $run['starred'] === true ? '*' : '',
                $text($run['comment']),
            ];
            // A spreadsheet would take what begins so for a formula.
            fputcsv(
                $file,
                array_map(static fn (string $f): string => preg_match('/^[=+\-@\t]/', $f) === 1 ? "'$f" : $f, $fields),
                escape: '',
            );
        }
        rewind($file);

        return (string) stream_get_contents($file);
    }
}
