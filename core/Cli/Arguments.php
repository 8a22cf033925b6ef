<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

/** A command, its file, and its options, from the words of the command line. */
final readonly class Arguments
{
    /** Options that take no value. */
    private const FLAGS = ['timing', 'lenient', 'independent', 'story', 'profile'];

    /** @param  array<string, list<string>>  $options by name */
    private function __construct(public string $command, public string $file, private array $options)
    {
    }

    /**
     * @param  list<string>  $words
     * @param  array<string, list<string>>  $known  by command, the options it takes
     *
     * @throws UsageError
     */
    public static function parse(array $words, array $known): self
    {
        $command = array_shift($words) ?? '';
        if (! isset($known[$command])) {
            throw new UsageError(
                $command === ''
                    ? 'Say what to do: '.implode(' or ', array_keys($known)).'.'
                    : "There is no command `$command`; there is ".implode(' and ', array_keys($known)).'.',
            );
        }
        $files = [];
        $options = [];
        while (($word = array_shift($words)) !== null) {
            if (! str_starts_with($word, '--')) {
                $files[] = $word;

                continue;
            }
            [$name, $value] = array_pad(explode('=', substr($word, 2), 2), 2, null);
            if (! in_array($name, $known[$command], true)) {
                throw new UsageError("`$command` has no option --$name; it has --".implode(', --', $known[$command]).'.');
            }
            if (in_array($name, self::FLAGS, true)) {
                $options[$name][] = $value ?? 'yes';

                continue;
            }
            $value ??= array_shift($words);
            if ($value === null) {
                throw new UsageError("--$name needs a value, as in --$name=…");
            }
            $options[$name][] = $value;
        }
        if (count($files) !== 1) {
            throw new UsageError(
                $files === [] ? "Name the model file: orbit $command MODEL" : 'Name one model file; here are '.count($files).'.',
            );
        }

        return new self($command, $files[0], $options);
    }

    /** @return list<string> */
    public function all(string $option): array
    {
        return $this->options[$option] ?? [];
    }

    public function last(string $option): ?string
    {
        $values = $this->all($option);

        return $values === [] ? null : end($values);
    }

    public function number(string $option): ?float
    {
        $value = $this->last($option);

        return $value === null ? null : self::toNumber($value, "--$option");
    }

    public static function toNumber(string $text, string $what): float
    {
        $number = is_numeric(trim($text)) ? (float) trim($text) : NAN;
        if (! is_finite($number)) {
            throw new UsageError("$what must be a number, not `$text`.");
        }

        return $number;
    }
}
