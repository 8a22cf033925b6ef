<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

/** How names are compared and written in formulas. */
final class Name
{
    public const LONGEST = 120;

    /** How many names are remembered as they are written: those of a large model stand in many formulas. */
    private const MOST_KNOWN = 6_000;

    /** @var array<array-key, string> by name */
    private static array $written = [];

    /** @var array<array-key, string> by name */
    private static array $keys = [];

    private const RESERVED = ['and' => true, 'or' => true, 'not' => true];

    /** The form in which two spellings of one name are equal: NFC, one space between words, no case. */
    public static function key(string $name): string
    {
        if (preg_match('/^[a-z0-9]+(?: [a-z0-9]+)*$/D', $name) === 1) {
            return $name;
        }

        if (count(self::$keys) > self::MOST_KNOWN) {
            self::$keys = [];
        }

        return self::$keys[$name] ??= mb_convert_case(self::tidy($name), MB_CASE_FOLD, 'UTF-8');
    }

    /** The spelling that is kept: NFC, one space between words. */
    public static function tidy(string $name): string
    {
        if (preg_match('/[^\x00-\x7f]/', $name) === 1) {
            $normal = \Normalizer::normalize($name, \Normalizer::FORM_C);
            $name = is_string($normal) ? $normal : $name;
        }

        if (preg_match('/^[!-^`-~]+(?: [!-^`-~]+)*$/D', $name) === 1) {
            // Printable characters without underscores, one space between words.
            return $name;
        }

        return trim((string) preg_replace('/[\s_\p{Z}]+/u', ' ', $name), ' ');
    }

    public static function isReserved(string $word): bool
    {
        return isset(self::RESERVED[strtolower($word)]);
    }

    /** Whether a formula can mention this name only in double quotes. */
    public static function needsQuotes(string $name): bool
    {
        if (preg_match('/^\p{L}[\p{L}\p{M}\p{N}]*(?: [\p{L}\p{M}\p{N}]+)*$/Du', $name) !== 1) {
            return true;
        }
        foreach (explode(' ', $name) as $word) {
            if (self::isReserved($word) || preg_match('/^\d+[eE]\d+$/D', $word) === 1) {
                return true;
            }
        }

        return Quantity::tryFrom(self::key($name)) !== null || Catalogue::isTaken(self::key($name));
    }

    /** The name as it stands in a formula. */
    public static function written(string $name): string
    {
        if (count(self::$written) > self::MOST_KNOWN) {
            self::$written = [];
        }

        return self::$written[$name] ??= self::needsQuotes($name) ? self::quoted($name) : $name;
    }

    public static function quoted(string $name): string
    {
        return '"'.str_replace('"', '""', $name).'"';
    }

    /**
     * Why a thing cannot be called this, as a sentence; null if it can.
     */
    public static function refusal(string $name): ?string
    {
        if (! mb_check_encoding($name, 'UTF-8')) {
            return 'A name is text in UTF-8; this one holds bytes that are not.';
        }
        $tidy = self::tidy($name);

        return match (true) {
            $tidy === '' => 'A name needs at least one letter or digit.',
            mb_strlen($tidy) > self::LONGEST => 'This name has '.
                mb_strlen($tidy).
                ' characters; a name has at most '.
                self::LONGEST.
                '. Put the rest into the note.',
            preg_match('/[\p{C}]/u', $tidy) === 1 => 'A name holds only characters that can be seen; this one has a hidden one.',
            default => null,
        };
    }
}
