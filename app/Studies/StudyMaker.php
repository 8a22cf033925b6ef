<?php

declare(strict_types=1);

namespace App\Studies;

use App\Models\ModelDocument;
use App\Models\Study;
use App\Models\User;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Illuminate\Validation\ValidationException;
use MerryOrbit\Core\Exchange\LogLine;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Structure\Layout;

/** Makes studies: empty ones, from files, as copies. */
final class StudyMaker
{
    /** Names of their files. */
    private const DEMOS = [
        'fresh-water',
        'kelp-and-urchins',
        'ferry-season',
        'oyster-terraces',
        'bath-house',
        'why-the-harbour-silts-up',
        'two-bakers',
        'harbour-books',
        'new-boats-for-old',
        'where-the-boats-fish',
        'the-mending-of-the-pier',
        'oysters-on-order',
    ];

    /** Edits that come with a demo are said to be of this window. */
    private const WINDOW = 'demo';

    /** @param  list<LogLine>  $log  what was said when its file was read */
    public static function make(User $user, Model $model, ?string $demo = null, array $log = []): Study
    {
        $most = config()->integer('merry-orbit.quota.studies');
        if ($user->studies()->count() >= $most) {
            throw ValidationException::withMessages([
                'name' => "You have $most studies, as many as one person may keep. Delete one first.",
            ]);
        }
        $model = Layout::complete($model->name === '' ? $model->with(['name' => 'Untitled']) : $model);
        $name = mb_substr($model->name, 0, Name::LONGEST);

        $lines = array_map(static fn (LogLine $l): array => [...$l->jsonSerialize(), 'done' => false], $log);

        return DB::transaction(static function () use ($user, $model, $demo, $name, $lines): Study {
            $study = $user->studies()->create([
                'name' => $name,
                'demo' => $demo,
                'import_log' => $lines === [] ? null : $lines,
            ]);
            $study->model()->create(['user_id' => $user->id, 'document' => ModelDocument::written($model->with(['name' => $name]))]);

            return $study;
        });
    }

    /** A name no other study of this person has: "Fresh water 2". */
    public static function freeName(User $user, string $name): string
    {
        $taken = $user->studies()->pluck('name')->map(static fn (mixed $n): string => mb_strtolower((string) $n))->all();
        for ($free = $name, $i = 2; in_array(mb_strtolower($free), $taken, true); $i++) {
            $free = "$name $i";
        }

        return $free;
    }

    /** The demo studies that are not there yet; deleted ones stay deleted. */
    public static function demo(User $user): void
    {
        foreach (self::DEMOS as $demo) {
            if (Study::withTrashed()->where('user_id', $user->id)->where('demo', $demo)->doesntExist()) {
                $study = self::make($user, NativeFile::import((string) file_get_contents(base_path("demo/$demo.json")))->model, $demo);
                self::worlds($study, $user, base_path("demo/worlds/$demo.json"));
            }
        }
    }

    /** Whether somebody has changed a demo study since it was made. */
    public static function isWorkedOn(ModelDocument $model): bool
    {
        return $model->revision > 0 && $model->edits()->where('window', '<>', self::WINDOW)->exists();
    }

    /** What else the study could be, kept as versions with names: each is done, named and undone. */
    private static function worlds(Study $study, User $user, string $file): void
    {
        $document = $study->model;
        if (! is_file($file)) {
            return;
        }
        /** @var list<array{name: string, edit: array<string, mixed>}> $worlds */
        $worlds = json_decode((string) file_get_contents($file), true, flags: JSON_THROW_ON_ERROR);
        $editor = new ModelEditor($document, $user, self::WINDOW);
        foreach ($worlds as $world) {
            $editor->apply([['id' => (string) Str::uuid(), 'edit' => $world['edit']]], $editor->document()->revision);
            $revision = $editor->document()->revision;
            $document->milestones()->create(['revision' => $revision, 'name' => $world['name'], 'user_id' => $user->id]);
            $editor->step('undo', (string) Str::uuid(), $revision);
        }
    }
}
