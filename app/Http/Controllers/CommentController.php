<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Comment;
use App\Models\May;
use App\Models\ModelDocument;
use App\Models\User;
use App\Problems\ProblemDocument;
use App\Sharing\Access;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\ValidationException;

/** What people say about a study and what is in it. */
final class CommentController
{
    public function index(ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        return self::all($model, $user);
    }

    public function store(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        $request->validate(
            [
                'about' => ['required_without:answers', 'string', 'in:'.implode(',', Comment::ABOUT)],
                'subject' => ['sometimes', 'string', 'max:100'],
                'time' => ['sometimes', 'nullable', 'numeric'],
                'answers' => ['sometimes', 'string', 'max:40'],
                ...self::TEXT,
            ],
            [
                'about.*' => 'Say what it is about: '.implode(', ', Comment::ABOUT).'; or which comment it answers.',
                'time.*' => '`time` is a moment of the study, as a number.',
                ...self::SENTENCES,
            ],
        );
        if (Comment::query()->where('study_id', $model->study_id)->count() >= Comment::MOST) {
            throw ValidationException::withMessages([
                'text' => 'There are '.number_format(Comment::MOST).' comments, as many as a study holds. Take some away first.',
            ]);
        }
        $answered = $request->has('answers') ? self::row($model, $request->string('answers')->toString()) : null;
        Comment::query()->create([
            'study_id' => $model->study_id,
            'user_id' => $user->id,
            // An answer to an answer answers the same.
            'answers' => $answered === null ? null : $answered->answers ?? $answered->id,
            'about' => $answered->about ?? $request->string('about')->toString(),
            'subject' => $answered->subject ?? $request->string('subject')->toString(),
            'time' => $answered === null ? $request->input('time') : $answered->time,
            'revision' => $model->revision,
            'text' => $request->string('text')->trim()->toString(),
        ]);
        if ($answered?->settled_at !== null && $answered->answers === null) {
            // Whoever answers has not settled it.
            $answered->fill(['settled_at' => null, 'settled_by' => null])->save();
        }

        return self::all($model, $user, 201);
    }

    /** Other words, by who said it; or settled, by whoever may comment. */
    public function update(Request $request, ModelDocument $model, string $comment, #[CurrentUser] User $user): JsonResponse
    {
        $row = self::row($model, $comment);
        if ($request->has('text')) {
            $request->validate(self::TEXT, self::SENTENCES);
            if ($row->user_id !== $user->id) {
                return ProblemDocument::response(403, 'may-not', 'These are the words of somebody else. Answer them.');
            }
            $row->text = $request->string('text')->trim()->toString();
        }
        if ($request->has('settled')) {
            $request->validate(['settled' => ['boolean']], ['settled.*' => '`settled` is true or false.']);
            $isSettled = $request->boolean('settled');
            $row->fill(['settled_at' => $isSettled ? now() : null, 'settled_by' => $isSettled ? $user->id : null]);
        }
        $row->save();

        return self::all($model, $user);
    }

    /** By who said it, and by who owns the study. What is answered keeps its place, without its words. */
    public function destroy(ModelDocument $model, string $comment, #[CurrentUser] User $user): JsonResponse
    {
        $row = self::row($model, $comment);
        if ($row->user_id !== $user->id && Access::ofModel($user, $model) !== May::Own) {
            return ProblemDocument::response(
                403,
                'may-not',
                'These are the words of somebody else. Who owns the study can take them away.',
            );
        }
        $isAnswered = Comment::query()->where('answers', $row->id)->exists();
        $isAnswered ? $row->fill(['text' => ''])->save() : $row->delete();

        return self::all($model, $user);
    }

    private const TEXT = ['text' => ['required', 'string', 'max:'.Comment::LONGEST, 'regex:/\S/']];

    private const SENTENCES = ['text.*' => 'Say something, in up to '.Comment::LONGEST.' characters.'];

    private static function row(ModelDocument $model, string $comment): Comment
    {
        return Comment::query()->where('study_id', $model->study_id)->findOrFail($comment);
    }

    private static function all(ModelDocument $model, User $user, int $status = 200): JsonResponse
    {
        $rows = Comment::query()
            ->where('study_id', $model->study_id)
            ->with('user:id,name', 'settler:id,name')
            ->oldest()
            ->orderBy('id')
            ->get();

        return new JsonResponse(
            [
                'comments' => $rows
                    ->map(
                        static fn (Comment $c): array => [
                            'id' => $c->id,
                            'who' => $c->user->name,
                            'you' => $c->user_id === $user->id,
                            'answers' => $c->answers,
                            'about' => $c->about,
                            'subject' => $c->subject,
                            'time' => $c->time,
                            'revision' => $c->revision,
                            'text' => $c->text,
                            'at' => $c->created_at->toIso8601String(),
                            'settled' => $c->settled_at === null
                                    ? null
                                    : ['who' => $c->settler->name ?? 'Somebody', 'at' => $c->settled_at->toIso8601String()],
                        ],
                    )
                    ->all(),
            ],
            $status,
        );
    }
}
