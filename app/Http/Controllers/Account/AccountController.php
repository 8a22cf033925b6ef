<?php

declare(strict_types=1);

namespace App\Http\Controllers\Account;

use App\Http\Resources\MeResource;
use App\Http\Validation\Address;
use App\Models\Happening;
use App\Models\Key;
use App\Models\User;
use App\People\Leaving;
use App\People\Letters;
use App\People\SignIns;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

/** One's own account: what one is called, the password, and everything at once: to take along, or to leave. */
final class AccountController
{
    public function update(Request $request, #[CurrentUser] User $user): MeResource
    {
        $request->validate(
            ['name' => ['required', 'string', 'max:80', 'regex:/\S/']],
            ['name.*' => 'Say what you are called, in up to 80 characters.'],
        );
        $user->forceFill(['name' => Letters::line($request->string('name')->toString())])->save();

        return MeResource::make($user);
    }

    /** A letter goes to the new address; what stands in it makes the change. */
    public function email(Request $request, #[CurrentUser] User $user): JsonResponse
    {
        Confirmed::byPassword($request, $user);
        Address::tidy($request);
        $request->validate(
            ['email' => ['required', 'string', 'email', 'max:255']],
            ['email.*' => 'Write an address that letters can be sent to.'],
        );
        Letters::mustBeFew($user);
        $email = $request->string('email')->toString();
        Key::query()->where('kind', Key::ADDRESS)->where('user_id', $user->id)->delete();
        // Whether somebody else has it shows to who reads its letters, and to nobody else.
        Letters::newAddress($email, Key::cut(Key::ADDRESS, Letters::ADDRESS_HOURS, $email, $user));

        return new JsonResponse(null, 204);
    }

    public function password(Request $request, #[CurrentUser] User $user): JsonResponse
    {
        Confirmed::byPassword($request, $user);
        $request->validate(['new' => ['required', 'string', 'max:1000']], ['new.*' => 'Write the new password.']);
        Confirmed::isGood('new', $request->string('new')->toString(), $user->name, $user->email);
        $user->forceFill(['password' => $request->string('new')->toString()])->save();
        $ended = SignIns::endOthers($user, SignIns::here($request));
        Happening::note('password', 'changed the password');
        Letters::changed($user->email, 'The password of your account was changed.');

        return new JsonResponse(['ended' => $ended]);
    }

    /** All of one's data in one file. */
    public function export(#[CurrentUser] User $user): BinaryFileResponse
    {
        Happening::note('export', 'took all of their data along');

        return (new BinaryFileResponse(Leaving::packed($user), headers: ['Content-Type' => 'application/zip']))
            ->setContentDisposition('attachment', 'merry-orbit-all-of-my-data.zip')
            ->deleteFileAfterSend();
    }

    public function destroy(Request $request, #[CurrentUser] User $user): JsonResponse
    {
        Confirmed::byPassword($request, $user);
        SignIns::end($request);
        Auth::forgetGuards();
        Leaving::leave($user);

        return new JsonResponse(null, 204);
    }

    /** What happened to the account lately. */
    public function happenings(#[CurrentUser] User $user): JsonResponse
    {
        return new JsonResponse([
            'happenings' => Happening::query()
                ->where('user_id', $user->id)
                ->latest('id')
                ->take(100)
                ->get()
                ->map(
                    static fn (Happening $h): array => [
                        'kind' => $h->kind,
                        'words' => $h->words,
                        'address' => $h->address,
                        'at' => $h->created_at->toIso8601String(),
                    ],
                )
                ->all(),
        ]);
    }
}
