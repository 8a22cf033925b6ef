<?php

declare(strict_types=1);

namespace Tests\Server;

use PHPUnit\Framework\TestCase;

/** From a clone to a page that answers, by one command, and back; started by hand, as there is no systemd where tests run. */
final class RecipeTest extends TestCase
{
    private const PORT = 8794;

    private static string $clone = '';

    private static string $folder = '';

    public static function setUpBeforeClass(): void
    {
        if (posix_geteuid() !== 0 || self::ran(['sh', '-c', 'command -v nginx && command -v php-fpm8.2'])[0] !== 0) {
            self::markTestSkipped('Setting up a server needs root, nginx and php-fpm.');
        }
        $here = dirname(__DIR__, 2);
        self::$folder = sys_get_temp_dir().'/merry-orbit-server-'.getmypid();
        self::$clone = self::$folder.'.clone';
        self::do(['git', 'clone', '--quiet', $here, self::$clone]);
        // What is there need not be fetched again.
        foreach (['vendor', 'node_modules', 'public/build'] as $made) {
            self::do(['cp', '-al', "$here/$made", self::$clone."/$made"]);
        }
        foreach (['vendor', 'node_modules'] as $made) {
            touch(self::$clone."/$made/.complete");
        }
        touch(self::$clone.'/public/build/manifest.json');
    }

    public static function tearDownAfterClass(): void
    {
        if (self::$clone !== '') {
            self::ran(['bin/server', 'remove', '--with-data', '--folder='.self::$folder], self::$clone);
            self::ran(['rm', '-rf', self::$clone, self::$folder]);
        }
    }

    /**
     * @param  non-empty-list<string>  $command
     * @return array{int, string} how it ended, and what it said
     */
    private static function ran(array $command, ?string $folder = null): array
    {
        $process = proc_open($command, [1 => ['pipe', 'w'], 2 => ['redirect', 1]], $pipes, $folder);
        self::assertIsResource($process);
        $said = (string) stream_get_contents($pipes[1]);

        return [proc_close($process), $said];
    }

    /** @param  non-empty-list<string>  $command */
    private static function do(array $command, ?string $folder = null): string
    {
        [$code, $said] = self::ran($command, $folder);
        self::assertSame(0, $code, implode(' ', $command).": $said");

        return $said;
    }

    private static function server(string $act, string ...$more): string
    {
        return self::do(['bin/server', $act, '--folder='.self::$folder, ...$more], self::$clone);
    }

    private static function setUpServer(): string
    {
        return self::server('setup', '--host=127.0.0.1', '--port='.self::PORT, '--workers=1', '--by-hand');
    }

    /**
     * @param  array<string, mixed>  $sent
     * @param  array<string, string>  $headers
     * @return array{int, list<string>, string} status, headers, body
     */
    private static function ask(string $path, string $method = 'GET', array $sent = [], array $headers = []): array
    {
        $lines = array_map(static fn (string $n, string $v): string => "$n: $v", array_keys($headers), $headers);
        $context = stream_context_create([
            'http' => [
                'method' => $method,
                'timeout' => 10,
                'ignore_errors' => true,
                'header' => implode("\r\n", [...$lines, 'Content-Type: application/json', 'Accept: application/json']),
                'content' => $sent === [] ? '' : json_encode($sent, JSON_THROW_ON_ERROR),
            ],
        ]);
        $body = @file_get_contents('http://127.0.0.1:'.self::PORT.$path, false, $context);
        $head = $http_response_header ?? [];

        return [(int) (explode(' ', $head[0] ?? '')[1] ?? 0), $head, (string) $body];
    }

    /** The master of php-fpm, nginx, or the worker: what systemd would look after. */
    private static function pidOf(string $pattern): string
    {
        return trim(self::ran(['pgrep', '-o', '-f', $pattern])[1]);
    }

    public function test_from_a_clone_to_a_page_that_answers_and_again_without_harm(): string
    {
        $said = self::setUpServer();
        self::assertMatchesRegularExpression('~Make the first account within a day: (http://127\.0\.0\.1:8794/\S+)~', $said);
        preg_match('~/join#(\S+)~', $said, $found);
        [$status, $head, $body] = self::ask('/');
        self::assertSame(200, $status);
        self::assertStringContainsString('<title>Merry Orbit', $body);
        self::assertNotSame([], preg_grep('/^Content-Security-Policy: .*script-src \'self\';/', $head));
        self::assertSame([], preg_grep('/^(X-Powered-By:|Server: nginx\/)/', $head));
        self::assertSame(1, preg_match('~/build/assets/[^"]+\.js~', $body, $asset));
        [$status, $head] = self::ask($asset[0]);
        self::assertSame(200, $status);
        self::assertNotSame([], preg_grep('/^Cache-Control: public, max-age=31536000, immutable$/', $head));
        self::assertNotSame([], preg_grep('/^X-Content-Type-Options: nosniff$/', $head));
        // A server is in no demo mode: nobody is let in without an account.
        self::assertSame(401, self::ask('/api/studies')[0]);
        $settings = self::$folder.'/shared/.env';
        $before = file_get_contents($settings);
        self::setUpServer();
        self::assertSame($before, file_get_contents($settings), 'the key of before, or all would be signed out');
        self::assertSame(200, self::ask('/')[0]);
        // A worker looks first whether it reaches what it needs.
        $status = '';
        for ($i = 0; $i < 60 && ! str_contains($status, 'workers 1,'); $i++) {
            usleep(500_000);
            $status = self::server('status');
        }
        self::assertStringContainsString("the page answers\nworkers 1,", $status);

        return $found[1] ?? '';
    }

    #[\PHPUnit\Framework\Attributes\Depends('test_from_a_clone_to_a_page_that_answers_and_again_without_harm')]
    public function test_nothing_but_the_page_is_handed_out(): void
    {
        foreach (
            ['/.env', '/../.env', '/.git/config', '/index.php', '/server/nginx.conf', '/build/../../.env', '/storage/logs'] as $path
        ) {
            [$status, , $body] = self::ask($path);
            self::assertStringNotContainsString('APP_KEY', $body, $path);
            self::assertStringNotContainsString('<?php', $body, $path);
            // What is no file is the page, which says that there is nothing.
            self::assertContains($status, [200, 400, 404], $path);
            self::assertTrue($status !== 200 || str_contains($body, '<title>Merry Orbit'), $path);
        }
        self::assertSame(421, self::ask('/', headers: ['Host' => 'elsewhere.example'])[0]);
        self::assertSame(200, self::ask('/api/metrics')[0], 'from this machine');
        $owned = self::do(['find', self::$folder.'/releases', '-user', 'merry-orbit', '-print', '-quit']);
        self::assertSame('', $owned, 'what serves pages cannot change its own code');
        self::assertSame('0640', substr(sprintf('%o', fileperms(self::$folder.'/shared/.env')), -4));
    }

    #[\PHPUnit\Framework\Attributes\Depends('test_from_a_clone_to_a_page_that_answers_and_again_without_harm')]
    public function test_what_dies_is_started_again(): void
    {
        foreach (
            ['php-fpm: master process .*'.self::$folder, 'nginx: master process nginx -c '.self::$folder, 'artisan queue:work'] as $which
        ) {
            $pid = self::pidOf($which);
            self::assertNotSame('', $pid, $which);
            self::ran(['kill', '-KILL', $pid]);
            $until = time() + 30;
            while (time() < $until) {
                usleep(100_000);
                $now = self::pidOf($which);
                if ($now !== '' && $now !== $pid && self::ask('/')[0] === 200) {
                    break;
                }
            }
            self::assertNotSame($pid, self::pidOf($which), "$which was not replaced");
            self::assertSame(200, self::ask('/')[0], $which);
        }
    }

    #[\PHPUnit\Framework\Attributes\Depends('test_from_a_clone_to_a_page_that_answers_and_again_without_harm')]
    public function test_an_upgrade_loses_no_request(): void
    {
        $was = readlink(self::$folder.'/current');
        $go = self::$folder.'.go';
        touch($go);
        $asking = proc_open([PHP_BINARY, __DIR__.'/asking.php', 'http://127.0.0.1:'.self::PORT, $go], [1 => ['pipe', 'w']], $pipes);
        self::assertIsResource($asking);
        self::do(
            ['git', '-c', 'user.name=t', '-c', 'user.email=t@quillhaven.example', 'commit', '-q', '--allow-empty', '-m', 'next'],
            self::$clone,
        );
        self::server('upgrade');
        sleep(2);
        unlink($go);
        /** @var array{asked: int, wrong: array<string, int>} $told */
        $told = json_decode((string) stream_get_contents($pipes[1]), true, 512, JSON_THROW_ON_ERROR);
        proc_close($asking);
        self::assertNotSame($was, readlink(self::$folder.'/current'));
        self::assertGreaterThan(50, $told['asked']);
        self::assertSame([], $told['wrong']);
    }

    #[\PHPUnit\Framework\Attributes\Depends('test_an_upgrade_loses_no_request')]
    public function test_with_a_certificate_it_answers_by_https_alone(): void
    {
        [$certificate, $key] = [self::$folder.'.pem', self::$folder.'.key'];
        $named = ['-subj', '/CN=127.0.0.1', '-addext', 'subjectAltName=IP:127.0.0.1', '-days', '2'];
        self::do(['openssl', 'req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-keyout', $key, '-out', $certificate, ...$named]);
        [$code, $said] = self::ran(
            ['bin/server', 'setup', '--folder='.self::$folder, '--certificate=/nowhere.pem', "--key=$key"],
            self::$clone,
        );
        self::assertSame(1, $code);
        self::assertStringContainsString('name two files that can be read', $said);
        self::assertSame(200, self::ask('/')[0], 'nothing was changed');
        $said = self::server('setup', "--certificate=$certificate", "--key=$key");
        self::assertStringContainsString('https://127.0.0.1:'.self::PORT, $said);
        // Whoever asks knows who answers: the certificate is held against the name.
        $trusting = ['cafile' => $certificate, 'verify_peer' => true, 'verify_peer_name' => true, 'peer_name' => '127.0.0.1'];
        $context = stream_context_create(['ssl' => $trusting, 'http' => ['timeout' => 10, 'ignore_errors' => true]]);
        $page = (string) @file_get_contents('https://127.0.0.1:'.self::PORT.'/', false, $context);
        $head = $http_response_header ?? [];
        self::assertStringContainsString('<title>Merry Orbit', $page);
        self::assertNotSame([], preg_grep('/^Strict-Transport-Security: max-age=31536000$/i', $head));
        $cookies = preg_grep('/^Set-Cookie:/i', $head) ?: [];
        self::assertNotSame([], $cookies);
        self::assertSame($cookies, preg_grep('/; secure/i', $cookies), 'no cookie goes by HTTP');
        self::assertSame(400, self::ask('/')[0], 'plain HTTP is not answered');
        array_map(unlink(...), [$certificate, $key]);
    }

    #[\PHPUnit\Framework\Attributes\Depends('test_with_a_certificate_it_answers_by_https_alone')]
    public function test_taken_down_nothing_runs_and_what_people_made_stays(): void
    {
        self::server('remove');
        self::assertSame(0, self::ask('/')[0]);
        self::assertSame('', self::pidOf(self::$folder));
        self::assertFileExists(self::$folder.'/shared/database/merry-orbit.sqlite');
        self::assertFileDoesNotExist(self::$folder.'/releases');
    }
}
