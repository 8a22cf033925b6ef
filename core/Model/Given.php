<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Problem\NotUnderstood;

/** The fields of a record that comes from outside, read one by one; each refusal says of what it is. */
final readonly class Given
{
    /** @param  array<mixed>  $fields */
    private function __construct(private array $fields, private string $what)
    {
    }

    /** @param  string  $what  with its article, as in "a wording" */
    public static function of(mixed $record, string $what): self
    {
        return new self(is_array($record) ? $record : [], $what);
    }

    /** @throws NotUnderstood */
    public function id(string $field = 'id'): string
    {
        $id = $this->fields[$field] ?? null;

        return is_string($id) && Element::isId($id)
            ? $id
            : throw NotUnderstood::because(ucfirst($this->what)." has an `$field` of up to 40 small letters, digits and hyphens.");
    }

    /**
     * Text without what nobody sees: spaces at its ends.
     *
     * @throws NotUnderstood
     */
    public function text(string $field, int $longest): string
    {
        $text = $this->fields[$field] ?? '';
        if (! is_string($text) || mb_strlen($text) > $longest) {
            throw NotUnderstood::because("`$field` of $this->what is text of at most ".number_format($longest).' characters.');
        }

        return trim($text);
    }

    /** @throws NotUnderstood where there is nothing */
    public function words(string $field, int $longest): string
    {
        $text = (string) preg_replace('/\s+/u', ' ', $this->text($field, $longest));

        return $text === '' ? throw NotUnderstood::because(ucfirst($this->what)." needs `$field`.") : $text;
    }

    /**
     * @template T of string
     *
     * @param  list<T>  $known
     * @param  T  $usual
     * @return T
     *
     * @throws NotUnderstood
     */
    public function oneOf(string $field, array $known, string $usual): string
    {
        $at = array_search($this->fields[$field] ?? $usual, $known, true);

        return $at === false
            ? throw NotUnderstood::because("`$field` of $this->what is one of ".implode(', ', $known).'.')
            : $known[$at];
    }

    /** @throws NotUnderstood */
    public function flag(string $field): bool
    {
        $flag = $this->fields[$field] ?? false;

        return is_bool($flag) ? $flag : throw NotUnderstood::because("`$field` of $this->what is true or false.");
    }

    /** @throws NotUnderstood where it is no number from the least to the greatest */
    public function number(string $field, float $least, float $greatest, float $usual): float
    {
        $number = $this->fields[$field] ?? $usual;
        if ((! is_int($number) && ! is_float($number)) || $number < $least || $number > $greatest) {
            throw NotUnderstood::because("`$field` of $this->what is a number from $least to $greatest.");
        }

        return (float) $number;
    }

    /**
     * @return list<string> without empty ones, unless they keep places
     *
     * @throws NotUnderstood
     */
    public function texts(string $field, int $most, int $longest, bool $keepsEmpty = false): array
    {
        $list = $this->fields[$field] ?? [];
        if (! is_array($list) || count($list) > $most) {
            throw NotUnderstood::because("`$field` of $this->what is a list of at most $most texts.");
        }
        $texts = [];
        foreach ($list as $text) {
            if (! is_string($text) || mb_strlen($text) > $longest) {
                throw NotUnderstood::because(
                    "Each of `$field` of $this->what is text of at most ".number_format($longest).' characters.',
                );
            }
            $texts[] = trim($text);
        }

        return $keepsEmpty ? $texts : array_values(array_filter($texts, static fn (string $t): bool => $t !== ''));
    }

    /**
     * @return list<float>
     *
     * @throws NotUnderstood
     */
    public function numbers(string $field, int $most): array
    {
        $list = $this->fields[$field] ?? [];
        $numbers = [];
        foreach (is_array($list) && count($list) <= $most ? $list : [null] as $number) {
            $numbers[] =
                is_int($number) || is_float($number)
                    ? (float) $number
                    : throw NotUnderstood::because("`$field` of $this->what is a list of at most ".number_format($most).' numbers.');
        }

        return $numbers;
    }

    /**
     * Points of a course: pairs of a time and a value, times increasing.
     *
     * @param  bool  $mayRepeat  whether a time may come again
     * @return non-empty-list<array{float, float}>
     *
     * @throws NotUnderstood
     */
    public function points(string $field, int $most, bool $mayRepeat = false): array
    {
        $points = [];
        $list = $this->fields[$field] ?? null;
        foreach (is_array($list) ? array_values($list) : [null] as $pair) {
            [$time, $value] = is_array($pair) && count($pair) === 2 ? array_values($pair) : [null, null];
            $isNumber = static fn (mixed $v): bool => (is_int($v) || is_float($v)) && abs($v) <= 1e300;
            if (! $isNumber($time) || ! $isNumber($value)) {
                throw NotUnderstood::because("The points of $this->what are pairs of numbers: a time and a value.");
            }
            [$time, $value] = [is_numeric($time) ? (float) $time : 0.0, is_numeric($value) ? (float) $value : 0.0];
            $before = $points === [] ? -INF : $points[count($points) - 1][0];
            if ($time < $before || ($time === $before && ! $mayRepeat)) {
                throw NotUnderstood::because(
                    $mayRepeat
                        ? "The times of $this->what do not fall; $time comes too late."
                        : "The times of $this->what increase; $time comes too early.",
                );
            }
            $points[] = [$time, $value];
        }

        return $points === [] || count($points) > $most
            ? throw NotUnderstood::because(ucfirst($this->what).' has one to '.number_format($most).' points.')
            : $points;
    }

    /**
     * What a file is known by: the SHA-256 of its content, or nothing.
     *
     * @throws NotUnderstood
     */
    public function hash(string $field): string
    {
        $hash = $this->text($field, 64);

        return preg_match('/^([0-9a-f]{64})?$/', $hash) === 1
            ? $hash
            : throw NotUnderstood::because("`$field` of $this->what is the SHA-256 of its file, in 64 small hexadecimal digits.");
    }

    public function any(string $field): mixed
    {
        return $this->fields[$field] ?? null;
    }
}
