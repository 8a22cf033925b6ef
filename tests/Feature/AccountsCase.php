<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\ModelDocument;
use App\Models\Study;
use App\Models\User;
use Illuminate\Mail\Transport\ArrayTransport;
use Illuminate\Routing\Route as OneRoute;
use Illuminate\Support\Facades\Mail;
use Illuminate\Support\Str;
use Symfony\Component\Mime\Email;

/** As on a server: nobody is signed in without an account, and each browser has a session of its own. */
abstract class AccountsCase extends TestCase
{
    protected const GOOD = 'kelp under lantern light';

    protected string $sessions;

    protected function setUp(): void
    {
        parent::setUp();
        // A run that was asked for before has set one for the whole process.
        set_time_limit(0);
        $this->sessions = sys_get_temp_dir().'/merry-orbit-sessions-'.bin2hex(random_bytes(4));
        mkdir($this->sessions);
        // Sessions as they are kept in earnest.
        config(['merry-orbit.demo' => false, 'session.driver' => 'lasting', 'session.files' => $this->sessions]);
    }

    protected function tearDown(): void
    {
        array_map(unlink(...), glob("$this->sessions/*") ?: []);
        rmdir($this->sessions);
        parent::tearDown();
    }

    /** @param  array<string, string>  $headers */
    protected function visitor(array $headers = [], string $address = '192.168.7.7'): Visitor
    {
        return new Visitor($this, $this->app, $headers, $address);
    }

    protected function person(string $name = 'Mara', ?string $password = self::GOOD): User
    {
        return User::query()->firstOrCreate(
            ['email' => strtolower($name).'@quillhaven.example'],
            ['name' => $name, 'password' => $password],
        );
    }

    protected function signedIn(User $user, string $password = self::GOOD): Visitor
    {
        $visitor = $this->visitor()->open();
        $visitor->ask('POST', '/api/session', ['email' => $user->email, 'password' => $password])->assertOk();

        return $visitor;
    }

    /** @param  array<string, mixed>  $edit */
    protected function edited(User $by, ModelDocument $model, array $edit): void
    {
        $this->signedIn($by)
            ->ask('POST', "/api/models/$model->id/edits", [
                'base' => $model->refresh()->revision,
                'window' => 'one',
                'edits' => [['id' => (string) Str::uuid(), 'edit' => $edit]],
            ])
            ->assertOk();
    }

    /** @return list<Email> what was sent */
    protected function letters(): array
    {
        $transport = Mail::mailer()->getSymfonyTransport();
        self::assertInstanceOf(ArrayTransport::class, $transport);
        $letters = [];
        foreach ($transport->messages() as $sent) {
            $email = $sent->getOriginalMessage();
            self::assertInstanceOf(Email::class, $email);
            $letters[] = $email;
        }

        return $letters;
    }

    /** @return string the key in the last letter */
    protected function keyInLetter(string $page): string
    {
        $letters = $this->letters();
        self::assertNotSame([], $letters);
        $text = (string) $letters[count($letters) - 1]->getTextBody();
        self::assertSame(1, preg_match("~/$page#(\S+)~", $text, $found), $text);

        return $found[1] ?? '';
    }

    protected static function pathOf(OneRoute $route, Study $study): string
    {
        $values = [
            'study' => $study->id,
            'model' => $study->model->id,
            'content' => str_repeat('0', 64),
            'token' => '0190b5a0-0000-7000-8000-000000000000',
            'run' => '1',
            'revision' => '0',
            'element' => 'wells',
        ];

        return (string) preg_replace_callback(
            '/\{(\w+)\}/',
            static fn (array $m): string => str_starts_with($route->wheres[$m[1]] ?? '', '[0-9]{') ? '1' : $values[$m[1]] ?? 'x',
            $route->uri(),
        );
    }
}
