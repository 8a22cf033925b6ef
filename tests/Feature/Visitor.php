<?php

declare(strict_types=1);

namespace Tests\Feature;

use Illuminate\Foundation\Application;
use Illuminate\Testing\TestResponse;

/** A browser, or a program, with cookies of its own. */
final class Visitor
{
    /** @var array<string, string> */
    private array $cookies = [];

    /** @param  array<string, string>  $headers */
    public function __construct(
        private readonly TestCase $test,
        private readonly Application $app,
        private array $headers = [],
        private readonly string $address = '192.168.7.7',
    ) {
    }

    /**
     * @param  array<mixed>  $body
     * @return TestResponse<\Illuminate\Http\Response>
     */
    public function ask(string $method, string $path, array $body = []): TestResponse
    {
        $this->app->make('auth')->forgetGuards();
        $this->app->forgetScopedInstances();
        $this->app->make('session')->forgetDrivers();
        $this->app->forgetInstance('session.store');
        $server = ['CONTENT_TYPE' => 'application/json', 'HTTP_ACCEPT' => 'application/json', 'REMOTE_ADDR' => $this->address];
        foreach ($this->headers as $name => $value) {
            $server['HTTP_'.strtoupper(strtr($name, '-', '_'))] = $value;
        }
        $answer = $this->test->call(
            $method,
            $path,
            cookies: $this->cookies,
            server: $server,
            content: $method === 'GET' ? null : (string) json_encode((object) $body),
        );
        foreach ($answer->headers->getCookies() as $cookie) {
            $this->cookies[$cookie->getName()] = (string) $cookie->getValue();
        }

        return $answer;
    }

    /** As the page is opened: it begins a session. */
    public function open(): self
    {
        $this->ask('GET', '/');

        return $this;
    }

    /** @param  array<string, string>  $headers */
    public function carrying(array $headers): self
    {
        $this->headers = [...$this->headers, ...$headers];

        return $this;
    }

    /** @return array<string, string> */
    public function cookies(): array
    {
        return $this->cookies;
    }

    /** @param  array<string, string>  $cookies  of another browser */
    public function take(array $cookies): self
    {
        $this->cookies = $cookies;

        return $this;
    }
}
