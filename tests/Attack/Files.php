<?php

declare(strict_types=1);

namespace Tests\Attack;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Exchange\FileRefused;
use MerryOrbit\Core\Exchange\ModelFile;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Exchange\Xmile\XmileWriter;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Structure\Layout;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/**
 * Files with something wrong in them, at random from a seed: each is read as a model that can be laid out, analysed, written and read
 * again, or refused with a sentence; nothing else comes of it, and soon.
 */
final class Files
{
    /** What stands in the place of anything. */
    private const ODD = [null, true, false, 0, -1, 5, '5', '0', '-3', '1e3', '', ' ', 'a"b', 'ä', "\u{202e}x", '§'];

    private const NUMBERS = ['0', '-1', '1e999', '-1e999', '1e308', '1e-308', 'nan', '', '1e', '0x10', '1,5', '99999999999999999999'];

    private Randomizer $random;

    /** @var list<string> */
    private array $native;

    /** @var list<string> */
    private array $xmile;

    public function __construct(private readonly string $seed)
    {
        $this->random = new Randomizer(new Xoshiro256StarStar(hash('sha256', $seed, true)));
        $this->native = array_map(
            static fn (string $file): string => (string) file_get_contents($file),
            glob(dirname(__DIR__, 2).'/demo/*.json') ?: [],
        );
        $this->xmile = array_map(
            static fn (string $text): string => XmileWriter::write(NativeFile::import($text)->model)[0],
            array_slice($this->native, 0, 3),
        );
    }

    /** @return array{string, string} a file, and what was done to it */
    public function next(): array
    {
        return $this->random->getInt(0, 1) === 0
            ? $this->mutatedJson($this->native[$this->random->getInt(0, count($this->native) - 1)])
            : $this->mutatedXml($this->xmile[$this->random->getInt(0, count($this->xmile) - 1)]);
    }

    /** @return array{string, string} */
    private function mutatedJson(string $text): array
    {
        /** @var array<string, mixed> $file */
        $file = json_decode($text, true, flags: JSON_THROW_ON_ERROR);
        $done = [];
        for ($i = $this->random->getInt(1, 4); $i > 0; $i--) {
            $done[] = $this->mutate($file, 0);
        }
        $json = (string) json_encode($file, JSON_PARTIAL_OUTPUT_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE);

        return [str_replace('"@huge@"', '1e999', $json), "native, $this->seed: ".implode('; ', $done)];
    }

    /** @param  array<array-key, mixed>  $at */
    private function mutate(array &$at, int $depth): string
    {
        if ($at === []) {
            $at = [$this->odd()];

            return 'filled something empty';
        }
        $key = $this->random->pickArrayKeys($at, 1)[0];
        if (is_array($at[$key]) && $depth < 8 && $this->random->getInt(0, 9) > 0) {
            return "$key > ".$this->mutate($at[$key], $depth + 1);
        }
        switch ($this->random->getInt(0, 4)) {
            case 0:
                unset($at[$key]);

                return "$key taken away";
            case 1:
                $at[] = $at[$key];

                return "$key doubled";
            case 2:
                $at = [...$at, $this->random->getInt(0, 20) => $this->odd()];

                return "a number as a key beside $key";
            default:
                $at[$key] = $this->odd();

                return "$key became ".substr((string) json_encode($at[$key], JSON_PARTIAL_OUTPUT_ON_ERROR), 0, 40);
        }
    }

    private function odd(): mixed
    {
        return match ($this->random->getInt(0, 7)) {
            0 => [],
            1 => [10],
            2 => ['a' => ['b' => 1]],
            3 => '@huge@',
            4 => str_repeat('x', 300),
            5 => $this->random->getInt(0, PHP_INT_MAX),
            default => self::ODD[$this->random->getInt(0, count(self::ODD) - 1)],
        };
    }

    /** @return array{string, string} */
    private function mutatedXml(string $text): array
    {
        $done = [];
        for ($i = $this->random->getInt(1, 4); $i > 0; $i--) {
            [$text, $done[]] = match ($this->random->getInt(0, 5)) {
                0 => $this->replaced($text, '/>\s*[-\d.e+]+\s*</i', '>'.$this->of(self::NUMBERS).'<', 'a number'),
                1 => $this->replaced($text, '/name="[^"]*"/', 'name="'.htmlspecialchars((string) $this->of(self::ODD)).'"', 'a name'),
                2 => $this->replaced($text, '/<eqn>[^<]*<\/eqn>/', $this->random->getInt(0, 1) === 0 ? '' : '<eqn/>', 'an equation'),
                3 => $this->replaced($text, '/<(?:inflow|outflow)>[^<]*</', '<$0<', 'an end of a flow'),
                4 => $this->replaced($text, '/>[^<>]+<\/(?:inflow|outflow|units|ypts|dt|stop|start)>/', '/>', 'the text of something'),
                default => $this->replaced($text, '/="[^"]*"/', '="'.$this->of(self::NUMBERS).'"', 'an attribute'),
            };
        }

        return [$text, "XMILE, $this->seed: ".implode('; ', $done)];
    }

    /** @return array{string, string} */
    private function replaced(string $text, string $pattern, string $by, string $what): array
    {
        if (preg_match_all($pattern, $text, $found, PREG_OFFSET_CAPTURE) === 0) {
            return [$text, "no $what"];
        }
        [$was, $at] = $found[0][$this->random->getInt(0, count($found[0]) - 1)];

        return [substr_replace($text, str_replace('$0', $was, $by), $at, strlen($was)), "$what at $at"];
    }

    /** @param  list<mixed>  $list */
    private function of(array $list): mixed
    {
        return $list[$this->random->getInt(0, count($list) - 1)];
    }

    /**
     * What came of a file that is neither a model nor a sentence; null where all is well.
     */
    public static function harm(string $file): ?string
    {
        foreach ([false, true] as $isLenient) {
            try {
                $model = Layout::complete(ModelFile::import($file, $isLenient)->model);
                Analyser::analyse($model);
                $written = NativeFile::export($model);
                $again = NativeFile::export(NativeFile::import($written)->model);
                if ($again !== $written) {
                    return 'It is written otherwise when it is read again.';
                }
            } catch (FileRefused|NotUnderstood $e) {
                if (strlen($e->getMessage()) < 12) {
                    return "It is refused without a sentence: {$e->getMessage()}";
                }
            } catch (\Throwable $e) {
                return $e::class." {$e->getMessage()} at ".basename($e->getFile()).":{$e->getLine()}";
            }
        }

        return null;
    }
}
