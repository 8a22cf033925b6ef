<?php

declare(strict_types=1);

namespace Tests\Feature;

use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Validator;
use PHPUnit\Framework\Assert;
use Symfony\Component\Yaml\Yaml;

/** The description of the API as the judge of real answers. */
final class Contract
{
    private const ID = 'https://merry-orbit.example/openapi.json';

    private static ?self $one = null;

    private readonly Validator $validator;

    /** @param  array<string, mixed>  $described */
    private function __construct(private readonly array $described)
    {
        $this->validator = new Validator(max_errors: 5, stop_at_first_error: false);
        $whole = json_decode((string) json_encode(['$id' => self::ID] + $described, JSON_THROW_ON_ERROR), false, 512, JSON_THROW_ON_ERROR);
        Assert::assertIsObject($whole);
        $this->validator->resolver()?->registerRaw($whole);
        $this->validator->resolver()?->registerFile('https://merry-orbit.example/model.schema.json', base_path('docs/model.schema.json'));
    }

    public static function read(): self
    {
        if (self::$one === null) {
            $described = Yaml::parseFile(base_path('docs/openapi.yaml'));
            Assert::assertIsArray($described);
            /** @var array<string, mixed> $described */
            self::$one = new self($described);
        }

        return self::$one;
    }

    /** @return list<string> "GET api/studies" and so on */
    public function operations(): array
    {
        $all = [];
        foreach ((array) $this->described['paths'] as $path => $operations) {
            foreach (array_keys((array) $operations) as $method) {
                if ($method !== 'parameters') {
                    $all[] = strtoupper((string) $method)." api$path";
                }
            }
        }

        return $all;
    }

    /** @return list<string> operations whose JSON answers are described by nothing */
    public function undescribed(): array
    {
        $bare = [];
        foreach ((array) $this->described['paths'] as $path => $operations) {
            foreach ((array) $operations as $method => $operation) {
                foreach (is_array($operation) ? (array) ($operation['responses'] ?? []) : [] as $status => $answer) {
                    $json = is_array($answer) ? $answer['content']['application/json'] ?? null : null;
                    if (is_array($json) && ! isset($json['schema'])) {
                        $bare[] = strtoupper((string) $method)." api$path $status";
                    }
                }
            }
        }

        return $bare;
    }

    /** Fails where an answer is not what the description says. */
    public function check(string $method, string $uri, int $status, string $type, string $body): void
    {
        $path = substr($uri, strlen('api'));
        $responses = $this->described['paths'][$path][strtolower($method)]['responses'] ?? null;
        Assert::assertIsArray($responses, "$method $uri is not in docs/openapi.yaml.");
        if ($type === 'application/problem+json') {
            $this->validate('#/components/schemas/Problem', $body, "$method $uri $status");

            return;
        }
        Assert::assertArrayHasKey($status, $responses, "$method $uri answers $status, which docs/openapi.yaml does not know.");
        $content = $responses[$status]['content'][$type] ?? [];
        if (isset($content['x-head'])) {
            // An answer in columns: its head is told as JSON.
            $length = unpack('V', $body)[1] ?? 0;
            $this->validate($content['x-head']['$ref'], substr($body, 4, $length), "The head of $method $uri");
        } elseif (isset($content['schema'])) {
            $this->validate(
                '#/'.self::pointer('paths', $path, strtolower($method), 'responses', (string) $status, 'content', $type, 'schema'),
                $body,
                "$method $uri $status",
            );
        }
    }

    /** Fails where what was asked, and taken, is not what the description says can be asked. */
    public function checkRequest(string $method, string $uri, string $body): void
    {
        $path = substr($uri, strlen('api'));
        // PHP writes an empty record of a test as an empty list; the API takes both.
        $body = (string) preg_replace(
            '/"(options|setting|parameters|grips|curves|time|run|base|against|fields|pin)":\[\]/',
            '"$1":{}',
            $body,
        );
        $sent = json_decode($body, false, 512, JSON_THROW_ON_ERROR);
        foreach ($path === '/models/{model}/edits' && is_array($sent->edits ?? null) ? $sent->edits : [] as $one) {
            // Each against its own kind: what is wrong is then told once.
            $this->checkEdit($one->edit);
        }
        $asked = $this->described['paths'][$path][strtolower($method)]['requestBody']['content']['application/json'] ?? [];
        if (isset($asked['schema'])) {
            $this->validate(
                '#/'.self::pointer('paths', $path, strtolower($method), 'requestBody', 'content', 'application/json', 'schema'),
                $body,
                "What $method $uri was sent",
            );
        }
    }

    private function checkEdit(object $edit): void
    {
        $kind = is_string($edit->kind ?? null) ? $edit->kind : '';
        $name = 'Edit'.str_replace('-', '', ucwords($kind, '-'));
        Assert::assertArrayHasKey($name, $this->described['components']['schemas'], "docs/openapi.yaml knows no edit “{$kind}”.");
        $this->validate("#/components/schemas/$name", json_encode($edit, JSON_THROW_ON_ERROR), "The edit $kind");
    }

    /** @return list<string> the kinds of edits that are described */
    public function kindsOfEdits(): array
    {
        $schemas = $this->described['components']['schemas'] ?? [];
        $names = array_map(static fn (array $one): string => basename($one['$ref']), $schemas['Edit']['oneOf'] ?? []);

        return array_map(static fn (string $name): string => $schemas[$name]['properties']['kind']['const'], array_values($names));
    }

    private static function pointer(string ...$steps): string
    {
        return implode('/', array_map(static fn (string $step): string => rawurlencode(strtr($step, ['~' => '~0', '/' => '~1'])), $steps));
    }

    private function validate(string $pointer, string $body, string $what): void
    {
        $result = $this->validator->validate(json_decode($body, false, 512, JSON_THROW_ON_ERROR), self::ID.$pointer);
        $error = $result->error();
        $said = $error === null ? '' : json_encode((new ErrorFormatter())->format($error), JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES);
        Assert::assertTrue($error === null, "$what is not what docs/openapi.yaml describes: $said");
    }
}
