<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\StudyResource;
use App\Http\Validation\Address;
use App\Models\Grant;
use App\Models\Happening;
use App\Models\May;
use App\Models\Study;
use App\Models\User;
use App\Sharing\Access;
use App\Sharing\Sharing;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Carbon;
use Illuminate\Validation\ValidationException;

/** Who may do what with a study. */
final class SharingController
{
    public function index(Study $study, #[CurrentUser] User $user): JsonResponse
    {
        $owner = User::query()->findOrFail($study->user_id);
        $isOwner = $owner->id === $user->id;
        $may = Access::of($user, $study);
        // Whoever came by a link is counted with the link.
        $grants = Grant::query()->where('study_id', $study->id)->whereNull('link_id')->with('user')->oldest()->orderBy('id')->get();

        return new JsonResponse([
            'owner' => ['name' => $owner->name, 'you' => $isOwner],
            'origin' => $isOwner ? $study->origin() : null,
            'may' => $may->value,
            'mayWords' => $may->words(),
            'choices' => array_map(static fn (string $m): array => ['value' => $m, 'words' => May::from($m)->words()], May::GIVEN),
            // Others see who is there, and not who was asked and never came.
            'grants' => $grants
                ->filter(static fn (Grant $g): bool => $isOwner || $g->kind === Grant::EVERYONE || $g->opened_at !== null)
                ->map(static fn (Grant $g): array => self::told($g, $isOwner, $user))
                ->values()
                ->all(),
        ]);
    }

    public function store(Request $request, Study $study, #[CurrentUser] User $user): JsonResponse
    {
        Address::tidy($request);
        $request->validate(
            [
                'email' => ['sometimes', 'string', 'email', 'max:255'],
                'everyone' => ['sometimes', 'boolean'],
                ...self::rules(),
            ],
            ['email.*' => 'Write the address of a person.', ...self::sentences()],
        );
        $may = May::from($request->string('may')->toString());
        $grant = match (true) {
            $request->boolean('everyone') => Sharing::withEveryone($study, $may, self::until($request), $user),
            $request->has('email') => Sharing::withPerson(
                $study,
                $request->string('email')->toString(),
                $may,
                self::until($request),
                $user,
            ),
            default => throw ValidationException::withMessages(['email' => 'Say with whom: an address, or everyone.']),
        };

        return new JsonResponse(self::told($grant->load('user'), true, $user), 201);
    }

    public function update(Request $request, Study $study, string $grant, #[CurrentUser] User $user): JsonResponse
    {
        $request->validate(self::rules(), self::sentences());
        $row = self::row($study, $grant);
        Sharing::change($row, May::from($request->string('may')->toString()), self::until($request));

        return new JsonResponse(self::told($row, true, $user));
    }

    public function destroy(Study $study, string $grant): JsonResponse
    {
        Sharing::takeBack(self::row($study, $grant));

        return new JsonResponse(null, 204);
    }

    /** Whoever was given something may give it back. */
    public function leave(Study $study, #[CurrentUser] User $user): JsonResponse
    {
        $mine = Grant::query()->where('study_id', $study->id)->where('user_id', $user->id)->first();
        if ($mine !== null) {
            $mine->delete();
            Happening::note('left', 'left it', $study);
        }

        return new JsonResponse(null, 204);
    }

    public function handOver(Study $study, string $grant): StudyResource
    {
        Sharing::handOver($study, self::row($study, $grant));

        return StudyResource::make($study->fresh(['model']) ?? $study);
    }

    /** What was done with it, newest first. */
    public function record(Study $study): JsonResponse
    {
        $all = Happening::query()->where('study_id', $study->id)->with('user')->latest('id')->take(500)->get();

        return new JsonResponse([
            'record' => $all
                ->map(
                    static fn (Happening $h): array => [
                        'who' => $h->user->name ?? 'Somebody',
                        'words' => $h->words,
                        'at' => $h->created_at->toIso8601String(),
                    ],
                )
                ->all(),
        ]);
    }

    /** @return array<string, mixed> */
    private static function told(Grant $grant, bool $toOwner, User $user): array
    {
        return [
            'id' => $grant->id,
            'kind' => $grant->kind,
            // Whether an address has an account shows once its person has come.
            'name' => $grant->opened_at === null ? null : $grant->user?->name,
            'email' => $toOwner ? $grant->email : null,
            'may' => $grant->may->value,
            'mayWords' => $grant->may->words(),
            'until' => $grant->until?->toIso8601String(),
            'over' => $grant->until?->isPast() ?? false,
            'you' => $grant->user_id === $user->id,
        ];
    }

    private static function row(Study $study, string $grant): Grant
    {
        return Grant::query()->with('user', 'study')->where('study_id', $study->id)->findOrFail($grant);
    }

    private static function until(Request $request): ?Carbon
    {
        return $request->input('until') === null ? null : Carbon::parse($request->string('until')->toString())->endOfDay();
    }

    /** @return array<string, list<string>> */
    private static function rules(): array
    {
        return [
            'may' => ['required', 'string', 'in:'.implode(',', May::GIVEN)],
            'until' => ['sometimes', 'nullable', 'date_format:Y-m-d', 'after_or_equal:today'],
        ];
    }

    /** @return array<string, string> */
    private static function sentences(): array
    {
        return ['may.*' => 'They may `read`, `comment` or `edit`.', 'until.*' => 'The last day is a date from today on, as 2027-03-31.'];
    }
}
