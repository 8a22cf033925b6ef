<?php

declare(strict_types=1);

namespace App\Runs;

use App\Models\KeptRun;
use App\Models\ModelDocument;
use Illuminate\Contracts\Filesystem\Filesystem;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\Trajectory;
use MerryOrbit\Core\Simulate\TrajectoryFile;

/**
 * What runs came to, and the models they were runs of, as blobs on a disk that all workers share. A blob is named by what it is of:
 * a document by its content; a run by its document, its setting and the edition of the engine. So whoever makes a run, on whichever
 * machine and how often, makes the same blob. The database knows which there are; see Console\TidyCommand for those nobody needs.
 */
final class Results
{
    /** Counted up when the engine gives other numbers than before. */
    public const EDITION = 2;

    public const FOLDERS = ['documents', 'runs', 'kept', 'ensembles', 'fits', 'answers'];

    /** @var list<array{string, string}> the columns of the database that name blobs, or folders of them */
    public const REFERRED = [
        ['ensembles', 'document'],
        ['ensembles', 'folder'],
        ['fits', 'document'],
        ['fits', 'folder'],
        ['batch_runs', 'document'],
        ['batch_runs', 'result'],
        ['kept_runs', 'result'],
    ];

    public static function disk(): Filesystem
    {
        return Storage::disk(self::name());
    }

    /** @return string of config/filesystems.php */
    public static function name(): string
    {
        return config()->string('merry-orbit.results_disk');
    }

    /** @return string the name of the document's blob, which is there from now on */
    public static function ofModel(Model $model): string
    {
        $text = ModelDocument::written($model);
        $name = self::path('documents', hash('sha256', $text), 'json');
        if (! self::disk()->exists($name)) {
            self::write($name, $text);
        }

        return $name;
    }

    public static function model(string $document): Model
    {
        /** @var array<string, mixed> $record */
        $record = json_decode((string) self::disk()->get($document), true, flags: JSON_THROW_ON_ERROR);

        return ModelRecord::toModel($record);
    }

    /** @param  array<string, mixed>  $setting  as Setting::toRecord() gives it */
    public static function nameOf(string $document, array $setting): string
    {
        return self::path(
            'runs',
            hash('sha256', self::EDITION."\n$document\n".json_encode($setting, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION)),
            'run',
        );
    }

    public static function keep(string $name, Trajectory $run): void
    {
        self::write($name, self::packed($run));
    }

    /** @return string the name of a run that is kept for its numbers, whatever it was of */
    public static function freeze(Trajectory $run): string
    {
        $bytes = self::packed($run);
        $name = self::path('kept', hash('sha256', $bytes), 'run');
        self::write($name, $bytes);

        return $name;
    }

    private static function packed(Trajectory $run): string
    {
        return (string) gzcompress(TrajectoryFile::write($run), 1);
    }

    /** @throws NotUnderstood when it is not there, or no run */
    public static function run(string $name): Trajectory
    {
        $bytes = self::disk()->exists($name) ? @gzuncompress((string) self::disk()->get($name)) : false;
        try {
            return TrajectoryFile::read($bytes === false ? '' : $bytes);
        } catch (\UnexpectedValueException) {
            throw NotUnderstood::because('The results of these runs are not there any more. Run the scenarios again.');
        }
    }

    public static function ofKept(KeptRun $kept): Trajectory
    {
        if ($kept->result !== null) {
            return self::run($kept->result);
        }
        // Older ones are in the database.
        $result = DB::table('kept_run_results')->where('kept_run_id', $kept->id)->value('result');

        return TrajectoryFile::read((string) gzuncompress((string) base64_decode(is_string($result) ? $result : '', true)));
    }

    /** Whole or not at all. */
    public static function write(string $name, string $bytes): void
    {
        $new = "$name.".bin2hex(random_bytes(4));
        self::disk()->put($new, $bytes);
        self::disk()->move($new, $name);
    }

    private static function path(string $folder, string $hash, string $ending): string
    {
        return "$folder/".substr($hash, 0, 2)."/$hash.$ending";
    }
}
