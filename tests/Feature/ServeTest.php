<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\TestCase as PlainTestCase;

/** `bin/serve` with real processes, which are killed. */
final class ServeTest extends PlainTestCase
{
    private string $database = '';

    private int $port = 0;

    /** @var resource|null */
    private $serving = null;

    protected function setUp(): void
    {
        $this->database = (string) tempnam(sys_get_temp_dir(), 'merry-orbit-serve');
        $socket = stream_socket_server('tcp://127.0.0.1:0');
        self::assertIsResource($socket);
        $this->port = (int) substr((string) strrchr((string) stream_socket_get_name($socket, false), ':'), 1);
        fclose($socket);
        $this->run0('php artisan migrate --force --quiet');
        $this->serving = $this->start();
        self::assertTrue($this->within(15.0, fn (): bool => $this->answers()), 'it does not answer');
    }

    protected function tearDown(): void
    {
        if (is_resource($this->serving)) {
            proc_terminate($this->serving, SIGTERM);
            $serving = $this->serving;
            $this->within(8.0, static fn (): bool => ! proc_get_status($serving)['running']);
            proc_close($serving);
        }
        array_map(unlink(...), glob("$this->database*") ?: []);
        $this->run0("rm -rf storage/framework/serve-$this->port");
    }

    public function test_whatever_dies_is_replaced_and_nothing_stays_behind(): void
    {
        $server = fn (): array => $this->pids("-S 127.0.0.1:$this->port -t public");
        self::assertCount(4, $server(), 'one that listens and three workers');
        $state = dirname(__DIR__, 2)."/storage/framework/serve-$this->port";
        self::assertSame(0, (int) fileperms("$state/config.php") & 0o077, 'the key is read by others');
        self::assertSame(0, (int) fileperms($state) & 0o077);
        foreach (['a worker' => 3, 'the one that listens' => 0] as $who => $which) {
            $before = $server();
            posix_kill($before[$which], SIGKILL);
            $back = fn (): bool => count($server()) === 4 && ! in_array($before[$which], $server(), true) && $this->answers();
            self::assertTrue($this->within(4.0, $back), "$who is not replaced");
        }
        $worker = $this->pids('queue:work')[0] ?? self::fail('no worker of the queue');
        posix_kill($worker, SIGKILL);
        $back = fn (): bool => count($this->pids('queue:work')) === 2 && ! in_array($worker, $this->pids('queue:work'), true);
        self::assertTrue($this->within(4.0, $back), 'a worker of the queue is not replaced');

        $session = $this->session();
        posix_kill($session, SIGKILL);
        self::assertTrue($this->within(6.0, fn (): bool => $this->session() !== $session && $this->answers()), 'nobody starts it again');
        self::assertSame([], $this->left($session), 'old processes are left');

        [$code, $said] = $this->end($this->start());
        self::assertNotSame(0, $code, 'a second one starts beside the first');
        self::assertStringContainsString("at port $this->port", $said);

        $session = $this->session();
        self::assertIsResource($this->serving);
        proc_terminate($this->serving, SIGTERM);
        self::assertTrue($this->within(6.0, fn (): bool => $this->left($session) === []), 'something stays behind');
        self::assertFalse($this->answers());
    }

    /** @return resource */
    private function start()
    {
        $serving = proc_open(
            ['bin/serve', '127.0.0.1', (string) $this->port, '3'],
            [1 => ['file', '/dev/null', 'w'], 2 => ['pipe', 'w']],
            $pipes,
            dirname(__DIR__, 2),
            $this->environment(),
        );
        self::assertIsResource($serving);
        $this->said = $pipes[2];

        return $serving;
    }

    /** @var resource|null */
    private $said = null;

    /**
     * @param  resource  $process
     * @return array{int, string} how it ended, and what it said
     */
    private function end($process): array
    {
        self::assertIsResource($this->said);
        $said = (string) stream_get_contents($this->said);

        return [proc_close($process), $said];
    }

    /** @return array<string, string> */
    private function environment(): array
    {
        return [
            'DB_DATABASE' => $this->database,
            'APP_KEY' => 'base64:AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA=',
            'PATH' => (string) getenv('PATH'),
            'MERRY_ORBIT_STATION' => 'http://127.0.0.1:9/readings',
        ];
    }

    private function run0(string $command): void
    {
        $process = proc_open(['sh', '-c', $command], [], $pipes, dirname(__DIR__, 2), $this->environment());
        self::assertIsResource($process);
        self::assertSame(0, proc_close($process), $command);
    }

    private function session(): int
    {
        return (int) @file_get_contents(dirname(__DIR__, 2)."/storage/framework/serve-$this->port/session");
    }

    /** @return list<string> what lives of a session */
    private function left(int $session): array
    {
        return array_values(
            (array) preg_grep('/^\s*\d+\s+[^Z]/', explode("\n", (string) shell_exec("ps -ww -o pid=,stat=,args= -s $session"))),
        );
    }

    /** @return list<int> living processes of it that were called with something */
    private function pids(string $with): array
    {
        return array_map(
            intval(...),
            array_values((array) preg_grep('/ (?:php|nice).*'.preg_quote($with, '/').'/', $this->left($this->session()))),
        );
    }

    private function answers(): bool
    {
        $context = stream_context_create(['http' => ['timeout' => 2.0, 'ignore_errors' => true]]);
        $said = @file_get_contents("http://127.0.0.1:$this->port/api/health", false, $context);

        return is_string($said) && str_contains($said, '"well"');
    }

    /** @param  \Closure(): bool  $holds */
    private function within(float $seconds, \Closure $holds): bool
    {
        $until = microtime(true) + $seconds;
        while (! $holds()) {
            if (microtime(true) > $until) {
                return false;
            }
            usleep(50_000);
        }

        return true;
    }
}
