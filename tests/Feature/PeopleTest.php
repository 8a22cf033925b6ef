<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Files\LastingSessions;
use App\Models\Happening;
use App\Models\Key;
use App\Models\SignIn;
use App\Models\User;
use App\People\Totp;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Testing\TestResponse;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

/** Accounts, as on a server: nobody is signed in without one. */
final class PeopleTest extends AccountsCase
{
    public function test_the_first_person_makes_the_first_account_by_the_address_that_is_printed(): void
    {
        Artisan::call('orbit:invite --first');
        $old = substr((string) strrchr(trim(Artisan::output()), '#'), 1);
        Artisan::call('orbit:invite --first');
        $key = substr((string) strrchr(trim(Artisan::output()), '#'), 1);
        self::assertMatchesRegularExpression('/^[0-9a-f]{32}$/', $key);
        self::assertSame(0, DB::table('keys')->where('hash', $key)->count(), 'The key itself is kept nowhere.');

        $visitor = $this->visitor()->open();
        $visitor->ask('GET', '/api/studies')->assertUnauthorized()->assertJsonPath('accounts', true);
        $visitor->ask('POST', '/api/join/key', ['key' => $old])->assertNotFound();
        $visitor
            ->ask('POST', '/api/join/key', ['key' => $key])
            ->assertOk()
            ->assertJsonPath('kind', 'first');
        $new = ['key' => $key, 'name' => "Mara\nBrandt", 'email' => ' Mara@Quillhaven.example ', 'password' => self::GOOD];
        $visitor->ask('POST', '/api/join', [...$new, 'password' => 'short'])->assertStatus(422);
        $visitor
            ->ask('POST', '/api/join', $new)
            ->assertCreated()
            ->assertJsonPath('data.name', 'Mara Brandt')
            ->assertJsonPath('data.email', 'mara@quillhaven.example');
        $visitor->ask('GET', '/api/me')->assertOk();
        $visitor->ask('POST', '/api/join', [...$new, 'email' => 'other@quillhaven.example'])->assertNotFound();
        Artisan::call('orbit:invite --first');
        self::assertSame('', trim(Artisan::output()));
    }

    public function test_signing_in_begins_another_session_and_signing_out_ends_it(): void
    {
        $user = $this->person();
        $visitor = $this->visitor()->open();
        $before = $visitor->cookies();
        $visitor
            ->ask('POST', '/api/session', ['email' => 'MARA@quillhaven.example', 'password' => self::GOOD])
            ->assertOk()
            ->assertJsonPath('data.id', $user->id);
        self::assertNotSame($before['merry_orbit_session'], $visitor->cookies()['merry_orbit_session']);
        $visitor->ask('GET', '/api/me')->assertOk();
        // Whoever knew the session beforehand has nothing of it.
        $this->visitor()->take($before)->ask('GET', '/api/me')->assertUnauthorized();
        $signedIn = $visitor->cookies();
        $visitor->ask('DELETE', '/api/session')->assertNoContent();
        $visitor->ask('GET', '/api/me')->assertUnauthorized();
        $this->visitor()->take($signedIn)->ask('GET', '/api/me')->assertUnauthorized();
        self::assertSame(0, SignIn::query()->count());
    }

    public function test_an_address_that_nobody_has_is_refused_like_a_wrong_password(): void
    {
        $this->person();
        $this->person('Nopass', null);
        $visitor = $this->visitor()->open();
        $wrong = $visitor
            ->ask('POST', '/api/session', ['email' => 'mara@quillhaven.example', 'password' => 'something else'])
            ->assertStatus(422);
        foreach (['nobody@quillhaven.example', 'nopass@quillhaven.example'] as $email) {
            $none = $visitor->ask('POST', '/api/session', ['email' => $email, 'password' => 'something else'])->assertStatus(422);
            self::assertSame($wrong->getContent(), $none->getContent());
        }
    }

    public function test_passwords_cannot_be_tried_for_long(): void
    {
        self::ownTime();
        $user = $this->person();
        for ($i = 0; $i < 10; $i++) {
            // From another address each time: what is tried counts for the account, too.
            $this->visitor(address: "10.0.0.$i")
                ->open()
                ->ask('POST', '/api/session', ['email' => $user->email, 'password' => "wrong $i"])
                ->assertStatus(422);
        }
        $this->visitor()
            ->open()
            ->ask('POST', '/api/session', ['email' => $user->email, 'password' => self::GOOD])
            ->assertStatus(429)
            ->assertHeader('Retry-After');
        $this->travel(16)->minutes();
        $this->signedIn($user);
    }

    public function test_a_sign_in_lasts_twelve_hours_or_a_month_where_that_is_wished(): void
    {
        $user = $this->person();
        $short = $this->signedIn($user);
        $long = $this->visitor()->open();
        $long->ask('POST', '/api/session', ['email' => $user->email, 'password' => self::GOOD, 'keep' => true])->assertOk();
        $this->travel(13)->hours();
        $short->ask('GET', '/api/me')->assertUnauthorized();
        $long->ask('GET', '/api/me')->assertOk();
        SignIn::query()->update(['until' => now()->addSecond()]);
        $long->ask('GET', '/api/me')->assertOk();
        $this->travel(2)->seconds();
        $long->ask('GET', '/api/me')->assertUnauthorized();
    }

    public function test_sign_ins_are_listed_and_ended_from_elsewhere(): void
    {
        $user = $this->person();
        $here = $this->signedIn($user);
        $there = $this->signedIn($user);
        $third = $this->signedIn($user);
        $listed = $here->ask('GET', '/api/account/sign-ins')->assertOk()->json('signIns');
        self::assertCount(3, $listed);
        self::assertSame(1, count(array_filter(array_column($listed, 'here'))));
        $other = SignIn::query()->orderBy('id')->skip(1)->firstOrFail();
        $here->ask('DELETE', "/api/account/sign-ins/$other->id")->assertNoContent();
        $there->ask('GET', '/api/me')->assertUnauthorized();
        $third->ask('GET', '/api/me')->assertOk();
        $here->ask('DELETE', '/api/account/sign-ins')->assertOk()->assertJsonPath('ended', 1);
        $third->ask('GET', '/api/me')->assertUnauthorized();
        $here->ask('GET', '/api/me')->assertOk();
        // Those of others are not there.
        $ilse = $this->signedIn($this->person('Ilse'));
        $mine = SignIn::query()->where('user_id', $user->id)->firstOrFail();
        $ilse->ask('DELETE', "/api/account/sign-ins/$mine->id")->assertNotFound();
    }

    public function test_another_password_ends_all_other_sign_ins_and_wants_the_old_one(): void
    {
        $user = $this->person();
        $here = $this->signedIn($user);
        $there = $this->signedIn($user);
        $here->ask('PUT', '/api/account/password', ['password' => 'not it', 'new' => 'oysters whistle at noon'])->assertStatus(422);
        $here->ask('PUT', '/api/account/password', ['password' => self::GOOD, 'new' => 'Quillhaven 2026'])->assertStatus(422);
        $here->ask('PUT', '/api/account/password', ['password' => self::GOOD, 'new' => 'oysters whistle at noon'])->assertOk();
        $there->ask('GET', '/api/me')->assertUnauthorized();
        $here->ask('GET', '/api/me')->assertOk();
        self::assertSame('mara@quillhaven.example', $this->letters()[0]->getTo()[0]->getAddress());
        $this->signedIn($user, 'oysters whistle at noon');
    }

    public function test_a_forgotten_password_is_replaced_by_a_letter_that_works_once(): void
    {
        $user = $this->person();
        $there = $this->signedIn($user);
        $visitor = $this->visitor()->open();
        $known = $visitor->ask('POST', '/api/forgotten', ['email' => $user->email])->assertNoContent();
        $unknown = $visitor->ask('POST', '/api/forgotten', ['email' => 'nobody@quillhaven.example'])->assertNoContent();
        self::assertSame($known->getContent(), $unknown->getContent());
        self::assertCount(1, $this->letters());
        parse_str($this->keyInLetter('new-password'), $sent);
        $new = [...$sent, 'password' => 'oysters whistle at noon'];
        $visitor->ask('PUT', '/api/forgotten', [...$new, 'token' => str_repeat('0', 64)])->assertStatus(422);
        $visitor->ask('PUT', '/api/forgotten', [...$new, 'email' => 'other@quillhaven.example'])->assertStatus(422);
        $visitor->ask('PUT', '/api/forgotten', $new)->assertNoContent();
        $visitor->ask('PUT', '/api/forgotten', $new)->assertStatus(422);
        $there->ask('GET', '/api/me')->assertUnauthorized();
        $this->signedIn($user, 'oysters whistle at noon');
    }

    public function test_a_code_is_asked_for_besides_the_password_and_none_is_taken_twice(): void
    {
        $user = $this->person();
        $here = $this->signedIn($user);
        $secret = $here
            ->ask('POST', '/api/account/second-factor', ['password' => self::GOOD])
            ->assertOk()
            ->json('secret');
        $step = Totp::stepAt(now()->getTimestamp());
        $here->ask('PUT', '/api/account/second-factor', ['code' => '000000'])->assertStatus(422);
        $codes = $here
            ->ask('PUT', '/api/account/second-factor', ['code' => Totp::code($secret, $step)])
            ->assertOk()
            ->json('codes');
        self::assertCount(8, $codes);
        self::assertStringNotContainsString($secret, (string) DB::table('users')->where('id', $user->id)->value('totp_secret'));

        $with = fn (string $code): array => ['email' => $user->email, 'password' => self::GOOD, ...$code === '' ? [] : ['code' => $code]];
        $visitor = $this->visitor()->open();
        $visitor->ask('POST', '/api/session', $with(''))->assertStatus(422)->assertJsonPath('code', 'second-factor');
        // The code of the setting up was taken.
        $visitor->ask('POST', '/api/session', $with(Totp::code($secret, $step)))->assertStatus(422);
        $this->travel(60)->seconds();
        $now = Totp::code($secret, Totp::stepAt(now()->getTimestamp()));
        $visitor
            ->ask('POST', '/api/session', ['email' => $user->email, 'password' => 'wrong', 'code' => $now])
            ->assertStatus(422)
            ->assertJsonPath('code', 'sign-in');
        $visitor->ask('POST', '/api/session', $with($now))->assertOk();
        $this->visitor()->open()->ask('POST', '/api/session', $with($now))->assertStatus(422);
        // When it is lost.
        $this->visitor()
            ->open()
            ->ask('POST', '/api/session', $with(strtoupper($codes[3])))
            ->assertOk()
            ->assertJsonPath('data.recoveryCodes', 7);
        $this->visitor()->open()->ask('POST', '/api/session', $with($codes[3]))->assertStatus(422);
        $here->ask('DELETE', '/api/account/second-factor', ['password' => self::GOOD])->assertNoContent();
        $this->signedIn($user);
    }

    public function test_codes_are_those_of_rfc_6238(): void
    {
        // Appendix B, SHA-1: the secret "12345678901234567890", eight digits.
        $secret = 'GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ';
        foreach (
            [
                59 => '94287082',
                1111111109 => '07081804',
                1111111111 => '14050471',
                1234567890 => '89005924',
                2000000000 => '69279037',
                20000000000 => '65353130',
            ] as $time => $code
        ) {
            self::assertSame($code, Totp::code($secret, Totp::stepAt($time), 8));
        }
    }

    public function test_a_token_does_what_its_scopes_say_and_nothing_to_the_account(): void
    {
        $user = $this->person();
        $here = $this->signedIn($user);
        $make = fn (array $scopes, int $days = 30): string => $here
            ->ask('POST', '/api/account/tokens', ['name' => 'A script', 'scopes' => $scopes, 'days' => $days, 'password' => self::GOOD])
            ->assertCreated()
            ->json('token');
        $here
            ->ask('POST', '/api/account/tokens', ['name' => 'x', 'scopes' => ['read'], 'days' => 1, 'password' => 'wrong one'])
            ->assertStatus(422);
        [$read, $edit, $both] = [$make(['read']), $make(['edit']), $make(['read', 'edit'], 1)];
        $study = $this->study($user);
        $program = fn (string $token): Visitor => $this->visitor(['Authorization' => "Bearer $token"]);
        $program($read)
            ->ask('GET', "/api/models/{$study->model->id}")
            ->assertOk();
        $program($read)
            ->ask('POST', "/api/models/{$study->model->id}/runs", ['run' => [], 'only' => ['lens']])
            ->assertOk();
        $program($read)
            ->ask('POST', '/api/studies', ['name' => 'By a program'])
            ->assertForbidden()
            ->assertJsonPath('code', 'token.scope');
        $program($edit)
            ->ask('POST', '/api/studies', ['name' => 'By a program'])
            ->assertCreated();
        $program($edit)->ask('GET', '/api/studies')->assertForbidden();
        foreach (
            [
                ['GET', '/api/account/tokens'],
                ['GET', '/api/account/export'],
                ['POST', "/api/studies/$study->id/sharing"],
                ['DELETE', '/api/session'],
            ] as [$method, $path]
        ) {
            $program($both)
                ->ask($method, $path, ['email' => 'x@quillhaven.example', 'may' => 'read'])
                ->assertForbidden()
                ->assertJsonPath('code', 'token.people');
        }
        $this->travel(25)->hours();
        $program($both)->ask('GET', '/api/studies')->assertUnauthorized();
        $program("$read-")
            ->ask('GET', '/api/studies')
            ->assertUnauthorized();
        $program($read)->ask('GET', '/api/studies')->assertOk();
        $id = $user->tokens()->orderBy('id')->firstOrFail()->getKey();
        $here = $this->signedIn($user);
        $here->ask('DELETE', "/api/account/tokens/$id")->assertNoContent();
        $program($read)->ask('GET', '/api/studies')->assertUnauthorized();
        self::assertSame(
            0,
            DB::table('personal_access_tokens')
                ->where('token', 'like', '%'.substr($read, -10).'%')
                ->count(),
        );
    }

    public function test_a_program_with_a_token_leaves_no_session(): void
    {
        $token = $this->person()->createToken('x', ['read'])->plainTextToken;
        $this->visitor(['Authorization' => "Bearer $token"])
            ->ask('GET', '/api/studies')
            ->assertOk();
        self::assertSame([], glob("$this->sessions/*"));
        self::assertSame(LastingSessions::class, $this->app->make('session')->driver()->getHandler()::class);
    }

    public function test_another_address_is_taken_once_a_letter_to_it_was_opened(): void
    {
        $user = $this->person();
        $this->person('Ilse');
        $here = $this->signedIn($user);
        $here->ask('PUT', '/api/account/email', ['email' => 'mara@elsewhere.example', 'password' => self::GOOD])->assertNoContent();
        $key = $this->keyInLetter('address');
        self::assertSame('mara@quillhaven.example', $user->refresh()->email);
        $this->visitor()
            ->open()
            ->ask('POST', '/api/join', ['key' => $key, 'name' => 'x', 'password' => self::GOOD])
            ->assertNotFound();
        $this->visitor()
            ->open()
            ->ask('POST', '/api/join/address', ['key' => $key])
            ->assertNoContent();
        self::assertSame('mara@elsewhere.example', $user->refresh()->email);
        $this->visitor()
            ->open()
            ->ask('POST', '/api/join/address', ['key' => $key])
            ->assertNotFound();
        // One that is somebody else's: who asks learns nothing, who reads its letters does.
        $here->ask('PUT', '/api/account/email', ['email' => 'ilse@quillhaven.example', 'password' => self::GOOD])->assertNoContent();
        $this->visitor()
            ->open()
            ->ask('POST', '/api/join/address', ['key' => $this->keyInLetter('address')])
            ->assertStatus(422);
    }

    public function test_invitations_go_by_letter_and_tell_nothing_of_who_has_an_account(): void
    {
        $here = $this->signedIn($this->person());
        $this->person('Ilse');
        $here->ask('POST', '/api/invitations', ['email' => 'ilse@quillhaven.example'])->assertNoContent();
        self::assertSame([], $this->letters());
        $here->ask('POST', '/api/invitations', ['email' => 'Odile@quillhaven.example'])->assertNoContent();
        $key = $this->keyInLetter('join');
        $odile = $this->visitor()->open();
        $odile
            ->ask('POST', '/api/join/key', ['key' => $key])
            ->assertOk()
            ->assertExactJson(['kind' => 'invitation', 'email' => 'odile@quillhaven.example', 'by' => 'Mara']);
        $odile
            ->ask('POST', '/api/join', ['key' => $key, 'name' => 'Odile', 'email' => 'mara@quillhaven.example', 'password' => self::GOOD])
            ->assertStatus(422);
        $odile->ask('POST', '/api/join', ['key' => $key, 'name' => 'Odile', 'password' => self::GOOD])->assertCreated();
        $this->travel(8)->days();
        Key::cut(Key::INVITATION, -1, 'late@quillhaven.example');
        config(['merry-orbit.invite' => false]);
        $this->signedIn(User::query()->where('name', 'Mara')->firstOrFail())
            ->ask('POST', '/api/invitations', ['email' => 'x@quillhaven.example'])
            ->assertForbidden();
    }

    public function test_all_of_ones_data_leaves_as_a_file_and_leaving_leaves_nothing(): void
    {
        $user = $this->person();
        $here = $this->signedIn($user);
        $study = $this->study($user);
        $ilse = $this->person('Ilse');
        $theirs = $this->study($ilse);
        $shared = ['email' => $user->email, 'may' => 'edit'];
        $this->signedIn($ilse)
            ->ask('POST', "/api/studies/$theirs->id/sharing", $shared)
            ->assertCreated();
        $rename = ['kind' => 'rename', 'id' => 'wells', 'name' => 'springs'];
        $here
            ->ask('POST', "/api/models/{$theirs->model->id}/edits", [
                'base' => 0,
                'window' => 'w',
                'edits' => [['id' => '0190b5a0-0000-7000-8000-000000000001', 'edit' => $rename]],
            ])
            ->assertOk();
        $here
            ->ask('POST', "/api/models/{$theirs->model->id}/comments", ['about' => 'study', 'text' => 'I live at the mole'])
            ->assertCreated();
        $answer = $here->ask('GET', '/api/account/export')->assertOk();
        $file = (string) tempnam(sys_get_temp_dir(), 'orbit-test');
        file_put_contents($file, self::fileOf($answer));
        $zip = new \ZipArchive();
        self::assertTrue($zip->open($file));
        self::assertStringContainsString('I live at the mole', (string) $zip->getFromName('account.json'));
        self::assertSame("studies/Fresh water-$study->id.zip", $zip->getNameIndex(1));

        $here->ask('DELETE', '/api/account', ['password' => 'wrong one'])->assertStatus(422);
        $here->ask('DELETE', '/api/account', ['password' => self::GOOD])->assertNoContent();
        $here->ask('GET', '/api/me')->assertUnauthorized();
        self::assertNull($study->fresh());
        $mine = $this->signedIn($ilse);
        // Whoever shared with them goes on with what they did, without their name.
        $history = $mine->ask('GET', "/api/models/{$theirs->model->id}/history")->assertOk();
        self::assertSame(['Somebody who left'], array_column($history->json('entries'), 'by'));
        $dump = '';
        foreach (
            ['users', 'grants', 'comments', 'sign_ins', 'visits', 'personal_access_tokens', 'happenings', 'studies', 'keys'] as $table
        ) {
            $dump .= json_encode(DB::table($table)->get());
        }
        self::assertStringNotContainsString('mole', $dump);
        self::assertStringNotContainsString('Mara', $dump);
        $visitor = $this->visitor()->open();
        $visitor->ask('POST', '/api/session', ['email' => $user->email, 'password' => self::GOOD])->assertStatus(422);
    }

    /** @param  TestResponse<Response>  $answer */
    private static function fileOf(TestResponse $answer): string
    {
        $sent = $answer->baseResponse;
        self::assertInstanceOf(BinaryFileResponse::class, $sent);

        return $sent->getFile()->getContent();
    }

    public function test_what_happened_to_an_account_is_told_to_its_person_alone(): void
    {
        $user = $this->person();
        $visitor = $this->visitor()->open();
        $visitor->ask('POST', '/api/session', ['email' => $user->email, 'password' => 'wrong one'])->assertStatus(422);
        $here = $this->signedIn($user);
        $kinds = array_column($here->ask('GET', '/api/account/happenings')->assertOk()->json('happenings'), 'kind');
        self::assertSame(['signed-in', 'refused'], $kinds);
        $ilse = $this->signedIn($this->person('Ilse'));
        self::assertSame(['signed-in'], array_column($ilse->ask('GET', '/api/account/happenings')->json('happenings'), 'kind'));
        self::assertSame(0, Happening::query()->where('words', 'like', '%wrong one%')->count());
    }

    public function test_nobody_is_somebody_of_the_demo_outside_of_it(): void
    {
        User::demoAnalyst();
        $here = $this->signedIn($this->person());
        $here->ask('PUT', '/api/me/person', ['email' => User::DEMO])->assertNotFound();
        $here->ask('GET', '/api/letters')->assertForbidden();
        config(['merry-orbit.demo' => true]);
        $browser = $this->visitor(address: '127.0.0.1')->open();
        Artisan::call('orbit:demo');
        $browser->ask('GET', '/api/me')->assertOk()->assertJsonPath('data.email', User::DEMO);
        $browser->ask('PUT', '/api/me/person', ['email' => 'ilse@quillhaven.example'])->assertOk();
        $browser->ask('GET', '/api/me')->assertOk()->assertJsonPath('data.name', 'Ilse Brandt');
        config(['merry-orbit.demo' => false]);
        $browser->ask('GET', '/api/me')->assertUnauthorized();
    }
}
