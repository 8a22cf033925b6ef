<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * Along what values may extend: ordered elements, listed or counted. It may be a part of another dimension, whose elements it
 * shares, or have the same elements as another, so that a value can extend over both.
 */
final readonly class Dimension implements Recorded
{
    public const MOST = 200;

    public const MOST_ELEMENTS = 20_000;

    /** What can be looked at besides an element. */
    public const GATHERED = ['sum', 'mean', 'least', 'greatest'];

    /** Of all dimensions of a model. */
    private const MOST_IN_ALL = 100_000;

    /**
     * @param  list<string>  $ids  of the elements, in order; none where it has those of another; of a part, ids of the whole's
     * @param  list<string>  $names  of the elements, as many; none of a part
     * @param  bool  $isCounted  whether its elements are numbers, one after the other
     * @param  ?string  $partOf  the id of the whole
     * @param  ?string  $sameAs  the id of the dimension whose elements it has
     */
    public function __construct(
        public string $id,
        public string $name,
        public array $ids = [],
        public array $names = [],
        public bool $isCounted = false,
        public ?string $partOf = null,
        public ?string $sameAs = null,
        /** @var ?list<string> ids of the elements it is limited to for a while; null means all */
        public ?array $limit = null,
        /** @var array<string, string> what its sum, mean, least and greatest are called here: "all terraces" */
        public array $words = [],
    ) {
    }

    /** @param  ?list<string>  $limit  ids of elements; null means all */
    public function limitedTo(?array $limit): self
    {
        return new self(
            $this->id,
            $this->name,
            $this->ids,
            $this->names,
            $this->isCounted,
            $this->partOf,
            $this->sameAs,
            $limit,
            $this->words,
        );
    }

    /**
     * @param  mixed  $record  as toRecord() gives it; elements may be mere names, ids may be missing, and other dimensions named
     *
     * @throws NotUnderstood
     */
    public static function read(mixed $record): self
    {
        $given = is_array($record) ? $record : [];
        $name = is_string($given['name'] ?? null) ? Name::tidy($given['name']) : '';
        $refusal = $name === '' ? 'It has no name.' : Name::refusal($name);
        if ($refusal !== null) {
            throw NotUnderstood::because("A dimension cannot be called so: $refusal");
        }
        $id = is_string($given['id'] ?? null) && Element::isId($given['id']) ? $given['id'] : self::idFor($name);
        $other = static fn (string $field): ?string => is_string($given[$field] ?? null) && $given[$field] !== '' ? $given[$field] : null;
        $counted = is_int($given['from'] ?? null) && is_int($given['to'] ?? null);
        [$ids, $names] = $counted ? self::counted($name, $given['from'], $given['to']) : self::listed($name, $given['elements'] ?? []);

        $names = $other('partOf') === null ? $names : [];

        return new self(
            $id,
            $name,
            $ids,
            $names,
            $counted,
            $other('partOf'),
            $other('sameAs'),
            self::limit($given, $name, $ids, $names),
            self::words($given),
        );
    }

    /**
     * @param  array<mixed>  $records
     * @return list<self>
     *
     * @throws NotUnderstood
     */
    public static function readAll(array $records): array
    {
        $all = [];
        $elements = 0;
        foreach (array_values($records) as $record) {
            $all[] = $one = self::read($record);
            $elements += count($one->ids);
            if (count($all) > self::MOST || $elements > self::MOST_IN_ALL) {
                throw NotUnderstood::because(
                    'A model has at most '.self::MOST.' dimensions, with '.number_format(self::MOST_IN_ALL).' elements in all.',
                );
            }
        }

        return $all;
    }

    /**
     * @param  array<mixed>  $given
     * @param  list<string>  $ids
     * @param  list<string>  $names
     * @return ?list<string> ids
     */
    private static function limit(array $given, string $dimension, array $ids, array $names): ?array
    {
        $wanted = $given['limitedTo'] ?? null;
        if ($wanted === null) {
            return null;
        }
        if (isset($given['partOf']) || isset($given['sameAs'])) {
            throw NotUnderstood::because("`$dimension` has the elements of another dimension. Limit that one, and this one follows.");
        }
        $found = [];
        foreach (is_array($wanted) ? $wanted : [] as $one) {
            $place = is_string($one) ? array_search($one, $ids, true) : false;
            $place =
                $place === false && is_string($one) ? array_search(Name::key($one), array_map(Name::key(...), $names), true) : $place;
            if ($place === false) {
                throw NotUnderstood::because(
                    "The dimension `$dimension` is to be limited to `".(is_scalar($one) ? $one : '?').'`, which is no element of it.',
                );
            }
            $found[$place] = true;
        }
        if ($found === []) {
            throw NotUnderstood::because("The dimension `$dimension` is to be limited to none of its elements. Keep one at least.");
        }

        return array_values(array_intersect_key($ids, $found));
    }

    /**
     * @param  array<mixed>  $given
     * @return array<string, string>
     */
    private static function words(array $given): array
    {
        $words = [];
        foreach (is_array($given['words'] ?? null) ? $given['words'] : [] as $which => $word) {
            if (! in_array($which, self::GATHERED, true) || ! is_string($word) || mb_strlen($word) > Name::LONGEST) {
                throw NotUnderstood::because(
                    'The `words` of a dimension say what its '.
                        implode(', ', self::GATHERED).
                        ' are called, in up to '.
                        Name::LONGEST.
                        ' characters.',
                );
            }
            $words += Name::tidy($word) === '' ? [] : [$which => Name::tidy($word)];
        }

        return $words;
    }

    /** @return array{list<string>, list<string>} */
    private static function counted(string $name, int $from, int $to): array
    {
        if ($to < $from || $to - $from >= self::MOST_ELEMENTS) {
            throw NotUnderstood::because(
                "The dimension `$name` counts from $from to $to: it has to count upward, at most ".
                    number_format(self::MOST_ELEMENTS).
                    ' elements.',
            );
        }
        $all = array_map(strval(...), range($from, $to));

        return [$all, $all];
    }

    /** @return array{list<string>, list<string>} */
    private static function listed(string $dimension, mixed $elements): array
    {
        $list = is_array($elements) ? array_values($elements) : [];
        if (count($list) > self::MOST_ELEMENTS) {
            throw NotUnderstood::because("The dimension `$dimension` has more than ".number_format(self::MOST_ELEMENTS).' elements.');
        }
        $ids = $names = [];
        foreach ($list as $i => $one) {
            $name = is_string($one) ? $one : (is_array($one) && is_string($one['name'] ?? null) ? $one['name'] : '');
            $name = Name::tidy($name);
            $key = Name::key($name);
            if ($name === '' || mb_strlen($name) > Name::LONGEST) {
                throw NotUnderstood::because(
                    'Element '.($i + 1)." of the dimension `$dimension` has no name, or one that is too long.",
                );
            }
            if (isset($names[$key])) {
                throw NotUnderstood::because("Two elements of the dimension `$dimension` are called `$name`. Rename one of them.");
            }
            $names[$key] = $name;
            $id = is_array($one) && is_string($one['id'] ?? null) && self::isElementId($one['id']) ? $one['id'] : self::idFor($name);
            $ids[$id] = $id;
        }
        if (count($ids) !== count($names)) {
            throw NotUnderstood::because("Two elements of the dimension `$dimension` have the same id.");
        }

        return [array_map(strval(...), array_values($ids)), array_values($names)];
    }

    public static function isElementId(string $id): bool
    {
        return preg_match('/^-?[a-z0-9][a-z0-9-]{0,39}$/D', $id) === 1;
    }

    /** An id from a name, always the same. */
    public static function idFor(string $name): string
    {
        $slug = trim((string) preg_replace('/[^a-z0-9]+/', '-', Name::key($name)), '-');

        return preg_match('/^[a-z][a-z0-9-]{0,39}$/D', $slug) === 1 && ! str_contains(Name::key($name), '-')
            ? $slug
            : 'd'.substr(hash('sha256', Name::key($name)), 0, 11);
    }

    /** @return array<string, mixed> */
    public function toRecord(): array
    {
        $elements = [];
        foreach ($this->isCounted ? [] : $this->ids as $i => $id) {
            $elements[] = ['id' => $id, 'name' => $this->names[$i] ?? $id];
        }

        return [
            'id' => $this->id,
            'name' => $this->name,
            ...$this->isCounted ? ['from' => (int) $this->ids[0], 'to' => (int) $this->ids[count($this->ids) - 1]] : [],
            ...$elements === [] ? [] : ['elements' => $elements],
            ...array_filter(
                ['partOf' => $this->partOf, 'sameAs' => $this->sameAs, 'limitedTo' => $this->limit, 'words' => $this->words],
                static fn (mixed $v): bool => $v !== null && $v !== [],
            ),
        ];
    }
}
