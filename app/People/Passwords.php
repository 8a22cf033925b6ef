<?php

declare(strict_types=1);

namespace App\People;

/** What a password must be: long, and not what others try first. Kinds of characters are not asked for, as ASVS says. */
final class Passwords
{
    public const SHORTEST = 12;

    public const LONGEST = 200;

    /** So many characters must be left without what everybody takes. */
    private const OWN = 7;

    private const DIFFERENT = 5;

    private const OFTEN = [
        'password',
        'passwort',
        'passphrase',
        'qwertyuiop',
        'qwertzuiop',
        'azertyuiop',
        'qwerty',
        'qwertz',
        'asdfghjkl',
        'asdf',
        'zxcvbnm',
        'letmein',
        'iloveyou',
        'welcome',
        'sunshine',
        'princess',
        'dragon',
        'monkey',
        'football',
        'baseball',
        'superman',
        'batman',
        'trustno1',
        'changeme',
        'secret',
        'admin',
        'administrator',
        'login',
        'master',
        'shadow',
        'abcdefghij',
        'abcdef',
        'abc',
        '1q2w3e4r5t',
        '1q2w3e4r',
        '1qaz2wsx',
        'summer',
        'winter',
        'spring',
        'autumn',
        'merry',
        'orbit',
        'quillhaven',
        'p@ssw0rd',
        'passw0rd',
        '1234567890',
        '0123456789',
        '0987654321',
        '123456789',
        '12345678',
        '1234567',
        '123456',
        '12345',
        '1234',
        '123',
    ];

    /** @return ?string what is wrong with it, as a sentence */
    public static function refusal(string $password, string $name, string $email): ?string
    {
        $length = mb_strlen($password);
        if ($length < self::SHORTEST) {
            return 'A password has at least '.
                self::SHORTEST.
                ' characters. Three or four words that have nothing to do with each other are good.';
        }
        if ($length > self::LONGEST) {
            return 'A password has at most '.self::LONGEST.' characters.';
        }
        $small = mb_strtolower($password);
        if (count(array_unique(mb_str_split($small))) < self::DIFFERENT) {
            return 'This password repeats the same few characters. Take more different ones.';
        }
        $known = [...self::OFTEN, ...self::wordsOf($name), ...self::wordsOf($email)];
        // The longest first, so that a part of it does not stand in its way.
        usort($known, static fn (string $a, string $b): int => strlen($b) <=> strlen($a));
        $left = preg_replace('/\d{1,4}$/', '', str_replace($known, '', $small));

        return mb_strlen((string) $left) < self::OWN
            ? 'This password is made of what others try first: words and rows of keys that many take, your name, your address. Take words of your own.'
            : null;
    }

    /** @return list<string> */
    private static function wordsOf(string $text): array
    {
        $words = preg_split('/[^\pL\pN]+/u', mb_strtolower($text)) ?: [];

        return array_values(array_filter($words, static fn (string $w): bool => mb_strlen($w) > 2));
    }
}
