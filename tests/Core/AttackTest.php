<?php

declare(strict_types=1);

namespace Tests\Core;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Attack\Files;

/** Files with something wrong in them: a model or a sentence comes of each, and nothing else. `bin/attack` does the same for longer. */
final class AttackTest extends TestCase
{
    private const FILES = 400;

    /** @return iterable<string, array{string}> what was found once */
    public static function found(): iterable
    {
        $xmile = static fn (string $specs, string $variables): array => [
            '<xmile version="1.0" xmlns="http://docs.oasis-open.org/xmile/ns/XMILE/v1.0"><sim_specs>'.
            "$specs</sim_specs><model><variables>$variables</variables></model></xmile>",
        ];
        $native = static fn (string $rest): array => ["{\"format\":\"merry-orbit model\",\"version\":1,\"name\":\"x\",$rest}"];
        $stock = '<stock name="s"><eqn>1</eqn></stock>';
        yield 'no step' => $xmile('<start>0</start><stop>9</stop><dt>0</dt>', $stock);
        yield 'no end' => $xmile('<start>0</start><stop>1e999</stop><dt>1</dt>', $stock);
        yield 'a flow alone' => $xmile('<start>0</start><stop>9</stop><dt>1</dt>', '<flow name="f"/>');
        yield 'a number as a name' => $xmile('<stop>9</stop>', '<aux name="5"><eqn>3</eqn></aux><stock name="7"><eqn>"5"</eqn></stock>');
        yield 'an end without a flow' => $xmile('<stop>9</stop>', '<stock name="s"><eqn>1</eqn><outflow/><inflow/></stock>');
        yield 'a bad byte' => $xmile('<stop>9</stop>', "<aux name=\"a\xff\"><eqn>1</eqn></aux>");
        yield 'an endless range' => $xmile('<stop>9</stop>', '<aux name="a"><eqn>1</eqn><range min="0" max="1e999"/></aux>');
        yield 'an endless place' => [
            '<xmile version="1.0" xmlns="http://docs.oasis-open.org/xmile/ns/XMILE/v1.0"><model><variables>'.
            "$stock<aux name=\"b\"><eqn>1</eqn></aux></variables><views><view><stock name=\"s\" x=\"1e999\" y=\"9e8\"/>".
            '<aux name="b" x="3" y="1000000"/></view></views></model></xmile>',
        ];
        yield 'a flow alone, native' => $native('"elements":[{"kind":"flow","name":"f"}]');
        yield 'an endless number, native' => $native('"time":{"end":1e999},"elements":[]');
        yield 'a bad byte, native' => ["{\"format\":\"merry-orbit model\",\"version\":1,\"name\":\"x\xff\",\"elements\":[]}"];
        yield 'a list of what is held by hand' => $native(
            '"elements":[{"id":"a","kind":"parameter","name":"a","formula":"1"}],"scenarios":[{"id":"s","name":"s","setting":{"grips":[10]}}]',
        );
    }

    #[DataProvider('found')]
    public function test_what_was_found_once_is_a_model_or_a_sentence(string $file): void
    {
        self::assertNull(self::harm($file));
    }

    public function test_files_with_something_wrong_in_them_are_models_or_sentences(): void
    {
        $files = new Files('in bin/test');
        for ($i = 0; $i < self::FILES; $i++) {
            [$file, $done] = $files->next();
            self::assertNull(self::harm($file), $done);
        }
    }

    /** Warnings are mistakes as well. */
    private static function harm(string $file): ?string
    {
        set_error_handler(
            static fn (int $n, string $what, string $where, int $line): bool => throw new \ErrorException($what, 0, $n, $where, $line),
        );
        try {
            return Files::harm($file);
        } finally {
            restore_error_handler();
        }
    }
}
