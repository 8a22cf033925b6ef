<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Happening;
use App\Models\ModelDocument;
use App\Models\Room;
use App\Models\RoomVoice;
use App\Models\User;
use App\Tell\Phone;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** The workshop of a study: opened to phones by who leads it; and the phones. */
final class RoomController
{
    /** A phone that has not been heard of for so many seconds has gone. */
    private const GONE = 90;

    private const RULES = [
        'step' => ['sometimes', 'string', 'max:20', 'regex:/^[a-z]*$/'],
        'about' => ['sometimes', 'string', 'max:40'],
    ];

    private const SENTENCES = [
        'step.*' => '`step` is a step of the workshop.',
        'about.*' => '`about` is the id of the link that is talked about.',
    ];

    public function show(ModelDocument $model): JsonResponse
    {
        return new JsonResponse(self::told(Room::of($model)));
    }

    public function open(Request $request, ModelDocument $model, #[CurrentUser] User $user): JsonResponse
    {
        $request->validate(self::RULES, self::SENTENCES);
        $room = Room::of($model);
        if ($room === null) {
            $room = Room::query()->create([
                'model_id' => $model->id,
                'user_id' => $user->id,
                'code' => Room::newCode(),
                'step' => $request->string('step')->toString(),
                'about' => $request->string('about')->toString(),
                'until' => now()->addHours(Room::HOURS),
            ]);
            Happening::note('room', 'opened the workshop to phones', $model->study);
        }

        return new JsonResponse(self::told($room), 201);
    }

    /** Where the workshop is: the phones follow. */
    public function move(Request $request, ModelDocument $model): JsonResponse
    {
        $request->validate(self::RULES, self::SENTENCES);
        $room = Room::of($model);
        $room
            ?->forceFill(
                array_filter(
                    [
                        'step' => $request->has('step') ? $request->string('step')->toString() : null,
                        'about' => $request->has('about') ? $request->string('about')->toString() : null,
                    ],
                    is_string(...),
                ),
            )
            ->save();

        return new JsonResponse(self::told($room));
    }

    public function close(ModelDocument $model): JsonResponse
    {
        // What was added stays; who said what is gone.
        Room::query()->where('model_id', $model->id)->delete();

        return new JsonResponse(self::told(null));
    }

    public function phone(Request $request): JsonResponse
    {
        return new JsonResponse(Phone::of($request)->shown());
    }

    public function say(Request $request): JsonResponse
    {
        $phone = Phone::of($request);
        $request->validate(
            [
                'kind' => ['required', 'in:factor,pair,link'],
                'text' => ['required_if:kind,factor', 'string', 'max:120'],
                'one' => ['required_if:kind,pair', 'string', 'max:40'],
                'other' => ['required_if:kind,pair', 'string', 'max:40'],
                'for' => ['sometimes', 'boolean'],
                'link' => ['required_if:kind,link', 'string', 'max:40'],
                'says' => ['required_if:kind,link', 'in:agree,disagree,nothing'],
            ],
            [
                'kind.*' => 'A phone names a `factor`, votes for a `pair`, or says something of a `link`.',
                'text.*' => 'Say it in up to 120 characters.',
                'one.*' => 'Choose two things.',
                'other.*' => 'Choose two things.',
                'link.*' => 'Say which link is meant.',
                'says.*' => 'Say `agree`, `disagree` or `nothing`.',
            ],
        );
        $back = '';
        switch ($request->input('kind')) {
            case 'factor':
                $back = $phone->addFactor($request->string('text')->toString());
                break;
            case 'pair':
                $phone->vote($request->string('one')->toString(), $request->string('other')->toString(), $request->boolean('for', true));
                break;
            default:
                $says = $request->string('says')->toString();
                $phone->judge($request->string('link')->toString(), $says === 'agree' || $says === 'disagree' ? $says : '');
        }

        return new JsonResponse([...Phone::of($request)->shown(), 'back' => $back]);
    }

    /** @return array<string, mixed> */
    private static function told(?Room $room): array
    {
        if ($room === null) {
            return ['open' => false];
        }
        $links = [];
        foreach ($room->voices()->where('kind', RoomVoice::LINK)->where('says', '<>', '')->get() as $voice) {
            $links[$voice->subject] ??= ['agree' => 0, 'disagree' => 0];
            $links[$voice->subject][$voice->says]++;
        }

        return [
            'open' => true,
            'code' => $room->code,
            'until' => $room->until->toIso8601String(),
            'phones' => $room->voices()->where('kind', RoomVoice::HERE)->where('updated_at', '>', now()->subSeconds(self::GONE))->count(),
            'links' => (object) $links,
        ];
    }
}
