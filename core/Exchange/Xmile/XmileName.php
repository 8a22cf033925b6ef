<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Formula\Name;

/** How the standard spells names: spaces, underscores and line breaks are the same, what is unusual stands in quotes. */
final class XmileName
{
    private const RESERVED = ['and', 'or', 'not', 'mod', 'if', 'then', 'else', 'time', 'dt', 'starttime', 'stoptime', 'pi', 'inf', 'self'];

    /** The name as it is kept here. */
    public static function tidy(string $written): string
    {
        if (preg_match('/^[A-Za-z0-9]+(?:[ _][A-Za-z0-9]+)*$/D', $written) === 1) {
            return str_replace('_', ' ', $written);
        }
        if (strlen($written) > 1 && $written[0] === '"' && $written[-1] === '"') {
            $written = substr($written, 1, -1);
        }
        $written = str_replace(['\\n', '\\r', '\\t', '\\"', '\\\\'], [' ', ' ', ' ', '"', '\\'], $written);

        return Name::tidy((string) preg_replace('/\p{C}+/u', ' ', $written));
    }

    /** The name as it stands in an equation of the standard. */
    public static function written(string $name): string
    {
        $key = Name::key($name);
        $isPlain = preg_match('/^[\p{L}][\p{L}\p{M}\p{N}]*(?: [\p{L}\p{M}\p{N}]+)*$/Du', $name) === 1;
        foreach (explode(' ', $key) as $word) {
            $isPlain = $isPlain && ! in_array($word, ['and', 'or', 'not', 'mod', 'if', 'then', 'else'], true);
        }
        if (! $isPlain || in_array($key, self::RESERVED, true) || Functions::isReserved($key)) {
            return '"'.str_replace(['\\', '"'], ['\\\\', '\\"'], $name).'"';
        }

        return str_replace(' ', '_', $name);
    }

    /** Without characters that XML cannot hold. */
    public static function clean(string $text): string
    {
        return (string) preg_replace('/[^\x{9}\x{A}\x{D}\x{20}-\x{D7FF}\x{E000}-\x{FFFD}\x{10000}-\x{10FFFF}]/u', '', $text);
    }
}
