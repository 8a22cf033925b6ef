<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Http\Middleware\SignInDemoAnalyst;
use App\Models\User;
use App\People\PostOffice;
use App\People\SecondFactor;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;

/**
 * Who is here.
 *
 * @mixin User
 */
final class MeResource extends JsonResource
{
    /** @return array<string, mixed> */
    public function toArray(Request $request): array
    {
        /** @var User $user */
        $user = $this->resource;
        $isDemo = SignInDemoAnalyst::isDemo($user);

        return [
            'id' => $user->id,
            'name' => $user->name,
            'email' => $user->email,
            'demo' => $isDemo,
            // Until when a guest's copy is kept.
            'guest' => $user->isGuest() ? $user->guest_until?->toIso8601String() : null,
            'secondFactor' => SecondFactor::isOn($user),
            'recoveryCodes' => count($user->recovery_codes ?? []),
            'invites' => ! $isDemo && ! $user->isGuest() && config()->boolean('merry-orbit.invite'),
            'letters' => PostOffice::isOpenTo($user),
            // Who else one can be.
            'others' => $isDemo
                ? User::query()
                    ->whereIn('email', [User::DEMO, ...array_keys(User::DEMO_OTHERS)])
                    ->whereKeyNot($user->id)
                    ->orderBy('id')
                    ->get(['id', 'name', 'email'])
                    ->map(static fn (User $u): array => ['name' => $u->name, 'email' => $u->email])
                    ->all()
                : [],
        ];
    }
}
