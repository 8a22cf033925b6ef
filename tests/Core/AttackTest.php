<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Data\XmlGuard;
use MerryOrbit\Core\Exchange\FileRefused;
use MerryOrbit\Core\Exchange\ModelFile;
use MerryOrbit\Core\Exchange\Xmile\XmlTree;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Attack\Files;
use Tests\Attack\Formulas;

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
        yield 'steps that end nowhere' => $xmile('<start>0</start><stop>-1</stop><dt>1e308</dt>', $stock);
        yield 'a step of a step that is none' => $xmile('<stop>9</stop><dt reciprocal="true">1e-320</dt>', $stock);
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
        yield 'a formula of a part that is none' => $native(
            '"elements":[],"parties":[{"id":"p","name":"p"}],"claims":[{"id":"c","name":"c","holder":"p","initial":{"a":{"b":1}}}]',
        );
        yield 'a list of what is looked at' => $native(
            '"elements":[],"scenarios":[{"id":"s","name":"s","setting":{"limits":[["a"],["b"]]}}]',
        );
        yield 'a list of what is held by hand' => $native(
            '"elements":[{"id":"a","kind":"parameter","name":"a","formula":"1"}],"scenarios":[{"id":"s","name":"s","setting":{"grips":[10]}}]',
        );
    }

    /** @return iterable<string, array{string, ?string}> small files that took long, and what is said of them if they are refused */
    public static function longWork(): iterable
    {
        $xmile = static fn (string $variables, string $more = ''): string => '<xmile version="1.0" '.
            'xmlns="http://docs.oasis-open.org/xmile/ns/XMILE/v1.0"><sim_specs><stop>9</stop></sim_specs>'.
            "$more<model><variables>$variables</variables></model></xmile>";
        $native = static fn (string $rest): string => "{\"format\":\"merry-orbit model\",\"version\":1,\"name\":\"x\",$rest}";
        $macros = static fn (string $equation): string => '<macro name="m0"><parm>p</parm><eqn>p</eqn></macro>'.
            self::each(
                25,
                static fn (int $i): string => "<macro name=\"m$i\"><parm>p</parm><eqn>".
                    str_replace('m', 'm'.($i - 1), $equation).
                    '</eqn></macro>',
            );
        $modules =
            '</model><model name="m0"><variables/></model>'.
            self::each(
                18,
                static fn (int $i): string => "<model name=\"m$i\"><variables>".
                    str_repeat('<module name="m'.($i - 1).'"/>', 2).
                    '</variables></model>',
            );
        yield 'attributes' => [
            $xmile('<aux name="a" '.self::each(160_000, static fn (int $i): string => " a$i=\"\"").'><eqn>1</eqn></aux>'),
            'more than 200 attributes',
        ];
        yield 'a long end' => [$native('"elements":[],"endWhen":"'.str_repeat('1 + ', 150_000).'1"'), 'longer than 20,000'];
        yield 'macros that double' => [$xmile('<aux name="a"><eqn>m25(1)</eqn></aux>', $macros('m(p) + m(p)')), null];
        yield 'macros that double and vanish' => [$xmile('<aux name="a"><eqn>m25(1)</eqn></aux>', $macros('m(m(1))')), null];
        yield 'modules that double' => [
            str_replace('</model></xmile>', "$modules</xmile>", $xmile('<module name="m18"/>')),
            'Modules within modules come to more than 2,000',
        ];
        yield 'one name' => [$xmile(str_repeat('<aux name="a"><eqn>1</eqn></aux>', 10_000)), null];
        yield 'one name, native' => [
            $native('"elements":['.implode(',', array_fill(0, 10_000, '{"kind":"parameter","name":"a","formula":"1"}')).']'),
            null,
        ];
        yield 'a formula of one number after the other' => [
            $xmile('<aux name="a"><eqn>'.str_repeat('1 ', 100_000).'</eqn></aux>'),
            null,
        ];
    }

    /** @param  \Closure(int): string  $text */
    private static function each(int $count, \Closure $text): string
    {
        return implode('', array_map($text, range(1, $count)));
    }

    /** Seconds and more if it grows with the square of the file, a fraction of one if it grows with the file. */
    #[DataProvider('longWork')]
    public function test_small_files_are_no_long_work(string $file, ?string $said): void
    {
        $refused = null;
        $took = Pace::seconds(static function () use ($file, &$refused): void {
            try {
                ModelFile::import($file, true);
            } catch (FileRefused $e) {
                $refused = $e->getMessage();
            }
        });
        self::assertLessThan(3.0, $took);
        $said === null ? self::assertNull($refused) : self::assertStringContainsString($said, (string) $refused);
    }

    public function test_formulas_with_something_wrong_in_them_are_kept_and_are_formulas_or_sentences(): void
    {
        $formulas = new Formulas('in bin/test');
        for ($i = 0; $i < 10 * self::FILES; $i++) {
            [$text, $done] = $formulas->next();
            self::assertNull(Formulas::harm($text), $done);
            self::assertNull($i % 40 === 0 ? Formulas::harmInModel($text) : null, $done);
        }
    }

    public function test_what_macros_come_to_is_bounded_and_the_equation_stays_as_it_was_written(): void
    {
        $imported = ModelFile::import([...self::longWork()]['macros that double'][0], true);
        $model = $imported->model;
        self::assertSame('m25(1)', $model->elements[(string) $model->idOf('a')]->formula->text(static fn (): string => ''));
        self::assertStringContainsString('more parts than one formula may have', implode(' ', array_column($imported->log, 'sentence')));
    }

    /** @return iterable<string, array{string}> document types that hide in another encoding */
    public static function hidden(): iterable
    {
        $utf7 = '<?xml version="1.0" encoding="UTF-7"?>+ADwAIQ-DOCTYPE x+AD4-<xmile/>';
        yield 'UTF-7' => [$utf7];
        yield 'UTF-7 behind a byte mark' => ["\xEF\xBB\xBF$utf7"];
        yield 'UTF-7 with blanks' => [str_replace('encoding="UTF-7"', "\n encoding = 'utf-7'", $utf7)];
        yield 'UTF-16' => ["\xFF\xFE".mb_convert_encoding('<?xml version="1.0"?><!DOCTYPE x><xmile/>', 'UTF-16LE', 'UTF-8')];
        yield 'UTF-16 without a mark' => [mb_convert_encoding('<?xml version="1.0"?><!DOCTYPE x><xmile/>', 'UTF-16LE', 'UTF-8')];
        yield 'late' => ['<xmile>'.str_repeat(' ', 50_000).'<!DOCTYPE x></xmile>'];
        yield 'an unknown encoding that begins like a known one' => ['<?xml version="1.0" encoding="utf-8x"?><xmile/>'];
    }

    #[DataProvider('hidden')]
    public function test_document_types_hide_in_no_encoding(string $file): void
    {
        $this->expectException(FileRefused::class);
        $this->expectExceptionMessageMatches('/encoding|document type|no XMILE|UTF-8/');
        XmlTree::read($file);
    }

    public function test_a_tag_in_pieces_is_looked_at_whole(): void
    {
        $tag = '<a '.implode(' ', array_map(static fn (int $i): string => "a$i='$i > 0'", range(1, 300))).'>';
        self::assertNotNull(XmlGuard::refusal(str_split("<x>$tag</x>", 7)));
        self::assertNotNull(XmlGuard::refusal(str_split('<x><!DOC'.'TYPE y></x>', 3)));
        self::assertNull(XmlGuard::refusal(str_split('<x>'.str_repeat('<a b="1" c="2">text = "3"</a>', 500).'</x>', 11)));
        self::assertNull(XmlGuard::refusal(str_split('<x>'.str_repeat('long ', 500_000).'</x>', 1 << 18)));
        self::assertNotNull(XmlGuard::refusal(str_split('<x y="'.str_repeat('long>', 500_000).'" '.$tag, 1 << 18)));
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
