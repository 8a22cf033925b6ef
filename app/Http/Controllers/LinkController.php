<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Grant;
use App\Models\Happening;
use App\Models\ShownLink;
use App\Models\Study;
use App\Models\User;
use App\People\Letters;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Carbon;
use Illuminate\Validation\ValidationException;

/** Secret addresses of pages of a study. */
final class LinkController
{
    /** An origin is all that a browser can be told, and names neither a path nor everybody. */
    private const HOSTS = [
        'hosts' => ['sometimes', 'list', 'max:10'],
        'hosts.*' => ['required', 'string', 'max:200', 'regex:#^https?://[a-z0-9]([a-z0-9.-]*[a-z0-9])?(:[0-9]{1,5})?/?$#i'],
    ];

    private const HOSTS_SENTENCE = [
        'hosts' => 'At most ten pages of others may show it.',
        'hosts.*' => 'Say where the other page is, without its path: `https://school.example`.',
    ];

    public function index(Study $study): JsonResponse
    {
        $links = ShownLink::query()
            ->where('study_id', $study->id)
            ->whereNull('ended_at')
            ->whereIn('may', ShownLink::MAY)
            ->latest()
            ->orderByDesc('id')
            ->get();

        return new JsonResponse(['links' => $links->map(self::told(...))->all()]);
    }

    /** The answer holds the key, once. */
    public function store(Request $request, Study $study, #[CurrentUser] User $user): JsonResponse
    {
        $request->validate(
            [
                'showcase' => ['present', 'string', 'max:40'],
                'name' => ['sometimes', 'string', 'max:80'],
                'may' => ['required', 'in:'.implode(',', ShownLink::MAY)],
                'until' => ['sometimes', 'nullable', 'date_format:Y-m-d', 'after_or_equal:today'],
                'password' => ['sometimes', 'nullable', 'string', 'min:4', 'max:200'],
                'address' => [
                    'sometimes',
                    'nullable',
                    'string',
                    'regex:/^(?=.{3,60}$)[a-z0-9]+(-[a-z0-9]+)*$/',
                    'not_regex:/^[0-9a-f]{32}$/',
                ],
                'stays' => ['sometimes', 'boolean'],
                ...self::HOSTS,
            ],
            [
                'showcase.*' => 'Say which page it leads to; nothing for the whole study.',
                'name.*' => 'Say in up to 80 characters for whom it is.',
                'may.*' => 'Whoever has it may `look`, `try` or `copy`.',
                'until.*' => 'The last day is a date from today on, as 2027-03-31.',
                'password.*' => 'A password of a link has 4 to 200 characters.',
                'address.*' => 'A readable address has 3 to 60 small letters, digits and hyphens between them: `ferry-season`.',
                'stays.*' => '`stays` is true where it goes on showing the version of today.',
                ...self::HOSTS_SENTENCE,
            ],
        );
        $showcase = $request->string('showcase')->toString();
        if ($showcase !== '' && ! isset($study->load('model')->model->core()->part('showcases')[$showcase])) {
            throw ValidationException::withMessages(['showcase' => 'The study has no such page.']);
        }
        if (
            $showcase === '' &&
            ($request->boolean('stays') || $request->array('hosts') !== [] || is_string($request->input('address')))
        ) {
            throw ValidationException::withMessages([
                'showcase' => 'A link to the whole study shows its newest version to who has its key: for all else, link to a page.',
            ]);
        }
        if (ShownLink::query()->where('study_id', $study->id)->whereNull('ended_at')->count() >= ShownLink::MOST) {
            throw ValidationException::withMessages([
                'name' => 'A study has at most '.ShownLink::MOST.' links. Take some back first.',
            ]);
        }
        $address = $request->input('address');
        if (is_string($address) && ShownLink::query()->where('address', $address)->exists()) {
            throw ValidationException::withMessages(['address' => 'Another page has this address. Choose another one.']);
        }
        $key = bin2hex(random_bytes(16));
        $until = $request->input('until');
        $link = ShownLink::query()->create([
            'study_id' => $study->id,
            'showcase' => $showcase,
            'name' => Letters::line($request->string('name')->toString()),
            'secret' => hash('sha256', $key),
            'may' => $request->string('may')->toString(),
            'password' => $request->input('password'),
            'until' => is_string($until) ? Carbon::parse($until)->endOfDay() : null,
            'opened' => 0,
            'given_by' => $user->id,
            'hosts' => self::hosts($request),
            'address' => is_string($address) ? $address : null,
            'revision' => $request->boolean('stays') ? $study->model->revision : null,
        ]);
        Happening::note('link', $showcase === '' ? 'made a link to it' : 'made a link to a page of it', $study);

        return new JsonResponse(['key' => $key, ...self::told($link)], 201);
    }

    /** Which pages of others may show it in a frame. */
    public function update(Request $request, Study $study, string $link): JsonResponse
    {
        $request->validate(self::HOSTS, self::HOSTS_SENTENCE);
        $row = ShownLink::query()->where('study_id', $study->id)->whereNull('ended_at')->findOrFail($link);
        $row->forceFill(['hosts' => self::hosts($request)])->save();
        Happening::note('link', 'said where a link may be shown', $study);

        return new JsonResponse(self::told($row));
    }

    /** @return list<string>|null */
    private static function hosts(Request $request): ?array
    {
        $hosts = [];
        foreach ($request->array('hosts') as $host) {
            $hosts[strtolower(rtrim(is_string($host) ? $host : '', '/'))] = true;
        }

        return $hosts === [] ? null : array_map(strval(...), array_keys($hosts));
    }

    /** Taken back: it leads nowhere from now on. */
    public function destroy(Study $study, string $link): JsonResponse
    {
        ShownLink::query()
            ->where('study_id', $study->id)
            ->whereNull('ended_at')
            ->findOrFail($link)
            // Its readable address is free again.
            ->forceFill(['ended_at' => now(), 'address' => null])
            ->save();
        // Nor does anybody stay who came by it.
        Grant::query()->where('study_id', $study->id)->where('link_id', $link)->delete();
        Happening::note('link', 'took a link back', $study);

        return new JsonResponse(null, 204);
    }

    /** @return array<string, mixed> */
    private static function told(ShownLink $link): array
    {
        return [
            'id' => $link->id,
            'showcase' => $link->showcase,
            'name' => $link->name,
            'may' => $link->may,
            'hosts' => $link->hosts ?? [],
            'address' => $link->address,
            'version' => $link->revision,
            'locked' => $link->password !== null,
            'until' => $link->until?->toIso8601String(),
            'over' => $link->until?->isPast() ?? false,
            'opened' => $link->opened,
            'openedAt' => $link->opened_at?->toIso8601String(),
            'made' => $link->created_at->toIso8601String(),
        ];
    }
}
