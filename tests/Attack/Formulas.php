<?php

declare(strict_types=1);

namespace Tests\Attack;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\FormulaError;
use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Latex;
use MerryOrbit\Core\Formula\Parser;
use MerryOrbit\Core\Formula\Printer;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/**
 * Formulas out of pieces that are formulas and pieces that are none, at random from a seed: each is kept as it was typed, and is either
 * a formula that is printed and read again as itself, or refused with a sentence at a place in it.
 */
final class Formulas
{
    private const PIECES = [
        '+',
        '-',
        '*',
        '/',
        '^',
        '(',
        ')',
        '[',
        ']',
        ',',
        ':',
        ';',
        '=',
        '<>',
        '<=',
        '>=',
        '<',
        '>',
        ' ',
        '  ',
        "\n",
        "\t",
        '_',
        '.',
        'and',
        'or',
        'not',
        'if',
        'then',
        'else',
        'time',
        'step',
        'a',
        'b',
        'some tank',
        '"R&D"',
        '"',
        '""',
        '1',
        '2.5',
        '3%',
        '.5',
        '1e3',
        '1e999',
        '1e-999',
        '0',
        '-0',
        '99999999999999999999',
        '%',
        'ä',
        '温度',
        "\u{202e}",
        "\u{0}",
        "\xff",
        '×',
        '÷',
        '−',
        '{',
        '}',
        '\\',
        '$',
        '`',
        "'",
        '&',
        '|',
        '!',
        '#',
        '@',
        '~',
        '?',
        '//',
        '/*',
        '<?php',
        '${a}',
        'self',
        'e',
        'pi',
    ];

    private Randomizer $random;

    /** @var list<string> */
    private array $known = [];

    /** @var list<string> */
    private array $functions;

    public function __construct(private readonly string $seed)
    {
        $this->random = new Randomizer(new Xoshiro256StarStar(hash('sha256', "formulas $seed", true)));
        foreach (glob(dirname(__DIR__, 2).'/demo/*.json') ?: [] as $file) {
            preg_match_all('/"formula": ?"((?:[^"\\\\]|\\\\.)+)"/', (string) file_get_contents($file), $found);
            foreach ($found[1] as $formula) {
                $this->known[] = (string) json_decode("\"$formula\"");
            }
        }
        $this->functions = array_map(strval(...), array_keys(Catalogue::all()));
    }

    /** @return array{string, string} a formula, and what it was made of */
    public function next(): array
    {
        $text = $this->random->getInt(0, 3) === 0 ? '' : $this->of($this->known);
        for ($i = $this->random->getInt(1, 8); $i > 0; $i--) {
            $at = $this->random->getInt(0, strlen($text));
            $text = match ($this->random->getInt(0, 9)) {
                0 => substr_replace($text, '', $at, $this->random->getInt(0, 4)),
                1 => substr_replace($text, substr($text, $at, $this->random->getInt(0, 12)), $at, 0),
                2 => substr_replace($text, $this->of($this->functions).'(', $at, 0),
                3 => substr_replace($text, $this->of($this->functions).'('.$this->of($this->known).')', $at, 0),
                4 => substr($text, 0, $at).$this->of($this->known),
                5 => $this->random->getInt(0, 60) === 0
                    ? str_repeat($this->of(self::PIECES), $this->random->getInt(1, 3_000))
                    : "($text)",
                default => substr_replace($text, $this->of(self::PIECES), $at, 0),
            };
        }

        return [substr($text, 0, 30_000), "a formula, $this->seed: ".json_encode(substr($text, 0, 300), JSON_INVALID_UTF8_SUBSTITUTE)];
    }

    /** What came of a formula that is neither itself nor a sentence; null where all is well. */
    public static function harm(string $text): ?string
    {
        try {
            $idOf = static fn (string $key): ?string => $key === 'a' ? 'id-of-a' : null;
            $typed = FormulaText::typed($text, $idOf);
            if (
                $typed->text(static fn (string $id): string => 'a') !== trim($text) &&
                mb_check_encoding($text, 'UTF-8') &&
                ! str_contains($text, 'A')
            ) {
                return 'It is kept otherwise than it was typed.';
            }
            $node = Parser::parse($text);
            $printed = Printer::print($node);
            if (strlen($printed) <= Parser::LONGEST && Printer::print(Parser::parse($printed)) !== $printed) {
                return "It is read otherwise when it is printed: $printed";
            }
            (new Latex())->print($node);
        } catch (FormulaError $e) {
            if (strlen($e->getMessage()) < 12) {
                return "It is refused without a sentence: {$e->getMessage()}";
            }
        } catch (\Throwable $e) {
            return $e::class." {$e->getMessage()} at ".basename($e->getFile()).":{$e->getLine()}";
        }

        return null;
    }

    /** The same of a whole model that has it as a formula. */
    public static function harmInModel(string $text): ?string
    {
        $record = [
            'format' => 'merry-orbit model',
            'version' => 2,
            'name' => 'x',
            'elements' => [
                ['id' => 'a', 'kind' => 'parameter', 'name' => 'a', 'formula' => '1'],
                ['id' => 'b', 'kind' => 'auxiliary', 'name' => 'b', 'formula' => mb_scrub(substr($text, 0, Parser::LONGEST - 1))],
                ['id' => 's', 'kind' => 'stock', 'name' => 'some tank', 'formula' => 'b'],
            ],
        ];
        try {
            Analyser::analyse(NativeFile::import((string) json_encode($record))->model);
        } catch (\Throwable $e) {
            return $e::class." {$e->getMessage()} at ".basename($e->getFile()).":{$e->getLine()}";
        }

        return null;
    }

    /**
     * @param  list<string>  $list
     */
    private function of(array $list): string
    {
        return $list[$this->random->getInt(0, count($list) - 1)];
    }
}
