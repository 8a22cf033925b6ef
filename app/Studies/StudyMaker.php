<?php

declare(strict_types=1);

namespace App\Studies;

use App\Models\ModelDocument;
use App\Models\Study;
use App\Models\User;
use Illuminate\Support\Facades\DB;
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
    ];

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
                self::make($user, NativeFile::import((string) file_get_contents(base_path("demo/$demo.json")))->model, $demo);
            }
        }
    }
}
