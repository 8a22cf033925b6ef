<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Formula;

/**
 * A formula as it was typed, with its mentions of elements kept as references: renaming an element leaves it
 * untouched. Text that does not parse is kept all the same, as a draft.
 */
final readonly class FormulaText
{
    /** @param  list<string|Reference>  $pieces */
    public function __construct(public array $pieces = [])
    {
    }

    public static function none(): self
    {
        return new self([]);
    }

    /**
     * @param  callable(string): ?string  $idOf  from a name's key to the id of the element of that name
     */
    public static function typed(string $text, callable $idOf): self
    {
        $text = trim($text);
        $pieces = [];
        $done = 0;
        // What is picked inside of square brackets is along a dimension; only behind `else` things are mentioned again.
        $picking = [];
        foreach (Lexer::tokens($text) as $token) {
            match ($token->kind) {
                TokenKind::OpenSquare => ($picking[] = true),
                TokenKind::CloseSquare => array_pop($picking),
                TokenKind::Word => $token->text === 'else' && $picking !== [] ? ($picking[count($picking) - 1] = false) : null,
                default => null,
            };
            if (end($picking) === true || ! self::isMention($token)) {
                continue;
            }
            if ($token->from > $done) {
                $pieces[] = substr($text, $done, $token->from - $done);
            }
            $pieces[] = new Reference(substr($text, $token->from, $token->length), $idOf(Name::key($token->text)));
            $done = $token->from + $token->length;
        }
        if ($done < strlen($text)) {
            $pieces[] = substr($text, $done);
        }

        return new self($pieces);
    }

    private static function isMention(Token $token): bool
    {
        if ($token->kind === TokenKind::QuotedName) {
            return true;
        }
        $key = Name::key($token->text);

        $isFunction = $token->called ? Catalogue::find($key) !== null : Catalogue::isTaken($key);

        return $token->kind === TokenKind::Name && Quantity::tryFrom($key) === null && ! $isFunction;
    }

    /**
     * @param  callable(string): ?string  $nameOf  from an id to the element's name
     */
    public function text(callable $nameOf): string
    {
        $text = '';
        foreach ($this->pieces as $i => $piece) {
            $name = is_string($piece) || $piece->id === null ? null : $nameOf($piece->id);
            $text .= match (true) {
                is_string($piece) => $piece,
                $name === null => $piece->written,
                // Who typed quotes sees quotes, also where they are not needed any more.
                default => str_starts_with($piece->written, '"') || $this->isCalledLikeAFunction($i, $name)
                    ? Name::quoted($name)
                    : Name::written($name),
            };
        }

        return $text;
    }

    /** Whether a curve with the name of a function is called here: without quotes the function would be meant. */
    private function isCalledLikeAFunction(int $piece, string $name): bool
    {
        $next = $this->pieces[$piece + 1] ?? '';

        return is_string($next) && ($next[strspn($next, " \t\r\n_")] ?? '') === '(' && Catalogue::find(Name::key($name)) !== null;
    }

    /** Whether there is any bracket in it, as every function needs. */
    public function hasBrackets(): bool
    {
        foreach ($this->pieces as $piece) {
            if (is_string($piece) && strpbrk($piece, '([') !== false) {
                return true;
            }
        }

        return false;
    }

    public function isEmpty(): bool
    {
        return $this->pieces === [];
    }

    public function mentions(string $id): bool
    {
        foreach ($this->pieces as $piece) {
            if ($piece instanceof Reference && $piece->id === $id) {
                return true;
            }
        }

        return false;
    }

    /** @return list<string> ids of the elements it mentions */
    public function ids(): array
    {
        $ids = [];
        foreach ($this->pieces as $piece) {
            if ($piece instanceof Reference && $piece->id !== null) {
                $ids[$piece->id] = true;
            }
        }

        return array_map(strval(...), array_keys($ids));
    }

    /** With the mentions that were waiting for this name now meaning the element; the same object if there are none. */
    public function bound(string $key, string $id): self
    {
        return $this->map(
            static fn (Reference $r): Reference => $r->id === null && $r->key() === $key ? new Reference($r->written, $id) : $r,
        );
    }

    /** With the mentions of the element turned into mere names; the same object if there are none. */
    public function unbound(string $id, string $name): self
    {
        return $this->map(static fn (Reference $r): Reference => $r->id === $id ? new Reference(Name::written($name)) : $r);
    }

    /** @param  callable(Reference): Reference  $change */
    private function map(callable $change): self
    {
        $pieces = [];
        $changed = false;
        foreach ($this->pieces as $piece) {
            $new = is_string($piece) ? $piece : $change($piece);
            $changed = $changed || $new !== $piece;
            $pieces[] = $new;
        }

        return $changed ? new self($pieces) : $this;
    }

    /** As it is typed, or as it is recorded. */
    public static function given(mixed $given): self
    {
        if (is_string($given)) {
            return self::typed($given, static fn (): ?string => null);
        }
        $pieces = is_array($given) ? array_values($given) : [];
        $sound = array_filter(
            $pieces,
            static fn (mixed $p): bool => is_string($p) || (is_array($p) && is_string($p['name'] ?? null) && is_string($p['id'] ?? '')),
        );
        /** @var list<string|array{name: string, id?: string}> $sound */
        $sound = array_values($sound);

        return self::fromRecord($sound);
    }

    /** @return list<string|array{name: string, id?: string}> */
    public function toRecord(): array
    {
        return array_map(
            static fn (string|Reference $piece): string|array => match (true) {
                is_string($piece) => $piece,
                $piece->id === null => ['name' => $piece->written],
                default => ['name' => $piece->written, 'id' => $piece->id],
            },
            $this->pieces,
        );
    }

    /** @param  list<string|array{name: string, id?: string}>  $record */
    public static function fromRecord(array $record): self
    {
        return new self(
            array_map(
                static fn (string|array $piece): string|Reference => is_string($piece)
                    ? $piece
                    : new Reference($piece['name'], $piece['id'] ?? null),
                $record,
            ),
        );
    }
}
