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

    /** Fails where an answer in JSON is not what the description says. */
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
        if ($type !== 'application/json' || ! isset($responses[$status]['content']['application/json']['schema'])) {
            return;
        }
        $pointer = implode('/', array_map(
            static fn (string $step): string => rawurlencode(strtr($step, ['~' => '~0', '/' => '~1'])),
            ['paths', $path, strtolower($method), 'responses', (string) $status, 'content', 'application/json', 'schema'],
        ));
        $this->validate("#/$pointer", $body, "$method $uri $status");
    }

    private function validate(string $pointer, string $body, string $what): void
    {
        $result = $this->validator->validate(json_decode($body, false, 512, JSON_THROW_ON_ERROR), self::ID.$pointer);
        $error = $result->error();
        $said = $error === null ? '' : json_encode((new ErrorFormatter)->format($error), JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES);
        Assert::assertNull($error, "$what is not what docs/openapi.yaml describes: $said");
    }
}
