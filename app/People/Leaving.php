<?php

declare(strict_types=1);

namespace App\People;

use App\Data\StudyArchive;
use App\Models\Comment;
use App\Models\DataFile;
use App\Models\Happening;
use App\Models\Key;
use App\Models\ModelDocument;
use App\Models\SignIn;
use App\Models\Study;
use App\Models\User;
use Illuminate\Support\Facades\DB;
use Laravel\Sanctum\PersonalAccessToken;

/** All that is somebody's: packed to take along, and gone when they leave. */
final class Leaving
{
    /** @return string the path of a ZIP, to be deleted by whoever asked for it */
    public static function packed(User $user): string
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'orbit-data');
        $zip = new \ZipArchive();
        $zip->open($path, \ZipArchive::CREATE | \ZipArchive::OVERWRITE);
        $zip->addFromString('account.json', self::written($user));
        foreach ($user->studies()->with('model')->cursor() as $study) {
            $name = trim((string) preg_replace('/[^\pL\pN -]+/u', '', $study->name)) ?: 'study';
            $zip->addFromString("studies/$name-$study->id.zip", StudyArchive::pack($study->model->core()));
        }
        $zip->close();

        return $path;
    }

    private static function written(User $user): string
    {
        $time = static fn (?\DateTimeInterface $t): ?string => $t?->format(DATE_ATOM);

        return json_encode(
            [
                'name' => $user->name,
                'email' => $user->email,
                'since' => $time($user->created_at),
                'secondFactor' => SecondFactor::isOn($user),
                'signIns' => $user->signIns
                    ->map(
                        static fn (SignIn $s): array => [
                            'browser' => $s->browser,
                            'address' => $s->address,
                            'since' => $time($s->created_at),
                        ],
                    )
                    ->all(),
                'tokens' => $user->tokens
                    ->map(static fn (PersonalAccessToken $t): array => ['name' => $t->name, 'made' => $time($t->created_at)])
                    ->all(),
                'comments' => Comment::query()
                    ->where('user_id', $user->id)
                    ->oldest()
                    ->get()
                    ->map(static fn (Comment $c): array => ['study' => $c->study_id, 'text' => $c->text, 'at' => $time($c->created_at)])
                    ->all(),
                'happenings' => Happening::query()
                    ->where('user_id', $user->id)
                    ->oldest('id')
                    ->get()
                    ->map(static fn (Happening $h): array => ['what' => $h->words, 'from' => $h->address, 'at' => $time($h->created_at)])
                    ->all(),
            ],
            JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_PRETTY_PRINT,
        );
    }

    /**
     * The account, its studies and whatever tells who it was are gone. What was done in studies of others stays theirs, without a name;
     * what was said there is not.
     */
    public static function leave(User $user): void
    {
        DB::transaction(static function () use ($user): void {
            Study::withTrashed()->where('user_id', $user->id)->forceDelete();
            self::handOverFiles($user);
            $user->tokens()->delete();
            $user->signIns()->delete();
            foreach (['grants', 'visits', 'keys', 'runs'] as $table) {
                DB::table($table)->where('user_id', $user->id)->delete();
            }
            DB::table('grants')->where('email', $user->email)->delete();
            DB::table('password_reset_tokens')->where('email', $user->email)->delete();
            Key::query()->where('email', $user->email)->delete();
            Happening::query()->where('user_id', $user->id)->whereNull('study_id')->delete();
            Happening::query()
                ->where('user_id', $user->id)
                ->update(['address' => '']);
            Comment::query()
                ->where('user_id', $user->id)
                ->update(['text' => '']);
            $user
                ->forceFill([
                    'name' => 'Somebody who left',
                    'email' => "left-$user->id@".bin2hex(random_bytes(6)).'.invalid',
                    'password' => null,
                    'totp_secret' => null,
                    'totp_since' => null,
                    'recovery_codes' => null,
                    'left_at' => now(),
                ])
                ->save();
        });
    }

    /** Files of data that studies of others speak of count as theirs from now on; the others go with orbit:tidy. */
    private static function handOverFiles(User $user): void
    {
        foreach (DataFile::query()->whereBelongsTo($user)->cursor() as $file) {
            $owner = self::whoNeeds($file->content);
            $has = $owner !== null && DataFile::query()->where('user_id', $owner)->where('content', $file->content)->exists();
            $owner === null || $has ? $file->delete() : $file->forceFill(['user_id' => $owner])->save();
        }
    }

    /** @return ?int who owns a study that speaks of a file, today or in its history */
    private static function whoNeeds(string $content): ?int
    {
        $like = "%\"content\":\"$content\"%";

        return ModelDocument::query()
            ->where('document', 'like', $like)
            ->orWhereHas('edits', static fn ($q) => $q->where('forward', 'like', $like)->orWhere('inverse', 'like', $like))
            ->value('user_id');
    }
}
