<?php

declare(strict_types=1);

namespace App\Sharing;

use App\Models\Comment;
use App\Models\EditRow;
use App\Models\ModelDocument;
use App\Models\User;
use App\Models\Visit;
use Illuminate\Support\Facades\Cache;

/** When people were in a study, and what others did there in between. */
final class Visits
{
    /** Minutes without a sign after which whoever comes again comes anew. */
    private const APART = 10;

    /** A sign is written at most so often, in seconds. */
    private const EVERY = 60;

    private const MOST_EDITS = 2000;

    private const MOST_WORDS = 8;

    /** Somebody opens the study. */
    public static function begin(ModelDocument $model, User $user): Visit
    {
        $visit = Visit::query()->where('study_id', $model->study_id)->where('user_id', $user->id)->first();
        if ($visit === null) {
            return Visit::query()->createOrFirst(
                ['study_id' => $model->study_id, 'user_id' => $user->id],
                ['seen_at' => now(), 'seen_revision' => $model->revision],
            );
        }
        if ($visit->seen_at->lt(now()->subMinutes(self::APART))) {
            $visit->fill(['before_at' => $visit->seen_at, 'before_revision' => $visit->seen_revision]);
        }
        $visit->fill(['seen_at' => now(), 'seen_revision' => $model->revision])->save();

        return $visit;
    }

    /** Somebody is still there. */
    public static function stay(ModelDocument $model, User $user): void
    {
        rescue(static function () use ($model, $user): void {
            if (Cache::add("visit of $user->id in $model->study_id", true, self::EVERY)) {
                Visit::query()
                    ->where('study_id', $model->study_id)
                    ->where('user_id', $user->id)
                    ->update(['seen_at' => now(), 'seen_revision' => $model->revision]);
            }
        }, report: false);
    }

    /** @return string a mark that changes whenever something is said, settled or taken away */
    public static function lastSaid(ModelDocument $model): string
    {
        $of = Comment::query()->where('study_id', $model->study_id);

        // Its time alone would miss what is changed twice in a second.
        $told = $of
            ->toBase()
            ->selectRaw('count(*) as comments, max(updated_at) as last, count(settled_at) as settled, sum(length(text)) as letters')
            ->first();

        return implode(' ', (array) $told);
    }

    /**
     * What others have done since somebody was last there.
     *
     * @return array{before: ?string, revision: ?int, changes: array<int, array{name: string, count: int, words: array<int, string>}>, comments: int}
     */
    public static function since(ModelDocument $model, User $user, Visit $visit): array
    {
        if ($visit->before_at === null || $visit->before_revision === null) {
            return ['before' => null, 'revision' => null, 'changes' => [], 'comments' => 0];
        }
        $edits = $model
            ->edits()
            ->where('revision', '>', $visit->before_revision)
            ->where('user_id', '<>', $user->id)
            ->where('kind', 'edit')
            ->whereNull('undone_at_revision')
            ->latest('revision')
            ->limit(self::MOST_EDITS)
            ->get(['user_id', 'words', 'revision']);
        $names = User::query()
            ->whereKey($edits->pluck('user_id')->unique())
            ->pluck('name', 'id');

        return [
            'before' => $visit->before_at->toIso8601String(),
            'revision' => $visit->before_revision,
            'changes' => $edits
                ->groupBy('user_id')
                ->map(
                    static fn ($own, int $id): array => [
                        'name' => (string) $names[$id],
                        'count' => $own->count(),
                        // The newest, each once, in the order they were done.
                        'words' => $own
                            ->map(static fn (EditRow $e): string => $e->words)
                            ->unique()
                            ->take(self::MOST_WORDS)
                            ->reverse()
                            ->values()
                            ->all(),
                    ],
                )
                ->values()
                ->all(),
            'comments' => Comment::query()
                ->where('study_id', $model->study_id)
                ->where('user_id', '<>', $user->id)
                ->where('created_at', '>', $visit->before_at)
                ->where('text', '<>', '')
                ->count(),
        ];
    }
}
