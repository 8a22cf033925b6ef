<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

/** A short sign for a variable, written as in LaTeX: letters, digits, Greek letters by name, marks, and what is raised or lowered. */
final class Symbol
{
    public const LONGEST = 40;

    private const GREEK = [
        'alpha' => 'α',
        'beta' => 'β',
        'gamma' => 'γ',
        'delta' => 'δ',
        'epsilon' => 'ε',
        'zeta' => 'ζ',
        'eta' => 'η',
        'theta' => 'θ',
        'iota' => 'ι',
        'kappa' => 'κ',
        'lambda' => 'λ',
        'mu' => 'μ',
        'nu' => 'ν',
        'xi' => 'ξ',
        'pi' => 'π',
        'rho' => 'ρ',
        'sigma' => 'σ',
        'tau' => 'τ',
        'upsilon' => 'υ',
        'phi' => 'φ',
        'chi' => 'χ',
        'psi' => 'ψ',
        'omega' => 'ω',
        'Gamma' => 'Γ',
        'Delta' => 'Δ',
        'Theta' => 'Θ',
        'Lambda' => 'Λ',
        'Xi' => 'Ξ',
        'Pi' => 'Π',
        'Sigma' => 'Σ',
        'Upsilon' => 'Υ',
        'Phi' => 'Φ',
        'Psi' => 'Ψ',
        'Omega' => 'Ω',
    ];

    /** Marks over one letter, as combining characters. */
    private const MARKS = [
        'hat' => "\u{302}",
        'bar' => "\u{304}",
        'dot' => "\u{307}",
        'ddot' => "\u{308}",
        'tilde' => "\u{303}",
        'vec' => "\u{20D7}",
    ];

    private const PLAIN = ['mathrm', 'text'];

    private const LOWERED = [
        '0' => '₀',
        '1' => '₁',
        '2' => '₂',
        '3' => '₃',
        '4' => '₄',
        '5' => '₅',
        '6' => '₆',
        '7' => '₇',
        '8' => '₈',
        '9' => '₉',
        'a' => 'ₐ',
        'e' => 'ₑ',
        'i' => 'ᵢ',
        'j' => 'ⱼ',
        'k' => 'ₖ',
        'm' => 'ₘ',
        'n' => 'ₙ',
        'o' => 'ₒ',
        'p' => 'ₚ',
        'r' => 'ᵣ',
        's' => 'ₛ',
        't' => 'ₜ',
        'u' => 'ᵤ',
        'v' => 'ᵥ',
        'x' => 'ₓ',
    ];

    /** Why a text is no symbol, as a sentence; null if it is one. */
    public static function refusal(string $text): ?string
    {
        if (mb_strlen($text) > self::LONGEST) {
            return 'A symbol has at most '.self::LONGEST.' characters.';
        }
        if (preg_match('/^[\p{L}\p{N} \\\\_^{},\'+-]*$/u', $text) !== 1) {
            return 'A symbol is written with letters, digits, `_` for what stands lower and `^` for what stands higher, such as `\pi_r` or `K_{max}`.';
        }
        preg_match_all('/\\\\([A-Za-z]*)/', $text, $commands);
        foreach ($commands[1] as $name) {
            if (! isset(self::GREEK[$name]) && ! isset(self::MARKS[$name]) && ! in_array($name, self::PLAIN, true)) {
                return "`\\$name` is not known here. There are Greek letters such as `\\alpha`, and the marks ".
                    implode(', ', array_map(static fn (string $m): string => "`\\$m`", array_keys(self::MARKS))).
                    '.';
            }
        }
        if (substr_count($text, '{') !== substr_count($text, '}')) {
            return 'A curly bracket of the symbol is not closed.';
        }

        return preg_match('/[_^]\s*$/', $text) === 1 ? 'Behind `_` or `^` something must follow.' : null;
    }

    /** As plain text, for places that cannot set mathematics: πᵣ. */
    public static function text(string $symbol): string
    {
        $text = (string) preg_replace_callback(
            '/\\\\([A-Za-z]+)/',
            static fn (array $m): string => self::GREEK[$m[1]] ?? (isset(self::MARKS[$m[1]]) ? "\0$m[1]\0" : ''),
            $symbol,
        );
        $text = (string) preg_replace_callback(
            '/\0(\w+)\0\s*\{?(.)\}?/u',
            static fn (array $m): string => $m[2].self::MARKS[$m[1]],
            $text,
        );
        $text = (string) preg_replace_callback(
            '/_(\{[^{}]*\}|.)/u',
            static function (array $m): string {
                $inside = trim($m[1], '{}');
                $lowered = array_map(static fn (string $c): ?string => self::LOWERED[$c] ?? null, mb_str_split($inside));

                return in_array(null, $lowered, true) ? "_$inside" : implode('', $lowered);
            },
            $text,
        );

        return trim(str_replace(['{', '}'], '', $text));
    }
}
